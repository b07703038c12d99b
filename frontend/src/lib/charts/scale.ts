import { ours, shown } from '$lib/parts/units';

/** A straight scale from data to pixels, and round steps along it. */
export type Scale = { (value: number): number; invert: (pixel: number) => number; domain: [number, number] };

export function scale(domain: [number, number], range: [number, number]): Scale {
	const span = domain[1] - domain[0] || 1;
	const to = (value: number): number => range[0] + ((value - domain[0]) / span) * (range[1] - range[0]);
	const invert = (pixel: number): number => domain[0] + ((pixel - range[0]) / (range[1] - range[0] || 1)) * span;
	return Object.assign(to, { invert, domain });
}

/** Places along an axis, in our unit, that are round in the unit the job shows. */
export function steps(from: number, to: number, about = 6, unit = ''): number[] {
	const [low, high] = [shown(from, unit), shown(to, unit)];
	const raw = (high - low) / about || 1;
	const size = 10 ** Math.floor(Math.log10(raw));
	const step = [1, 2, 5, 10].map((m) => m * size).find((s) => s >= raw) ?? raw;
	const out: number[] = [];
	for (let v = Math.ceil(low / step) * step; v <= high + 1e-9; v += step)
		out.push(Math.round(ours(Math.round(v * 1e6) / 1e6, unit) * 1e9) / 1e9);
	return out;
}

/** An SVG path through points; a gap wherever one is missing. */
export function path(points: ([number, number] | null)[]): string {
	let pen = 'M';
	const out: string[] = [];
	for (const point of points) {
		if (!point) {
			pen = 'M';
			continue;
		}
		out.push(`${pen}${point[0].toFixed(1)} ${point[1].toFixed(1)}`);
		pen = 'L';
	}
	return out.join('');
}
