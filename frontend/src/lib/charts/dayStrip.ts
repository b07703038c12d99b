import type { WaterDay } from '$lib/api/client';

export const WIDTH = 780;
export const HEIGHT = 350;
const LEFT = 74;
const RIGHT = 52;
export const DRAWS = { top: 16, bottom: 84 };
export const STORE = { top: 100, bottom: 262 };
export const WHO = { machine: 276, immersion: 296, tall: 14 };
const MINUTES = 1440;
const COOLEST = 15;
const WARMEST = 65;
const STEP = 5;
/** What still serves a tap. */
export const USEFUL_C = 40;

export type Band = { c: number; d: string; warm: number };
export type Tick = {
	x: number;
	y: number;
	w: number;
	h: number;
	short: boolean;
	said: string;
	note: string | null;
	end: boolean;
};
export type Beat = { x: number; y: number; w: number; h: number; by: string };
export type Strip = {
	x: (minute: number) => number;
	bands: Band[];
	useful: string;
	ticks: Tick[];
	beats: Beat[];
	hours: number[];
	most: number;
	left: number;
	right: number;
	scale: { c: number; y: number; h: number; warm: number }[];
};

export const clock = (minute: number): string =>
	`${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

/** How high in the store (0 below, 1 above) water begins to be at least so warm. */
export function begins(layers: number[], c: number): number {
	const count = layers.length;
	if (layers[0]! >= c) return 0;
	if (layers[count - 1]! < c) return 1;
	const k = layers.findIndex((_, n) => layers[n + 1]! >= c);
	const [low, high] = [layers[k]!, layers[k + 1]!];
	return (k + 0.5 + (c - low) / (high - low || 1)) / count;
}

/** The day from midnight to midnight: draws as tall as their litres, the store as layers by warmth, who heats it beneath. */
export function shape(day: WaterDay): Strip {
	const x = (minute: number): number => LEFT + (minute / MINUTES) * (WIDTH - LEFT - RIGHT);
	const tall = STORE.bottom - STORE.top;
	const y = (part: number): number => STORE.bottom - part * tall;
	const edge = (c: number): [number, number][] => [
		...day.layers_c.map((layers, n): [number, number] => [x(n * day.step_min), y(begins(layers, c))]),
		[x(MINUTES), y(begins(day.layers_c[day.layers_c.length - 1] ?? [c], c))]
	];
	const warm = (c: number): number => Math.round((100 * (Math.min(c, WARMEST) - COOLEST)) / (WARMEST - COOLEST));
	const levels = Array.from({ length: (WARMEST - COOLEST) / STEP + 1 }, (_, n) => COOLEST + n * STEP);
	const text = (points: [number, number][]): string =>
		points.map(([a, b]) => `${a.toFixed(1)} ${b.toFixed(1)}`).join('L');
	const bands = levels.map((c): Band => ({
		c,
		warm: warm(c),
		d: `M${x(0)} ${STORE.top}L${text(edge(c))}L${x(MINUTES)} ${STORE.top}Z`
	}));
	const most = Math.max(20, ...day.draws.map((draw) => draw.litres));
	const ticks = day.draws.map((draw): Tick => {
		const h = Math.max(((DRAWS.bottom - DRAWS.top) * draw.litres) / most, 1.5);
		const wide = Math.max((draw.litres / draw.flow_l_min / MINUTES) * (WIDTH - LEFT - RIGHT), 2.5);
		const short = draw.short_min > 0;
		return {
			x: x(draw.minute),
			y: DRAWS.bottom - h,
			w: wide,
			h,
			short,
			said: `${clock(draw.minute)} ${draw.what}`,
			note: short ? `${Math.max(Math.round(draw.short_min), 1)} min short` : null,
			end: draw.minute > MINUTES * 0.85
		};
	});
	const beats = day.stretches.map((one): Beat => ({
		x: x(one.from_minute),
		y: one.by === 'immersion' || one.by === 'sun' ? WHO.immersion : WHO.machine,
		w: Math.max(x(one.to_minute) - x(one.from_minute), 1.5),
		h: WHO.tall,
		by: one.by
	}));
	const each = tall / levels.length;
	return {
		x,
		bands,
		useful: `M${text(edge(USEFUL_C))}`,
		ticks,
		beats,
		hours: [0, 3, 6, 9, 12, 15, 18, 21, 24],
		most,
		left: LEFT,
		right: WIDTH - RIGHT,
		scale: levels.map((c, n) => ({ c, y: STORE.bottom - (n + 1) * each, h: each, warm: warm(c) }))
	};
}
