import type { RoomResult } from '$lib/api/client';
import { bounds, type XY } from './plan';

export const WIDTH = 660;
export const HEIGHT = 470;
const PAD = 26;

/** One stretch of a wall, or a window in it, with the heat through it. */
export type Stroke = {
	a: XY;
	b: XY;
	watts: number;
	construction: string;
	window: boolean;
	label: string;
	inner: boolean;
	/** A wall to a neighbour's home. */
	party: boolean;
};
export type HeatRoom = {
	room: RoomResult;
	outline: XY[];
	centre: XY;
	strokes: Stroke[];
	level: { name: string; watts: number; construction: string }[];
};

function along(a: XY, b: XY, from: number, to: number): [XY, XY] {
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
	const at = (s: number): XY => [a[0] + ((b[0] - a[0]) * s) / length, a[1] + ((b[1] - a[1]) * s) / length];
	return [at(Math.max(0, from)), at(Math.min(length, to))];
}

/** A room as it stands on its storey, its walls with the heat that goes through them, floor and ceiling beside. */
export function heatRoom(room: RoomResult): HeatRoom | null {
	const outline = room.outline_m.map((p): XY => [p[0] ?? 0, p[1] ?? 0]);
	if (!room.placed || outline.length < 4) return null;
	const walls = room.faces.filter((face) => face.kind === 'wall');
	const strokes = walls.flatMap((face, n) => {
		const [a, b] = [outline[n], outline[n + 1]];
		if (!a || !b) return [];
		const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
		const whole = face.pieces.filter((p) => !p.hole);
		const out: Stroke[] = whole.map((piece) => {
			const [from, to] = along(a, b, piece.from_m ?? 0, piece.to_m ?? length);
			const inner = piece.beyond === 'heated' || piece.beyond === 'room';
			return {
				a: from,
				b: to,
				watts: piece.loss_w ?? 0,
				construction: piece.construction_label,
				window: false,
				label: `${room.label}, ${face.label.toLowerCase()} to ${piece.beyond_label}`,
				inner,
				party: piece.beyond === 'neighbour'
			};
		});
		let offset = length * 0.5 - face.openings.reduce((sum, o) => sum + openingWidth(o.area_m2), 0) / 2;
		for (const opening of face.openings) {
			const wide = openingWidth(opening.area_m2);
			const [from, to] = along(a, b, offset, offset + wide);
			offset += wide + 0.15;
			out.push({
				a: from,
				b: to,
				watts: opening.loss_w ?? 0,
				construction: opening.construction_label,
				window: true,
				label: `${room.label}, ${opening.label.toLowerCase()}`,
				inner: false,
				party: false
			});
		}
		return out;
	});
	const level = room.faces
		.filter((face) => face.kind !== 'wall')
		.map((face) => ({
			name: face.kind === 'slope' ? 'slope' : face.kind,
			watts: face.loss_w ?? 0,
			construction: face.construction_label
		}));
	return { room, outline, centre: middleOf(outline), strokes, level };
}

function openingWidth(area: number | null): number {
	return Math.sqrt(area ?? 0.5);
}

function middleOf(outline: XY[]): XY {
	const [x0, y0, x1, y1] = bounds([outline]);
	return [(x0 + x1) / 2, (y0 + y1) / 2];
}

/** Metres to dots for everything on a storey. */
export function viewOf(rooms: HeatRoom[]): { x: (v: number) => number; y: (v: number) => number; per: number } {
	const [x0, y0, x1, y1] = bounds(rooms.map((r) => r.outline));
	const per = Math.min((WIDTH - 2 * PAD) / Math.max(x1 - x0, 1), (HEIGHT - 2 * PAD) / Math.max(y1 - y0, 1), 90);
	const left = (WIDTH - (x1 - x0) * per) / 2;
	const top = (HEIGHT - (y1 - y0) * per) / 2;
	return { per, x: (v) => left + (v - x0) * per, y: (v) => top + (y1 - v) * per };
}
