import { liveQuery, type Subscription } from 'dexie';
import { applyPatch, deepClone, type Operation as PatchStep } from 'fast-json-patch';
import { api, type Answer, type Design, type Effect, type Job, type Onward, type Refusal } from '$lib/api/client';
import type { Courier, Gesture, Saving } from './courier.svelte';
import { Draft, newId, type Operation } from './draft';
import { placeOf } from './files';
import { keep, type Aside, type Waiting } from './keep';
import { fingerprint, merged, onward, type Difference } from './onward';
import { shelf } from './library.svelte';
import { post } from './post.svelte';
import { inUnits, system } from '$lib/parts/units';
import rules from '$lib/api/rules.json';

/** After this long without an edit the page proves that it holds what the server holds. */
const QUIET_MS = 8000;

export type Notice = { message: string; kept: string; places: string[] };

/**
 * One open job: its document as this browser sees it (the server's, with the waiting changes laid over it), and its
 * Design. Its changes go through the job's courier, which carries them also after this job is left.
 */
export class JobSession {
	job = $state.raw<Job | null>(null);
	design = $state.raw<Design | null>(null);
	preview = $state.raw<Design | null>(null);
	/** The units everything on show is told in. */
	units = $state('metric');
	kept = $state.raw<Effect | null>(null);
	asked = $state.raw<Effect | null>(null);
	version = $state(0);
	/** The last version with no change of ours under way: what the slow answers are asked for. */
	settled = $state(0);
	person = $state('');
	sample = $state(false);
	undoLabel = $state<string | null>(null);
	redoLabel = $state<string | null>(null);
	savedAt = $state('');
	aside = $state.raw<Aside[]>([]);
	notice = $state.raw<Notice | null>(null);
	missing = $state<string | null>(null);
	/** What an earlier version of the tool said of this job, where this one says otherwise. */
	moved = $state.raw<Answer['moved']>(null);
	/** Somebody took it out of the list of jobs. */
	putAway = $state(false);

	/** Counts what was heard of the plant that is watched: whoever shows it looks again. */
	heardPlant = $state(0);

	/** It could not be read from the server just now. */
	private lost = $state(false);
	private answer: Answer | null = null;
	private readonly courier: Courier;
	private taking = false;
	private proving: ReturnType<typeof setTimeout> | undefined;
	private news: EventSource | null = null;
	private closed = false;
	private set: Subscription | null = null;
	private asking = 0;
	private heard = 0;
	private wondering = false;
	private wondered: ((draft: Draft) => void) | null = null;

	constructor(readonly id: string) {
		this.courier = post.courier(id);
	}

	get holds(): number | undefined {
		return this.answer?.version;
	}

	get saving(): Saving {
		return this.lost ? 'waiting' : this.courier.saving;
	}

	get pending(): number {
		return this.courier.pending;
	}

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

	/** The figures belong to an earlier edit: changes wait for the line. */
	get stale(): boolean {
		return (this.saving === 'waiting' || this.saving === 'sending') && this.pending > 0;
	}

	get canUndo(): boolean {
		return this.pending ? this.lastOpen() !== undefined : this.undoLabel !== null;
	}

	get canRedo(): boolean {
		return this.pending === 0 && this.redoLabel !== null;
	}

	async open(): Promise<void> {
		const library = shelf.load();
		await this.reload();
		await library;
		if (this.closed) return;
		this.courier.listener = this;
		this.lay();
		await this.courier.adopt();
		if (this.closed) return;
		this.set = liveQuery(() => keep.aside.where('job').equals(this.id).sortBy('seq')).subscribe({
			next: (aside) => void (this.aside = aside),
			error: () => undefined // no storage, and so nothing that stands aside
		});
		document.addEventListener('visibilitychange', this.looked);
		if (!document.hidden) this.listen();
	}

	/**
	 * A page nobody looks at hears no news: every open stream takes one of the six connections a browser has for all its pages of a
	 * server, and six jobs open at once would leave none for an edit. What it missed it looks up when it is looked at again.
	 */
	private readonly looked = (): void => {
		if (document.hidden) {
			this.news?.close();
			this.news = null;
		} else if (!this.news) this.listen(true);
	};

