import { scale, steps, type Scale } from './scale';

export const WIDTH = 760;
const LEFT = 190;
const RIGHT = 22;
const TOP = 8;
const ROW = 34;
const BOTTOM = 26;

export type SpanRow = { key: string; label: string; low: number; mid: number; high: number; strong: boolean };
export type SpansShape = {
	height: number;
	left: number;
	right: number;
	bottom: number;
	x: Scale;
	ticks: number[];
	rows: (SpanRow & { y: number; from: number; to: number; at: number })[];
};

/** Figures with their ranges, one under the other on one scale from nought. */
export function shape(rows: SpanRow[]): SpansShape {
	const most = Math.max(1, ...rows.map((row) => row.high));
	const height = TOP + rows.length * ROW + BOTTOM;
	const x = scale([0, most * 1.04], [LEFT, WIDTH - RIGHT]);
	return {
		height,
		left: LEFT,
		right: WIDTH - RIGHT,
		bottom: height - BOTTOM,
		x,
		ticks: steps(0, most, 6),
		rows: rows.map((row, n) => ({
			...row,
			y: TOP + (n + 0.5) * ROW,
			from: x(Math.max(row.low, 0)),
			to: x(row.high),
			at: x(row.mid)
		}))
	};
}
