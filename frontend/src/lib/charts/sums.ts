import { scale, steps, type Scale } from './scale';

export const WIDTH = 760;
const LEFT = 170;
const RIGHT = 24;
const TOP = 6;
const ROW = 58;
const BOTTOM = 24;

export type Part = { key: string; label: string; value: number };
export type SumRow = { key: string; label: string; parts: Part[]; off: number; strong: boolean; open: boolean };
export type SumsShape = {
	height: number;
	bottom: number;
	x: Scale;
	ticks: number[];
	rows: (Omit<SumRow, 'parts'> & {
		y: number;
		parts: (Part & { from: number; to: number })[];
		pay: number;
		end: number;
	})[];
};

/** What variants come to, one under the other on one scale: their parts end to end, what others pay at the end of it. */
export function shape(rows: SumRow[]): SumsShape {
	const totals = rows.map((row) => row.parts.reduce((all, part) => all + Math.max(part.value, 0), 0));
	const most = Math.max(1, ...totals);
	const height = TOP + rows.length * ROW + BOTTOM;
	const x = scale([0, most * 1.02], [LEFT, WIDTH - RIGHT]);
	return {
		height,
		bottom: height - BOTTOM,
		x,
		ticks: steps(0, most, 5),
		rows: rows.map((row, n) => {
			let at = 0;
			const parts = row.parts
				.filter((part) => part.value > 0)
				.map((part) => {
					const from = x(at);
					at += part.value;
					return { ...part, from, to: x(at) };
				});
			return { ...row, parts, y: TOP + (n + 0.5) * ROW, pay: x(Math.max(at - row.off, 0)), end: x(at) };
		})
	};
}
