import type { RoomResult } from '$lib/api/client';
import { scale, steps, type Scale } from './scale';

export const WIDTH = 760;
const LEFT = 44;
const RIGHT = 74;
const TOP = 26;
const ROW = 17;
const GAP = 6;
const LEAST = 30;

export type Column = {
	id: string;
	label: string;
	x: number;
	width: number;
	needed: number | null;
	capped: boolean;
	top: number;
	wetTop: number;
	short: boolean;
	room: RoomResult;
};
export type WaterlineShape = {
	y: Scale;
	ticks: number[];
	columns: Column[];
	base: number;
	lineY: number | null;
	left: number;
	right: number;
	low: number;
	high: number;
};

/** Columns as wide as the heat a room's emitter meets, as high as the water it needs; `rows` of words stand under them. */
export function shape(
	rooms: RoomResult[],
	chosen: number | null,
	height: number,
	rows: number,
	held?: Scale
): WaterlineShape {
	const needs = rooms.map((r) => r.needed_flow_c).filter((v): v is number => v !== null);
	const top = Math.min(Math.max(...needs, chosen ?? 0, 45), 75);
	const base = height - 10 - rows * ROW;
	const lowest = Math.floor(Math.min(...needs, chosen ?? 35, 32) / 5) * 5 - 5;
	const fits: [number, number] = [
		Math.min(lowest, Math.floor(((chosen ?? 45) - 14) / 5) * 5),
		Math.ceil((top + 2) / 5) * 5
	]; // under a low line the names still want their room
	const y = held ?? scale(fits, [base, TOP]);
	const [low, high] = y.domain;
	const loads = rooms.map((r) => Math.max(r.room_emitter_load_w ?? 0, 0));
	const total = loads.reduce((a, b) => a + b, 0) || 1;
	const across = WIDTH - LEFT - RIGHT;
	const crowded = rooms.length > 18;
	const gap = crowded ? 2 : GAP;
	const least = crowded ? (across / rooms.length - gap) * 0.6 : LEAST;
	const free = across - (gap + least) * rooms.length;
	let x = LEFT + gap / 2;
	const columns = rooms.map((room, n) => {
		const width = least + (Math.max(free, 0) * (loads[n] ?? 0)) / total;
		const needed = room.needed_flow_c;
		const shown = needed === null ? low : Math.min(needed, high);
		const column: Column = {
			id: room.id,
			label: room.label,
			x,
			width,
			needed,
			capped: needed !== null && needed > high,
			top: y(shown),
			wetTop: y(Math.min(shown, chosen ?? shown)),
			short: room.status === 'short',
			room
		};
		x += width + gap;
		return column;
	});
	return {
		y,
		ticks: steps(low, high, 7, '°C'),
		columns,
		base,
		lineY: chosen === null ? null : y(chosen),
		left: LEFT,
		right: WIDTH - RIGHT,
		low,
		high
	};
}
