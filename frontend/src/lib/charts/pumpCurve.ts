import type { FlowsFound } from '$lib/api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 760;
export const HEIGHT = 300;
const LEFT = 52;
const RIGHT = 120;
const TOP = 18;
const BOTTOM = 44;

export type Line = { key: string; label: string; d: string; end: [number, number] };
export type PumpShape = {
	x: Scale;
	y: Scale;
	xTicks: number[];
	yTicks: number[];
	lines: Line[];
	system: string;
	systemEnd: [number, number] | null;
	at: [number, number] | null;
	whisker: [number, number] | null;
	frame: { left: number; right: number; top: number; bottom: number };
};

/** What the house takes over the flow, against what the pumps give; the point wanted with its doubt. */
export function shape(found: FlowsFound): PumpShape {
	const flows = [...found.pumps.flatMap((p) => p.curve.map((c) => c.flow_lph)), (found.flow_lph ?? 0) * 1.3];
	const heads = [...found.pumps.flatMap((p) => p.curve.map((c) => c.head_kpa)), (found.p90_kpa ?? 0) * 1.1];
	const frame = { left: LEFT, right: WIDTH - RIGHT, top: TOP, bottom: HEIGHT - BOTTOM };
	const x = scale([0, Math.max(500, ...flows)], [frame.left, frame.right]);
	const y = scale([0, Math.max(10, ...heads)], [frame.bottom, frame.top]);
	const place = (one: { flow_lph: number; head_kpa: number }): [number, number] => [x(one.flow_lph), y(one.head_kpa)];
	const lines = found.pumps.map((pump): Line => {
		const points = pump.curve.map(place);
		return { key: pump.key, label: pump.label, d: path(points), end: points[points.length - 1] ?? [0, 0] };
	});
	// names of lines that end close together stand under one another
	const ordered = [...lines].sort((a, b) => a.end[1] - b.end[1]);
	for (const [n, line] of ordered.entries()) {
		const above = ordered[n - 1];
		if (above && Math.abs(above.end[0] - line.end[0]) < 110 && line.end[1] - above.end[1] < 14)
			line.end = [line.end[0], above.end[1] + 14];
	}
	const inside = found.system.filter((one) => one.head_kpa <= y.domain[1] && one.flow_lph <= x.domain[1]);
	const system = inside.map(place);
	return {
		x,
		y,
		xTicks: steps(0, x.domain[1], 7, 'L/h'),
		yTicks: steps(0, y.domain[1], 6, 'kPa'),
		lines,
		system: path(system),
		systemEnd: system[system.length - 1] ?? null,
		at: found.flow_lph != null && found.index_kpa != null ? [x(found.flow_lph), y(found.index_kpa)] : null,
		whisker: found.p10_kpa != null && found.p90_kpa != null ? [y(found.p10_kpa), y(found.p90_kpa)] : null,
		frame
	};
}
