<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import { num } from '$lib/parts/format';
	import { HEIGHT, WIDTH, shape } from './months';
	let {
		rows,
		unit,
		label,
		words
	}: {
		rows: { name: string; outdoor: number; parts: { kind: string; value: number }[] }[];
		unit: string;
		label: string;
		words: Record<string, string>;
	} = $props();
	const drawn = $derived(shape(rows));
</script>

<svg class="chart" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={label}>
	<defs>
		<pattern id="months-free" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
			><rect width="7" height="7" style="fill: var(--short-pale)" /><rect
				width="2"
				height="7"
				style="fill: var(--short)"
			/></pattern
		>
	</defs>
	{#each drawn.ticks as tick (tick)}
		<line x1={drawn.left} x2={drawn.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
		<text x={drawn.left - 6} y={drawn.y(tick) + 4} text-anchor="end" class="tick">{num(tick)}</text>
	{/each}
	{#each drawn.tTicks as tick (tick)}<text x={drawn.right + 6} y={drawn.t(tick) + 4} class="tick"
			>{fig(tick, '°C')}</text
		>{/each}
	<text x="2" y="11" class="tick">{unitName(unit)}</text>
	<text x={WIDTH - 2} y="11" text-anchor="end" class="tick">outside, {unitName('°C')}</text>
	{#each drawn.bars as bar, n (n)}<rect x={bar.x} y={bar.y} width={bar.w} height={bar.h} class={bar.kind}
			><title>{bar.name}: {words[bar.kind] ?? bar.kind} {amount(bar.value, unit)}</title></rect
		>{/each}
	{#each rows as row, n (row.name)}<text x={drawn.x(n)} y={drawn.bottom + 17} text-anchor="middle" class="tick"
			>{row.name}</text
		>{/each}
	<path d={drawn.line} class="under" /><path d={drawn.line} class="line" />
	{#each drawn.knots as knot, n (n)}<circle cx={knot[0]} cy={knot[1]} r="2.6" class="knot" />{/each}
</svg>

<style>
	.heat {
		fill: var(--heat);
	}
	.sun {
		fill: url(#months-free);
	}
	.people {
		fill: var(--fill-trade);
	}
	.days {
		fill: var(--water-mid);
	}
	.under {
		fill: none;
		stroke: var(--paper);
		stroke-width: 5;
		opacity: 0.8;
	}
	.line {
		fill: none;
		stroke: var(--ink);
		stroke-width: 2;
	}
	.knot {
		fill: var(--ink);
	}
</style>
