<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { Design } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { HEIGHT, LABEL_TOP, WIDTH, shape } from './stair';
	let { pipework }: { pipework: Design['pipework'] } = $props();
	const drawn = $derived(shape(pipework.pipes, pipework.circuits[0]?.path ?? [], pipework.head_kpa, pipework.limit));
</script>

<figure>
	<figcaption>
		<strong>Where the head goes</strong>
		<span class="note"
			>index circuit, from the machine to {pipework.circuits[0]?.label}, {unitName('kPa')}, valve with its last piece</span
		>
	</figcaption>
	<svg
		class="chart"
		viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
		role="img"
		aria-label={`Index circuit takes ${amount(pipework.index_kpa, 'kPa', 1)} of ${amount(pipework.head_kpa, 'kPa', 1)}`}
	>
		{#if drawn.headX !== null}
			<rect x="4" y="34" width={drawn.headX - 4} height={drawn.base - 34} class="head" />
			<line x1={drawn.headX} x2={drawn.headX} y1="18" y2={drawn.base} class="end" />
			<text x={drawn.headX - 6} y={LABEL_TOP} text-anchor="end" class="strong"
				>pump has {amount(pipework.head_kpa, 'kPa', 1)} at {amount(pipework.flow_lph, 'L/h')}</text
			>
			{#if drawn.limitX !== null}<line x1={drawn.limitX} x2={drawn.limitX} y1="34" y2={drawn.base} class="limit" />{/if}
		{/if}
		{#each drawn.treads as tread, n (tread.id)}
			{@const over = drawn.headX !== null && tread.x + tread.width > drawn.headX + 1}
			<rect
				x={tread.x}
				y={tread.y}
				width={Math.max(tread.width - 1.5, 0.5)}
				height={drawn.base - tread.y}
				class="tread"
				class:over
				style={`opacity: ${0.62 + 0.38 * (n % 2)}`}><title>{tread.label}: {amount(tread.kpa, 'kPa', 2)}</title></rect
			>
			{#if tread.width > 120}<text x={tread.x + 8} y={drawn.base - 9} class="in" class:over
					>{tread.label}, {fig(tread.kpa, 'kPa', 1)}</text
				>{:else if tread.width > 26}<text x={tread.x + 5} y={drawn.base - 9} class="in" class:over
					>{fig(tread.kpa, 'kPa', 1)}</text
				>{/if}
		{/each}
		<line x1="4" x2={WIDTH - 4} y1={drawn.base} y2={drawn.base} class="ground" />
		<text x={drawn.endX} y={drawn.base + 17} text-anchor="end" class="strong"
			>needs {amount(pipework.index_kpa, 'kPa', 1)}</text
		>
		{#if drawn.limitX !== null && Math.abs(drawn.limitX - drawn.endX) > 90}<text
				x={drawn.limitX}
				y={drawn.base + 17}
				text-anchor="middle"
				class="tick">{num(pipework.limit * 100)} %</text
			>{/if}
	</svg>
</figure>

<style>
	.head {
		fill: var(--water-pale);
		opacity: 0.7;
	}
	.end {
		stroke: var(--ink);
		stroke-width: 2;
	}
	.limit {
		stroke: var(--ink);
		stroke-dasharray: 3 4;
	}
	.tread {
		fill: var(--water);
	}
	.tread.over {
		fill: var(--short);
	}
	.ground {
		stroke: var(--ink);
	}
	.in {
		fill: var(--on-water);
		font-size: 13px;
		font-weight: 600;
	}
	.in.over {
		fill: var(--on-short);
	}
	.strong {
		fill: var(--ink);
		font-size: 13px;
		font-weight: 600;
	}
</style>
