import type { Job, RoomDoc } from '$lib/api/client';
import { type Draft, newId, nextPos } from '$lib/job/draft';

export type Rectangle = { width: number | null; length: number | null };

/** Width and length of a room walked as four square runs, or null for any other walk. */
export function rectangle(room: RoomDoc): Rectangle | null {
	const walk = room.walk ?? [];
	if (walk.length === 0) return { width: null, length: null };
	const square = walk.length === 4 && walk.every((run) => (run.turn_deg ?? 90) === 90);
	const pairs = walk[0]?.length_m === walk[2]?.length_m && walk[1]?.length_m === walk[3]?.length_m;
	if (!square || !pairs) return null;
	return { width: walk[0]?.length_m ?? null, length: walk[1]?.length_m ?? null };
}

/** The walk of a rectangle: width, turn, length, turn, and back. */
export function rectangleWalk(size: Rectangle): unknown[] {
	return [size.width, size.length, size.width, size.length].map((length, n) => ({
		id: `w${n + 1}`,
		...(length === null ? {} : { length_m: length }),
		turn_deg: 90
	}));
}

const beyond = (kind: string, extra: object = {}): object => ({ spans: { all: { beyond: { kind, ...extra } } }, openings: {} });

/** A new room as a rectangle. Floor and ceiling follow from its storey; what lies beyond its walls nobody has said
 * yet, so they count as outside, with a doubt each. Gives its id. */
export function addRoom(draft: Draft, storey: string, size: Rectangle & { height: number | null }, label: string, use: string | null): string {
	const id = newId();
	const job = draft.job;
	const lowest = storey === 'ground' || storey === '';
	const loft = Object.keys(job.survey?.spaces ?? {})[0];
	const room = {
		label,
		pos: nextPos(job.survey?.rooms),
		...(storey ? { storey } : {}),
		...(Object.keys(job.survey?.parts ?? {})[0] ? { part: Object.keys(job.survey?.parts ?? {})[0] } : {}),
		...(use ? { use } : {}),
		...(size.height === null ? {} : { height_m: size.height }),
		walk: rectangleWalk(size),
		faces: {
			...Object.fromEntries(['w1', 'w2', 'w3', 'w4'].map((run) => [run, { openings: {} }])),
			floor: beyond(lowest ? 'ground' : 'heated'),
			ceiling: lowest ? beyond('heated') : loft ? beyond('space', { space: loft }) : beyond('outside')
		},
		air: {},
		known: {}
	};
	draft.set(`/survey/rooms/${id}`, room);
	return id;
}

/** Remove a room with everything that points at it. */
export function removeRoom(draft: Draft, id: string): void {
	const job: Job = draft.job;
	const gone = new Set<string>();
	for (const [key, emitter] of Object.entries(job.survey?.emitters ?? {})) if (emitter.room === id) gone.add(key);
	for (const scheme of Object.values(job.schemes ?? {}))
		for (const [key, action] of Object.entries(scheme.emitters ?? {})) if (action.room === id) gone.add(key);
	for (const key of gone) removeEmitter(draft, key);
	for (const [key, scheme] of Object.entries(job.schemes ?? {})) {
		draft.remove(`/schemes/${key}/targets/${id}`);
		draft.remove(`/schemes/${key}/concessions/${id}`);
		for (const [m, measure] of Object.entries(scheme.measures ?? {}))
			if (measure.room === id) draft.remove(`/schemes/${key}/measures/${m}`);
	}
	for (const [key, other] of Object.entries(job.survey?.rooms ?? {}))
		for (const [f, face] of Object.entries(other.faces ?? {}))
			for (const [s, span] of Object.entries(face.spans ?? {}))
				if (span.beyond?.room === id) draft.set(`/survey/rooms/${key}/faces/${f}/spans/${s}/beyond`, { kind: 'heated' });
	for (const [key, part] of Object.entries(job.survey?.manifolds ?? {}))
		if (part.rooms?.includes(id)) draft.set(`/survey/manifolds/${key}/rooms`, part.rooms.filter((room) => room !== id));
	for (const [key, photo] of Object.entries(job.survey?.photos ?? {})) if (photo.room === id) draft.remove(`/survey/photos/${key}`);
	draft.remove(`/survey/rooms/${id}`);
}

/** Remove an emitter from survey and schemes, and the pipe ends that lead to it. */
export function removeEmitter(draft: Draft, id: string): void {
	for (const [key, pipe] of Object.entries(draft.job.survey?.pipes ?? {}))
		if (pipe.emitter === id) draft.remove(`/survey/pipes/${key}/emitter`);
	for (const [key, scheme] of Object.entries(draft.job.schemes ?? {})) {
		draft.remove(`/schemes/${key}/emitters/${id}`);
		for (const [p, action] of Object.entries(scheme.pipes ?? {}))
			if (action.run?.emitter === id) draft.remove(`/schemes/${key}/pipes/${p}/run/emitter`);
	}
	for (const [key, photo] of Object.entries(draft.job.survey?.photos ?? {})) if (photo.emitter === id) draft.remove(`/survey/photos/${key}/emitter`);
	draft.remove(`/survey/emitters/${id}`);
}

/** Remove a window or door, with the measures that change it. */
export function removeOpening(draft: Draft, room: string, face: string, opening: string): void {
	for (const [key, scheme] of Object.entries(draft.job.schemes ?? {}))
		for (const [m, measure] of Object.entries(scheme.measures ?? {}))
			if (measure.room === room && measure.face === face && measure.opening === opening)
				draft.remove(`/schemes/${key}/measures/${m}`);
	draft.remove(`/survey/rooms/${room}/faces/${face}/openings/${opening}`);
}
