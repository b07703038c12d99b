import type { Answer, Onward, Refusal } from '$lib/api/client';
import { keep, type Aside, type Waiting } from './keep';
import { send, type Outcome } from './sending';
import { alive, here, inTurn } from './turns';

type Done = (kept: boolean) => void;
export type Gesture = Waiting & { done: Done[] };
/** `waiting`: there is no line; `sending`: it is back, and what waited is on its way. */
export type Saving = 'saved' | 'saving' | 'waiting' | 'sending';
/** Who wants to hear what came of it: the open job. */
export type Listener = {
	/** The version whose answer it holds whole: only what changed since is then sent. */
	readonly holds: number | undefined;
	answered(answer: Answer | Onward): void | Promise<void>;
	refused(error: Refusal): void;
	/** What waits is other than it was. */
	queued(): void;
	/** Everything is sent. */
	through(): void;
	reload(): Promise<void>;
};

const RETRY_MS = 1500;
const ROW = 50;
/** How often a change is tried on which the server has a fault, before it stands aside and the rest goes on. */
export const TRIES = 3;

/** Whether one path equals or lies within the other. */
export function meets(one: string, other: string): boolean {
	return one === other || one.startsWith(`${other}/`) || other.startsWith(`${one}/`);
}

/**
 * Carries the changes of one job from this browser to the server, whether or not that job is the one on show. What
 * waits is kept in IndexedDB, so closing the cover loses nothing.
 */
export class Courier {
	saving = $state<Saving>('saved');
	pending = $state(0);
	queue: Gesture[] = [];
	listener: Listener | null = null;
	private running = false;
	private single = false; // the head of the queue was refused in a row: it goes alone
	private held = false;
	private adopted = false;
	private wake: (() => void) | null = null;

	constructor(readonly job: string) {}

	get idle(): boolean {
		return !this.running && !this.held;
	}

	/** The line may be back. */
	ring(): void {
		this.wake?.();
	}

	/** Take over what waits here of this job from pages that are gone, and send it. */
	async adopt(): Promise<void> {
		const living = await alive();
		if (!living && this.adopted) return;
		this.adopted = true;
		const mine = new Set(this.queue.map((g) => g.id));
		const found = await keep
			.transaction('rw', keep.waiting, async () => {
				const waiting = await keep.waiting.where('job').equals(this.job).sortBy('seq');
				const orphans = waiting.filter((w) => !mine.has(w.id) && w.tab !== here && !(w.tab && living?.has(w.tab)));
				for (const one of orphans) await keep.waiting.update(one.seq!, { tab: here });
				return orphans;
			})
			.catch(() => []);
		const fresh = found.filter((one) => !this.queue.some((g) => g.id === one.id));
		if (!fresh.length) return;
		this.queue.unshift(...fresh.map((w) => ({ ...w, tab: here, waited: true, done: [] })));
		this.pending = this.queue.length;
		if (this.saving === 'saved') this.saving = 'waiting';
		this.listener?.queued();
		void this.run();
	}

	add(gesture: Gesture): void {
		gesture.tab = here;
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

	/** Do something else with the job on the server while nothing of ours is under way there. */
	async alone<T>(act: () => Promise<T>): Promise<T> {
		this.held = true;
		this.saving = 'saving';
		try {
			return await inTurn(this.job, act);
		} finally {
			this.held = false;
			this.saving = 'saved';
			void this.run();
		}
	}

	private async run(): Promise<void> {
		if (!this.idle || !this.queue.length) return;
		this.running = true;
		while (this.queue.length) {
			if (this.saving === 'saved') this.saving = 'saving';
			let row = this.row();
			const outcome = await inTurn(this.job, async () => {
				row = this.row();
				const came = await send(row, this.listener?.holds);
				if (came?.answer) await keep.remember(this.job, came.kept, came.answer.version);
				return came;
			});
			if (outcome && !outcome.fault) {
				if (this.saving === 'waiting') this.saving = 'sending';
				await this.settle(row, outcome);
				continue;
			}
			if (outcome?.fault && (await this.faulty(row[0]!, outcome.fault))) continue;
			if (!outcome) this.saving = 'waiting';
			for (const one of this.queue) {
				one.waited = true;
				for (const done of one.done.splice(0)) done(true);
			}
			await this.pause();
		}
		this.running = false;
		this.saving = 'saved';
		this.listener?.through();
	}

	private pause(): Promise<void> {
		return new Promise<void>((go) => {
			const timer = setTimeout(go, RETRY_MS);
			this.wake = () => (clearTimeout(timer), go());
		});
	}

	/** What goes next: the head of the queue, with the edits behind it up to one that takes pictures along or takes one back. */
	private row(): Gesture[] {
		const stop = this.single ? 1 : this.queue.findIndex((g) => g.kind === 'undo' || g.photos.length > 0);
		return this.queue.slice(0, stop < 0 ? ROW : Math.min(Math.max(stop, 1), ROW));
	}

	private async settle(row: Gesture[], { answer, kept, refusal }: Outcome): Promise<void> {
		const through = row.filter((gesture) => kept.includes(gesture.id));
		for (const gesture of through) this.drop(gesture);
		if (answer) await this.listener?.answered(answer);
		for (const gesture of through) for (const done of gesture.done.splice(0)) done(true);
		this.single = row.length > 1 && through.length < row.length;
		if (!refusal) return;
		this.listener?.refused(refusal.error);
		const aside = refusal.status === 409 || row[0]!.waited || this.listener === null;
		await this.leave(row[0]!, refusal.error, aside);
	}

	/** The server has a fault with this change: said, and tried again a few times. True when it stands aside by now. */
	private async faulty(gesture: Gesture, error: Refusal): Promise<boolean> {
		gesture.tries = (gesture.tries ?? 0) + 1;
		if (gesture.seq !== undefined)
			await keep.waiting.update(gesture.seq, { tries: gesture.tries }).catch(() => undefined);
		if (gesture.tries < TRIES) {
			this.listener?.refused({ ...error, kept: 'The change is kept here and tried again.' });
			return false;
		}
		const kept = `The change stands aside after ${gesture.tries} tries; what came after it goes on.`;
		this.listener?.refused({ ...error, kept });
		await this.leave(gesture, error, true);
		return true;
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
	private async leave(gesture: Gesture, error: Refusal, aside: boolean): Promise<void> {
		const gone: Gesture[] = [gesture];
		if (aside) {
			const paths = gesture.operations.map((op) => op.path);
			for (const later of this.queue.slice(this.queue.indexOf(gesture) + 1)) {
				const touches = later.operations.some((op) => paths.some((path) => meets(op.path, path)));
				if (!touches && !gone.some((g) => g.id === later.of)) continue;
				gone.push(later);
				paths.push(...later.operations.map((op) => op.path));
			}
			const detail = (error.detail ?? {}) as { theirs?: unknown };
			const asides = gone.map(({ done: _, seq: __, tries: ___, ...plain }) => ({
				...plain,
				why: error.message,
				place: (error.problems?.[0]?.where || error.problems?.[0]?.path) ?? plain.operations[0]?.path ?? '',
				theirs: detail.theirs
			}));
			await keep.putAside(structuredClone($state.snapshot(asides)) as Aside[]);
		}
		for (const one of gone) this.drop(one);
		this.listener?.queued(); // the old value stands again before its field is told
		for (const one of gone) for (const done of one.done.splice(0)) done(false);
		await this.listener?.reload(); // somebody else's change may be what stood in the way
		this.listener?.queued();
	}
}
