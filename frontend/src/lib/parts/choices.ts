import type { Job, Library } from '$lib/api/client';
import { ordered } from '$lib/job/draft';
import { num } from './format';

export type Option = { value: string; label: string; group?: string };

const ELEMENT_NAMES: Record<string, string> = {
	wall: 'Walls',
	roof: 'Roofs and ceilings',
	ground: 'Ground floors',
	floor: 'Upper floors',
	window: 'Windows',
	door: 'Doors'
};

/** Constructions of the library and of the job, for some elements, with their U-values. */
export function constructions(job: Job, library: Library | null, elements: string[]): Option[] {
	const own = job.library?.constructions ?? {};
	const all = {
		...Object.fromEntries(Object.entries(own).map(([k, f]) => [k, f.data])),
		...(library?.constructions ?? {})
	};
	return Object.values(all)
		.filter((entry) => elements.includes(entry.element))
		.map((entry) => ({
			value: entry.id,
			label: `${entry.label}${library?.u_values[entry.id] && entry.element !== 'ground' ? ` · U ${num(library.u_values[entry.id], 2)}` : ''}`,
			group: library?.own?.constructions?.[entry.id]
				? "The company's own"
				: (ELEMENT_NAMES[entry.element] ?? entry.element)
		}));
}

export function emitterTypes(job: Job, library: Library | null): Option[] {
	// the table's order, whichever of them this job has of its own; then what only the job has
	const own = Object.values(job.library?.emitter_types ?? {}).map((f) => f.data);
	const all = new Map([...Object.values(library?.emitter_types ?? {}), ...own].map((e) => [e.id, e]));
	// a panel begins with its type, so that two keys choose it
	const label = (text: string): string =>
		text.replace(/^Panel (T\d+), /, '$1, ').replace(/^Panel, (\w)/, (_, first: string) => first.toUpperCase());
	return [...all.values()].map((e) => ({ value: e.id, label: label(e.label) }));
}

export function valves(job: Job): Option[] {
	const table = job.library?.tables?.standard?.data.valves ?? {};
	return Object.entries(table).map(([value, entry]) => ({ value, label: entry.label }));
}

export function pipeSizes(job: Job, library: Library | null): Option[] {
	const own = Object.values(job.library?.pipe_families ?? {}).map((f) => f.data);
	const all = new Map([...own, ...Object.values(library?.pipe_families ?? {})].map((e) => [e.id, e]));
	return [...all.values()].flatMap((family) =>
		Object.entries(family.sizes)
			.sort(([, a], [, b]) => a.bore_m - b.bore_m)
			.map(([size, entry]) => ({
				value: `${family.id} ${size}`,
				label: `${family.label.split(' ')[0]} ${entry.label}, bore ${num(entry.bore_m * 1000, 1)}`,
				group: family.label
			}))
	);
}

/** What may lie beyond a face of a room. */
export function beyonds(job: Job, room: string, kind: string): Option[] {
	const survey = job.survey ?? {};
	const inside = { value: 'heated', label: 'inside, as warm' };
	const outside = { value: 'outside', label: 'outside' };
	const ground = { value: 'ground', label: 'ground' };
	const first =
		kind === 'floor' ? [ground, inside, outside] : kind === 'wall' ? [outside, inside, ground] : [outside, inside];
	return [
		...first,
		...ordered(survey.spaces).map(([id, s]) => ({
			value: `space:${id}`,
			label: s.label || id,
			group: 'Unheated spaces'
		})),
		...ordered(survey.neighbours).map(([id, n]) => ({
			value: `neighbour:${id}`,
			label: n.label || id,
			group: 'Neighbours'
		})),
		...ordered(survey.rooms)
			.filter(([id]) => id !== room)
			.map(([id, r]) => ({ value: `room:${id}`, label: r.label || id, group: 'Rooms' }))
	];
}

export function beyondValue(
	beyond: { kind: string; room?: string | null; space?: string | null; neighbour?: string | null } | null | undefined
): string | null {
	if (!beyond) return null;
	const name = beyond.room ?? beyond.space ?? beyond.neighbour;
	return name ? `${beyond.kind}:${name}` : beyond.kind;
}

export function beyondFrom(value: string): Record<string, string> {
	const [kind = 'outside', name] = value.split(':');
	return name ? { kind, [kind]: name } : { kind };
}

/** Which elements a face may be built of, by where it lies and what is beyond. */
export function elementsFor(kind: string, beyond: string): string[] {
	if (kind === 'wall') return ['wall'];
	if (kind === 'floor') return beyond === 'ground' ? ['ground'] : ['floor'];
	if (kind === 'slope') return ['roof'];
	return beyond === 'heated' || beyond === 'room' ? ['floor', 'roof'] : ['roof'];
}
