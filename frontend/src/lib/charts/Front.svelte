<script lang="ts">
	import { amount } from '$lib/parts/units';
	import type { FrontPoint } from '$lib/api/client';
	import { money, num } from '$lib/parts/format';
	import { HEIGHT, WIDTH, labels, shape } from './front';
	let {
		points,
		chosen,
		best,
		currency,
		onchoose
	}: {
		points: FrontPoint[];
		chosen: number | null;
		best: number | null;
		currency: string;
		onchoose: (flow: number) => void;
	} = $props();
	const drawn = $derived(shape(points));
	const words = (point: FrontPoint): string =>
		`${amount(point.flow_c, '°C')}${point.flow_c === best ? ', cheapest in all' : ''}`;
	const named = $derived(drawn ? labels(drawn, chosen, best, (point) => words(point).length * 6.4) : []);
</script>

{#if drawn}
	<svg
		class="chart"
		viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
		role="group"
		aria-label="Cost of the changes over the season they give, one point for every flow temperature"
	>
		{#each drawn.yTicks as tick (tick)}<line
				x1={drawn.left}
				x2={drawn.right}
				y1={drawn.y(tick)}
				y2={drawn.y(tick)}
				class="ruled"
			/><text x={drawn.left - 7} y={drawn.y(tick) + 4} text-anchor="end" class="tick"
				>{money(tick * 100, currency)}</text
			>{/each}
		{#each drawn.xTicks as tick (tick)}<text x={drawn.x(tick)} y={drawn.bottom + 17} text-anchor="middle" class="tick"
				>{num(tick, 1)}</text
			>{/each}
		<text x="2" y="12" class="tick">changes cost (root scale)</text>
		<text x={drawn.right} y={HEIGHT - 5} text-anchor="end" class="tick">season performance, heating</text>
		<path d={drawn.line} class="line" />
		{#each drawn.dots as dot (dot.point.flow_c)}
			<circle
				cx={dot.x}
				cy={dot.y}
				r={dot.point.flow_c === chosen ? 8 : 4.5}
				class="dot"
				class:chosen={dot.point.flow_c === chosen}
				class:best={dot.point.flow_c === best}
				class:beaten={dot.point.beaten_by != null}
				role="button"
				tabindex="0"
				aria-label={`${amount(dot.point.flow_c, '°C')}: ${money(dot.point.cost_minor, currency)}, season ${num(dot.point.season, 2)}`}
				aria-pressed={dot.point.flow_c === chosen}
				onclick={() => onchoose(dot.point.flow_c)}
				onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), onchoose(dot.point.flow_c))}
			/>
		{/each}
		{#each named as label (label.point.flow_c)}<text
				x={label.x}
				y={label.y}
				text-anchor={label.anchor}
				class="word"
				class:strong={label.point.flow_c === chosen}>{words(label.point)}</text
			>{/each}
	</svg>
{/if}

<style>
	.line {
		fill: none;
		stroke: var(--water-mid);
		stroke-width: 2;
	}
	.dot {
		fill: var(--water);
		stroke: var(--paper);
		stroke-width: 1.5;
		cursor: pointer;
	}
	.dot.beaten {
		fill: var(--paper);
		stroke: var(--water);
	}
	.dot.best {
		fill: var(--meets);
	}
	.dot.chosen {
		fill: var(--ink);
	}
	.word {
		font-size: 12px;
		fill: var(--muted);
	}
	.word {
		paint-order: stroke;
		stroke: var(--paper);
		stroke-width: 3px;
	}
	.strong {
		font-weight: 700;
		fill: var(--ink);
	}
</style>
