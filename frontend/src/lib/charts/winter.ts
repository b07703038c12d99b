import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 760;
export const HEIGHT = 430;
const LEFT = 52;
const RIGHT = 16;
const TOP = 12;
const BOTTOM = 40;

type Pair = [number, number];
export type Spot = { day: string; days: number; x: number; y: number; odd: string; title: string };
export type WinterShape = {
	x: Scale;
	y: Scale;
	bottom: number;
	xTicks: number[];
	yTicks: number[];
	spots: Spot[];
	designBand: string;
	designLine: string;
	band: string;
	line: string;
};
type Day = { day: string; days?: number; outdoor_c: number; heat_kwh: number; normal_kwh: number | null; odd: string };
type Given = {
	points: Day[];
	/** What a day's point is: as it was lived, or put right. */
	value: (point: Day) => number;
	line: number[][];
	band: number[][];
	designLine: number[][];
	designBand: number[][];
	told: (point: Day) => string;
};

/** Days as points over the outdoor temperature; the design's line with its band, the measured line with its own. */
export function shape(given: Given): WinterShape {
	const air = given.points.map((p) => p.outdoor_c);
	const from = Math.floor(Math.min(...air, 0) - 1);
	const to = Math.ceil(Math.max(...air, 16) + 1);
	const inside = (rows: number[][]): number[][] => rows.filter((row) => row[0]! >= from && row[0]! <= to);
	const most =
		Math.max(
			...given.points.filter((p) => !p.odd).map(given.value),
			...inside(given.designLine).map((row) => row[1]!),
			1
		) * 1.08;
	const x = scale([from, to], [LEFT, WIDTH - RIGHT]);
	const y = scale([0, most], [HEIGHT - BOTTOM, TOP]);
	const at = (a: number, q: number): Pair => [x(a), y(Math.min(Math.max(q, 0), most))];
	const area = (rows: number[][]): string => {
		const up = inside(rows).map((row) => at(row[0]!, row[2]!));
		const down = inside(rows)
			.map((row) => at(row[0]!, row[1]!))
			.reverse();
		return up.length ? `${path([...up, ...down])}Z` : '';
	};
	return {
		x,
		y,
		bottom: HEIGHT - BOTTOM,
		xTicks: steps(from, to, 8, '°C'),
		yTicks: steps(0, most, 6),
		spots: given.points.map((p) => ({
			day: p.day,
			days: p.days ?? 1,
			x: x(p.outdoor_c),
			y: y(Math.min(Math.max(given.value(p), 0), most)),
			odd: p.odd,
			title: given.told(p)
		})),
		designBand: area(given.designBand),
		designLine: path(inside(given.designLine).map((row) => at(row[0]!, row[1]!))),
		band: area(given.band),
		line: path(inside(given.line).map((row) => at(row[0]!, row[1]!)))
	};
}

export type MoverBar = { key: string; label: string; from: number; to: number; kwh: number; y: number };
export type PromiseShape = {
	x: Scale;
	height: number;
	ticks: number[];
	band: { from: number; to: number; mid: number };
	bars: MoverBar[];
	lived: { x: number; y: number };
	normal: { x: number; y: number };
};
const ROW = 40;
const P_LEFT = 210;

/** The promised range above, what moved the winter from it one under the other, where it came out below. */
export function promiseShape(
	given: { low: number; mid: number; high: number },
	movers: { key: string; label: string; kwh: number }[],
	lived: number,
	normal: number
): PromiseShape {
	let at = given.mid;
	const ends = movers.map((one) => {
		const from = at;
		at += one.kwh;
		return { ...one, from, to: at };
	});
	const all = [given.low, given.high, lived, normal, ...ends.flatMap((one) => [one.from, one.to])];
	const low = Math.max(0, Math.min(...all) * 0.94);
	const most = Math.max(...all) * 1.04;
	const x = scale([low, most], [P_LEFT, WIDTH - 30]);
	const rows = ends.map((one, n) => ({
		key: one.key,
		label: one.label,
		kwh: one.kwh,
		from: x(one.from),
		to: x(one.to),
		y: 70 + n * ROW
	}));
	const bottom = 70 + ends.length * ROW;
	return {
		x,
		height: bottom + 90,
		ticks: steps(low, most, 6),
		band: { from: x(given.low), to: x(given.high), mid: x(given.mid) },
		bars: rows,
		lived: { x: x(lived), y: bottom + 4 },
		normal: { x: x(normal), y: bottom + 36 }
	};
}
