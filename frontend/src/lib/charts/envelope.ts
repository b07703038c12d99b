import type { Design, CandidateResult } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 760;
export const HEIGHT = 400;
const LEFT = 58;
const RIGHT = 14;
const TOP = 14;
const BOTTOM = 40;

export type EnvelopeShape = {
	x: Scale;
	y: Scale;
	xTicks: number[];
	yTicks: number[];
	load: string;
	season: string;
	greatest: string;
	least: string;
	between: string;
	cycling: string;
	backup: string;
	/** What the house may lose, P10 to P90. */
	doubt: string;
	/** Most and least of the machine laid beside it. */
	other: { greatest: string; least: string; end: [number, number] } | null;
	bars: { x: number; y: number; w: number; h: number; t: number; hours: number }[];
	frame: { left: number; right: number; top: number; bottom: number };
};

/** Load against the machine's greatest and least output over outdoor temperature, kW. */
export function shape(
	machine: Design['machine'],
	row: CandidateResult,
	design: number,
	beside: CandidateResult | null = null,
	range: [number, number] | null = null
): EnvelopeShape {
	const low = Math.max(Math.min(...machine.outdoor_c), design - 6);
	const seen = (t: number): boolean => t >= low && t < 20;
	const keep = machine.outdoor_c.map((t, n) => ({ t, n })).filter(({ t }) => t >= low);
	const kw = (series: number[], n: number): number => (series[n] ?? 0) / 1000;
	const most_w = beside ? beside.greatest_curve_w : row.greatest_curve_w;
	const top = Math.max(
		...keep.map(({ n }) =>
			Math.max(kw(machine.load_w, n) * (range?.[1] ?? 1), kw(row.greatest_curve_w, n), kw(most_w, n))
		),
		1
	);
	const x = scale([low, 20], [LEFT, WIDTH - RIGHT]);
	const y = scale([0, top * 1.08], [HEIGHT - BOTTOM, TOP]);
	const line = (series: number[]): [number, number][] => keep.map(({ t, n }) => [x(t), y(kw(series, n))]);
	const area = (upper: [number, number][], lower: [number, number][]): string =>
		upper.length
			? `${path(upper)}L${[...lower]
					.reverse()
					.map((p) => `${p[0].toFixed(1)} ${p[1].toFixed(1)}`)
					.join('L')}Z`
			: '';
	const scaled = (factor: number): [number, number][] => line(machine.load_w.map((w) => w * factor));
	const others = beside ? line(beside.greatest_curve_w) : [];
	const load = line(machine.load_w);
	const season = line(machine.season_load_w);
	const greatest = line(row.greatest_curve_w);
	const least = line(row.least_curve_w);
	const lower = (a: [number, number][], b: [number, number][]): [number, number][] =>
		a.map((p, n) => [p[0], Math.max(p[1], b[n]![1])]);
	const most = Math.max(...machine.hours, 1);
	const bars = keep
		.filter(({ t }) => seen(t))
		.flatMap(({ t, n }) => {
			const hours = machine.hours[n] ?? 0;
			const h = (hours / most) * 60;
			const w = x(t + 1) - x(t) - 2;
			return hours ? [{ x: x(t) - w / 2, y: HEIGHT - BOTTOM - h, w, h, t, hours }] : [];
		});
	return {
		x,
		y,
		xTicks: steps(low, 20, 8, '°C'),
		yTicks: steps(0, top, 6, 'kW'),
		load: path(load),
		season: path(season),
		greatest: path(greatest),
		least: path(least),
		between: area(greatest, least),
		cycling: area(least, lower(least, season)),
		backup: area(load, lower(load, greatest)),
		doubt: range ? area(scaled(range[1]), scaled(range[0])) : '',
		other: beside
			? { greatest: path(others), least: path(line(beside.least_curve_w)), end: others.at(-1) ?? [0, 0] }
			: null,
		bars,
		frame: { left: LEFT, right: WIDTH - RIGHT, top: TOP, bottom: HEIGHT - BOTTOM }
	};
}
