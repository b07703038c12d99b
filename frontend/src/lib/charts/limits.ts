import type { Design, MachineDoc } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 720;
export const HEIGHT = 230;
const LEFT = 44;
const RIGHT = 150;
const TOP = 12;
const BOTTOM = 36;
const MILD_C = 20;

export type LimitShape = {
	x: Scale;
	y: Scale;
	xTicks: number[];
	yTicks: number[];
	/** What it can make, as an area, and its upper edge. */
	area: string;
	edge: string;
	edgeEnd: [number, number];
	/** The water this job asks for over the air outside. */
	curve: string;
	curveEnd: [number, number] | null;
	store: number | null;
	/** Where somebody tested it. */
	points: [number, number][];
	frame: { left: number; right: number; top: number; bottom: number };
};

/** How warm a machine makes water over the outdoor air, beside the water that is asked for. */
export function shape(entry: MachineDoc, curve: Design['curve'], storeC: number | null): LimitShape {
	const low = Math.min(entry.lowest_outdoor_c, ...curve.outdoor_c, ...entry.outdoor_c);
	const top = Math.max(...entry.limit_water_c, ...curve.line_c, ...entry.water_c, storeC ?? 0) + 4;
	const x = scale([low, MILD_C], [LEFT, WIDTH - RIGHT]);
	const y = scale([20, top], [HEIGHT - BOTTOM, TOP]);
	const limit = (air: number): number => {
		const [airs, waters] = [entry.limit_outdoor_c, entry.limit_water_c];
		const n = airs.findIndex((a) => a >= air);
		if (n < 0) return waters.at(-1)!;
		if (n === 0) return waters[0]!;
		const part = (air - airs[n - 1]!) / (airs[n]! - airs[n - 1]!);
		return waters[n - 1]! + part * (waters[n]! - waters[n - 1]!);
	};
	const from = entry.lowest_outdoor_c;
	const airs = [from, ...entry.limit_outdoor_c.filter((a) => a > from && a < MILD_C), MILD_C];
	const edge = airs.map((a): [number, number] => [x(a), y(limit(a))]);
	const bottom = HEIGHT - BOTTOM;
	const asked = curve.outdoor_c.map((a, n): [number, number] | null =>
		a <= MILD_C && curve.line_c[n] != null ? [x(a), y(curve.line_c[n]!)] : null
	);
	return {
		x,
		y,
		xTicks: steps(low, MILD_C, 7, '°C'),
		yTicks: steps(20, top, 5, '°C'),
		area: `${path([[x(from), bottom], ...edge, [x(MILD_C), bottom]])}Z`,
		edge: path([[x(from), bottom], ...edge]),
		edgeEnd: edge.at(-1)!,
		curve: path(asked),
		curveEnd: asked.findLast((p) => p !== null) ?? null,
		store: storeC === null ? null : y(storeC),
		points: entry.outdoor_c.flatMap((a) => entry.water_c.map((w): [number, number] => [x(a), y(w)])),
		frame: { left: LEFT, right: WIDTH - RIGHT, top: TOP, bottom }
	};
}
