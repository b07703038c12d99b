import { api, type Doubts } from '$lib/api/client';
import { Slow } from '$lib/job/slow.svelte';

/** The slow part of the Design: the range and the gaps, asked for once edits have settled, stamped with their version. */
export class DoubtDesk extends Slow<Doubts> {
	standing = $state<string | null>(null);

	constructor(readonly job: string) {
		super(() => {
			const query = this.standing ? { standing: this.standing } : {};
			return api.GET('/api/jobs/{job_id}/doubts', { params: { path: { job_id: this.job }, query } });
		});
	}
}
