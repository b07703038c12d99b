import type { Design } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 760;
export const HEIGHT = 540;
const LEFT = 44;
const RIGHT = 14;
const TOP = 16;
const BOTTOM = 40;

export type CurveShape = {
	x: Scale;
	y: Scale;
	xTicks: number[];
	yTicks: number[];
	need: string;
	line: string;
	rooms: { id: string; d: string }[];
	cops: { level: string; d: string; ground: string; at: [number, number] | null }[];
	band: string;
	circuits: { id: string; label: string; d: string; at: [number, number] | null }[];
	bars: { x: number; y: number; w: number; h: number; t: number; hours: number }[];
	points: { key: 'cold' | 'mild'; out: number; flow: number; moves: boolean }[];
	labels: LineLabel[];
	frame: { left: number; right: number; top: number; bottom: number };
};

/** Which line, at which place of the outdoor grid: what the pointer or the arrow keys stand on. */
export type Spot = { n: number; line: string };
/** The need at the P10 and the P90 of the house's loss. */
export type Band = { low_c: (number | null)[]; high_c: (number | null)[] } | null;
/** A look at the running house: water as it was, and as it should have been at that outdoor air. */
export type Seen = { id: string; outdoor_c: number; flow_c: number; should_c: number; left_out: string };
export const NEED = ':need';
export const LINE = ':line';
export type LineLabel = { id: string; x: number; y: number; bold: boolean };
const LABEL_APART = 14;

/** Every line by its key, a number or nothing for each outdoor temperature: the rooms, what the house needs, the controller. */
export function lines(curve: Design['curve']): Record<string, (number | null)[]> {
	const off = curve.line_c.map((v, n) => (curve.outdoor_c[n]! <= curve.heating_limit_c ? v : null));
	return { ...curve.rooms, [NEED]: curve.needed_c, [LINE]: off };
}

/** The line nearest to a place in the picture, at the outdoor temperature below it. */
export function nearest(curve: Design['curve'], drawn: CurveShape, px: number, py: number): Spot | null {
	const t = drawn.x.invert(px);
	const n = curve.outdoor_c.reduce(
		(best, out, k) =>
			out >= drawn.x.domain[0] && out <= 20 && Math.abs(out - t) < Math.abs(curve.outdoor_c[best]! - t) ? k : best,
		curve.outdoor_c.findIndex((out) => out >= drawn.x.domain[0])
	);
	return ranked(curve, n).reduce<{ spot: Spot | null; gap: number }>(
		(best, line) => {
			const gap = Math.abs(drawn.y(lines(curve)[line]![n]!) - py);
			return gap < best.gap ? { spot: { n, line }, gap } : best;
		},
		{ spot: null, gap: Infinity }
	).spot;
}

/** Lines that have a number at a place of the grid, the warmest first. */
export function ranked(curve: Design['curve'], n: number): string[] {
	const every = lines(curve);
	return Object.keys(every)
		.filter((key) => every[key]![n] != null)
		.sort((a, b) => every[b]![n]! - every[a]![n]!);
}

/** One step by the arrow keys: along the line, or to the line above or below. */
export function stepped(curve: Design['curve'], from: Spot, key: string, low: number): Spot {
	if (key === 'ArrowUp' || key === 'ArrowDown') {
		const order = ranked(curve, from.n);
		const k = order.indexOf(from.line) + (key === 'ArrowUp' ? -1 : 1);
		return { ...from, line: order[Math.min(Math.max(k, 0), order.length - 1)] ?? from.line };
	}
	const n = from.n + (key === 'ArrowRight' ? 1 : -1);
	const out = curve.outdoor_c[n];
	return out === undefined || out < low || out > 20 || lines(curve)[from.line]?.[n] == null ? from : { ...from, n };
}

/** Names at the cold end of the rooms' lines: the one that holds first, then the warmest, as far as they do not lie on each other. */
function labelled(curve: Design['curve'], x: Scale, y: Scale, low: number): LineLabel[] {
	const first = curve.outdoor_c.findIndex((t) => t >= low);
	const holder = curve.holds[first];
	const order = Object.entries(curve.rooms)
		.map(([id, series]) => ({ id, v: series[first] }))
		.filter((one): one is { id: string; v: number } => one.v != null && one.v <= y.domain[1] && one.v > y.domain[0] + 1)
		.sort((a, b) => Number(b.id === holder) - Number(a.id === holder) || b.v - a.v);
	const out: LineLabel[] = [];
	for (const one of order) {
		const at = y(one.v);
		if (out.every((other) => Math.abs(other.y - at) >= LABEL_APART))
			out.push({ id: one.id, x: x(curve.outdoor_c[first]!) + 6, y: at, bold: one.id === holder });
	}
	return out;
}

