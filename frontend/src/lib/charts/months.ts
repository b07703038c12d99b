import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 600;
export const HEIGHT = 290;
const LEFT = 46;
const RIGHT = 44;
const TOP = 18;
const BOTTOM = 30;

export type Bar = { x: number; y: number; w: number; h: number; kind: string; value: number; name: string };
export type MonthsShape = {
	bars: Bar[];
	x: (n: number) => number;
	y: Scale;
	t: Scale;
	ticks: number[];
	tTicks: number[];
	line: string;
	knots: [number, number][];
	bottom: number;
	left: number;
	right: number;
	step: number;
};

/** Months as stacked bars (kWh) with the outdoor temperature over them on the right-hand scale. */
export function shape(
	rows: { name: string; outdoor: number; parts: { kind: string; value: number }[] }[]
): MonthsShape {
	const step = (WIDTH - LEFT - RIGHT) / 12;
	const most = Math.max(1, ...rows.map((r) => r.parts.reduce((sum, p) => sum + p.value, 0)));
	const y = scale([0, most * 1.05], [HEIGHT - BOTTOM, TOP]);
	const lowT = Math.min(-5, ...rows.map((r) => Math.floor(r.outdoor / 5) * 5));
	const highT = Math.max(20, ...rows.map((r) => Math.ceil(r.outdoor / 5) * 5));
	const t = scale([lowT, highT], [HEIGHT - BOTTOM, TOP]);
	const x = (n: number): number => LEFT + (n + 0.5) * step;
	const bars = rows.flatMap((row, n) => {
		let base = 0;
		return row.parts.map((part): Bar => {
			const from = base;
			base += part.value;
			return {
				x: x(n) - step * 0.36,
				w: step * 0.72,
				y: y(base),
				h: Math.max(y(from) - y(base) - 0.6, 0),
				kind: part.kind,
				value: part.value,
				name: row.name
			};
		});
	});
	const knots = rows.map((row, n): [number, number] => [x(n), t(row.outdoor)]);
	return {
		bars,
		x,
		y,
		t,
		ticks: steps(0, most, 5),
		tTicks: steps(lowT, highT, 5, '°C'),
		line: path(knots),
		knots,
		bottom: HEIGHT - BOTTOM,
		left: LEFT,
		right: WIDTH - RIGHT,
		step
	};
}
