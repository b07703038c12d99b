<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { Design } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { HEIGHT, WIDTH, shape } from './reheat';
	let { water }: { water: Design['hot_water'] } = $props();
	const drawn = $derived(shape(water.cold_c, water.store_c, water.reheat_minutes ?? 60, water.reheat_mild_minutes));
</script>

<figure>
	<figcaption class="note">store, {unitName('°C')}, from cold at constant output</figcaption>
	<svg
		class="chart"
		viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
		role="img"
		aria-label={`The store reaches ${amount(water.store_c, '°C')} after ${num(water.reheat_minutes)} minutes on the design day, ${num(water.reheat_mild_minutes)} at ${amount(7, '°C')} outside`}
	>
		{#each drawn.yTicks as tick (tick)}
			<line x1={drawn.left} x2={drawn.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
			<text x={drawn.left - 8} y={drawn.y(tick) + 4} text-anchor="end" class="tick">{fig(tick, '°C')}</text>
		{/each}
		{#each drawn.xTicks as tick (tick)}<text x={drawn.x(tick)} y={drawn.bottom + 18} text-anchor="middle" class="tick"
				>{tick}</text
			>{/each}
		<text x={drawn.right} y={drawn.bottom + 34} text-anchor="end" class="tick">minutes</text>
		<rect
			x={drawn.left}
			width={drawn.right - drawn.left}
			y={drawn.top}
			height={Math.max(drawn.y(50) - drawn.top, 0)}
			class="scald"
		/>
		<text x={drawn.left + 8} y={drawn.y(50) - 6} class="scaldtext">above {amount(50, '°C')} at a tap it scalds</text>
		<path d={drawn.mild} class="mild" />
		<path d={drawn.design} class="design" />
		<text x={drawn.x(water.reheat_minutes ?? 0)} y={drawn.y(water.store_c * 0.55)} class="mark"
			>{num(water.reheat_minutes)} min, design day</text
		>
	</svg>
</figure>

<style>
	svg {
		max-height: 250px;
	}
	path {
		fill: none;
		stroke-width: 3.5;
		stroke: var(--heat);
	}
	.mild {
		stroke: var(--water-mid);
		stroke-dasharray: 7 5;
	}
	.scald {
		fill: var(--heat-pale);
		opacity: 0.55;
	}
	.scaldtext {
		fill: var(--heat-text);
		font-size: 13px;
	}
	.mark {
		font-weight: 700;
		font-size: 14px;
		fill: var(--ink);
		text-anchor: end;
	}
</style>
