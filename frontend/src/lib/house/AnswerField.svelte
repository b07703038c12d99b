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
	<div class="flex flex-wrap gap-1.5" role="group" aria-label={label}>
		{#each chips as [key, word] (String(key))}
			<button
				type="button"
				class="min-h-10 rounded-[5px] border border-hairline bg-sheet px-3.25 py-0 hover:border-muted pointer-coarse:min-h-12 [&.on]:border-ink [&.on]:bg-ink [&.on]:font-semibold [&.on]:text-paper"
				class:on={value === key}
				aria-pressed={value === key}
				onclick={() => void commit(value === key ? null : key)}>{word}</button
			>
		{/each}
	</div>
{/if}
