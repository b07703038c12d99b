<script lang="ts">
	import { WIDTH, shape, type SumRow } from './sums';
	let {
		rows,
		label,
		told,
		take
	}: { rows: SumRow[]; label: string; told: (value: number) => string; take: (key: string) => void } = $props();
	const drawn = $derived(shape(rows));
</script>

<svg class="chart" viewBox={`0 0 ${WIDTH} ${drawn.height}`} role="img" aria-label={label}>
	<defs
		><pattern id="granted" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
			><rect width="7" height="7" class="ground" /><line x1="0" y1="0" x2="0" y2="7" class="stripe" /></pattern
		></defs
	>
	{#each drawn.ticks as tick (tick)}
		<line x1={drawn.x(tick)} x2={drawn.x(tick)} y1="2" y2={drawn.bottom} class="ruled" />
		<text x={drawn.x(tick)} y={drawn.bottom + 17} text-anchor="middle" class="tick">{told(tick)}</text>
	{/each}
	{#each drawn.rows as row (row.key)}
		<!-- the same is done by the tabs of the variants -->
		<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
		<g onclick={() => take(row.key)} class="cursor-pointer">
			<text x="0" y={row.y - 2} class="name" class:strong={row.strong}>{row.label}</text>
			{#each row.parts as part (part.key)}
				<rect x={part.from} y={row.y - 19} width={Math.max(part.to - part.from, 0.8)} height="24" class={part.key}
					><title>{row.label}: {part.label} {told(part.value)}</title></rect
				>
				{#if part.to - part.from > 74}<text x={part.from + 6} y={row.y - 2} class="part {part.key}">{part.label}</text
					>{/if}
			{/each}
			{#if row.off > 0}<rect
					x={row.pay}
					y={row.y - 19}
					width={Math.max(row.end - row.pay, 0)}
					height="24"
					fill="url(#granted)"
				/>{#if row.end - row.pay > 60}<text x={row.end - 6} y={row.y - 2} text-anchor="end" class="granted">grants</text
					>{/if}{/if}
			<line x1={row.pay} x2={row.pay} y1={row.y - 23} y2={row.y + 9} class="mid" />
			<text x={row.pay} y={row.y + 22} text-anchor={row.pay > WIDTH - 150 ? 'end' : 'middle'} class="pay"
				>{row.open ? 'at least ' : ''}{told(row.parts.reduce((all, part) => all + part.value, 0) - row.off)} to pay</text
			>
		</g>
	{/each}
</svg>

<style>
	.name {
		fill: var(--ink);
		font-size: 13.5px;
	}
	.strong {
		font-weight: 700;
	}
	.goods {
		fill: var(--water-mid);
	}
	.work {
		fill: var(--fill-trade);
	}
	.held {
		fill: var(--hairline);
	}
	.tax {
		fill: var(--muted);
	}
	text.part {
		fill: var(--on-short);
		font-size: 12.5px;
	}
	text.tax {
		fill: var(--paper);
	}
	.ground {
		fill: var(--meets-pale);
	}
	.stripe {
		stroke: var(--meets);
		stroke-width: 2;
	}
	.granted {
		fill: var(--ink);
		font-size: 12.5px;
		paint-order: stroke;
		stroke: var(--meets-pale);
		stroke-width: 4px;
	}
	.mid {
		stroke: var(--ink);
		stroke-width: 3;
	}
	.pay {
		fill: var(--ink);
		font-size: 13px;
		font-weight: 700;
	}
</style>
