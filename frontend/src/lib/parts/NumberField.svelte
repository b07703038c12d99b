<script lang="ts">
	import type { Known } from '../api/client';
	import { evidence, withoutKey, type How } from '../evidence';
	import { feetAndInches, system, understand, type Quantity } from '../units';
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

	let typed = $state<string | null>(null);
	let sent = false;
	const feet = $derived(quantity === 'length' && system.feet);
	const shown = $derived(
		typed ?? (value === null || value === undefined ? '' : quantity === 'whole' ? String(value) : feet ? feetAndInches(value) : value.toFixed(digits))
	);
	const evident = $derived(known !== undefined);
	const parted = $derived(evident && typed !== null ? withoutKey(typed) : { text: typed ?? '', how: null });
	const understood = $derived(typed === null || parted.text.trim() === '' ? null : understand(parted.text, quantity));
	const echo = $derived(
		understood && 'echo' in understood ? understood.echo : understood && 'error' in understood ? understood.error : ''
	);
	const wrong = $derived(understood !== null && 'error' in understood);
	const said = $derived(parted.how ? `, ${parted.how}` : '');
	const kept = $derived(value === null || value === undefined ? 'nothing yet' : `${value.toFixed(digits)} ${unit}`);

	async function take(): Promise<void> {
		if (typed === null || sent) return;
		const text = parted.text.trim();
		const how = parted.how;
		if (text === '' && how) {
			sent = true;
			if (value !== null && value !== undefined) await commit(value, evidence(how, by));
		} else if (text === '') {
			sent = true;
			if (value !== null && value !== undefined) await commit(null);
		} else {
			const meant = understand(text, quantity);
			if ('error' in meant) return;
			sent = true;
			if (meant.value !== value || how) await commit(meant.value, evident ? evidence(how ?? usual, by, how || usual !== 'measured' ? undefined : 'tape') : undefined);
		}
		typed = null;
		sent = false;
	}

	function keys(event: KeyboardEvent): void {
		if (event.key === 'Enter') {
			void take();
			(event.currentTarget as HTMLInputElement).select();
		} else if (event.key === 'Escape' && typed !== null) {
			typed = null;
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
		oninput={(event) => (typed = event.currentTarget.value)}
		onfocus={(event) => event.currentTarget.select()}
		onblur={take}
		onkeydown={keys}
	/>
	{#if unit && !feet && typed === null && shown !== ''}<span class="unit" aria-hidden="true">{unit}</span>{/if}
	{#if evident && value !== null && value !== undefined}<span class="mark"><Mark {known} {label} inField set={(k) => void commit(value, k)} /></span>{/if}
	{#if typed !== null && echo}
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
	.echo.wrong {
		background: var(--heat-text);
	}
</style>
