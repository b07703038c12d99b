<script lang="ts">
	import type { FlowsFound } from '$lib/api/client';
	import { amount, fig, unitName } from '$lib/parts/units';
	import { HEIGHT, WIDTH, shape } from './pumpCurve';
	let { found }: { found: FlowsFound } = $props();
	const drawn = $derived(shape(found));
</script>

<p class="note">pressure, {unitName('kPa')}, over the flow through the machine; the bar: P10 to P90 of the house</p>
<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="img"
	aria-label={`The house takes ${amount(found.index_kpa, 'kPa', 1)} at ${amount(found.flow_lph, 'L/h')}; the machine's pump has ${amount(found.head_kpa, 'kPa', 1)}`}
>
	{#each drawn.yTicks as tick (tick)}
		<line x1={drawn.frame.left} x2={drawn.frame.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
		<text x={drawn.frame.left - 6} y={drawn.y(tick) + 4} text-anchor="end" class="tick">{fig(tick, 'kPa')}</text>
	{/each}
	{#each drawn.xTicks as tick (tick)}<text
			x={drawn.x(tick)}
			y={drawn.frame.bottom + 17}
			text-anchor="middle"
			class="tick">{fig(tick, 'L/h')}</text
		>{/each}
	<text x={drawn.frame.right} y={drawn.frame.bottom + 33} text-anchor="end" class="tick">{unitName('L/h')}</text>
	{#each drawn.lines as line (line.key)}
		<path d={line.d} class={line.key === 'own' ? 'own' : 'second'} />
		<text x={line.end[0] + 6} y={line.end[1] + 4} class="name">{line.label}</text>
	{/each}
	<path d={drawn.system} class="house" />
	{#if drawn.systemEnd}<text x={drawn.systemEnd[0] + 6} y={drawn.systemEnd[1] + 2} class="name strong">this house</text
		>{/if}
	{#if drawn.at && drawn.whisker}
		<line x1={drawn.at[0]} x2={drawn.at[0]} y1={drawn.whisker[0]} y2={drawn.whisker[1]} class="whisker" />
		<line x1={drawn.at[0] - 6} x2={drawn.at[0] + 6} y1={drawn.whisker[0]} y2={drawn.whisker[0]} class="whisker" />
		<line x1={drawn.at[0] - 6} x2={drawn.at[0] + 6} y1={drawn.whisker[1]} y2={drawn.whisker[1]} class="whisker" />
		<circle cx={drawn.at[0]} cy={drawn.at[1]} r="5.5" class="at" />
	{/if}
</svg>

<style>
	svg {
		max-height: 270px;
	}
	path {
		fill: none;
	}
	.own {
		stroke: var(--water);
		stroke-width: 3;
	}
	.second {
		stroke: var(--water);
		stroke-width: 1.5;
		stroke-dasharray: 6 4;
	}
	.house {
		stroke: var(--heat);
		stroke-width: 3;
	}
	.whisker {
		stroke: var(--ink);
		stroke-width: 2;
	}
	.at {
		fill: var(--heat);
		stroke: var(--paper);
		stroke-width: 2;
	}
	.name {
		fill: var(--ink);
		font-size: 12.5px;
	}
	.strong {
		font-weight: 600;
	}
</style>
