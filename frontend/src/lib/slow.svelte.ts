import { untrack } from 'svelte';
import type { Refusal } from './api/client';

const SETTLE_MS = 250;

/** An answer that takes longer than an edit: asked for once edits have settled; only the newest question counts. */
export class Slow<T> {
	found = $state.raw<T | null>(null);
	refused = $state<string | null>(null);
	busy = $state(false);
	private timer: ReturnType<typeof setTimeout> | undefined;
	private asked = 0;

	constructor(private readonly fetch: () => Promise<{ data?: T; error?: unknown }>) {}

	/** Ask again. Reads nothing an effect would come to hang on: its own answer must not make it ask once more. */
	ask(): void {
		clearTimeout(this.timer);
		const wait = untrack(() => (this.found ? SETTLE_MS : 0));
		this.busy = true;
		this.timer = setTimeout(() => void this.run(), wait);
	}

	private async run(): Promise<void> {
		const asked = ++this.asked;
		try {
			const { data, error } = await this.fetch();
			if (asked !== this.asked) return;
			this.refused = data === undefined ? ((error as Refusal | undefined)?.message ?? 'No answer.') : null;
			if (data !== undefined) this.found = data;
		} catch {
			if (asked === this.asked) this.refused = 'No line just now: what is shown belongs to an earlier edit.';
		}
		if (asked === this.asked) this.busy = false;
	}
}
