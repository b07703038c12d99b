<script lang="ts">
	import { fig, unitName } from '$lib/parts/units';
	import { scale, steps } from './scale';
	let { outdoor, heat, line }: { outdoor: number[]; heat: number[]; line: { outdoor: number; watts: number }[] } =
		$props();
	const WIDTH = 420;
	const HEIGHT = 300;
	const [LEFT, RIGHT, TOP, BOTTOM] = [38, 10, 18, 34];
	const low = $derived(Math.min(...outdoor, ...line.map((p) => p.outdoor), 0));
	const high = $derived(Math.max(...outdoor, 20));
	const most = $derived(Math.max(...heat, ...line.map((p) => p.watts), 1000) / 1000);
	const x = $derived(scale([low, high], [LEFT, WIDTH - RIGHT]));
	const y = $derived(scale([0, most * 1.05], [HEIGHT - BOTTOM, TOP]));
</script>

<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="img"
	aria-label="Heat of every day of the year over its outdoor temperature"
>
	{#each steps(0, most, 5, 'kW') as tick (tick)}<line
			x1={LEFT}
			x2={WIDTH - RIGHT}
			y1={y(tick)}
			y2={y(tick)}
			class="ruled"
		/><text x={LEFT - 6} y={y(tick) + 4} text-anchor="end" class="tick">{fig(tick, 'kW', tick % 1 ? 1 : 0)}</text
		>{/each}
	{#each steps(low, high, 7, '°C') as tick (tick)}<text
			x={x(tick)}
			y={HEIGHT - BOTTOM + 16}
			text-anchor="middle"
			class="tick">{fig(tick, '°C')}</text
		>{/each}
	<text x="2" y="11" class="tick">heat, {unitName('kW')}, mean of a day</text>
	<text x={WIDTH - RIGHT} y={HEIGHT - 3} text-anchor="end" class="tick">outside, {unitName('°C')}, mean of the day</text
	>
	{#each outdoor as t, n (n)}{#if (heat[n] ?? 0) > 0}<circle
				cx={x(t)}
				cy={y((heat[n] ?? 0) / 1000)}
				r="2.3"
				class="day"
			/>{/if}{/each}
	{#if line.length > 1}<path
			d={`M${line.map((p) => `${x(p.outdoor).toFixed(1)} ${y(p.watts / 1000).toFixed(1)}`).join('L')}`}
			class="loss"
		/>{/if}
</svg>

<style>
	.day {
		fill: var(--heat);
		opacity: 0.5;
	}
	.loss {
		fill: none;
		stroke: var(--ink);
		stroke-width: 2;
		stroke-dasharray: 6 4;
	}
</style>
