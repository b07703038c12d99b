import { inUnits } from '$lib/parts/units';
import { onDestroy, untrack } from 'svelte';
import { until, type Refusal } from '$lib/api/client';

const SETTLE_MS = 250;
const BUSY = 503;
const AGAIN_MS = 1000;
const MOST_AGAIN = 30;

/**
 * An answer that takes longer than an edit: asked for once edits have settled. One question is under way at a time; a newer one
 * ends it, and so does leaving the screen, so that the server is not left a row of questions nobody reads.
 */
export class Slow<T> {
	found = $state.raw<T | null>(null);
	refused = $state<string | null>(null);
	busy = $state(false);
	private timer: ReturnType<typeof setTimeout> | undefined;
	private underWay = false;
	private again = false;
	private busied = 0;
	private left = false;
	private ending = new AbortController();

	/** Belongs to the component it is made in. */
	constructor(private readonly fetch: () => Promise<{ data?: T; error?: unknown; response: Response }>) {
		onDestroy(() => {
			clearTimeout(this.timer);
			this.left = true;
			this.ending.abort();
		});
	}

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
		if (this.underWay) return this.ending.abort();
		this.underWay = true;
		do {
			this.again = false;
			this.ending = new AbortController();
			await this.once();
		} while (this.again && !this.left);
		this.underWay = false;
		this.busy = this.timer !== undefined; // a question that still waits for edits to settle makes this answer an old one
	}

	/** One question; its answer counts unless a newer question waits by now. */
	private async once(): Promise<void> {
		try {
			const { data, error, response } = await until(this.ending.signal, this.fetch);
			if (this.again || this.left) return;
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
			if (!this.again && !this.left) this.refused = 'No line just now: what is shown belongs to an earlier edit.';
		}
	}
}
