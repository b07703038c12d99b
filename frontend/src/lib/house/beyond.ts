import { type Draft, newId, nextPos } from '$lib/job/draft';
import { beyondFrom, type Option } from '$lib/parts/choices';

const NEW_SPACE = 'new-space';
const NEW_NEIGHBOUR = 'new-neighbour';

/** What may be made where it is met, at the face itself. */
export function newBeyonds(kind: string): Option[] {
	const space = { value: NEW_SPACE, label: 'an unheated space, new', group: 'Met here first' };
	const home = { value: NEW_NEIGHBOUR, label: 'a neighbour’s home, new', group: 'Met here first' };
	return kind === 'wall' || kind === 'floor' || kind === 'ceiling' ? [space, home] : [space];
}

/** An unheated space by its name, its kind by what the name says (garage, loft, lean-to); gives its id. */
export function spaceOf(d: Draft, label: string): string {
	return named(d, 'spaces', label);
}

/** A neighbour's home by its name; gives its id. */
export function neighbourOf(d: Draft, label: string): string {
	return named(d, 'neighbours', label);
}

function named(d: Draft, kind: 'spaces' | 'neighbours', label: string): string {
	const same = (other: string): boolean => other.trim().toLowerCase() === label.trim().toLowerCase();
	const known = Object.entries(d.job.survey?.[kind] ?? {}).find(([, one]) => same(one.label ?? ''));
	if (known) return known[0];
	const id = newId();
	d.set(`/survey/${kind}/${id}`, { label: label.trim(), pos: nextPos(d.job.survey?.[kind]) });
	return id;
}

/** What was chosen to lie beyond a face; what is new is made with it, under a name to be changed. */
export function beyondOf(d: Draft, value: string): Record<string, string> {
	const count = (kind: 'spaces' | 'neighbours'): string => {
		const many = Object.keys(d.job.survey?.[kind] ?? {}).length;
		return many ? ` ${many + 1}` : '';
	};
	if (value === NEW_SPACE) return { kind: 'space', space: spaceOf(d, `Unheated space${count('spaces')}`) };
	if (value === NEW_NEIGHBOUR)
		return { kind: 'neighbour', neighbour: neighbourOf(d, `Neighbour${count('neighbours')}`) };
	return beyondFrom(value);
}
