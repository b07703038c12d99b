<script lang="ts">
	import type { Kept } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { WIDTH, promiseShape } from './winter';
	let { found }: { found: Kept } = $props();
	const movers = $derived([
		...found.movers,
		{ key: 'rest', label: 'Nobody can explain', kwh: found.unexplained_kwh ?? 0, says: '' }
	]);
	const drawn = $derived(promiseShape(found.promised!, movers, found.lived_kwh, found.normal_kwh ?? found.lived_kwh));
</script>

<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${drawn.height}`}
	role="img"
	aria-label="From what was promised to what was lived"
>
	{#each drawn.ticks as tick (tick)}
		<line x1={drawn.x(tick)} x2={drawn.x(tick)} y1="14" y2={drawn.height - 26} class="ruled" />
		<text x={drawn.x(tick)} y={drawn.height - 8} text-anchor="middle" class="tick">{num(tick)}</text>
	{/each}
	<text x={WIDTH - 4} y="10" text-anchor="end" class="tick">kWh of heat for the rooms</text>
	<rect x={drawn.band.from} y="14" width={drawn.band.to - drawn.band.from} height={drawn.height - 40} class="band" />
	<text x="0" y="39" class="name strong">Promised</text>
	<rect x={drawn.band.from} y="24" width={drawn.band.to - drawn.band.from} height="22" class="promised" />
	<line x1={drawn.band.mid} x2={drawn.band.mid} y1="20" y2="50" class="mid" />
	{#each drawn.bars as bar, n (bar.key)}
		<line x1={bar.from} x2={bar.from} y1={n ? bar.y - 24 : 50} y2={bar.y + 9} class="link" />
		<text x="0" y={bar.y + 4} class="name">{bar.label}</text>
		<rect
			x={Math.min(bar.from, bar.to)}
			y={bar.y - 8}
			width={Math.max(Math.abs(bar.to - bar.from), 1)}
			height="16"
			class={bar.key === 'rest' ? 'rest' : bar.kwh > 0 ? 'more' : 'less'}
		/>
		<text
			x={Math.max(bar.from, bar.to) + 6 > WIDTH - 60 ? Math.min(bar.from, bar.to) - 6 : Math.max(bar.from, bar.to) + 6}
			y={bar.y + 4}
			text-anchor={Math.max(bar.from, bar.to) + 6 > WIDTH - 60 ? 'end' : 'start'}
			class="val">{bar.kwh > 0 ? '+' : ''}{num(bar.kwh)}</text
		>
	{/each}
	<text x="0" y={drawn.lived.y + 4} class="name strong">As it was lived</text>
	<path d={`M${drawn.lived.x} ${drawn.lived.y - 9}l9 9l-9 9l-9 -9Z`} class="lived" />
	<text x={drawn.lived.x + 14} y={drawn.lived.y + 4} class="val">{num(found.lived_kwh)}</text>
	<text x="0" y={drawn.normal.y + 4} class="name strong">Put right</text>
	<path d={`M${drawn.normal.x} ${drawn.normal.y - 9}l9 9l-9 9l-9 -9Z`} class="normal" />
	<text x={drawn.normal.x + 14} y={drawn.normal.y + 4} class="val">{num(found.normal_kwh)}</text>
</svg>

<style>
	.band {
		fill: var(--hairline);
		opacity: 0.45;
	}
	.promised {
		fill: var(--water-mid);
		opacity: 0.8;
	}
	.mid {
		stroke: var(--ink);
		stroke-width: 3;
	}
	.link {
		stroke: var(--muted);
		stroke-dasharray: 2 3;
	}
	.more {
		fill: var(--heat);
	}
	.less {
		fill: var(--water);
	}
	.rest {
		fill: var(--doubt);
	}
	.lived {
		fill: var(--ink);
	}
	.normal {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 2.4;
	}
	.name {
		fill: var(--ink);
		font-size: 13.5px;
	}
	.strong {
		font-weight: 700;
	}
	.val {
		fill: var(--ink);
		font-size: 13px;
	}
</style>
