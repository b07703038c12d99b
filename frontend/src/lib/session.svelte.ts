import { api, type Answer, type Design, type Effect, type Job, type Refusal } from './api/client';
import { Draft, newId, type Operation } from './draft';
import { shelf } from './library.svelte';

type Gesture = { id: string; label: string; make: (draft: Draft) => void; done: (kept: boolean) => void };
export type Saving = 'saved' | 'saving' | 'waiting';
export type Notice = { message: string; kept: string; places: string[] };

const RETRY_MS = 1500;

/** One open job: its document, its Design, and the queue its changes go through. */
export class JobSession {
	job = $state.raw<Job | null>(null);
	design = $state.raw<Design | null>(null);
	preview = $state.raw<Design | null>(null);
	kept = $state.raw<Effect | null>(null);
	asked = $state.raw<Effect | null>(null);
	version = $state(0);
	undoLabel = $state<string | null>(null);
	redoLabel = $state<string | null>(null);
	canUndo = $state(false);
	canRedo = $state(false);
	savedAt = $state('');
	saving = $state<Saving>('saved');
	notice = $state.raw<Notice | null>(null);
	missing = $state<string | null>(null);

	private queue: Gesture[] = [];
	private running = false;
	private news: EventSource | null = null;
	private asking = 0;
	private heard = 0;
	private wondering = false;
	private wondered: ((draft: Draft) => void) | null = null;

	constructor(readonly id: string) {}

	/** What is on show: the preview while something is dragged, else the saved Design. */
	get shown(): Design | null {
		return this.preview ?? this.design;
	}

	/** What the last edit did, or while something is dragged what letting go would do. */
	get effect(): Effect | null {
		return this.preview ? this.asked : this.kept;
	}

	get scheme(): string | null {
		return this.job?.active_scheme ?? null;
	}

	get pending(): number {
		return this.queue.length;
	}

	async open(): Promise<void> {
		await Promise.all([shelf.load(), this.reload()]);
		this.news = new EventSource(`/api/jobs/${this.id}/events`);
		this.news.addEventListener('version', (event) => {
			const said = JSON.parse((event as MessageEvent<string>).data) as { version: number };
			this.heard = Math.max(this.heard, said.version);
			this.catchUp();
		});
	}

	close(): void {
		this.news?.close();
	}

	async reload(): Promise<void> {
		const { data, error } = await api.GET('/api/jobs/{job_id}', { params: { path: { job_id: this.id } } });
		if (data) this.take(data, false);
		else this.missing = (error as Refusal | undefined)?.message ?? 'The job could not be opened.';
	}

	/** Queue a gesture; resolves true once it is kept. */
	edit(label: string, make: (draft: Draft) => void): Promise<boolean> {
		return new Promise((done) => {
			this.queue.push({ id: newId(), label, make, done });
			this.saving = 'saving';
			void this.run();
		});
	}

	async takeBack(kind: 'undo' | 'redo'): Promise<void> {
		if (this.running || this.queue.length) return;
		this.running = true;
		this.preview = null;
		this.saving = 'saving';
		const options = { params: { path: { job_id: this.id } }, body: { id: newId() } };
		try {
			const { data, error } =
				kind === 'undo'
					? await api.POST('/api/jobs/{job_id}/undo', options)
					: await api.POST('/api/jobs/{job_id}/redo', options);
			if (data) this.take(data, true);
			else this.refuse(error as Refusal);
		} catch {
			this.notice = { message: 'No line just now.', kept: 'Nothing was taken back.', places: [] };
		}
		this.running = false;
		this.saving = 'saved';
		void this.run();
		this.catchUp();
	}

	/** News of a later version than the one shown, once no change of ours is under way. */
	private catchUp(): void {
		if (this.heard > this.version && !this.running) void this.reload();
	}

	/** Show what a gesture would do, without keeping it. One question is under way at a time; the newest waits. */
	whatIf(make: (draft: Draft) => void): void {
		this.wondered = make;
		if (!this.wondering) void this.wonder();
	}

	private async wonder(): Promise<void> {
		this.wondering = true;
		while (this.wondered) {
			const operations = this.operations(this.wondered);
			this.wondered = null;
			if (!operations.length) continue;
			const asked = ++this.asking;
			const { data } = await api
				.POST('/api/jobs/{job_id}/what-if', { params: { path: { job_id: this.id } }, body: { operations } })
				.catch(() => ({ data: undefined }));
			if (!data || asked !== this.asking) continue;
			this.asked = data.effect;
			this.preview = data.design;
		}
		this.wondering = false;
	}

	stopPreview(): void {
		this.asking++;
		this.wondered = null;
		this.preview = null;
	}

	clearEffect(): void {
		this.kept = null;
	}

	private operations(make: (draft: Draft) => void): Operation[] {
		if (!this.job) return [];
		const draft = new Draft(this.job, shelf.all);
		make(draft);
		return draft.operations;
	}

	private async run(): Promise<void> {
		if (this.running) return;
		this.running = true;
		while (this.queue.length) {
			this.saving = 'saving';
			const gesture = this.queue[0]!;
			const operations = this.operations(gesture.make);
			const kept = operations.length ? await this.send(gesture, operations) : true;
			if (kept === null) {
				this.saving = 'waiting';
				await new Promise((go) => setTimeout(go, RETRY_MS));
				continue;
			}
			this.queue.shift();
			gesture.done(kept);
		}
		this.running = false;
		this.saving = 'saved';
		this.catchUp();
	}

	/** true kept, false refused, null no answer (try again with the same id). */
	private async send(gesture: Gesture, operations: Operation[]): Promise<boolean | null> {
		try {
			const { data, error, response } = await api.POST('/api/jobs/{job_id}/changes', {
				params: { path: { job_id: this.id } },
				body: {
					id: gesture.id,
					base_version: this.version,
					schema_version: 1,
					label: gesture.label,
					operations
				}
			});
			if (data) {
				this.take(data, true);
				return true;
			}
			if (response.status >= 500) return null;
			this.refuse(error as Refusal);
			await this.reload(); // somebody else's change may be what stood in the way
			return false;
		} catch {
			return null;
		}
	}

	private take(answer: Answer, mine: boolean): void {
		if (!mine && answer.version <= this.version) return;
		this.job = answer.job;
		this.design = answer.design;
		this.stopPreview();
		this.version = answer.version;
		this.kept = mine ? answer.effect : null;
		this.undoLabel = answer.undo_label;
		this.redoLabel = answer.redo_label;
		this.canUndo = answer.can_undo;
		this.canRedo = answer.can_redo;
		this.savedAt = answer.changed_at;
		if (mine) this.notice = null;
	}

	private refuse(error: Refusal | undefined): void {
		this.notice = {
			message: error?.message ?? 'The change was not taken.',
			kept: error?.kept ?? 'Nothing was changed.',
			places: (error?.problems ?? []).map((p) => `${p.path}: ${p.message}`).slice(0, 4)
		};
	}
}
