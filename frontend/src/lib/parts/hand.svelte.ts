import { tick } from 'svelte';

/**
 * A field and the hand in it. While the hand is in it the field is the hand's: what is typed stands, a change that
 * arrives meanwhile is shown beside and never typed over, and what is typed while an earlier figure is still on its way
 * goes after it.
 */
export class Hand<T> {
	/** What is typed and not taken yet; null: nothing. */
	typed = $state<string | null>(null);
	private held = $state<{ text: string; value: T } | null>(null);
	private mine = $state<{ value: T } | null>(null);
	private sending = $state<string | null>(null);
	/** Why what is typed was not taken; it stays in the field until it is put right or taken back. */
	refused = $state<{ text: string; why: string } | null>(null);
	private chain: Promise<unknown> = Promise.resolve();

	constructor(
		private readonly value: () => T,
		private readonly text: (value: T) => string,
		private readonly why: () => string = () => ''
	) {}

	/** What the field shows. */
	get shown(): string {
		return this.typed ?? this.held?.text ?? this.text(this.value());
	}

	/** The value that arrived from elsewhere under the hand; undefined: none did. */
	get meanwhile(): T | undefined {
		if (!this.held) return undefined;
		const now = this.text(this.value());
		return now === this.text(this.held.value) || (this.mine && now === this.text(this.mine.value))
			? undefined
			: this.value();
	}

	/** Whether this very text is on its way already, or was refused as it stands. */
	get gone(): boolean {
		return this.typed !== null && (this.typed === this.sending || this.typed === this.refused?.text);
	}

	/** Whether what stands in the document may not be the last that was sent. */
	get underWay(): boolean {
		return this.sending !== null;
	}

	grasp(): void {
		const value = this.value();
		this.held = { text: this.text(value), value };
		this.mine = null;
	}

	leave(): void {
		if (this.typed === null) this.held = null;
	}

	/** Take back what is typed; the field shows what stands now. */
	drop(): void {
		this.typed = null;
		this.refused = null;
		if (this.held) this.grasp();
	}

	/** Send what is typed, after what was sent before it. */
	async send(value: T, commit: () => Promise<unknown> | void): Promise<void> {
		const text = this.typed;
		this.sending = text;
		this.mine = { value };
		const turn = this.chain.then(() => commit());
		this.chain = turn.catch(() => undefined);
		const taken = await this.chain;
		if (taken === false && text !== null) {
			if (this.sending === text) this.sending = null;
			this.mine = null;
			if (this.typed === text) this.refused = { text, why: this.why() };
			return;
		}
		this.refused = null;
		const element = this.field;
		const inHand = element !== undefined && document.activeElement === element;
		// what Enter selected stays selected when the figure is written out in full: the next one replaces it
		const whole = inHand && element.selectionStart === 0 && element.selectionEnd === element.value.length;
		if (this.sending === text) this.sending = null;
		if (this.typed === text) this.typed = null;
		if (this.sending === null && this.held) {
			if (inHand || this.typed !== null) this.grasp();
			else this.held = null;
		}
		if (whole) {
			await tick();
			if (document.activeElement === element) element.select();
		}
	}

	/** The element, to know whether the hand is still in it. */
	field: HTMLInputElement | undefined;
}
