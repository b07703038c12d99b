import type { Job, Known, RoomDoc } from '$lib/api/client';
import { corners, moved, shared, type RunDoc, type XY } from '$lib/charts/plan';
import rules from '$lib/api/rules.json';
import { type Draft, newId, nextPos, ordered } from '$lib/job/draft';
import { neighbourOf, spaceOf } from './beyond';
import { evidence, type How } from './evidence';
import { addRoom, rectangle } from './rooms';
import { SIDES, type LineRoom, type Side, type Where } from './roomLine';

/** Between two rooms a wall stands of this thickness until somebody slides them (common practice). */
const WALL_M = 0.1;
type Box = [number, number, number, number];

/** What of a room nobody has said comes from: the room it is like, the room over or under it, the last on its storey. */
function known(how: How | null, by: string, otherwise: How = 'measured'): Known {
	return evidence(how ?? otherwise, by, (how ?? otherwise) === 'measured' ? 'tape' : undefined);
}

/** The storey a room belongs to: over or under the room it was placed by, else the one asked for; null: there is none
 * over or under it. */
export function storeyOf(job: Job, where: Where | null, asked: string): string | null {
	if (!where) return asked;
	const storeys = ordered(job.survey?.storeys).map(([key]) => key);
	const there = job.survey?.rooms?.[where.room]?.storey ?? asked;
	const by = where.how === 'over' ? 1 : where.how === 'under' ? -1 : 0;
	return by === 0 ? there : (storeys[storeys.indexOf(there) + by] ?? null);
}

/** The height of the room last recorded on a storey: rooms of a storey are mostly as high as one another. */
function heightOf(job: Job, storey: string): number | null {
	const rooms = ordered(job.survey?.rooms).map(([, room]) => room);
	return rooms.filter((room) => room.storey === storey && room.height_m != null).at(-1)?.height_m ?? null;
}

/** A room of a line into the job: its walk, its place beside the room it names, openings, neighbours, radiators. Gives its
 * id. */
export function addLine(d: Draft, line: LineRoom, asked: string, use: string | null, by: string): string {
	const job = d.job;
	const like = line.like ? job.survey?.rooms?.[line.like] : undefined;
	const stacked = line.where && (line.where.how === 'over' || line.where.how === 'under');
	const below = stacked ? job.survey?.rooms?.[line.where!.room] : undefined;
	const storey = storeyOf(job, line.where, asked) ?? asked;
	const model = like ?? (line.size ? undefined : below);
	const taken = line.size ?? (model ? rectangle(model) : null);
	const height = line.height?.value ?? like?.height_m ?? heightOf(job, storey) ?? below?.height_m ?? null;
	const proof = {
		...(taken?.width && taken.length ? { walk: known(line.size ? line.size.how : 'inferred', by) } : {}),
		...(height == null ? {} : { height_m: known(line.height ? line.height.how : 'inferred', by) })
	};
	const size = { width: taken?.width ?? null, length: taken?.length ?? null, height };
	const id = addRoom(d, storey, size, line.name, use ?? like?.use ?? null, proof);
	if (!taken?.width && model?.walk?.length) d.set(`/survey/rooms/${id}/walk`, structuredClone(model.walk));
	if (like) copyBuild(d, like, id);
	place(d, id, line.where);
	for (const { side, label } of line.neighbours) {
		const neighbour = neighbourOf(d, label);
		d.set(`${at(id, side)}/spans`, { all: { beyond: { kind: 'neighbour', neighbour } } });
	}
	hang(d, line, id, by);
	open(d, line, id, by);
	return id;
}

const at = (id: string, side: Side): string => `/survey/rooms/${id}/faces/w${SIDES.indexOf(side) + 1}`;

/** Constructions somebody chose in one room, put into another by the same faces. */
function copyBuild(d: Draft, from: RoomDoc, id: string): void {
	for (const [key, face] of Object.entries(from.faces ?? {})) {
		if (face.construction) d.set(`/survey/rooms/${id}/faces/${key}/construction`, face.construction);
		for (const opening of Object.values(face.openings ?? {}))
			d.set(`/survey/rooms/${id}/faces/${key}/openings/${newId()}`, {
				...structuredClone(opening),
				known: { size: evidence('inferred', opening.known?.size?.by ?? '') }
			});
	}
}

