<script lang="ts">
	import { within } from '$lib/parts/within';
	import type { Known } from '$lib/api/client';
	import { evidence, withoutKey, type How } from '$lib/house/evidence';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Hand } from './hand.svelte';
	import { likelier, unusual, type Range } from './usual';
	import {
		amount,
		decimals,
		feetAndInches,
		shown as inUnit,
		system,
		understand,
		unitName,
		type Quantity
	} from './units';
	import Mark from './Mark.svelte';
	let {
		value: stands,
		times = 1,
		quantity = 'plain',
		digits = 2,
		unit = '',
		inHead = false,
		label,
		placeholder = '–',
		width = '5.2em',
		known,
		by = '',
		usual = 'measured',
		between,
		beyond = 'is unusual',
		commit: keep
	}: {
		value: number | null | undefined;
		/** What is shown and typed is so many times what is kept: 100 for a share told in per cent, 0.01 for pence in pounds. */
		times?: number;
		quantity?: Quantity;
		digits?: number;
		/** Ours; the field shows and takes what the job has for it. */
		unit?: string;
		/** The unit stands at the head of the column, not in the field. */
		inHead?: boolean;
		label: string;
		placeholder?: string;
		width?: string;
		/** Evidence beside the value; given (null: none yet), the field shows its mark and takes its key. */
		known?: Known | null;
		by?: string;
		/** How such a value is usually known when somebody types it without saying. */
		usual?: How;
		/** What such a value usually lies between: beyond it one is asked at once. */
		between?: Range;
		/** What is said of a value above the range. */
		beyond?: string;
		commit: (value: number | null, known?: Known) => Promise<boolean> | void;
	} = $props();

	const round = (v: number): number => Math.round(v * 1e9) / 1e9;
	const value = $derived(stands === null || stands === undefined ? stands : round(stands * times));
	const commit = (v: number | null, proof?: Known): Promise<boolean> | void =>
		keep(v === null ? null : round(v / times), proof);
	/** Why something was not taken, its figures as they are typed here. */
	const scaled = (why: string): string => {
		const [place, ...rest] = why.split(': ');
		if (times === 1 || !rest.length) return why;
		return `${place}: ${rest.join(': ').replace(/-?\d+(?:\.\d+)?(?:e[+-]?\d+)?/g, (one) => String(round(Number(one) * times)))}`;
	};
	const feet = $derived(quantity === 'length' && system.feet);
	const name = $derived(unitName(unit));
	const format = (v: number | null | undefined): string => {
		if (v === null || v === undefined) return '';
		if (quantity === 'whole' && name === unit) return String(v);
		return feet ? feetAndInches(v) : inUnit(v, unit).toFixed(Math.max(decimals(unit, digits), 0));
	};
	const frame = useFrame() as ReturnType<typeof useFrame> | undefined;
	const hand = new Hand<number | null | undefined>(
		() => value,
		format,
		() => scaled(frame?.session.takeNotice() ?? '')
	);
	/** The likelier figure behind one that is possible and unusual; asked once, under the field. */
	let asking = $state<{ typed: number; likelier: number | null; how: Known | undefined } | null>(null);
	const doubted = $derived(asking !== null && asking.typed === value ? asking : null);
	const shown = $derived(hand.shown);
	const typed = $derived(hand.typed);
	const evident = $derived(known !== undefined);
	const standing = $derived(value !== null && value !== undefined);
	const parted = $derived(evident && typed !== null ? withoutKey(typed) : { text: typed ?? '', how: null });
	const understood = $derived(
		typed === null || parted.text.trim() === '' ? null : understand(parted.text, quantity, unit)
	);
	const echo = $derived(
		understood && 'echo' in understood ? understood.echo : understood && 'error' in understood ? understood.error : ''
	);
	const wrong = $derived(understood !== null && 'error' in understood);
	const said = $derived(parted.how ? `, ${parted.how}` : '');
	const spoken = (v: number): string => (feet || !unit ? format(v) : amount(v, unit, digits));
	const kept = $derived(value === null || value === undefined ? 'nothing' : spoken(value));
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
			const meant = understand(text, quantity, unit);
			if ('error' in meant) return;
			if (meant.value === value && !how && !hand.underWay && meanwhile === undefined) return hand.drop();
			const proof = evident ? evidence(how ?? usual, by, how || usual !== 'measured' ? undefined : 'tape') : undefined;
			asking = unusual(meant.value, between)
				? { typed: meant.value, likelier: likelier(meant.value, between, quantity === 'length'), how: proof }
				: null;
			await hand.send(meant.value, () => commit(meant.value, proof));
		}
	}

	function leave(): void {
		void take();
		hand.leave();
	}

	function accept(): void {
		if (!asking || asking.likelier === null) return;
		const { likelier: meant, how } = asking;
		asking = null;
		hand.typed = format(meant); // sent after the odd one, which may still be on its way
		void hand.send(meant, () => commit(meant, how));
		hand.field?.focus();
	}

	function keys(event: KeyboardEvent): void {
		const odd = typed !== null && understood && 'value' in understood && unusual(understood.value, between);
		const inQuestion = asking?.likelier != null && (typed === null ? doubted !== null : hand.gone);
		if (event.key === 'Enter' && inQuestion) accept();
		else if (event.key === 'Tab' && !event.shiftKey && odd && !hand.gone) {
			event.preventDefault(); // asked before one goes on; a second Tab goes on
			void take();
		} else if (event.key === 'Escape' && doubted && typed === null) {
			asking = null;
			event.stopPropagation();
		} else if (event.key === 'Escape' && typed === null) {
			hand.field?.blur();
			event.stopPropagation();
		} else if (event.key === 'Enter') {
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
		class:input-error={wrong || hand.refused !== null}
		class:input-warning={doubted !== null}
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
			aria-invalid={wrong || hand.refused !== null}
			{placeholder}
			value={shown}
			bind:this={hand.field}
			oninput={(event) => {
				hand.typed = event.currentTarget.value;
				hand.refused = null;
			}}
			onfocus={(event) => {
				hand.grasp();
				event.currentTarget.select();
			}}
			onblur={leave}
			onkeydown={keys}
		/>
		{#if unit && !inHead && !feet}<span class="pointer-events-none unit shrink-0" aria-hidden="true">{name}</span>{/if}
	</span>
	{#if meanwhile !== undefined}
		<span
			use:within
			class="echo absolute top-[calc(100%_+_3px)] left-0 z-30 rounded-sm bg-doubt px-2 py-0.75 text-small whitespace-nowrap text-paper"
			role="status"
			>meanwhile {meanwhile === null ? 'emptied' : spoken(meanwhile)} from elsewhere{typed === null
				? ''
				: ': Enter keeps yours, Esc theirs'}</span
		>
	{:else if hand.refused}
		<span
			use:within
			class="absolute top-[calc(100%+3px)] left-0 z-30 w-max max-w-80 rounded-sm bg-heat-text px-2 py-0.75 text-left text-small whitespace-normal text-paper"
			role="alert">{hand.refused.why}. {kept.replace('nothing', 'Nothing')} is kept; Esc takes it back.</span
		>
	{:else if doubted}
		<span
			use:within
			class="absolute top-[calc(100%+3px)] left-0 z-30 flex w-max max-w-80 items-center gap-2 rounded-sm bg-short-pale py-0.5 ps-2 pe-1 text-small text-short-text"
			role="status"
			>{spoken(doubted.typed)}
			{between && doubted.typed > between[1] ? beyond : 'is unusual'}.
			{#if doubted.likelier !== null}<button type="button" class="btn btn-xs touch:btn-md" onclick={accept}
					>Did you mean {spoken(doubted.likelier)}?</button
				>
				<span class="sr-only">Enter takes it, Esc leaves it.</span>{/if}</span
		>
	{:else if typed !== null && echo}
		<span
			use:within
			class="echo absolute top-[calc(100%_+_3px)] left-0 z-30 rounded-sm bg-ink px-2 py-0.75 text-small whitespace-nowrap text-paper [&.wrong]:bg-heat-text"
			class:wrong
			role="status">{wrong ? `${echo} (kept: ${kept})` : `= ${echo}${said}`}</span
		>
	{/if}
</span>
