import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 760;
export const HEIGHT = 250;
export type ReheatShape = {
	x: Scale;
	y: Scale;
	xTicks: number[];
	yTicks: number[];
	design: string;
	mild: string;
	left: number;
	right: number;
	bottom: number;
	top: number;
};

/** Store temperature over minutes, from cold, on the design day and on a mild one. */
export function shape(cold: number, store: number, minutes: number, mild: number | null): ReheatShape {
	const longest = Math.max(minutes, mild ?? 0);
	const left = 44;
	const right = WIDTH - 20;
	const bottom = HEIGHT - 38;
	const x = scale([0, longest * 1.08], [left, right]);
	const y = scale([0, Math.max(store + 12, 62)], [bottom, 12]);
	const ramp = (end: number | null): string =>
		end
			? path([
					[x(0), y(cold)],
					[x(end), y(store)],
					[x(longest * 1.08), y(store)]
				])
			: '';
	return {
		x,
		y,
		xTicks: steps(0, longest * 1.08, 7),
		yTicks: steps(0, y.domain[1], 6, '°C'),
		design: ramp(minutes),
		mild: ramp(mild),
		left,
		right,
		bottom,
		top: 12
	};
}
