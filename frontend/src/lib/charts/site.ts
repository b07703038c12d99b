import type { Design } from '$lib/api/client';

export type Places = Design['places'];
export type Mark = { x: number; y: number };
/** Maps and lines of the site in which something may be moved by hand. */
export type Kind = 'places' | 'receivers' | 'openings' | 'marks' | 'boundary' | 'route' | 'cable';
export type Look = 'ear' | 'opening' | 'tree' | 'patio' | 'meter' | 'tap' | 'store' | 'unit';
export type Dot = Mark & { kind: 'receivers' | 'openings' | 'marks'; id: string; label: string; look: Look };
export const WIDTH = 720;
export const HEIGHT = 430;
const AROUND_M = 4;

export type SiteShape = {
	/** Pixels a metre. */
	scale: number;
	x: (m: number) => number;
	y: (m: number) => number;
	/** Plan metres of a pixel. */
	at: (px: number, py: number) => Mark;
	outline: string[];
};

/** The ground floor with what stands about it, to scale, the plan's upward direction up. */
export function shape(places: Places, others: Mark[]): SiteShape {
	const points = [
		...places.outline.flat().map(([x, y]) => ({ x: x ?? 0, y: y ?? 0 })),
		...places.places.map((p) => ({ x: p.x_m, y: p.y_m })),
		...others
	];
	const xs = points.map((p) => p.x);
	const ys = points.map((p) => p.y);
	const [left, right] = xs.length ? [Math.min(...xs) - AROUND_M, Math.max(...xs) + AROUND_M] : [-10, 10];
	const [low, high] = ys.length ? [Math.min(...ys) - AROUND_M, Math.max(...ys) + AROUND_M] : [-6, 6];
	const scale = Math.min(WIDTH / (right - left), HEIGHT / (high - low));
	const dx = (WIDTH - (right - left) * scale) / 2;
	const dy = (HEIGHT - (high - low) * scale) / 2;
	const x = (m: number): number => dx + (m - left) * scale;
	const y = (m: number): number => dy + (high - m) * scale;
	return {
		scale,
		x,
		y,
		at: (px, py) => ({ x: (px - dx) / scale + left, y: high - (py - dy) / scale }),
		outline: places.outline.map(
			(ring) => `M${ring.map(([a, b]) => `${x(a ?? 0).toFixed(1)} ${y(b ?? 0).toFixed(1)}`).join('L')}Z`
		)
	};
}
