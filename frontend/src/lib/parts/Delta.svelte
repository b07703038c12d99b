<script lang="ts">
	import { num } from './format';
	type Move = { before: number | null; after: number | null };
	let {
		move,
		digits = 0,
		scale = 1,
		better = 'lower',
		onBar = false
	}: { move: Move | undefined; digits?: number; scale?: number; better?: string; onBar?: boolean } = $props();

	const change = $derived(
		move && move.before !== null && move.after !== null ? (move.after - move.before) * scale : null
	);
	const seen = $derived(change !== null && Math.abs(change) >= 0.5 * 10 ** -digits);
	const good = $derived(change !== null && better !== 'neither' && change > 0 === (better === 'higher'));
</script>

{#if move && change === null && move.before !== move.after}
	<span class="chip" class:bar={onBar}>{move.after === null ? 'gone' : 'new'}</span>
{:else if change !== null && seen}
	<span class="chip" class:bar={onBar} class:good class:bad={!good && better !== 'neither'} title="what this edit did">
		{change > 0 ? '▲' : '▼'}
		{num(Math.abs(change), digits)}
	</span>
{/if}

<style>
	.chip {
		display: inline-block;
		padding: 0 6px;
		border-radius: 9px;
		font-size: var(--small);
		line-height: 18px;
		background: var(--ash);
		color: var(--muted);
		white-space: nowrap;
		font-variant-numeric: tabular-nums;
	}
	.good {
		color: var(--meets);
	}
	.bad {
		color: var(--heat-text);
	}
	.bar {
		background: var(--bar-chip);
		color: var(--bar-text);
	}
	.bar.good {
		color: var(--bar-good);
	}
	.bar.bad {
		color: var(--bar-bad);
	}
</style>
