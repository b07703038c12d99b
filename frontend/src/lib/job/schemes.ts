import { newId, nextPos } from './draft';
import type { JobSession } from './session.svelte';

/** A copy of the scheme on show, or a first empty one, taken up at once. */
export function copyScheme(session: JobSession): void {
	void session.edit('Scheme added', (d) => {
		const from = session.scheme ? d.job.schemes?.[session.scheme] : null;
		const id = newId();
		const copy = from
			? { ...structuredClone(from), label: `${from.label} (copy)`, pos: nextPos(d.job.schemes) }
			: { label: 'Proposal', pos: nextPos(d.job.schemes) };
		d.set(`/schemes/${id}`, copy);
		d.set('/active_scheme', id);
	});
}
