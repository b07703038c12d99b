import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 760;
export const HEIGHT = 330;
const LEFT = 44;
const RIGHT = 96;
const TOP = 14;
const BOTTOM = 34;

export type Readings = {
	hour: number[];
	outdoor_c: number[];
	wanted_c: number[];
	supply_c: number[];
	return_c: number[];
	flow_lph: number[];
	electric_w: number[];
	rooms: Record<string, number[]>;
};
export type Line = { key: string; label: string; d: string; end: number };

/** Readings by the hour as lines: water above, the air of rooms and the outdoors below, days as ticks. */
export function shape(
	readings: Readings,
	room: string | null,
	name: (room: string) => string
): { x: Scale; y: Scale; lines: Line[]; days: number[]; yTicks: number[] } {
	const hours = readings.hour;
	const x = scale([hours[0] ?? 0, (hours.at(-1) ?? 1) + 1], [LEFT, WIDTH - RIGHT]);
	const shown: [string, string, number[]][] = [
		['wanted', 'asked for', readings.wanted_c],
		['supply', 'flow', readings.supply_c],
		['return', 'return', readings.return_c],
		['outdoor', 'outdoors', readings.outdoor_c],
		...(room && readings.rooms[room]
			? ([['room', name(room), readings.rooms[room]]] as [string, string, number[]][])
			: [])
	];
	const all = shown.flatMap((line) => line[2]);
	const y = scale(
		[Math.floor(Math.min(...all, 0) / 5) * 5, Math.ceil((Math.max(...all, 40) + 1) / 5) * 5],
		[HEIGHT - BOTTOM, TOP]
	);
	const lines = shown.map(([key, label, series]) => ({
		key,
		label,
		d: path(series.map((v, n): [number, number] => [x(hours[n]!), y(v)])),
		end: y(series.at(-1) ?? 0)
	}));
	// names at the right edge, pushed apart where they would lie on each other
	const order = [...lines].sort((a, b) => a.end - b.end);
	for (const [n, line] of order.entries())
		if (n && line.end - order[n - 1]!.end < 14) line.end = order[n - 1]!.end + 14;
	const days = hours.filter((h) => h % 24 === 0);
	return { x, y, lines, days, yTicks: steps(y.domain[0], y.domain[1], 6, '°C') };
}
