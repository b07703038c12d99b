import { api, type IssuedLine } from '$lib/api/client';
import { newId } from '$lib/job/draft';
import type { JobSession } from '$lib/job/session.svelte';

type Said = { message?: string; kept?: string };

/** What was issued for a job, as news of it come in. */
export class Issued {
	lines = $state.raw<IssuedLine[]>([]);
	asked = $state(false);

	constructor(
		private readonly session: () => JobSession,
		private readonly kind: IssuedLine['kind']
	) {}

	get mine(): IssuedLine[] {
		return this.lines.filter((one) => one.kind === this.kind);
	}

	async look(): Promise<void> {
		const path = { params: { path: { job_id: this.session().id } } };
		const { data } = await api.GET('/api/jobs/{job_id}/issued', path).catch(() => ({ data: undefined }));
		if (data) this.lines = data.issued;
	}

	/** Issue it as it is now; whether it was. */
	async issue(): Promise<boolean> {
		this.asked = true;
		const path = { params: { path: { job_id: this.session().id } } };
		const { data, error } = await api
			.POST('/api/jobs/{job_id}/issued', { ...path, body: { id: newId(), kind: this.kind } })
			.catch(() => ({ data: undefined, error: { message: 'No line just now.' } }));
		this.asked = false;
		if (data) await this.look();
		else this.refused(error);
		return data !== undefined;
	}

	async accept(id: string, body: { variant: string; by: string; day: string }): Promise<boolean> {
		const { data, error } = await api
			.POST('/api/issued/{issue_id}/accept', { params: { path: { issue_id: id } }, body })
			.catch(() => ({ data: undefined, error: { message: 'No line just now.' } }));
		if (data) await this.look();
		else this.refused(error);
		return data !== undefined;
	}

	private refused(error: unknown): void {
		const said = error as Said | undefined;
		this.session().notice = {
			message: said?.message ?? 'Not taken.',
			kept: said?.kept ?? 'Nothing was changed.',
			places: []
		};
	}

	/** Listen for papers on their way; gives what stops it. */
	listen(): () => void {
		void this.look();
		const news = (event: Event): void => {
			const said = (event as CustomEvent<{ paper: string; state: IssuedLine['state']; progress: number; step: string }>)
				.detail;
			this.lines = this.lines.map((one) =>
				one.id === said.paper ? { ...one, state: said.state, progress: said.progress, step: said.step } : one
			);
		};
		addEventListener('cinder-paper', news);
		const timer = setInterval(() => {
			if (this.lines.some((one) => one.state === 'waiting' || one.state === 'working')) void this.look();
		}, 2500);
		return () => {
			removeEventListener('cinder-paper', news);
			clearInterval(timer);
		};
	}
}
