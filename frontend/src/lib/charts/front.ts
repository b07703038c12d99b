import type { FrontPoint } from '../api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 600;
export const HEIGHT = 300;
const LEFT = 64;
const RIGHT = 18;
const TOP = 22;
const BOTTOM = 40;

export type FrontShape = { x: Scale; y: Scale; xTicks: number[]; yTicks: number[]; dots: { x: number; y: number; point: FrontPoint }[]; line: string; left: number; right: number; bottom: number };

/** Cost of the changes over the season they give; one dot a flow temperature. */
export function shape(points: FrontPoint[]): FrontShape | null {
	const known = points.filter((p) => p.possible && p.season !== null && p.cost_minor !== null);
	if (!known.length) return null;
	const seasons = known.map((p) => p.season ?? 0);
	const low = Math.floor((Math.min(...seasons) - 0.02) * 10) / 10;
	const high = Math.ceil((Math.max(...seasons) + 0.02) * 10) / 10;
	const most = Math.max(100, ...known.map((p) => (p.cost_minor ?? 0) / 100));
	const x = scale([low, high], [LEFT, WIDTH - RIGHT]);
	// money by its square root: what most houses do costs a tenth of the dearest, and would lie flat on the ground
	const root = scale([0, Math.sqrt(most * 1.06)], [HEIGHT - BOTTOM, TOP]);
	const y = Object.assign((value: number): number => root(Math.sqrt(Math.max(value, 0))), { invert: (pixel: number): number => root.invert(pixel) ** 2, domain: [0, most * 1.06] as [number, number] });
	const yTicks = [0, ...[100, 250, 500, 1000, 2500, 5000, 10_000, 20_000, 40_000, 80_000, 160_000].filter((v) => v <= most * 1.06).filter((v, n, all) => n === all.length - 1 || y(v) - y(all[n + 1]!) > 22)];
	const dots = known.map((point) => ({ x: x(point.season ?? 0), y: y((point.cost_minor ?? 0) / 100), point }));
	return { x, y, xTicks: steps(low, high, 6), yTicks, dots, line: path(dots.map((d): [number, number] => [d.x, d.y])), left: LEFT, right: WIDTH - RIGHT, bottom: HEIGHT - BOTTOM };
}
