import { api, type Doubts } from './api/client';

const SETTLE_MS = 250;

/** The slow part of the Design: the range and the gaps, asked for once edits have settled, stamped with their version. */
export class DoubtDesk {
	found = $state.raw<Doubts | null>(null);
	standing = $state<string | null>(null);
	private timer: ReturnType<typeof setTimeout> | undefined;
	private asked = 0;

	constructor(readonly job: string) {}

	/** Ask again after the job has moved on, or after one stands elsewhere. */
	ask(): void {
		clearTimeout(this.timer);
		this.timer = setTimeout(() => void this.fetch(), this.found ? SETTLE_MS : 0);
	}

	private async fetch(): Promise<void> {
		const asked = ++this.asked;
		const query = this.standing ? { standing: this.standing } : {};
		const { data } = await api
			.GET('/api/jobs/{job_id}/doubts', { params: { path: { job_id: this.job }, query } })
			.catch(() => ({ data: undefined }));
		if (data && asked === this.asked) this.found = data;
	}
}
