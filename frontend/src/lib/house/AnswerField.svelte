<script lang="ts">
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	type Value = boolean | number | string | null | undefined;
	let {
		kind,
		value,
		options = {},
		unit = '',
		label,
		commit
	}: {
		kind: 'seen' | 'yesno' | 'choice' | 'text' | 'number' | 'whole' | 'age';
		value: Value;
		options?: Record<string, string>;
		unit?: string;
		label: string;
		commit: (value: Value) => Promise<boolean> | void;
	} = $props();
	const chips = $derived<[Value, string][]>(
		kind === 'yesno'
			? [
					[true, 'yes'],
					[false, 'no']
				]
			: kind === 'seen'
				? [[true, 'seen']]
				: Object.entries(options)
	);
</script>

{#if kind === 'number' || kind === 'whole'}
	<NumberField
		{label}
		value={typeof value === 'number' ? value : null}
		quantity={kind === 'whole' ? 'whole' : unit === 'm' ? 'length' : 'plain'}
		digits={unit === 'm' ? 3 : Number.isInteger(value) ? 0 : 1}
		{unit}
		width="9em"
		{commit}
	/>
{:else if kind === 'text'}
	<TextField {label} value={typeof value === 'string' ? value : ''} commit={(v) => commit(v || null)} />
{:else}
	<div class="chips" role="group" aria-label={label}>
		{#each chips as [key, word] (String(key))}
			<button
				type="button"
				class="chip"
				class:on={value === key}
				aria-pressed={value === key}
				onclick={() => void commit(value === key ? null : key)}>{word}</button
			>
		{/each}
	</div>
{/if}

<style>
	.chips {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
	}
	.chip {
		min-height: 40px;
		padding: 0 13px;
		border: 1px solid var(--hairline);
		border-radius: 5px;
		background: var(--sheet);
	}
	.chip:hover {
		border-color: var(--muted);
	}
	.chip.on {
		background: var(--ink);
		color: var(--paper);
		border-color: var(--ink);
		font-weight: 600;
	}
	@media (pointer: coarse) {
		.chip {
			min-height: 48px;
		}
	}
</style>
