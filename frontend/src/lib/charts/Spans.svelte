<script lang="ts">
	import { WIDTH, shape, type SpanRow } from './spans';
	let { rows, label, told }: { rows: SpanRow[]; label: string; told: (value: number) => string } = $props();
	const drawn = $derived(shape(rows));
</script>

<svg class="chart" viewBox={`0 0 ${WIDTH} ${drawn.height}`} role="img" aria-label={label}>
	{#each drawn.ticks as tick (tick)}
		<line x1={drawn.x(tick)} x2={drawn.x(tick)} y1="2" y2={drawn.bottom} class="ruled" />
		<text x={drawn.x(tick)} y={drawn.bottom + 17} text-anchor="middle" class="tick">{told(tick)}</text>
	{/each}
	{#each drawn.rows as row (row.key)}
		<text x={drawn.left - 10} y={row.y + 4} text-anchor="end" class="name" class:strong={row.strong}>{row.label}</text>
		<rect
			x={row.from}
			y={row.y - 8}
			width={Math.max(row.to - row.from, 1)}
			height="16"
			class="span"
			class:today={row.key === 'today'}
			><title>{row.label}: {told(row.low)} to {told(row.high)}, about {told(row.mid)}</title></rect
		>
		<line x1={row.at} x2={row.at} y1={row.y - 11} y2={row.y + 11} class="mid" />
	{/each}
</svg>

<style>
	.span {
		fill: var(--water-mid);
		opacity: 0.75;
	}
	.span.today {
		fill: var(--heat);
		opacity: 0.5;
	}
	.mid {
		stroke: var(--ink);
		stroke-width: 3;
	}
	.name {
		fill: var(--ink);
		font-size: 13.5px;
	}
	.strong {
		font-weight: 700;
	}
</style>
