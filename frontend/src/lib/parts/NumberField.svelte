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
		const standing = value !== null && value !== undefined;
		if (text === '' && how) {
			if (standing) await hand.send(value, () => commit(value!, evidence(how, by)));
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

<span class="wrap" style:width class:feet>
	<input
		class="field"
		class:wrong
		class:units={unit !== ''}
		class:evident
		style:--unit-room={`${unit.length * 8.2}px`}
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
	{#if unit && !feet && typed === null && shown !== ''}<span class="unit" aria-hidden="true">{unit}</span>{/if}
	{#if evident && value !== null && value !== undefined}<span class="mark"
			><Mark {known} {label} inField set={(k) => void commit(value, k)} /></span
		>{/if}
	{#if meanwhile !== undefined}
		<span class="echo beside" role="status"
			>meanwhile {meanwhile === null ? 'emptied' : `${format(meanwhile)}${feet ? '' : ` ${unit}`}`} from elsewhere{typed ===
			null
				? ''
				: ': Enter keeps yours, Esc theirs'}</span
		>
	{:else if typed !== null && echo}
		<span class="echo" class:wrong role="status">{wrong ? `${echo} (kept: ${kept})` : `= ${echo}${said}`}</span>
	{/if}
</span>

<style>
	.wrap {
		position: relative;
		display: inline-block;
	}
	.field {
		text-align: right;
	}
	.field.units {
		padding-right: calc(11px + var(--unit-room));
	}
	.unit {
		position: absolute;
		right: 6px;
		top: 50%;
		transform: translateY(-50%);
		pointer-events: none;
	}
	.field.evident {
		padding-left: 29px;
	}
	.field.evident:not(.units) {
		padding-right: 5px;
	}
	.mark {
		position: absolute;
		left: 3px;
		top: 50%;
		transform: translateY(-50%);
	}
	.feet {
		min-width: 6.5em;
	}
	.feet .field.evident {
		padding-left: 26px;
		font-size: var(--small);
	}
	.field.wrong {
		border-color: var(--heat);
	}
	.echo {
		position: absolute;
		left: 0;
		top: calc(100% + 3px);
		z-index: 30;
		padding: 3px 8px;
		border-radius: 4px;
		background: var(--ink);
		color: var(--paper);
		font-size: var(--small);
		white-space: nowrap;
	}
	.echo.beside {
		background: var(--doubt);
	}
	.echo.wrong {
		background: var(--heat-text);
	}
</style>
