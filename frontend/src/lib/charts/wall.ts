import { steps } from './scale';
import { system } from '$lib/parts/units';
import rules from '$lib/api/rules.json';
import type { RoomDoc } from '$lib/api/client';

export const WIDTH = 640;
const LEFT = 46;
const RIGHT = 16;
const TOP = 16;
const BOTTOM = 50;
const USUAL_SILL_M = 0.9;
export const FOOT_M = 0.12;

export type Box = { x: number; y: number; width: number; height: number };
export type Hole = Box & { label: string; kind: string; guessed: boolean };
export type Thing = { id: string; label: string; length_m: number; height_m: number; offset_m: number | null };
export type Drawn = Box & Thing & { guessed: boolean; over: boolean };
export type WallShape = {
	height: number;
	wall: Box;
	holes: Hole[];
	free: Box | null;
	things: Drawn[];
	ghost: Drawn | null;
	metres: number;
	tall: number;
	ticks: number[];
	x: (m: number) => number;
	known: boolean;
};

/** A wall seen from the room, to scale: its openings, what hangs on it, the free wall, and what might hang there. */
export function shape(
	room: RoomDoc | undefined,
	face: string | null,
	things: Thing[],
	on: string,
	free: { length_m?: number | null; height_m?: number | null } | null,
	ghost: Thing | null
): WallShape {
	const run = room?.walk?.find((one) => one.id === face);
	const longest = Math.max(
		0,
		...things.map((t) => t.length_m + (t.offset_m ?? 0)),
		free?.length_m ?? 0,
		ghost?.length_m ?? 0
	);
	const metres = run?.length_m ?? Math.max(longest + 0.4, 2);
	const tall = room?.height_m ?? rules.room_height_m;
	const scale = (WIDTH - LEFT - RIGHT) / metres;
	const fit = Math.min(scale, 200 / tall);
	const height = TOP + tall * fit + BOTTOM;
	const x = (m: number): number => LEFT + m * fit;
	const y = (m: number): number => TOP + (tall - m) * fit;
	const openings = Object.values(face ? (room?.faces?.[face]?.openings ?? {}) : {});
	const holes = openings
		.filter((o) => o.width_m && o.height_m)
		.map((o): Hole => {
			const door = o.kind === 'door' || (o.height_m ?? 0) > 1.9;
			const low = door ? 0 : Math.max(Math.min(USUAL_SILL_M, tall - (o.height_m ?? 0) - 0.1), 0);
			const from = o.offset_m ?? Math.max((metres - (o.width_m ?? 0)) / 2, 0);
			return {
				x: x(from),
				y: y(low + (o.height_m ?? 0)),
				width: (o.width_m ?? 0) * fit,
				height: (o.height_m ?? 0) * fit,
				label: o.label || (o.kind === 'door' ? 'door' : 'window'),
				kind: o.kind ?? 'window',
				guessed: o.offset_m == null
			};
		});
	const main = things.find((t) => t.id === on);
	const from = main?.offset_m ?? Math.max((metres - (main?.length_m ?? 0)) / 2, 0);
	const put = (t: Thing, guess: number): Drawn => {
		const at = t.offset_m ?? guess;
		return {
			...t,
			x: x(at),
			y: y(FOOT_M + t.height_m),
			width: t.length_m * fit,
			height: t.height_m * fit,
			guessed: t.offset_m == null,
			over: at + t.length_m > metres + 0.005 || FOOT_M + t.height_m > tall
		};
	};
	const start = free?.length_m && main ? Math.max(Math.min(from, metres - free.length_m), 0) : 0;
	const bounds = free?.length_m
		? {
				x: x(start),
				y: y(FOOT_M + (free.height_m ?? main?.height_m ?? 0.6)),
				width: free.length_m * fit,
				height: (free.height_m ?? main?.height_m ?? 0.6) * fit
			}
		: null;
	return {
		height,
		wall: { x: x(0), y: y(tall), width: metres * fit, height: tall * fit },
		holes,
		free: bounds,
		metres,
		tall,
		x,
		known: run?.length_m != null,
		things: things.map((t) => put(t, Math.max((metres - t.length_m) / 2, 0))),
		ghost: ghost ? put({ ...ghost, offset_m: ghost.offset_m ?? start }, start) : null,
		ticks: steps(0, metres, system.feet ? 12 : metres, 'm')
	};
}
