import type { Section } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 640;
export const HEIGHT = 330;
const LEFT = 50;
const RIGHT = 16;
const TOP = 26;
const BOTTOM = 36;
const AIR = 52;
const LEAST = 9;

export type Slice = {
	n: number;
	x: number;
	w: number;
	kind: 'solid' | 'plain' | 'soft' | 'wood' | 'air' | 'open' | 'sheet';
	share: number;
	counted: boolean;
	label: string;
};
export type SectionShape = {
	slices: Slice[];
	y: Scale;
	ticks: number[];
	line: string;
	points: [number, number][];
	inner: number;
	outer: number;
	top: number;
	bottom: number;
	left: number;
	right: number;
	wet: { x: number; y: number }[];
};

const BRICK_M = 0.06;
const SOFT_LAMBDA = 0.065;

function kindOf(layer: Section['layers'][number]): Slice['kind'] {
	if (layer.kind === 'open') return 'open';
	if (layer.kind === 'air') return 'air';
	if (layer.kind === 'resistance') return 'sheet';
	if ((layer.lambda_w_mk ?? 1) < SOFT_LAMBDA) return 'soft';
	if ((layer.lambda_w_mk ?? 1) <= 0.18) return 'wood';
	return (layer.thickness_m ?? 0) < BRICK_M ? 'plain' : 'solid';
}

/** The layers to scale (thin ones at least a few dots wide) and the temperatures over them. */
export function shape(section: Section): SectionShape {
	const room = WIDTH - LEFT - RIGHT - 2 * AIR;
	const thick = section.layers.map((layer) => layer.thickness_m ?? 0.02);
	const sum = thick.reduce((a, b) => a + b, 0) || 0.2;
	const least = LEAST * section.layers.length;
	const per = Math.max(room - least, 40) / sum;
	let x = LEFT + AIR;
	const slices = section.layers.map((layer, n): Slice => {
		const w = LEAST + (thick[n] ?? 0) * per;
		const slice = {
			n,
			x,
			w,
			kind: kindOf(layer),
			share: layer.bridge_share,
			counted: layer.counted,
			label: layer.label
		};
		x += w;
		return slice;
	});
	if (!slices.length) x = LEFT + AIR + room;
	const all = [...section.temperature_c, section.inside_c, section.outside_c, section.dew_point_c];
	const low = Math.floor(Math.min(...all) / 5) * 5;
	const high = Math.ceil(Math.max(...all) / 5) * 5;
	const y = scale([low, high], [HEIGHT - BOTTOM, TOP]);
	const counted = slices.filter((s) => s.counted);
	const edges = counted.length ? [counted[0]!.x, ...counted.map((s) => s.x + s.w)] : [LEFT + AIR, LEFT + AIR + room];
	const points = edges.map((at, n): [number, number] => [at, y(section.temperature_c[n] ?? section.outside_c)]);
	const inner = LEFT + AIR;
	const outer = x;
	const begins: [number, number][] = [
		[LEFT, y(section.inside_c)],
		[inner - AIR * 0.35, y(section.inside_c)]
	];
	const last = points.at(-1) ?? [outer, y(section.outside_c)];
	const ends: [number, number][] = [
		[Math.min(last[0] + AIR * 0.35, WIDTH - RIGHT), y(section.outside_c)],
		[WIDTH - RIGHT, y(section.outside_c)]
	];
	return {
		slices,
		y,
		ticks: steps(low, high, 6, '°C'),
		line: path([...begins, ...points, ...ends]),
		points,
		inner,
		outer,
		top: TOP,
		bottom: HEIGHT - BOTTOM,
		left: LEFT,
		right: WIDTH - RIGHT,
		wet: section.wet.flatMap((n) => (points[n] ? [{ x: points[n]![0], y: points[n]![1] }] : []))
	};
}