	private listen(missed = false): void {
		this.news = new EventSource(`/api/jobs/${this.id}/events`);
		let broken = missed;
		let first = true;
		this.news.onerror = () => void (broken = true);
		this.news.onopen = () => {
			if (broken) {
				this.heardPlant += 1;
				this.courier.ring();
			}
			// what was done between reading the job and the first word of news is nobody's news
			if ((broken || first) && this.courier.idle) void this.reload();
			broken = first = false;
		};
		this.news.addEventListener('version', (event) => {
			const said = JSON.parse((event as MessageEvent<string>).data) as { version: number };
			this.heard = Math.max(this.heard, said.version);
			this.catchUp();
		});
		this.news.addEventListener('put_away', (event) => {
			this.putAway = (JSON.parse((event as MessageEvent<string>).data) as { put_away: boolean }).put_away;
		});
		this.news.addEventListener('missed', () => {
			if (this.courier.idle) void this.reload();
		});
		for (const kind of ['reading', 'plant']) this.news.addEventListener(kind, () => void (this.heardPlant += 1));
		this.news.addEventListener('paper', (event) => {
			dispatchEvent(
				new CustomEvent('cinder-paper', { detail: JSON.parse((event as MessageEvent<string>).data) as unknown })
			);
		});
	}

	close(): void {
		this.closed = true;
		system.feet = false; // the list of jobs is in ours
		if (this.courier.listener === this) this.courier.listener = null;
		clearTimeout(this.proving);
		this.set?.unsubscribe();
		document.removeEventListener('visibilitychange', this.looked);
		this.news?.close();
	}

	/** Back into the list of jobs. */
	async takeOut(): Promise<void> {
		const { response } = await api
			.POST('/api/jobs/{job_id}/archive', { params: { path: { job_id: this.id } }, body: { archived: false } })
			.catch(() => ({ response: null }));
		if (response?.ok) this.putAway = false;
		else this.refused({ message: 'The job could not be taken out just now.', kept: 'It stays put away.' } as Refusal);
	}

	/** The job from the server; without a line as it was last seen here. */
	async reload(whole = false): Promise<void> {
		try {
			const { data, error } = await api.GET('/api/jobs/{job_id}', {
				params: { path: { job_id: this.id }, query: { holds: whole ? undefined : this.holds } }
			});
			this.lost = false;
			if (data) await this.taken(data, false);
			else if (!this.answer) this.missing = (error as Refusal | undefined)?.message ?? 'The job could not be opened.';
		} catch {
			if (this.answer) return;
			const kept = await keep.snapshots.get(this.id);
			if (kept) {
				this.take(kept.answer, false);
				this.lost = true;
			} else this.missing = 'There is no line, and this job has not been opened on this machine before.';
		}
	}

	/** Queue a gesture; resolves true once it is kept (on the server, or here while there is no line). */
	edit(label: string, make: (draft: Draft) => void, photos: string[] = []): Promise<boolean> {
		const draft = this.job ? new Draft(this.job, shelf.all) : null;
		if (draft) make(draft);
		if (!draft?.operations.length) return Promise.resolve(true);
		this.job = draft.job;
		const item = this.item('edit', label, draft.operations, photos);
		return new Promise((done) => this.courier.add({ ...item, done: [done] }));
	}

	private item(kind: 'edit' | 'undo', label: string, operations: Operation[], photos: string[] = []): Waiting {
		const knows = this.courier.queue.map((g) => g.id);
		return {
			id: newId(),
			job: this.id,
			kind,
			base: this.version,
			schema: this.job?.schema,
			label,
			operations,
			knows,
			photos,
			at: new Date().toISOString(),
			waited: false
		};
	}

	async takeBack(kind: 'undo' | 'redo'): Promise<void> {
		if (this.courier.queue.length) {
			const last = this.lastOpen();
			if (kind === 'redo' || !last) return;
			this.courier.add({ ...this.item('undo', `Undo: ${last.label}`, []), of: last.id, done: [] });
			this.lay();
			return;
		}
		if (!this.courier.idle || this.taking) return;
		this.taking = true;
		this.preview = null;
		const body = { id: newId() };
		const options = { params: { path: { job_id: this.id }, query: { holds: this.holds } }, body };
		await this.courier.alone(async () => {
			try {
				const { data, error } =
					kind === 'undo'
						? await api.POST('/api/jobs/{job_id}/undo', options)
						: await api.POST('/api/jobs/{job_id}/redo', options);
				if (data) {
					await keep.remember(this.id, [body.id], data.version);
					await this.taken(data, true);
				} else this.refused(error as Refusal);
			} catch {
				this.notice = { message: 'No line just now.', kept: 'Nothing was taken back.', places: [] };
			}
		});
		this.taking = false;
		this.catchUp();
	}

	/** The last waiting edit that has not been taken back. */
	private lastOpen(): Gesture | undefined {
		const undone = new Set(this.courier.queue.filter((g) => g.kind === 'undo').map((g) => g.of));
		return this.courier.queue.findLast((g) => g.kind === 'edit' && !undone.has(g.id));
	}

