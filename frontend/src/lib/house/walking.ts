import type { Job } from '$lib/api/client';
import rules from '$lib/api/rules.json';
import { corners, gap, type RunDoc } from '$lib/charts/plan';

/** What a room's walk may ask for next, in the surveyor's order. */
export type Stage = 'name' | 'height' | 'walls' | 'openings' | 'emitters' | 'done';
export type Wanted = { stage: Stage; what: string; hint: string; number: boolean };
type Room = NonNullable<NonNullable<Job['survey']>['rooms']>[string];

export type Opening = { wall: number; kind: 'window' | 'door'; width: number | null };
/** A slope being measured: knee wall, then how far from the wall the ceiling is level. */
export type Sloping = { knee: number | null } | null;
export type Hung = { type: string; length: number | null; height: number | null };

/** The use a room's name gives away. */
export function useOf(name: string): string | null {
	return rules.use_by_name.find(([pattern]) => new RegExp(pattern!, 'i').test(name))?.[1] ?? null;
}

/** Two lengths make a rectangle; otherwise the walk stands as it was walked. */
export function closed(walk: RunDoc[]): RunDoc[] {
	if (walk.length !== 2) return walk;
	const [a, b] = walk as [RunDoc, RunDoc];
	return [a, b, { id: 'w3', length_m: a.length_m, turn_deg: 90 }, { id: 'w4', length_m: b.length_m, turn_deg: 90 }].map(
		(run) => ({ ...run, turn_deg: 90 })
	);
}

/** Angle of a slope that rises from its knee to the ceiling over a distance from the wall. */
export function slopeAngle(height: number, knee: number, distance: number): number {
	return Math.round((Math.atan2(height - knee, distance) * 180 * 100) / Math.PI) / 100;
}

/** How far the walk is from its start, and whether that is good (1 % of the way walked). */
export function closing(walk: RunDoc[]): { gap: number; share: number } | null {
	if (walk.length < 3 || walk.some((run) => run.length_m == null)) return null;
	const way = walk.reduce((sum, run) => sum + (run.length_m ?? 0), 0);
	const error = gap(corners(walk));
	return { gap: error, share: way ? error / way : 0 };
}

/** A walk that is nearly back at its start is offered to be finished. */
export function isBack(walk: RunDoc[]): boolean {
	const at = closing(walk);
	return at !== null && walk.length >= 4 && at.share <= 0.03;
}

/** A closed walk whose turns add up to one round to the left: walked anticlockwise, or every turn told the wrong way. */
export function isMirrored(walk: RunDoc[]): boolean {
	if (walk.length < 3 || closing(walk) === null || closing(walk)!.share > 0.05) return false;
	return walk.reduce((sum, run) => sum + (run.turn_deg ?? 90), 0) < -180;
}

/** The walk in a mirror. */
export function mirrored(walk: RunDoc[]): RunDoc[] {
	return walk.map((run) => ({ ...run, turn_deg: -(run.turn_deg ?? 90) }));
}

export function wantedNow(
	stage: Stage,
	walk: RunDoc[],
	opening: Opening,
	hung: Hung,
	diagonal: boolean,
	typeLabel: string,
	sloping: Sloping = null
): Wanted {
	const wall = `wall ${opening.wall + 1}`;
	if (stage === 'openings' && sloping)
		return sloping.knee === null
			? {
					stage,
					what: `knee wall at ${wall}`,
					hint: 'From the floor to where the ceiling begins to slope.',
					number: true
				}
			: {
					stage,
					what: `from ${wall} to the level ceiling`,
					hint: 'Along the floor, to under where the ceiling is level.',
					number: true
				};
	switch (stage) {
		case 'name':
			return { stage, what: 'name of the room', hint: 'Type it, Enter.', number: false };
		case 'height':
			return { stage, what: 'ceiling height', hint: '', number: true };
		case 'walls':
			if (diagonal)
				return {
					stage,
					what: `diagonal, start to end of wall ${walk.length}`,
					hint: 'From the corner where the walk began.',
					number: true
				};
			return {
				stage,
				what: walk.length === 0 ? 'width, wall 1' : walk.length === 1 ? 'length, wall 2' : `wall ${walk.length + 1}`,
				hint:
					walk.length < 2
						? 'Clockwise; corners turn right unless an arrow says otherwise.'
						: walk.length === 2
							? 'Enter alone: a rectangle. Or measure on, wall by wall.'
							: 'Enter alone when you are back at the start.',
				number: true
			};
		case 'openings':
			return {
				stage,
				what: `${opening.kind} in ${wall}, ${opening.width === null ? 'width' : 'height'}`,
				hint: '↓ ↑ another wall, d door or window, + the last one again, s the ceiling slopes from here. Enter alone: no more.',
				number: true
			};
		case 'emitters':
			if (hung.length === null)
				return {
					stage,
					what: `radiator ${typeLabel}, length`,
					hint: '↓ ↑ another type, or all in one: t22 1200x600. Enter alone: no more of them.',
					number: true
				};
			if (hung.height === null) return { stage, what: `radiator ${typeLabel}, height`, hint: '', number: true };
			return {
				stage,
				what: 'free wall for a bigger one',
				hint: 'Length; Enter alone if it is not known.',
				number: true
			};
		default:
			return { stage, what: 'done', hint: 'Enter, or the name of the next room.', number: false };
	}
}

/** Where to go on in a room that is already partly recorded. */
export function stageOf(room: Room | undefined): Stage {
	if (!room) return 'name';
	if (room.height_m == null) return 'height';
	if ((room.walk ?? []).length < 3) return 'walls';
	return 'openings';
}
