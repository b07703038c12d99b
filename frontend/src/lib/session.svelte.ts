import { applyPatch, deepClone, type Operation as PatchStep } from 'fast-json-patch';
import { api, type Answer, type Design, type Effect, type Job, type Refusal } from './api/client';
import { Draft, newId, type Operation } from './draft';
import { keep, type Aside, type Waiting } from './keep';
import { shelf } from './library.svelte';
import { send, type Outcome } from './sending';
import { system } from './units';

type Done = (kept: boolean) => void;
type Gesture = Waiting & { done: Done[] };
/** `waiting`: there is no line; `sending`: it is back, and what waited is on its way. */
export type Saving = 'saved' | 'saving' | 'waiting' | 'sending';
export type Notice = { message: string; kept: string; places: string[] };

const RETRY_MS = 1500;
const ROW = 50;

/** Whether one path equals or lies within the other. */
export function meets(one: string, other: string): boolean {
	return one === other || one.startsWith(`${other}/`) || other.startsWith(`${one}/`);
}

/**
 * One open job: its document as this browser sees it (the server's, with the waiting changes laid over it), its
 * Design, and the queue its changes go through. The queue is kept in IndexedDB, so closing the cover loses nothing.
 */
export class JobSession {
	job = $state.raw<Job | null>(null);
	design = $state.raw<Design | null>(null);
	preview = $state.raw<Design | null>(null);
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
	saving = $state<Saving>('saved');
	pending = $state(0);
	aside = $state.raw<Aside[]>([]);
	notice = $state.raw<Notice | null>(null);
	missing = $state<string | null>(null);
	/** What an earlier version of the tool said of this job, where this one says otherwise. */
	moved = $state.raw<Answer['moved']>(null);

