<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { Section } from '$lib/api/client';
	import { HEIGHT, WIDTH, shape } from './section';
	let {
		section,
		chosen = null,
		onchoose
	}: { section: Section; chosen?: number | null; onchoose?: (n: number) => void } = $props();
	const drawn = $derived(shape(section));
	const surface = $derived(drawn.points[0]);
	const cold = $derived(
		section.surface_c < section.dew_point_c
			? 'below dew point'
			: section.surface_c < section.mould_c
				? 'mould may grow'
				: ''
	);
</script>

<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="img"
	aria-label={`${section.label} cut through: ${section.layers.length} layers, inside surface ${amount(section.surface_c, '°C', 1)} at ${amount(section.outside_c, '°C', 0)} outside`}
>
	<defs>
		<pattern id="cut-solid" width="14" height="10" patternUnits="userSpaceOnUse"
			><path d="M0 0.5H14M3 0.5V5.5M10 5.5V10.5M0 5.5H14" class="mark" /></pattern
		>
		<pattern id="cut-soft" width="16" height="12" patternUnits="userSpaceOnUse"
			><path d="M0 3C4 -1 4 7 8 3S12 -1 16 3M0 9C4 5 4 13 8 9S12 5 16 9" class="mark" /></pattern
		>
		<pattern id="cut-wood" width="9" height="16" patternUnits="userSpaceOnUse"
			><path d="M2 0C4 5 0 11 2 16M6.5 0C8 6 5 10 6.5 16" class="mark" /></pattern
		>
		<pattern id="cut-plain" width="8" height="8" patternUnits="userSpaceOnUse"
			><path d="M1 2h1M5 6h1M6 1h1M2 6h1" class="mark" /></pattern
		>
		<pattern id="cut-air" width="10" height="10" patternUnits="userSpaceOnUse"
			><circle cx="2.5" cy="2.5" r="0.9" class="dot" /><circle cx="7.5" cy="7.5" r="0.9" class="dot" /></pattern
		>
	</defs>
	{#each drawn.ticks as tick (tick)}
		<line x1={drawn.left} x2={drawn.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
		<text x={drawn.left - 7} y={drawn.y(tick) + 4} text-anchor="end" class="tick">{fig(tick, '°C')}</text>
	{/each}
	<text x="2" y="13" class="tick">{unitName('°C')}</text>
	<text x={drawn.left + 2} y="13" class="tick">inside</text>
	<text x={drawn.right} y="13" text-anchor="end" class="tick">outside, design day</text>
	{#each drawn.slices as slice (slice.n)}
		<g class="slice" class:faint={!slice.counted} class:chosen={chosen === slice.n} data-kind={slice.kind}>
			<rect x={slice.x} y={drawn.top} width={slice.w} height={drawn.bottom - drawn.top} class={slice.kind} />
			{#if slice.kind === 'plain' || slice.kind === 'solid' || slice.kind === 'soft' || slice.kind === 'wood'}<rect
					x={slice.x}
					y={drawn.top}
					width={slice.w}
					height={drawn.bottom - drawn.top}
					fill={`url(#cut-${slice.kind})`}
				/>{/if}
			{#if slice.kind === 'air' || slice.kind === 'open'}<rect
					x={slice.x}
					y={drawn.top}
					width={slice.w}
					height={drawn.bottom - drawn.top}
					fill="url(#cut-air)"
				/>{/if}
			{#if slice.share > 0}
				{@const h = (drawn.bottom - drawn.top) * Math.min(slice.share * 1.0, 1)}
				<rect x={slice.x} y={drawn.bottom - h} width={slice.w} height={h} class="wood bridge" /><rect
					x={slice.x}
					y={drawn.bottom - h}
					width={slice.w}
					height={h}
					fill="url(#cut-wood)"
				/>
			{/if}
			<rect x={slice.x} y={drawn.top} width={slice.w} height={drawn.bottom - drawn.top} class="edge" />
			<text x={slice.x + slice.w / 2} y={drawn.bottom + 15} text-anchor="middle" class="tick">{slice.n + 1}</text>
			{#if onchoose}<rect
					x={slice.x}
					y={drawn.top}
					width={slice.w}
					height={drawn.bottom - drawn.top + 20}
					fill="transparent"
					role="presentation"
					onclick={() => onchoose(slice.n)}><title>{slice.label}</title></rect
				>{/if}
		</g>
	{/each}
	<line
		x1={drawn.left}
		x2={drawn.outer + 6}
		y1={drawn.y(section.dew_point_c)}
		y2={drawn.y(section.dew_point_c)}
		class="dew"
	/>
	<text x={drawn.right} y={drawn.y(section.dew_point_c) + 4} text-anchor="end" class="tick water"
		>dew {fig(section.dew_point_c, '°C', 1)}</text
	>
	<path d={drawn.line} class="under" /><path d={drawn.line} class="line" />
	{#each drawn.points as point, n (n)}<circle cx={point[0]} cy={point[1]} r="3" class="knot" />{/each}
	{#each drawn.wet as drop, n (n)}
		<path d={`M${drop.x} ${drop.y + 8}c-6 8 -7 12 0 16c7 -4 6 -8 0 -16`} class="drop"
			><title>moisture may condense here</title></path
		>
	{/each}
	{#if surface}
		<text x={drawn.left + 2} y={surface[1] + 19} class="surface">{fig(section.surface_c, '°C', 1)}</text>
		{#if cold}<text x={drawn.left + 2} y={surface[1] + 33} class="tick short">{cold}</text>{/if}
	{/if}
	<text x={drawn.right} y={HEIGHT - 5} text-anchor="end" class="tick"
		>numbers as in the list of layers; drawn to scale, thin layers wider</text
	>
</svg>

<style>
	svg {
		background: var(--sheet);
	}
	.water {
		fill: var(--water);
	}
	.short {
		fill: var(--short-text);
		font-weight: 600;
	}
	.mark {
		fill: none;
		stroke: var(--muted);
		stroke-width: 0.8;
		opacity: 0.75;
	}
	.dot {
		fill: var(--muted);
		opacity: 0.6;
	}
	.solid,
	.plain {
		fill: var(--ash);
	}
	.soft {
		fill: var(--short-pale);
		opacity: 0.75;
	}
	.wood {
		fill: var(--heat-pale);
		opacity: 0.8;
	}
	.air,
	.open {
		fill: var(--paper);
	}
	.sheet {
		fill: var(--hairline);
	}
	.edge {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1;
	}
	.faint {
		opacity: 0.35;
	}
	.chosen .edge {
		stroke-width: 3;
	}
	.dew {
		stroke: var(--water);
		stroke-width: 1.6;
		stroke-dasharray: 3 4;
	}
	.under {
		fill: none;
		stroke: var(--sheet);
		stroke-width: 6;
	}
	.line {
		fill: none;
		stroke: var(--heat);
		stroke-width: 3;
	}
	.knot {
		fill: var(--heat);
	}
	.drop {
		fill: var(--water);
		stroke: var(--sheet);
	}
	.surface {
		fill: var(--heat-text);
		font-weight: 700;
		font-size: 15px;
	}
</style>
