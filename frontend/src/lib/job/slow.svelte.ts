import { inUnits } from '$lib/parts/units';
import { untrack } from 'svelte';
import type { Refusal } from '$lib/api/client';

const SETTLE_MS = 250;
const BUSY = 503;
const AGAIN_MS = 1000;
const MOST_AGAIN = 30;

/**
 * An answer that takes longer than an edit: asked for once edits have settled. One question is under way at a time; the
 * newest waits for its answer, so that a row of quick edits does not leave the server a row of questions nobody reads.
 */
export class Slow<T> {
	found = $state.raw<T | null>(null);
	refused = $state<string | null>(null);
	busy = $state(false);
	private timer: ReturnType<typeof setTimeout> | undefined;
	private underWay = false;
	private again = false;
	private busied = 0;

	constructor(private readonly fetch: () => Promise<{ data?: T; error?: unknown; response: Response }>) {}

	/** Ask again. Reads nothing an effect would come to hang on: its own answer must not make it ask once more. */
	ask(): void {
		clearTimeout(this.timer);
		const wait = untrack(() => (this.found ? SETTLE_MS : 0));
		this.busy = true;
		this.timer = setTimeout(() => void this.run(), wait);
	}

	private async run(): Promise<void> {
		this.timer = undefined;
		this.again = this.underWay;
		if (this.underWay) return;
		this.underWay = true;
		do {
			this.again = false;
			await this.once();
		} while (this.again);
		this.underWay = false;
		this.busy = this.timer !== undefined; // a question that still waits for edits to settle makes this answer an old one
	}

	/** One question; its answer counts unless a newer question waits by now. */
	private async once(): Promise<void> {
		try {
			const { data, error, response } = await this.fetch();
			if (this.again) return;
			if (response.status === BUSY && this.busied++ < MOST_AGAIN) {
				// a row of questions before this one: it is asked again, for as long as it is the newest
				this.refused = (error as Refusal | undefined)?.message ?? 'Busy: asked again in a moment.';
				await new Promise((go) => setTimeout(go, AGAIN_MS));
				this.again = true;
				return;
			}
			this.busied = 0;
			this.refused = data === undefined ? ((error as Refusal | undefined)?.message ?? 'No answer.') : null;
			if (data !== undefined) this.found = inUnits(data);
		} catch {
			if (!this.again) this.refused = 'No line just now: what is shown belongs to an earlier edit.';
		}
	}
}
