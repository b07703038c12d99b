import type { Pipe, RoutesFound } from '$lib/api/client';

export type Spot3 = { x: number; y: number; z: number };
export type Storey = RoutesFound['storeys'][number];
export const WIDTH = 860;
export const HEIGHT = 400;
const GAP = 26;
const HEAD = 24;
const THIN = 2;
const WIDE = 11;

/** Storeys beside each other on one scale, the lowest to the left. */
export type Board = {
	scale: number;
	storeys: (Storey & { left: number; width: number })[];
	x: (at: Spot3) => number;
	y: (at: Spot3) => number;
	/** Plan metres under a pixel, on the storey it lies over. */
	under: (px: number, py: number) => Spot3;
	/** The storey whose level is nearest. */
	storeyOf: (z: number) => number;
};

export function board(storeys: Storey[], others: Spot3[]): Board {
	const points = [
		...storeys.flatMap((s) => s.rooms.flatMap((r) => r.outline_m.map(([x, y]) => ({ x: x ?? 0, y: y ?? 0 })))),
		...others
	];
	const xs = points.map((p) => p.x);
	const ys = points.map((p) => p.y);
	const [left, right] = xs.length ? [Math.min(...xs) - 0.4, Math.max(...xs) + 0.4] : [0, 8];
	const [low, high] = ys.length ? [Math.min(...ys) - 0.4, Math.max(...ys) + 0.4] : [0, 8];
	const count = Math.max(storeys.length, 1);
	const scale = Math.min((WIDTH - GAP * (count - 1)) / count / (right - left), (HEIGHT - HEAD) / (high - low));
	const width = (right - left) * scale;
	const start = (WIDTH - width * count - GAP * (count - 1)) / 2;
	const placed = storeys.map((s, n) => ({ ...s, left: start + n * (width + GAP), width }));
	const storeyOf = (z: number): number => {
		let best = 0;
		storeys.forEach((s, n) => {
			if (Math.abs(s.level_m - z) < Math.abs((storeys[best]?.level_m ?? 0) - z)) best = n;
		});
		return best;
	};
	const x = (at: Spot3): number => (placed[storeyOf(at.z)]?.left ?? 0) + (at.x - left) * scale;
	const y = (at: Spot3): number => HEAD + (high - at.y) * scale;
	const under = (px: number, py: number): Spot3 => {
		const n = placed.reduce(
			(best, s, m) =>
				Math.abs(px - s.left - s.width / 2) < Math.abs(px - (placed[best]?.left ?? 0) - width / 2) ? m : best,
			0
		);
		return {
			x: (px - (placed[n]?.left ?? 0)) / scale + left,
			y: high - (py - HEAD) / scale,
			z: placed[n]?.level_m ?? 0
		};
	};
	return { scale, storeys: placed, x, y, under, storeyOf };
}

/** A way cut where it changes storeys: a piece for every storey, and where it rises. */
export function pieces(on: Board, way: Spot3[]): { lines: Spot3[][]; rises: { from: Spot3; to: Spot3 }[] } {
	const lines: Spot3[][] = [];
	const rises: { from: Spot3; to: Spot3 }[] = [];
	let line: Spot3[] = [];
	way.forEach((at, n) => {
		const before = way[n - 1];
		if (before && on.storeyOf(before.z) !== on.storeyOf(at.z)) {
			rises.push({ from: before, to: at });
			if (line.length > 1) lines.push(line);
			line = [];
		}
		line.push(at);
	});
	if (line.length > 1) lines.push(line);
	return { lines, rises };
}

/** As wide as its flow, next to the largest. */
export function thick(pipe: Pipe, most: number): number {
	return THIN + (WIDE - THIN) * Math.sqrt(Math.max(pipe.flow_lph ?? 0, 0) / Math.max(most, 1));
}

export function along(way: Spot3[]): number {
	return way.slice(1).reduce((sum, at, n) => {
		const a = way[n]!;
		return sum + Math.hypot(at.x - a.x, at.y - a.y, at.z - a.z);
	}, 0);
}

/** A way with one right-angled bend between two points; a rise first where they lie on different storeys. */
export function bent(from: Spot3, to: Spot3): Spot3[] {
	const out = [from];
	if (from.z !== to.z) out.push({ x: from.x, y: from.y, z: to.z });
	if (Math.abs(from.x - to.x) > 0.05 && Math.abs(from.y - to.y) > 0.05) out.push({ x: to.x, y: from.y, z: to.z });
	if (Math.hypot(from.x - to.x, from.y - to.y) > 0.01) out.push(to);
	return out;
}
