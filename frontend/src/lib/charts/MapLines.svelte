<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { MachineLook } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { HEIGHT, WIDTH, shape } from './mapLines';
	let { look, what }: { look: MachineLook; what: 'greatest_w' | 'cop' } = $props();
	const drawn = $derived(shape(look, what));
	const name = $derived(what === 'cop' ? 'COP' : `most it gives, ${unitName('kW')}`);
</script>

<p class="note">{name}, a line for every leaving water; dashed beyond what was tested</p>
<svg class="chart" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={`${name} over the air outside`}>
	{#each drawn.yTicks as tick (tick)}
		<line x1={drawn.frame.left} x2={drawn.frame.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
		<text x={drawn.frame.left - 6} y={drawn.y(tick) + 4} text-anchor="end" class="tick"
			>{what === 'cop' ? num(tick, tick % 1 ? 1 : 0) : fig(tick, 'kW', tick % 1 ? 1 : 0)}</text
		>
	{/each}
	{#each drawn.xTicks as tick (tick)}<text
			x={drawn.x(tick)}
			y={drawn.frame.bottom + 16}
			text-anchor="middle"
			class="tick">{fig(tick, '°C')}</text
		>{/each}
	<text x={drawn.frame.right} y={drawn.frame.bottom + 31} text-anchor="end" class="tick">outside, {unitName('°C')}</text
	>
	{#each drawn.lines as line (line.water)}
		<path d={line.tested} class="line" style:opacity={line.strength} />
		<path d={line.beyond} class="line beyond" style:opacity={line.strength} />
		{#if line.end}<text x={line.end[0] + 4} y={line.end[1] + 4} class="tick">{amount(line.water, '°C')}</text>{/if}
	{/each}
</svg>

<style>
	.line {
		fill: none;
		stroke: var(--water);
		stroke-width: 2.5;
	}
	.beyond {
		stroke-width: 1.6;
		stroke-dasharray: 4 4;
	}
</style>
