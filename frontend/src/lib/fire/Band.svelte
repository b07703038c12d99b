<script lang="ts">
	import type { FireAsk } from '$lib/api/client';
	let { ask, live = null, stale = false }: { ask: FireAsk; live?: number | null; stale?: boolean } = $props();
	const WIDTH = 240;
	const HEIGHT = 34;
	/** From a little below everything that is shown to a little above. */
	const range = $derived.by((): [number, number] => {
		const known = [ask.low, ask.expected, ask.high, ask.value, live].filter((v): v is number => v != null);
		if (!known.length) return [0, 1];
		const [low, high] = [Math.min(...known), Math.max(...known)];
		const pad = Math.max((high - low) * 0.25, Math.abs(high) * 0.04, 0.5);
		return [low - pad, high + pad];
	});
	const x = (v: number): number => ((v - range[0]) / (range[1] - range[0])) * WIDTH;
	const from = $derived(ask.low == null ? 0 : x(ask.low));
	const to = $derived(ask.high == null ? WIDTH : x(ask.high));
</script>

{#if ask.low != null || ask.high != null || ask.expected != null}
	<svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} class="w-full max-w-60" aria-hidden="true">
		<line x1="0" x2={WIDTH} y1="17" y2="17" class="track" />
		{#if ask.low != null || ask.high != null}<rect
				x={from}
				y="10"
				width={Math.max(to - from, 2)}
				height="14"
				class="band"
			/>{/if}
		{#if ask.expected != null}<line x1={x(ask.expected)} x2={x(ask.expected)} y1="6" y2="28" class="expected" />{/if}
		{#if live != null}<path d={`M${x(live)},24 l6,9 h-12 z`} class="live" class:stale />{/if}
		{#if ask.value != null}<circle
				cx={x(ask.value)}
				cy="17"
				r="6.5"
				class="value"
				class:off={ask.verdict === 'off'}
			/>{/if}
	</svg>
{/if}

<style>
	.track {
		stroke: var(--hairline);
	}
	.band {
		fill: color-mix(in oklab, var(--meets) 24%, transparent);
		stroke: var(--meets);
	}
	.expected {
		stroke: var(--ink);
		stroke-dasharray: 2 3;
	}
	.live {
		fill: var(--water);
	}
	.live.stale {
		fill: var(--hairline);
		stroke: var(--muted);
	}
	.value {
		fill: var(--ink);
		stroke: var(--paper);
		stroke-width: 2;
	}
	.value.off {
		fill: var(--short);
		stroke: var(--ink);
	}
</style>
