import type { Known, RoomDoc } from '$lib/api/client';
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

/** A new room as a rectangle. What lies beyond its faces nobody has said: until it stands on the plan its walls count as
 * outside, floor and ceiling by its storey, with a doubt each. Gives its id. */
export function addRoom(
	draft: Draft,
	storey: string,
	size: Rectangle & { height: number | null },
	label: string,
	use: string | null,
	known: Record<string, Known>
): string {
	const id = newId();
	const job = draft.job;
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
			floor: { openings: {} },
			ceiling: { openings: {} }
		},
		air: {},
		known
	};
	draft.set(`/survey/rooms/${id}`, room);
	return id;
}
