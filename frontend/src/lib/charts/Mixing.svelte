<script lang="ts">
	import type { Variant } from '$lib/api/client';
	import { amount } from '$lib/parts/units';
	/** Both sides of a separator as two loops: their water, how warm, how much of it moves; one loop where nothing lies between. */
	let { variant }: { variant: Variant } = $props();
	const two = $derived(variant.key !== 'direct' && variant.key !== 'volumiser');
	const most = $derived(Math.max(variant.machine_lph ?? 1, variant.emitters_lph ?? 1, 1));
	const wide = (lph: number | null): number => 3 + (9 * (lph ?? 0)) / most;
	const warm = (c: number | null): string => amount(c, '°C', 1);
	const [FLOW, BACK, TOP, FOOT] = [70, 190, 40, 220];
	const body = $derived(variant.key === 'buffer 2' ? { y: FLOW + 26, h: BACK - FLOW - 52 } : { y: TOP, h: FOOT - TOP });
</script>

<svg
	viewBox="0 0 760 260"
	class="chart"
	role="img"
	aria-label={`${variant.label}: the machine makes ${warm(variant.machine_flow_c)}, the emitters get ${warm(variant.flow_c)}`}
>
	<rect x="10" y="50" width="110" height="160" rx="4" class="thing" />
	<text x="65" y="126" text-anchor="middle" class="name">machine</text>
	<text x="65" y="144" text-anchor="middle" class="tick">{amount(variant.machine_lph, 'L/h')}</text>
	<rect x="640" y="50" width="110" height="160" rx="4" class="thing" />
	<text x="695" y="126" text-anchor="middle" class="name">emitters</text>
	<text x="695" y="144" text-anchor="middle" class="tick">{amount(variant.emitters_lph, 'L/h')}</text>
	{#if two}
		<path
			d={`M120 ${FLOW}H${variant.key === 'buffer 2' || variant.key === 'buffer 3' ? 640 : 340}`}
			class="flow"
			style={`stroke-width:${wide(variant.machine_lph)}`}
		/>
		<path d={`M420 ${FLOW}H640`} class="flow" style={`stroke-width:${wide(variant.emitters_lph)}`} />
		<path d={`M340 ${BACK}H120`} class="back" style={`stroke-width:${wide(variant.machine_lph)}`} />
		<path d={`M640 ${BACK}H420`} class="back" style={`stroke-width:${wide(variant.emitters_lph)}`} />
		{#if variant.key === 'buffer 2'}<path
				d={`M420 ${BACK}H340M380 ${FLOW}V${body.y}M380 ${BACK}V${body.y + body.h}`}
				class="link"
			/>{/if}
		{#if variant.key === 'buffer 3'}<path d={`M380 ${FLOW}V${FLOW + 20}`} class="link" />{/if}
		<rect
			x={variant.key === 'header' ? 362 : 340}
			y={variant.key === 'buffer 3' ? FLOW + 20 : body.y}
			width={variant.key === 'header' ? 36 : 80}
			height={variant.key === 'buffer 3' ? FOOT - FLOW - 20 : body.h}
			rx="8"
			class="vessel"
		/>
		{#if variant.key === 'header'}<path
				d={`M340 ${FLOW}H362M398 ${FLOW}H420`}
				class="flow"
				style="stroke-width:5"
			/><path d={`M340 ${BACK}H362M398 ${BACK}H420`} class="back" style="stroke-width:5" />{/if}
		<text x="380" y="136" text-anchor="middle" class="name"
			>{variant.key === 'header' ? '' : amount(variant.buffer_l, 'L')}</text
		>
		<circle cx="520" cy={FLOW} r="13" class="pump" /><path
			d={`M513 ${FLOW - 10}L533 ${FLOW}L513 ${FLOW + 10}`}
			class="link"
		/>
	{:else}
		<path d={`M120 ${FLOW}H640`} class="flow" style={`stroke-width:${wide(variant.emitters_lph)}`} />
		<path d={`M640 ${BACK}H120`} class="back" style={`stroke-width:${wide(variant.emitters_lph)}`} />
		{#if variant.key === 'volumiser'}<rect x="330" y={BACK - 24} width="100" height="48" rx="8" class="vessel" /><text
				x="380"
				y={BACK + 5}
				text-anchor="middle"
				class="name">{amount(variant.volumiser_l, 'L')}</text
			>{/if}
	{/if}
	<text x="135" y={FLOW - 14} class="hot">{warm(variant.machine_flow_c)}</text>
	<text x="135" y={BACK + 26} class="cool">{warm(variant.machine_return_c ?? variant.return_c)}</text>
	<text x="625" y={FLOW - 14} text-anchor="end" class="hot">{warm(variant.flow_c)}</text>
	<text x="625" y={BACK + 26} text-anchor="end" class="cool">{warm(variant.return_c)}</text>
</svg>

<style>
	svg {
		max-height: 250px;
		width: 100%;
		max-width: 760px;
	}
	.thing,
	.vessel,
	.pump {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 1.5;
	}
	path {
		fill: none;
	}
	.flow {
		stroke: var(--heat);
	}
	.back {
		stroke: var(--water);
	}
	.link {
		stroke: var(--ink);
		stroke-width: 2;
	}
	.name {
		fill: var(--ink);
		font-size: 14px;
		font-weight: 600;
	}
	.hot,
	.cool {
		font-size: 17px;
		font-weight: 700;
		fill: var(--heat);
		font-variant-numeric: tabular-nums;
	}
	.cool {
		fill: var(--water);
	}
</style>