	/** The document as this browser sees it: the server's, with the waiting changes laid over it. */
	private lay(): void {
		if (!this.answer) return;
		const undone = new Set(this.courier.queue.filter((g) => g.kind === 'undo').map((g) => g.of));
		let job = this.answer.job;
		for (const gesture of this.courier.queue) {
			if (gesture.kind === 'undo' || undone.has(gesture.id)) continue;
			try {
				job = applyPatch(deepClone(job) as Job, deepClone(gesture.operations) as PatchStep[], false, true).newDocument;
			} catch {
				// its place is gone on the server; it will be set aside when it is sent
			}
		}
		system.comma = rules.comma_currencies.includes(job.currency ?? '');
		this.job = job;
	}

	/** News of a later version than the one shown, once no change of ours is under way. */
	private catchUp(): void {
		if (this.heard > this.version && this.courier.idle) void this.reload();
	}

	/** Show what a gesture would do, without keeping it. One question is under way at a time; the newest waits. */
	whatIf(make: (draft: Draft) => void): void {
		this.wondered = make;
		if (!this.wondering) void this.wonder();
	}

	private async wonder(): Promise<void> {
		this.wondering = true;
		while (this.wondered) {
			const draft = this.job ? new Draft(this.job, shelf.all) : null;
			if (draft) this.wondered(draft);
			this.wondered = null;
			if (!draft?.operations.length) continue;
			const asked = ++this.asking;
			const { data } = await api
				.POST('/api/jobs/{job_id}/what-if', {
					params: { path: { job_id: this.id }, query: { holds: this.holds } },
					body: { operations: draft.operations }
				})
				.catch(() => ({ data: undefined }));
			if (!data || asked !== this.asking) continue;
			const held = this.answer;
			if (!('design' in data) && held?.version !== data.since) continue;
			this.asked = data.effect;
			this.preview = inUnits('design' in data ? data.design : merged(held!.design, data.difference as Difference));
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

	async answered(answer: Answer | Onward): Promise<void> {
		this.lost = false;
		await this.taken(answer, true);
	}

	queued(): void {
		this.lay();
	}

	through(): void {
		this.settled = this.version;
		this.lay();
		this.catchUp();
	}

	/** Try a change again that stands aside, as a new one on the job as it is now. */
	async retryAside(one: Aside): Promise<void> {
		await this.forgetAside(one);
		this.courier.add({ ...this.item('edit', one.label, one.operations, one.photos), done: [] });
		this.lay();
	}

	async forgetAside(one: Aside): Promise<void> {
		if (one.seq !== undefined) await keep.aside.delete(one.seq);
	}

	/** An answer, whole or what changed since the one that is held; where the two do not fit the whole is asked for. */
	private async taken(news: Answer | Onward, mine: boolean): Promise<void> {
		const answer = onward(this.answer, news);
		if (answer) this.take(answer, mine);
		else await this.reload(true);
		this.prove();
	}

	/** Once it is quiet: does this page hold the same job and Design as the server? If not, the whole is taken. */
	private prove(): void {
		clearTimeout(this.proving);
		this.proving = setTimeout(async () => {
			const held = this.answer;
			if (!held || !this.courier.idle || this.courier.queue.length) return;
			const { data } = await api
				.GET('/api/jobs/{job_id}/fingerprint', { params: { path: { job_id: this.id } } })
				.catch(() => ({ data: undefined }));
			if (!data || data.version !== held.version || this.answer !== held) return;
			const own = await fingerprint(held);
			if (own !== null && own !== data.sha256) await this.reload(true);
		}, QUIET_MS);
	}

	private take(answer: Answer, mine: boolean): void {
		if (!mine && this.answer && answer.version < this.version) return;
		this.putAway = answer.put_away;
		if (!mine && this.answer && answer.version === this.version && answer.design === this.answer.design)
			return this.lay();
		if (!this.answer) this.moved = answer.moved;
		this.answer = answer;
		this.units = answer.job.site?.units ?? 'metric';
		system.feet = this.units === 'feet';
		this.design = inUnits(answer.design);
		this.stopPreview();
		this.version = answer.version;
		this.person = answer.person;
		this.sample = answer.sample;
		this.kept = mine ? answer.effect : null;
		this.undoLabel = answer.undo_label;
		this.redoLabel = answer.redo_label;
		this.savedAt = answer.changed_at;
		if (!this.courier.queue.length) this.settled = this.version;
		if (mine) this.notice = null;
		this.lay();
		void keep.snapshots.put({ job: this.id, answer }).catch(() => undefined);
	}

	/** The last refusal in a sentence, for the field it belongs to; it is then not said a second time above the work. */
	takeNotice(): string {
		const said = this.notice;
		this.notice = null;
		return said ? (said.places[0] ?? said.message) : 'not taken';
	}

	refused(error: Refusal | undefined): void {
		this.notice = {
			message: error?.message ?? 'The change was not taken.',
			kept: error?.kept ?? 'Nothing was changed.',
			places: (error?.problems ?? []).map((p) => placeOf(p)).slice(0, 4)
		};
	}
}
