<script lang="ts">
	import { fig, unitName } from '$lib/parts/units';
	import type { Design, MachineDoc } from '$lib/api/client';
	import { HEIGHT, WIDTH, shape } from './limits';
	let { entry, curve, store }: { entry: MachineDoc; curve: Design['curve']; store: number | null } = $props();
	const drawn = $derived(shape(entry, curve, store));
</script>

<p class="note">the water it can make, {unitName('°C')}, over the air outside; dots: where it was tested</p>
<svg class="chart" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={`How warm ${entry.label} makes water`}>
	<path d={drawn.area} class="can" />
	{#each drawn.yTicks as tick (tick)}
		<line x1={drawn.frame.left} x2={drawn.frame.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
		<text x={drawn.frame.left - 6} y={drawn.y(tick) + 4} text-anchor="end" class="tick">{fig(tick, '°C')}</text>
	{/each}
	{#each drawn.xTicks as tick (tick)}<text
			x={drawn.x(tick)}
			y={drawn.frame.bottom + 16}
			text-anchor="middle"
			class="tick">{fig(tick, '°C')}</text
		>{/each}
	<text x={drawn.frame.right} y={drawn.frame.bottom + 31} text-anchor="end" class="tick">outside, {unitName('°C')}</text
	>
	<path d={drawn.edge} class="limit" />
	<text x={drawn.edgeEnd[0] + 6} y={drawn.edgeEnd[1] + 4} class="name">its limit</text>
	{#if drawn.store !== null}
		<line x1={drawn.frame.left} x2={drawn.frame.right} y1={drawn.store} y2={drawn.store} class="store" />
		<text x={drawn.frame.right + 6} y={drawn.store + 4} class="name">the store</text>
	{/if}
	<path d={drawn.curve} class="asked" />
	{#if drawn.curveEnd}<text x={drawn.curveEnd[0] + 6} y={drawn.curveEnd[1] + 4} class="name">this job's curve</text
		>{/if}
	{#each drawn.points as point, n (n)}<circle cx={point[0]} cy={point[1]} r="2.6" class="tested" />{/each}
</svg>

<style>
	.can {
		fill: var(--water-pale);
	}
	.limit {
		fill: none;
		stroke: var(--water);
		stroke-width: 2.5;
	}
	.asked {
		fill: none;
		stroke: var(--heat);
		stroke-width: 2.5;
	}
	.store {
		stroke: var(--ink);
		stroke-width: 1.5;
		stroke-dasharray: 6 4;
	}
	.tested {
		fill: var(--ink);
	}
	.name {
		fill: var(--ink);
		font-size: 12.5px;
	}
</style>
