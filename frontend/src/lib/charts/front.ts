import type { FrontPoint } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 350;
export const HEIGHT = 232;
const LEFT = 56;
const RIGHT = 12;
const TOP = 26;
const BOTTOM = 40;

export type FrontShape = {
	x: Scale;
	y: Scale;
	xTicks: number[];
	yTicks: number[];
	dots: { x: number; y: number; point: FrontPoint }[];
	line: string;
	left: number;
	right: number;
	bottom: number;
};

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
	const y = Object.assign((value: number): number => root(Math.sqrt(Math.max(value, 0))), {
		invert: (pixel: number): number => root.invert(pixel) ** 2,
		domain: [0, most * 1.06] as [number, number]
	});
	const yTicks = [
		0,
		...[100, 250, 500, 1000, 2500, 5000, 10_000, 20_000, 40_000, 80_000, 160_000]
			.filter((v) => v <= most * 1.06)
			.filter((v, n, all) => n === all.length - 1 || y(v) - y(all[n + 1]!) > 22)
	];
	const dots = known.map((point) => ({ x: x(point.season ?? 0), y: y((point.cost_minor ?? 0) / 100), point }));
	return {
		x,
		y,
		xTicks: steps(low, high, 5),
		yTicks,
		dots,
		line: path(dots.map((d): [number, number] => [d.x, d.y])),
		left: LEFT,
		right: WIDTH - RIGHT,
		bottom: HEIGHT - BOTTOM
	};
}

export type FrontLabel = { point: FrontPoint; x: number; y: number; anchor: 'start' | 'end' };

/** Which dots are named, and where: the chosen one, the cheapest, then tens, fives; whatever would lie on another word is left out. */
export function labels(
	drawn: FrontShape,
	chosen: number | null,
	best: number | null,
	wide: (point: FrontPoint) => number
): FrontLabel[] {
	const rank = (p: FrontPoint): number =>
		p.flow_c === chosen ? 0 : p.flow_c === best ? 1 : p.flow_c % 10 === 0 ? 2 : p.flow_c % 5 === 0 ? 3 : 4;
	const ends = drawn.dots.map((d) => d.point.flow_c);
	const lowest = Math.min(...ends);
	const placed: (FrontLabel & { from: number; to: number })[] = [];
	const wanted = drawn.dots
		.filter((d) => rank(d.point) < 4 || d.point.flow_c === lowest)
		.sort((a, b) => rank(a.point) - rank(b.point));
	for (const { point, x, y } of wanted) {
		const width = wide(point);
		const anchor: 'start' | 'end' = x - width - 9 < drawn.left ? 'start' : 'end';
		const at = anchor === 'start' ? x + 8 : x - 8;
		const [from, to] = anchor === 'start' ? [at, at + width] : [at - width, at];
		const down = anchor === 'start' && y < drawn.bottom - 20 ? y + 17 : y - 10; // the front climbs to the right: under it there is room
		if (
			to > drawn.right + 8 ||
			placed.some((other) => from < other.to + 4 && to > other.from - 4 && Math.abs(other.y - down) < 15)
		)
			continue;
		placed.push({ point, x: at, y: down, anchor, from, to });
	}
	return placed;
}
