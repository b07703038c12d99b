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
	cops: { level: string; d: string; at: [number, number] | null }[];
	bars: { x: number; y: number; w: number; h: number; t: number; hours: number }[];
	points: { key: 'cold' | 'mild'; out: number; flow: number }[];
	labels: LineLabel[];
	frame: { left: number; right: number; top: number; bottom: number };
};

/** Which line, at which place of the outdoor grid: what the pointer or the arrow keys stand on. */
export type Spot = { n: number; line: string };
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

/** Outdoor temperature across, water up: needs, the line, equal-COP lines and the climate's hours. */
export function shape(curve: Design['curve']): CurveShape {
	const low = Math.max(Math.min(...curve.outdoor_c), (curve.cold_out_c ?? -5) - 5);
	const x = scale([low, 20], [LEFT, WIDTH - RIGHT]);
	const values = [...curve.line_c, ...curve.needed_c.filter((v): v is number => v !== null)];
	const high = Math.ceil((Math.max(...values, 40) + 2) / 5) * 5;
	const y = scale([20, Math.min(high, 75)], [HEIGHT - BOTTOM, TOP]);
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
		return { level, d: path(points), at: seen.length > 2 ? seen[Math.floor(seen.length * 0.8)]! : null };
	});
	const points: CurveShape['points'] = [];
	if (curve.cold_out_c !== null && curve.cold_flow_c !== null)
		points.push({ key: 'cold', out: curve.cold_out_c, flow: curve.cold_flow_c });
	if (curve.mild_out_c !== null && curve.mild_flow_c !== null)
		points.push({ key: 'mild', out: curve.mild_out_c, flow: curve.mild_flow_c });
	return {
		x,
		y,
		xTicks: steps(low, 20, 8, '°C'),
		yTicks: steps(20, y.domain[1], 7, '°C'),
		need: path(along(curve.needed_c)),
		line: path(along(limited)),
		rooms: Object.entries(curve.rooms).map(([id, series]) => ({ id, d: path(along(series)) })),
		cops,
		bars,
		points,
		labels: labelled(curve, x, y, low),
		frame: { left: LEFT, right: WIDTH - RIGHT, top: TOP, bottom: HEIGHT - BOTTOM }
	};
}