	private answer: Answer | null = null;
	private queue: Gesture[] = [];
	private running = false;
	private single = false; // the head of the queue was refused in a row: it goes alone
	private taking = false;
	private news: EventSource | null = null;
	private asking = 0;
	private heard = 0;
	private wondering = false;
	private wondered: ((draft: Draft) => void) | null = null;
	private wake: (() => void) | null = null;
	private readonly back = (): void => this.wake?.();

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
		addEventListener('online', this.back);
		const library = shelf.load();
		await this.reload();
		await library;
		const waiting = await keep.waiting.where('job').equals(this.id).sortBy('seq');
		if (waiting.length) {
			this.queue.push(...waiting.map((w) => ({ ...w, waited: true, done: [] })));
			this.lay();
			this.saving = 'waiting';
			void this.run();
		}
		this.aside = await keep.aside.where('job').equals(this.id).sortBy('seq');
		this.listen();
	}

	private listen(): void {
		this.news = new EventSource(`/api/jobs/${this.id}/events`);
		let broken = false;
		this.news.onerror = () => void (broken = true);
		this.news.onopen = () => {
			if (broken) {
				broken = false;
				this.back();
				if (!this.running) void this.reload();
			}
		};
		this.news.addEventListener('version', (event) => {
			const said = JSON.parse((event as MessageEvent<string>).data) as { version: number };
			this.heard = Math.max(this.heard, said.version);
			this.catchUp();
		});
		this.news.addEventListener('missed', () => {
			if (!this.running && !this.taking) void this.reload();
		});
		this.news.addEventListener('paper', (event) => {
			dispatchEvent(new CustomEvent('cinder-paper', { detail: JSON.parse((event as MessageEvent<string>).data) as unknown }));
		});
	}

	close(): void {
		removeEventListener('online', this.back);
		this.news?.close();
	}

	/** The job from the server; without a line as it was last seen here. */
	async reload(): Promise<void> {
		try {
			const { data, error } = await api.GET('/api/jobs/{job_id}', { params: { path: { job_id: this.id } } });
			if (data) this.take(data, false);
			else if (!this.answer) this.missing = (error as Refusal | undefined)?.message ?? 'The job could not be opened.';
		} catch {
			if (this.answer) return;
			const kept = await keep.snapshots.get(this.id);
			if (kept) {
				this.take(kept.answer, false);
				this.saving = 'waiting';
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
		return new Promise((done) => this.add({ ...item, done: [done] }));
	}

	private item(kind: 'edit' | 'undo', label: string, operations: Operation[], photos: string[] = []): Waiting {
		const knows = this.queue.map((g) => g.id);
		return { id: newId(), job: this.id, kind, base: this.version, label, operations, knows, photos, at: new Date().toISOString(), waited: false };
	}

	private add(gesture: Gesture): void {
		this.queue.push(gesture);
		this.pending = this.queue.length;
		if (this.saving === 'saved') this.saving = 'saving';
		const { done: _, ...plain } = gesture;
		const stored = keep.waiting.add(plain).then(
			(seq) => void (gesture.seq = seq),
			() => undefined // private windows may refuse storage; the queue in memory still holds it
		);
		void stored.then(() => {
			if (this.saving === 'waiting') for (const done of gesture.done.splice(0)) done(true);
			void this.run();
		});
	}

	async takeBack(kind: 'undo' | 'redo'): Promise<void> {
		if (this.queue.length) {
			const last = this.lastOpen();
			if (kind === 'redo' || !last) return;
			this.add({ ...this.item('undo', `Undo: ${last.label}`, []), of: last.id, done: [] });
			this.lay();
			return;
		}
		if (this.running || this.taking) return;
		this.taking = true;
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
		this.taking = false;
		this.saving = 'saved';
		void this.run();
		this.catchUp();
	}

	/** The last waiting edit that has not been taken back. */
	private lastOpen(): Gesture | undefined {
		const undone = new Set(this.queue.filter((g) => g.kind === 'undo').map((g) => g.of));
		return this.queue.findLast((g) => g.kind === 'edit' && !undone.has(g.id));
	}

	/** The document as this browser sees it: the server's, with the waiting changes laid over it. */
	private lay(): void {
		if (!this.answer) return;
		const undone = new Set(this.queue.filter((g) => g.kind === 'undo').map((g) => g.of));
		let job = this.answer.job;
		for (const gesture of this.queue) {
			if (gesture.kind === 'undo' || undone.has(gesture.id)) continue;
			try {
				job = applyPatch(deepClone(job) as Job, gesture.operations as PatchStep[], false, true).newDocument;
			} catch {
				// its place is gone on the server; it will be set aside when it is sent
			}
		}
		system.feet = job.site?.units === 'feet';
		this.job = job;
		this.pending = this.queue.length;
	}

	/** News of a later version than the one shown, once no change of ours is under way. */
	private catchUp(): void {
		if (this.heard > this.version && !this.running && !this.taking) void this.reload();
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
				.POST('/api/jobs/{job_id}/what-if', { params: { path: { job_id: this.id } }, body: { operations: draft.operations } })
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

	private async run(): Promise<void> {
		if (this.running || this.taking) return;
		this.running = true;
		while (this.queue.length) {
			if (this.saving === 'saved') this.saving = 'saving';
			const row = this.row();
			const outcome = await send(row);
			if (outcome) {
				if (this.saving === 'waiting') this.saving = 'sending';
				await this.settle(row, outcome);
				continue;
			}
			this.saving = 'waiting';
			for (const one of this.queue) {
				one.waited = true;
				for (const done of one.done.splice(0)) done(true);
			}
			await new Promise<void>((go) => {
				const timer = setTimeout(go, RETRY_MS);
				this.wake = () => (clearTimeout(timer), go());
			});
		}
		this.running = false;
		this.saving = 'saved';
		this.settled = this.version;
		this.lay();
		this.catchUp();
	}

	/** What goes next: the head of the queue, with the edits behind it up to one that takes pictures along or takes one back. */
	private row(): Gesture[] {
		const stop = this.single ? 1 : this.queue.findIndex((g) => g.kind === 'undo' || g.photos.length > 0);
		return this.queue.slice(0, stop < 0 ? ROW : Math.min(Math.max(stop, 1), ROW));
	}

	private async settle(row: Gesture[], { answer, kept, refusal }: Outcome): Promise<void> {
		const through = row.filter((gesture) => kept.includes(gesture.id));
		for (const gesture of through) this.drop(gesture);
		if (answer) this.take(answer, true);
		for (const gesture of through) for (const done of gesture.done.splice(0)) done(true);
		this.single = row.length > 1 && through.length < row.length;
		if (refusal) await this.setAside(row[0]!, refusal.error, refusal.status);
	}

	private drop(gesture: Gesture): void {
		this.queue = this.queue.filter((g) => g !== gesture);
		this.pending = this.queue.length;
		void keep.waiting.where('id').equals(gesture.id).delete();
	}

	/**
	 * A change that was refused. What was typed against a living line is told at once and the old value stands; what
	 * met somebody else's change, or had waited, is set aside with every later change that meets it. Nothing is lost.
	 */
	private async setAside(gesture: Gesture, error: Refusal, status: number): Promise<void> {
		this.refuse(error);
		const gone: Gesture[] = [gesture];
		if (status === 409 || gesture.waited) {
			const paths = gesture.operations.map((op) => op.path);
			for (const later of this.queue.slice(this.queue.indexOf(gesture) + 1)) {
				const touches = later.operations.some((op) => paths.some((path) => meets(op.path, path)));
				if (!touches && !gone.some((g) => g.id === later.of)) continue;
				gone.push(later);
				paths.push(...later.operations.map((op) => op.path));
			}
			const detail = (error.detail ?? {}) as { theirs?: unknown };
			const asides = gone.map(({ done: _, seq: __, ...plain }) => ({
				...plain,
				why: error.message,
				place: error.problems?.[0]?.path ?? plain.operations[0]?.path ?? '',
				theirs: detail.theirs
			}));
			await keep.aside.bulkAdd(structuredClone($state.snapshot(asides)) as Aside[]);
			this.aside = await keep.aside.where('job').equals(this.id).sortBy('seq');
		}
		for (const one of gone) {
			this.drop(one);
			for (const done of one.done.splice(0)) done(false);
		}
		await this.reload(); // somebody else's change may be what stood in the way
		this.lay();
	}

	/** Try a change again that stands aside, as a new one on the job as it is now. */
	async retryAside(one: Aside): Promise<void> {
		await this.forgetAside(one);
		this.add({ ...this.item('edit', one.label, one.operations, one.photos), done: [] });
		this.lay();
	}

	async forgetAside(one: Aside): Promise<void> {
		if (one.seq !== undefined) await keep.aside.delete(one.seq);
		this.aside = this.aside.filter((a) => a !== one);
	}

	private take(answer: Answer, mine: boolean): void {
		if (!mine && this.answer && answer.version < this.version) return;
		if (!mine && this.answer && answer.version === this.version) return this.lay();
		if (!this.answer) this.moved = answer.moved;
		this.answer = answer;
		this.design = answer.design;
		this.stopPreview();
		this.version = answer.version;
		this.person = answer.person;
		this.sample = answer.sample;
		this.kept = mine ? answer.effect : null;
		this.undoLabel = answer.undo_label;
		this.redoLabel = answer.redo_label;
		this.savedAt = answer.changed_at;
		if (!this.queue.length) this.settled = this.version;
		if (mine) this.notice = null;
		this.lay();
		void keep.snapshots.put({ job: this.id, answer }).catch(() => undefined);
	}

	private refuse(error: Refusal | undefined): void {
		this.notice = {
			message: error?.message ?? 'The change was not taken.',
			kept: error?.kept ?? 'Nothing was changed.',
			places: (error?.problems ?? []).map((p) => `${p.path}: ${p.message}`).slice(0, 4)
		};
	}
}
