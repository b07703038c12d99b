import type { TwinWeek } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 900;
export const HEIGHT = 500;
const LEFT = 46;
const RIGHT = 12;
/** Where each band begins and ends: rooms, water, the air outside, what the machine does. */
export const BANDS = { rooms: [22, 190], water: [222, 372], air: [400, 448], machine: [456, 472] } as const;

export type Traces = { id: string; d: string }[];
export type Drawn = {
	x: Scale;
	rooms: Scale;
	water: Scale;
	air: Scale;
	traces: Traces;
	supply: string;
	wanted: string;
	back: string;
	outside: string;
	modes: { x: number; w: number; mode: number }[];
	days: { x: number; label: string }[];
	roomTicks: number[];
	waterTicks: number[];
	airTicks: number[];
	frame: { left: number; right: number };
};

/** A week as lines: rooms above, water, air outside, and what the machine does. */
export function shape(week: TwinWeek): Drawn {
	const count = week.outdoor_c.length;
	const x = scale([0, count], [LEFT, WIDTH - RIGHT]);
	const every = week.rooms.flatMap((r) => [...r.room_c, r.target_c]);
	const span = (values: number[], low: number, high: number, pad = 0.5): Scale =>
		scale([Math.min(...values) - pad, Math.max(...values) + pad], [high, low]);
	const rooms = span(every, BANDS.rooms[0], BANDS.rooms[1]);
	const water = span([...week.supply_c, ...week.wanted_c, ...week.return_c], BANDS.water[0], BANDS.water[1], 1);
	const air = span(week.outdoor_c, BANDS.air[0], BANDS.air[1], 1);
	const line = (values: number[], y: Scale): string => path(values.map((v, n) => [x(n + 0.5), y(v)]));
	const modes: Drawn['modes'] = [];
	for (let n = 0; n < count; n++) {
		const mode = week.mode[n]!;
		const last = modes.at(-1);
		if (last && last.mode === mode) last.w = x(n + 1) - last.x;
		else modes.push({ x: x(n), w: x(n + 1) - x(n), mode });
	}
	const aDay = (24 * 60) / week.step_min;
	const days = Array.from({ length: Math.round(count / aDay) }, (_, d) => ({ x: x(d * aDay), label: `day ${d + 1}` }));
	return {
		x,
		rooms,
		water,
		air,
		traces: week.rooms.map((r) => ({ id: r.id, d: line(r.room_c, rooms) })),
		supply: line(week.supply_c, water),
		wanted: line(week.wanted_c, water),
		back: line(week.return_c, water),
		outside: line(week.outdoor_c, air),
		modes,
		days,
		roomTicks: steps(rooms.domain[0], rooms.domain[1], 5, '°C'),
		waterTicks: steps(water.domain[0], water.domain[1], 4, '°C'),
		airTicks: steps(air.domain[0], air.domain[1], 2, '°C'),
		frame: { left: LEFT, right: WIDTH - RIGHT }
	};
}
