import type { Construction, Job, Layer, Library } from '$lib/api/client';
import rules from '$lib/api/rules.json';
import type { Draft } from '$lib/job/draft';
import { pathOf, pointing } from '$lib/job/pointers';

export const ELEMENTS: { value: Construction['element']; label: string }[] = [
	{ value: 'wall', label: 'Walls' },
	{ value: 'roof', label: 'Roofs and ceilings' },
	{ value: 'ground', label: 'Ground floors' },
	{ value: 'floor', label: 'Upper floors' },
	{ value: 'window', label: 'Windows' },
	{ value: 'door', label: 'Doors' }
];

/** Where a job uses a construction: a path to every place that names it, and words for it. */
export function usesOf(job: Job, key: string): { path: string; what: string }[] {
	return pointing(job, 'construction', key).map(({ parts }) => ({ path: pathOf(parts), what: whereIn(job, parts) }));
}

/** A place in words: what it belongs to by its label, and which part of that. */
function whereIn(job: Job, [section, kind, id, ...rest]: string[]): string {
	if (section === 'schemes') {
		const scheme = job.schemes?.[kind!];
		const measure = scheme?.measures?.[rest[0]!];
		return `${scheme?.label}: ${measure?.label || measure?.kind || 'measure'}`;
	}
	if (kind === 'parts') return `${job.survey?.parts?.[id!]?.label || id}: ${rest[1]!.replace('_', ' ')}`;
	if (kind === 'spaces') {
		const space = job.survey?.spaces?.[id!];
		return `${space?.label}: ${rest[0] === 'cellar' ? `${rest[1]} in the ground` : space?.faces?.[rest[1]!]?.label || rest[1]}`;
	}
	const room = job.survey?.rooms?.[id!];
	const opening = rest[2] === 'openings' ? room?.faces?.[rest[1]!]?.openings?.[rest[3]!] : null;
	return `${room?.label}: ${opening ? opening.label || opening.kind || 'window' : rest[1]}`;
}

/** Put one construction wherever another was found by the survey. */
export function replaceEverywhere(draft: Draft, from: string, to: string): void {
	for (const use of usesOf(draft.job, from)) if (use.path.startsWith('/survey/')) draft.set(use.path, to);
}

export function blankLayer(library: Library | null, material = rules.layer.material): Layer {
	const entry = library?.materials[material];
	return {
		label: entry?.label ?? 'layer',
		material: entry ? material : null,
		thickness_m: rules.layer.thickness_m,
		lambda_w_mk: entry?.lambda_w_mk ?? rules.layer.lambda_w_mk,
		mu: entry?.mu ?? null,
		r_m2kw: null,
		air: null,
		emissivity: null,
		bridge_label: null,
		bridge_lambda_w_mk: null,
		bridge_share: null
	};
}

/** A new construction to begin from: something ordinary for its element. */
export function blank(element: Construction['element'], library: Library | null): Construction {
	const like = Object.values(library?.constructions ?? {}).find(
		(c) => c.element === element && (element === 'window' || c.layers?.length)
	);
	return {
		id: ownId(element),
		label: `New ${element}`,
		element,
		build: '',
		age: '',
		floor_kind: element === 'ground' ? 'slab' : null,
		layers: structuredClone(like?.layers ?? []),
		glazing: structuredClone(like?.glazing ?? null),
		stated_u_w_m2k: null,
		source: 'entered by hand'
	};
}

export function copyOf(entry: Construction): Construction {
	return {
		...structuredClone(entry),
		id: ownId(entry.element),
		label: `${entry.label}, changed`.slice(0, 290),
		source: `after: ${entry.source}`.slice(0, 290)
	};
}

function ownId(element: string): string {
	const letters = 'abcdefghijklmnopqrstuvwxyz0123456789';
	const random = Array.from(crypto.getRandomValues(new Uint8Array(10)), (byte) => letters[byte % letters.length]).join(
		''
	);
	return `own-${element}-${random}`;
}