function boxOf(points: XY[]): Box {
	const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

function outline(room: RoomDoc | undefined): XY[] {
	const flat = corners((room?.walk ?? []) as RunDoc[]);
	return flat.length > 3 && room?.position ? moved(flat, room.position) : [];
}

/** A room is pushed out of another by no more than this: more is another place. */
const PUSH_M = 0.4;
/** Floor two rooms may share before it is no place for one of them, counted as `settled` counts it. */
const OVERLAP_M2 = 5;

/** Beside the room it names, a wall between them: of the ways to stand flush with it the one that stands in no other
 * room and touches most. The first room of the house stands where it likes. */
function place(d: Draft, id: string, where: Where | null): void {
	const room = d.job.survey?.rooms?.[id];
	const flat = corners((room?.walk ?? []) as RunDoc[]);
	if (flat.length < 4) return;
	const mine = boxOf(flat);
	const placed = Object.entries(d.job.survey?.rooms ?? {}).filter(([key, r]) => key !== id && outline(r).length);
	if (!where && placed.length) return;
	const base = where ? outline(d.job.survey?.rooms?.[where.room]) : [];
	if (where && !base.length) return;
	const beside = placed.filter(([, r]) => r.storey === room?.storey).map(([, r]) => outline(r));
	const [wide, tall] = [mine[2] - mine[0], mine[3] - mine[1]];
	const spots = where ? flush(where, boxOf(base), wide, tall) : [[0, 0] as XY];
	const best = spots
		.map((spot) => settled(spot, wide, tall, beside, where?.how))
		.reduce((one, other) => (other.score > one.score + 0.01 ? other : one));
	if (best.score < -OVERLAP_M2) return; // it would stand in another room: its place is for a hand to say
	const round = (value: number): number => Math.round(value * 1000) / 1000;
	d.set(`/survey/rooms/${id}/position`, {
		x_m: round(best.at[0] - mine[0]),
		y_m: round(best.at[1] - mine[1]),
		rotation_deg: 0
	});
}

/** Lower left corners of a room that stands flush with another, those mostly met first. */
function flush({ how, flush: side }: Where, [x0, y0, x1, y1]: Box, wide: number, tall: number): XY[] {
	const across = side === 'left' ? [x0] : side === 'right' ? [x1 - wide] : [x0, x1 - wide];
	const beside = how === 'left' || how === 'right';
	const level = beside ? [y0, y1 - tall] : [y1 - tall, y0];
	const along = side === 'front' ? [y0] : side === 'back' ? [y1 - tall] : level;
	if (how === 'over' || how === 'under') return across.flatMap((x) => along.map((y): XY => [x, y]));
	if (how === 'behind') return across.map((x): XY => [x, y1 + WALL_M]);
	if (how === 'before') return across.map((x): XY => [x, y0 - WALL_M - tall]);
	const x = how === 'right' ? x1 + WALL_M : x0 - WALL_M - wide;
	return along.map((y): XY => [x, y]);
}

/** A spot, pushed a little out of the rooms it would stand in, and how good it is: metres of wall shared, less what still
 * overlaps. */
function settled(spot: XY, wide: number, tall: number, others: XY[][], how?: Where['how']): { at: XY; score: number } {
	let [x, y] = spot;
	const along = how === 'behind' || how === 'before' ? 'x' : 'y';
	let lost = 0;
	for (const other of others.map(boxOf)) {
		const [dx, dy] = [
			Math.min(x + wide, other[2]) - Math.max(x, other[0]),
			Math.min(y + tall, other[3]) - Math.max(y, other[1])
		];
		if (dx <= 0.001 || dy <= 0.001) continue;
		const depth = (along === 'x' ? dx : dy) + WALL_M;
		if (depth > PUSH_M) lost += dx * dy;
		else if (along === 'x') x += x < other[0] ? -depth : depth;
		else y += y < other[1] ? -depth : depth;
	}
	const box: XY[] = [
		[x, y + tall],
		[x + wide, y + tall],
		[x + wide, y],
		[x, y],
		[x, y + tall]
	];
	const touching = shared(box, others).reduce((sum, [p, q]) => sum + Math.hypot(q[0] - p[0], q[1] - p[1]), 0);
	return { at: [x, y], score: touching - 100 * lost };
}

/** Sides on which no room of its storey stands, in the order windows are mostly found. */
function freeSides(d: Draft, id: string): Side[] {
	const room = d.job.survey?.rooms?.[id];
	const mine = outline(room);
	const order: Side[] = ['front', 'back', 'left', 'right'];
	if (!mine.length) return order;
	const [x0, y0, x1, y1] = boxOf(mine);
	const others = Object.entries(d.job.survey?.rooms ?? {})
		.filter(([key, r]) => key !== id && r.storey === room?.storey && outline(r).length)
		.map(([, r]) => boxOf(outline(r)));
	const apart = 3 * WALL_M;
	const beside = (b: Box): Record<Side, boolean> => {
		const along = b[0] < x1 && b[2] > x0;
		const across = b[1] < y1 && b[3] > y0;
		return {
			front: along && Math.abs(b[3] - y0) < apart,
			back: along && Math.abs(b[1] - y1) < apart,
			left: across && Math.abs(b[2] - x0) < apart,
			right: across && Math.abs(b[0] - x1) < apart
		};
	};
	const said = (side: Side): boolean =>
		Object.keys(room?.faces?.[`w${SIDES.indexOf(side) + 1}`]?.spans ?? {}).length > 0;
	const free = order.filter((side) => !said(side) && !others.some((b) => beside(b)[side]));
	return free.length ? free : order.filter((side) => !said(side));
}

function open(d: Draft, line: LineRoom, id: string, by: string): void {
	const usual = freeSides(d, id)[0] ?? 'front';
	for (const one of line.openings) {
		const face = at(id, one.side ?? usual);
		if (one.to) d.set(`${face}/spans`, { all: { beyond: { kind: 'space', space: spaceOf(d, one.to) } } });
		for (let n = 0; n < one.count; n++) {
			const there = d.job.survey?.rooms?.[id]?.faces?.[face.split('/').at(-1)!]?.openings;
			d.set(`${face}/openings/${newId()}`, {
				kind: one.kind,
				pos: nextPos(there),
				label: one.label,
				width_m: one.width_m,
				height_m: one.height_m,
				known: { size: known(one.how, by) }
			});
		}
	}
}

function hang(d: Draft, line: LineRoom, id: string, by: string): void {
	for (const one of line.emitters) {
		if (one.output_w === null) d.freeze('emitter_types', one.type);
		d.set(`/survey/emitters/${newId()}`, {
			room: id,
			label: '',
			pos: nextPos(d.job.survey?.emitters),
			spec: {
				...(one.output_w === null ? { kind: 'panel', type: one.type } : { kind: 'stated', output_w: one.output_w }),
				length_m: one.length_m,
				height_m: one.height_m,
				valve: rules.panel.valve
			},
			known: { spec: known(one.how, by, one.output_w === null ? 'measured' : 'told') }
		});
	}
}
