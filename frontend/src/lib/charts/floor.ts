import type { SpacingResult } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 640;
export const HEIGHT = 236;
const LEFT = 52;
const RIGHT = 70;
const TOP = 18;
const BOTTOM = 76;

export type FloorShape = {
	x: Scale;
	y: Scale;
	ticks: number[];
	line: string;
	limitY: number;
	meanY: number;
	mostY: number;
	pipes: { x: number; r: number }[];
	pipeY: number;
	screedTop: number;
	screedBottom: number;
	coverBottom: number;
	right: number;
	left: number;
	base: number;
};

/** The surface of a floor across its pipes, over a cut through it drawn to scale across. */
export function shape(
	row: SpacingResult,
	room_c: number,
	spacing: number,
	pipe_m: number,
	cover_m: number
): FloorShape | null {
	if (!row.profile_c.length) return null;
	const span = 0.6;
	const pitches = Math.max(2, Math.round(span / spacing));
	const x = scale([0, pitches * spacing], [LEFT, WIDTH - RIGHT]);
	const low = Math.floor(room_c - 1);
	const high = Math.ceil(Math.max(row.limit_c, row.surface_most_c) + 1);
	const base = HEIGHT - BOTTOM;
	const y = scale([low, high], [base, TOP]);
	const half = row.profile_c.length - 1;
	const points: [number, number][] = [];
	for (let p = 0; p < pitches; p++)
		for (let k = 0; k <= 2 * half; k++) {
			const mirrored = k <= half ? half - k : k - half;
			points.push([x(p * spacing + (k / (2 * half)) * spacing), y(row.profile_c[mirrored] ?? room_c)]);
		}
	const mm = (x(1) - x(0)) / 1000;
	const top = base + 16;
	const depth = Math.min(cover_m * 1000 * mm, 26);
	const r = Math.min(Math.max((pipe_m * 1000 * mm) / 2, 3.5), 9);
	return {
		x,
		y,
		ticks: steps(low, high, 5, '°C'),
		line: path(points),
		limitY: y(row.limit_c),
		meanY: y(row.surface_mean_c),
		mostY: y(row.surface_most_c),
		left: LEFT,
		right: WIDTH - RIGHT,
		base,
		pipes: Array.from({ length: pitches }, (_, n) => ({ x: x((n + 0.5) * spacing), r })),
		pipeY: top + depth + r,
		screedTop: top,
		screedBottom: top + depth + 2 * r,
		coverBottom: top + depth
	};
}
