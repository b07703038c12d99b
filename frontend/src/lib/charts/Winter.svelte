<script lang="ts">
	import type { WinterFound } from '$lib/api/client';
	import { day, num } from '$lib/parts/format';
	import { amount, shown as inUnit, unitName } from '$lib/parts/units';
	import { HEIGHT, WIDTH, shape } from './winter';
	let { found, since }: { found: WinterFound; since: string | null } = $props();
	const s = $derived(found.signature);
	let lived = $state(false);
	const drawn = $derived(
		shape({
			points: found.points,
			line: s?.line ?? [],
			band: s?.band ?? [],
			designLine: s?.design_line ?? [],
			designBand: s?.design_band ?? [],
			value: (p) => (lived ? p.heat_kwh : (p.normal_kwh ?? p.heat_kwh)),
			told: (p) =>
				`${(p.days ?? 1) > 1 ? `${p.days} days about ${day(p.day)}, each` : `${day(p.day)}:`} ${num(p.heat_kwh, 1)} kWh at ${amount(p.outdoor_c, '°C', 1)} outside${p.odd ? `, left out: ${p.odd}` : ''}`
		})
	);
</script>

<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="img"
	aria-label="Heat of every day over the outdoor temperature"
>
	{#each drawn.yTicks as tick (tick)}
		<line
			x1={drawn.x(drawn.x.domain[0])}
			x2={drawn.x(drawn.x.domain[1])}
			y1={drawn.y(tick)}
			y2={drawn.y(tick)}
			class="ruled"
		/>
		<text x={drawn.x(drawn.x.domain[0]) - 8} y={drawn.y(tick) + 4} text-anchor="end" class="tick">{num(tick)}</text>
	{/each}
	{#each drawn.xTicks as tick (tick)}
		<text x={drawn.x(tick)} y={drawn.bottom + 17} text-anchor="middle" class="tick">{num(inUnit(tick, '°C'))}</text>
	{/each}
	<text x={WIDTH - 16} y={HEIGHT - 6} text-anchor="end" class="tick">outdoor mean of the day, {unitName('°C')}</text>
	<text x="4" y="10" class="tick">kWh a day</text>
	<path d={drawn.designBand} class="design-band" />
	<path d={drawn.designLine} class="design" />
	<path d={drawn.band} class="band" />
	{#each drawn.spots as spot (spot.day)}
		{#if spot.odd}<path d={`M${spot.x - 3.5} ${spot.y - 3.5}l7 7m0 -7l-7 7`} class="odd"
				><title>{spot.title}</title></path
			>{:else}<circle
				cx={spot.x}
				cy={spot.y}
				r={spot.days > 1 ? 6 : 3.2}
				class="spot"
				class:late={since !== null && spot.day >= since}><title>{spot.title}</title></circle
			>{/if}
	{/each}
	<path d={drawn.line} class="line" />
</svg>
<p class="flex flex-wrap gap-x-5 gap-y-1 text-small text-muted">
	<span
		><svg class="inline-block" width="26" height="12" aria-hidden="true"
			><rect width="26" height="12" class="design-band" /><line x1="0" x2="26" y1="6" y2="6" class="design" /></svg
		> as designed, P10 to P90</span
	>
	<span
		><svg class="inline-block" width="26" height="12" aria-hidden="true"
			><rect width="26" height="12" class="band" /><line x1="0" x2="26" y1="6" y2="6" class="line" /></svg
		> measured, rooms as agreed, P10 to P90</span
	>
	<span
		><svg class="inline-block" width="10" height="12" aria-hidden="true"
			><circle cx="5" cy="6" r="3.2" class="spot" /></svg
		>
		{found.points.some((p) => (p.days ?? 1) > 1)
			? 'a day, mean of the weeks between two readings'
			: 'a day'}{#if since},
			<svg class="inline-block" width="10" height="12" aria-hidden="true"
				><circle cx="5" cy="6" r="3.2" class="spot late" /></svg
			>
			since {day(since)}{/if}</span
	>
	<span>× left out</span>
	<label class="ms-auto flex items-center gap-2"
		><input type="checkbox" class="checkbox checkbox-sm" bind:checked={lived} />days as they were lived, not put right
		to {amount(s?.wanted_c ?? 20, '°C', 1)} inside</label
	>
</p>

<style>
	.design-band {
		fill: var(--hairline);
		opacity: 0.7;
	}
	.design {
		fill: none;
		stroke: var(--muted);
		stroke-width: 1.6;
		stroke-dasharray: 7 4;
	}
	.band {
		fill: var(--heat-pale);
		opacity: 0.75;
	}
	.line {
		fill: none;
		stroke: var(--heat);
		stroke-width: 2.6;
	}
	.spot {
		fill: var(--ink);
		opacity: 0.75;
	}
	.late {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 1.4;
		opacity: 1;
	}
	.odd {
		stroke: var(--muted);
		stroke-width: 1.4;
	}
</style>
