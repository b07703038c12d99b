<script lang="ts">
	import type { Known } from '$lib/api/client';
	import { evidence, withoutKey, type How } from '$lib/house/evidence';
	import { Hand } from './hand.svelte';
	import { feetAndInches, system, understand, type Quantity } from './units';
	import Mark from './Mark.svelte';
	let {
		value,
		quantity = 'plain',
		digits = 2,
		unit = '',
		label,
		placeholder = '–',
		width = '5.2em',
		known,
		by = '',
		usual = 'measured',
		commit
	}: {
		value: number | null | undefined;
		quantity?: Quantity;
		digits?: number;
		unit?: string;
		label: string;
		placeholder?: string;
		width?: string;
		/** Evidence beside the value; given (null: none yet), the field shows its mark and takes its key. */
		known?: Known | null;
		by?: string;
		/** How such a value is usually known when somebody types it without saying. */
		usual?: How;
		commit: (value: number | null, known?: Known) => Promise<boolean> | void;
	} = $props();

	const feet = $derived(quantity === 'length' && system.feet);
	const format = (v: number | null | undefined): string =>
		v === null || v === undefined ? '' : quantity === 'whole' ? String(v) : feet ? feetAndInches(v) : v.toFixed(digits);
	const hand = new Hand<number | null | undefined>(() => value, format);
	const shown = $derived(hand.shown);
	const typed = $derived(hand.typed);
	const evident = $derived(known !== undefined);
	const standing = $derived(value !== null && value !== undefined);
	const parted = $derived(evident && typed !== null ? withoutKey(typed) : { text: typed ?? '', how: null });
	const understood = $derived(typed === null || parted.text.trim() === '' ? null : understand(parted.text, quantity));
	const echo = $derived(
		understood && 'echo' in understood ? understood.echo : understood && 'error' in understood ? understood.error : ''
	);
	const wrong = $derived(understood !== null && 'error' in understood);
	const said = $derived(parted.how ? `, ${parted.how}` : '');
	const kept = $derived(value === null || value === undefined ? 'nothing yet' : `${value.toFixed(digits)} ${unit}`);
	const meanwhile = $derived(hand.meanwhile);

	async function take(): Promise<void> {
		if (typed === null || hand.gone) return;
		const text = parted.text.trim();
		const how = parted.how;
		if (text === '' && how) {
			if (standing) await hand.send(value, () => commit(value ?? null, evidence(how, by)));
			else hand.drop();
		} else if (text === '') {
			if (standing || hand.underWay) await hand.send(null, () => commit(null));
			else hand.drop();
		} else {
			const meant = understand(text, quantity);
			if ('error' in meant) return;
			if (meant.value === value && !how && !hand.underWay && meanwhile === undefined) return hand.drop();
			const proof = evident ? evidence(how ?? usual, by, how || usual !== 'measured' ? undefined : 'tape') : undefined;
			await hand.send(meant.value, () => commit(meant.value, proof));
		}
	}

	function leave(): void {
		void take();
		hand.leave();
	}

	function keys(event: KeyboardEvent): void {
		if (event.key === 'Enter') {
			void take();
			(event.currentTarget as HTMLInputElement).select();
		} else if (event.key === 'Escape' && typed !== null) {
			hand.drop();
			event.stopPropagation();
		}
	}
</script>

<span class="relative inline-block" style:width class:min-w-[6.5em]={feet}>
	<span
		class="input flex w-full gap-1 bg-sheet pe-1.5"
		class:input-error={wrong}
		class:ps-0.75={evident}
		class:ps-1.5={!evident}
	>
		{#if evident && standing}<Mark {known} {label} inField set={(k) => void commit(value ?? null, k)} />{/if}
		<input
			class="min-w-0 text-right"
			class:text-small={feet && evident}
			inputmode="decimal"
			autocomplete="off"
			aria-label={label}
			aria-invalid={wrong}
			{placeholder}
			value={shown}
			bind:this={hand.field}
			oninput={(event) => (hand.typed = event.currentTarget.value)}
			onfocus={(event) => {
				hand.grasp();
				event.currentTarget.select();
			}}
			onblur={leave}
			onkeydown={keys}
		/>
		{#if unit && !feet}<span class="pointer-events-none unit shrink-0" aria-hidden="true">{unit}</span>{/if}
	</span>
	{#if meanwhile !== undefined}
		<span
			class="echo absolute top-[calc(100%_+_3px)] left-0 z-30 rounded-sm bg-doubt px-2 py-0.75 text-small whitespace-nowrap text-paper"
			role="status"
			>meanwhile {meanwhile === null ? 'emptied' : `${format(meanwhile)}${feet ? '' : ` ${unit}`}`} from elsewhere{typed ===
			null
				? ''
				: ': Enter keeps yours, Esc theirs'}</span
		>
	{:else if typed !== null && echo}
		<span
			class="echo absolute top-[calc(100%_+_3px)] left-0 z-30 rounded-sm bg-ink px-2 py-0.75 text-small whitespace-nowrap text-paper [&.wrong]:bg-heat-text"
			class:wrong
			role="status">{wrong ? `${echo} (kept: ${kept})` : `= ${echo}${said}`}</span
		>
	{/if}
</span>
