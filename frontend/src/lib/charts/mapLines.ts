import type { MachineLook } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 370;
export const HEIGHT = 215;
const LEFT = 40;
const RIGHT = 46;
const TOP = 12;
const BOTTOM = 34;

export type MapShape = {
	x: Scale;
	y: Scale;
	xTicks: number[];
	yTicks: number[];
	lines: { water: number; tested: string; beyond: string; end: [number, number] | null; strength: number }[];
	frame: { left: number; right: number; top: number; bottom: number };
};

/** Greatest output (kW) or COP of a machine over the outdoor air, a line for every leaving water. */
export function shape(look: MachineLook, what: 'greatest_w' | 'cop'): MapShape {
	const by = what === 'cop' ? 1 : 1000;
	const every = look.lines.flatMap((line) => line[what].filter((v): v is number => v != null).map((v) => v / by));
	const low = Math.min(...look.outdoor_c, 0);
	const x = scale([low, 20], [LEFT, WIDTH - RIGHT]);
	const y = scale([0, Math.max(1, ...every) * 1.06], [HEIGHT - BOTTOM, TOP]);
	return {
		x,
		y,
		xTicks: steps(low, 20, 7, '°C'),
		yTicks: steps(0, Math.max(1, ...every), 5, what === 'cop' ? '' : 'kW'),
		lines: look.lines.map((line, k) => {
			const points = look.outdoor_c.map((t, n): [number, number] | null => {
				const value = line[what][n];
				return value == null ? null : [x(t), y(value / by)];
			});
			const known = (n: number): boolean => !line.extrapolated[n];
			return {
				water: line.water_c,
				tested: path(points.map((p, n) => (known(n) ? p : null))),
				// a point of what is tested joins each end of what lies beyond
				beyond: path(points.map((p, n) => (!known(n) || !known(n - 1) || !known(n + 1) ? p : null))),
				end: points.findLast((p) => p !== null) ?? null,
				strength: 1 - (0.65 * k) / Math.max(look.lines.length - 1, 1)
			};
		}),
		frame: { left: LEFT, right: WIDTH - RIGHT, top: TOP, bottom: HEIGHT - BOTTOM }
	};
}
