import type { Construction, Job, Layer, Library } from '$lib/api/client';
import type { Draft } from '$lib/job/draft';

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
	const out: { path: string; what: string }[] = [];
	const survey = job.survey ?? {};
	for (const [id, part] of Object.entries(survey.parts ?? {}))
		for (const [element, name] of Object.entries(part.constructions ?? {}))
			if (name === key) out.push({ path: `/survey/parts/${id}/constructions/${element}`, what: `${part.label || id}: ${element.replace('_', ' ')}` });
	for (const [id, room] of Object.entries(survey.rooms ?? {}))
		for (const [face, doc] of Object.entries(room.faces ?? {})) {
			if (doc.construction === key) out.push({ path: `/survey/rooms/${id}/faces/${face}/construction`, what: `${room.label}: ${face}` });
			for (const [opening, o] of Object.entries(doc.openings ?? {}))
				if (o.construction === key) out.push({ path: `/survey/rooms/${id}/faces/${face}/openings/${opening}/construction`, what: `${room.label}: ${o.label || o.kind || 'window'}` });
		}
	for (const [id, space] of Object.entries(survey.spaces ?? {})) {
		for (const [face, doc] of Object.entries(space.faces ?? {}))
			if (doc.construction === key) out.push({ path: `/survey/spaces/${id}/faces/${face}/construction`, what: `${space.label}: ${doc.label || face}` });
		for (const field of ['wall', 'floor'] as const)
			if (space.cellar?.[field] === key) out.push({ path: `/survey/spaces/${id}/cellar/${field}`, what: `${space.label}: ${field} in the ground` });
	}
	for (const [id, scheme] of Object.entries(job.schemes ?? {}))
		for (const [name, measure] of Object.entries(scheme.measures ?? {}))
			for (const field of ['construction', 'was'] as const)
				if (measure[field] === key) out.push({ path: `/schemes/${id}/measures/${name}/${field}`, what: `${scheme.label}: ${measure.label || measure.kind || 'measure'}` });
	return out;
}

/** Put one construction wherever another was found by the survey. */
export function replaceEverywhere(draft: Draft, from: string, to: string): void {
	for (const use of usesOf(draft.job, from)) if (use.path.startsWith('/survey/')) draft.set(use.path, to);
}

export function blankLayer(library: Library | null, material = 'mineral-wool'): Layer {
	const entry = library?.materials[material];
	return {
		label: entry?.label ?? 'layer', material: entry ? material : null, thickness_m: 0.1, lambda_w_mk: entry?.lambda_w_mk ?? 0.04, mu: entry?.mu ?? null, r_m2kw: null,
		air: null, emissivity: null, bridge_label: null, bridge_lambda_w_mk: null, bridge_share: null
	};
}

/** A new construction to begin from: something ordinary for its element. */
export function blank(element: Construction['element'], library: Library | null): Construction {
	const like = Object.values(library?.constructions ?? {}).find((c) => c.element === element && (element === 'window' || c.layers?.length));
	return {
		id: ownId(element), label: `New ${element}`, element, build: '', age: '', floor_kind: element === 'ground' ? 'slab' : null,
		layers: structuredClone(like?.layers ?? []), glazing: structuredClone(like?.glazing ?? null), stated_u_w_m2k: null, source: 'entered by hand'
	};
}

export function copyOf(entry: Construction): Construction {
	return { ...structuredClone(entry), id: ownId(entry.element), label: `${entry.label}, changed`.slice(0, 290), source: `after: ${entry.source}`.slice(0, 290) };
}

function ownId(element: string): string {
	const letters = 'abcdefghijklmnopqrstuvwxyz0123456789';
	const random = Array.from(crypto.getRandomValues(new Uint8Array(10)), (byte) => letters[byte % letters.length]).join('');
	return `own-${element}-${random}`;
}
