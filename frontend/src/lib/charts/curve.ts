import type { Design } from '../api/client';
import { path, scale, steps, type Scale } from './scale';

export const WIDTH = 760;
export const HEIGHT = 540;
const LEFT = 44;
const RIGHT = 14;
const TOP = 16;
const BOTTOM = 40;

export type CurveShape = {
	x: Scale; y: Scale; xTicks: number[]; yTicks: number[]; need: string; line: string; rooms: { id: string; d: string }[];
	cops: { level: string; d: string; at: [number, number] | null }[]; bars: { x: number; y: number; w: number; h: number; t: number; hours: number }[];
	points: { key: 'cold' | 'mild'; out: number; flow: number }[]; frame: { left: number; right: number; top: number; bottom: number };
};

/** Outdoor temperature across, water up: needs, the line, equal-COP lines and the climate's hours. */
export function shape(curve: Design['curve']): CurveShape {
	const low = Math.max(Math.min(...curve.outdoor_c), (curve.cold_out_c ?? -5) - 5);
	const x = scale([low, 20], [LEFT, WIDTH - RIGHT]);
	const values = [...curve.line_c, ...curve.needed_c.filter((v): v is number => v !== null)];
	const high = Math.ceil((Math.max(...values, 40) + 2) / 5) * 5;
	const y = scale([20, Math.min(high, 75)], [HEIGHT - BOTTOM, TOP]);
	const inside = curve.outdoor_c.map((t) => t >= low);
	const along = (series: (number | null)[]): ([number, number] | null)[] =>
		series.map((v, n) => (v === null || v === undefined || !inside[n] || v < 20 || v > y.domain[1] ? null : [x(curve.outdoor_c[n]!), y(v)]));
	const most = Math.max(...curve.hours, 1);
	const bars = curve.outdoor_c.flatMap((t, n) => {
		const hours = curve.hours[n] ?? 0;
		if (!inside[n] || hours === 0 || t >= 20) return [];
		const h = (hours / most) * 74;
		const w = x(t + 1) - x(t) - 2;
		return [{ x: x(t) - w / 2, y: HEIGHT - BOTTOM - h, w, h, t, hours }];
	});
	const limited = curve.line_c.map((v, n) => (curve.outdoor_c[n]! <= curve.heating_limit_c ? v : null));
	const cops = Object.entries(curve.cop_lines).map(([level, series]) => {
		const points = along(series);
		const seen = points.filter((p): p is [number, number] => p !== null);
		return { level, d: path(points), at: seen.length > 2 ? seen[Math.floor(seen.length * 0.8)]! : null };
	});
	const points: CurveShape['points'] = [];
	if (curve.cold_out_c !== null && curve.cold_flow_c !== null) points.push({ key: 'cold', out: curve.cold_out_c, flow: curve.cold_flow_c });
	if (curve.mild_out_c !== null && curve.mild_flow_c !== null) points.push({ key: 'mild', out: curve.mild_out_c, flow: curve.mild_flow_c });
	return {
		x, y, xTicks: steps(low, 20, 8), yTicks: steps(20, y.domain[1], 7), need: path(along(curve.needed_c)), line: path(along(limited)),
		rooms: Object.entries(curve.rooms).map(([id, series]) => ({ id, d: path(along(series)) })), cops, bars, points,
		frame: { left: LEFT, right: WIDTH - RIGHT, top: TOP, bottom: HEIGHT - BOTTOM }
	};
}