/** Looks as points with a short line to where they should lie; those beyond the picture are left out. */
export function looks(
	drawn: CurveShape,
	seen: Seen[]
): { id: string; x: number; y: number; to: number; odd: boolean }[] {
	const [coldest, mildest] = drawn.x.domain;
	const inside = (v: number): boolean => v >= drawn.y.domain[0] && v <= drawn.y.domain[1];
	return seen
		.filter((s) => s.outdoor_c >= coldest && s.outdoor_c <= mildest && inside(s.flow_c))
		.map((s) => ({
			id: s.id,
			x: drawn.x(s.outdoor_c),
			y: drawn.y(s.flow_c),
			to: drawn.y(Math.min(Math.max(s.should_c, drawn.y.domain[0]), drawn.y.domain[1])),
			odd: s.left_out !== ''
		}));
}

/** Outdoor temperature across, water up: needs, the line, equal-COP lines and the climate's hours. */
export function shape(curve: Design['curve'], band: Band = null): CurveShape {
	const low = Math.max(Math.min(...curve.outdoor_c), (curve.cold_out_c ?? -5) - 5);
	const x = scale([low, 20], [LEFT, WIDTH - RIGHT]);
	const values = [...curve.line_c, ...curve.needed_c.filter((v): v is number => v !== null)];
	const top = Math.ceil((Math.max(...values, 40) + 2) / 5) * 5;
	const y = scale([20, Math.min(top, 75)], [HEIGHT - BOTTOM, TOP]);
	const inside = curve.outdoor_c.map((t) => t >= low);
	const along = (series: (number | null)[]): ([number, number] | null)[] =>
		series.map((v, n) =>
			v === null || v === undefined || !inside[n] || v < 20 || v > y.domain[1] ? null : [x(curve.outdoor_c[n]!), y(v)]
		);
	const most = Math.max(...curve.hours, 1);
	const bars = curve.outdoor_c.flatMap((t, n) => {
		const hours = curve.hours[n] ?? 0;
		if (!inside[n] || hours === 0 || t >= 20) return [];
		const h = (hours / most) * 74;
		const w = x(t + 1) - x(t) - 2;
		return [{ x: x(t) - w / 2, y: HEIGHT - BOTTOM - h, w, h, t, hours }];
	});
	const limited = curve.line_c.map((v, n) => (curve.outdoor_c[n]! <= curve.heating_limit_c ? v : null));
	const cops = Object.entries(curve.cop_lines).map(([level, series]) => {
		const points = along(series);
		const seen = points.filter((p): p is [number, number] => p !== null);
		// Everything below a line of equal COP is as good or better: laid over each other the tone deepens towards cool water.
		// Past the warmest air where the level lies on the map, all water there is better still.
		const last = series.findLastIndex((v) => v != null);
		const capped = series.map((v, n): [number, number] | null => {
			const at = v ?? (n > last && last >= 0 ? y.domain[1] : null);
			return at === null || !inside[n] || at < 20 ? null : [x(curve.outdoor_c[n]!), y(Math.min(at, y.domain[1]))];
		});
		const under = capped.filter((p): p is [number, number] => p !== null);
		const floor = HEIGHT - BOTTOM;
		const ground =
			under.length > 1 ? `${path(under)}L${under[under.length - 1]![0]},${floor}L${under[0]![0]},${floor}Z` : '';
		return { level, d: path(points), ground, at: seen.length > 2 ? seen[Math.floor(seen.length * 0.8)]! : null };
	});
	const high = band ? along(band.high_c.map((v) => (v === null ? null : Math.min(v, y.domain[1])))) : [];
	const lowest = band ? along(band.low_c) : [];
	const both = high
		.map((p, n) => [p, lowest[n] ?? null] as const)
		.filter((p): p is readonly [[number, number], [number, number]] => p[0] !== null && p[1] !== null);
	const shaded =
		both.length > 1
			? `${path(both.map((p) => p[0]))}L${both
					.map((p) => p[1])
					.reverse()
					.map((p) => p.join(','))
					.join('L')}Z`
			: '';
	const circuits = curve.circuits.map((one) => {
		const points = along(one.line_c.map((v, n) => (curve.outdoor_c[n]! <= curve.heating_limit_c ? v : null)));
		return { id: one.id, label: one.label, d: path(points), at: points.find((p) => p !== null) ?? null };
	});
	const points: CurveShape['points'] = [];
	if (curve.cold_out_c !== null && curve.cold_flow_c !== null)
		points.push({ key: 'cold', out: curve.cold_out_c, flow: curve.cold_flow_c, moves: curve.handles.includes('cold') });
	if (curve.mild_out_c !== null && curve.mild_flow_c !== null)
		points.push({ key: 'mild', out: curve.mild_out_c, flow: curve.mild_flow_c, moves: curve.handles.includes('mild') });
	return {
		x,
		y,
		xTicks: steps(low, 20, 8, '°C'),
		yTicks: steps(20, y.domain[1], 7, '°C'),
		need: path(along(curve.needed_c)),
		line: path(along(limited)),
		rooms: Object.entries(curve.rooms).map(([id, series]) => ({ id, d: path(along(series)) })),
		cops,
		band: shaded,
		circuits,
		bars,
		points,
		labels: labelled(curve, x, y, low),
		frame: { left: LEFT, right: WIDTH - RIGHT, top: TOP, bottom: HEIGHT - BOTTOM }
	};
}
