<script lang="ts">
	import { num } from './format';
	import { decimals, difference } from './units';
	type Move = { before: number | null; after: number | null };
	let {
		move,
		digits = 0,
		scale = 1,
		unit = '',
		better = 'lower',
		onBar = false
	}: {
		move: Move | undefined;
		digits?: number;
		scale?: number;
		unit?: string;
		better?: string;
		onBar?: boolean;
	} = $props();

	const change = $derived(
		move && move.before !== null && move.after !== null ? difference((move.after - move.before) * scale, unit) : null
	);
	const grain = $derived(decimals(unit, digits));
	const seen = $derived(change !== null && Math.abs(change) >= 0.5 * 10 ** -grain);
	const good = $derived(change !== null && better !== 'neither' && change > 0 === (better === 'higher'));
</script>

{#if move && change === null && move.before !== move.after}
	<span
		class="inline-block rounded-[9px] bg-ash px-1.5 py-0 text-small leading-[18px] whitespace-nowrap text-muted tabular-nums [&.bar]:bg-bar-chip [&.bar]:text-bar-text"
		class:bar={onBar}>{move.after === null ? 'gone' : 'new'}</span
	>
{:else if change !== null && seen}
	<span
		class={[
			'inline-block rounded-[9px] bg-ash px-1.5 py-0 text-small leading-[18px] whitespace-nowrap text-muted tabular-nums',
			'[&.bad]:text-heat-text [&.bar]:bg-bar-chip [&.bar]:text-bar-text [&.bar.bad]:text-bar-bad [&.bar.good]:text-bar-good [&.good]:text-meets'
		]}
		class:bar={onBar}
		class:good
		class:bad={!good && better !== 'neither'}
		title="what this edit did"
	>
		{change > 0 ? '▲' : '▼'}
		{num(Math.abs(change), grain)}
	</span>
{/if}
