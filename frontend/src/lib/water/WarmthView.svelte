<script lang="ts">
	import type { Design, WaterDays } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { money, num } from '$lib/parts/format';
	import { amount, fig, unitName } from '$lib/parts/units';
	let { found, water }: { found: WaterDays; water: Design['hot_water'] } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const take = (warm: number) =>
		session.edit(`The store kept at ${num(warm)} °C`, (d) =>
			d.set(`/schemes/${session.scheme}/hot_water/store_c`, warm)
		);
</script>

<table class="table table-figures">
	<thead
		><tr
			><th>Kept at</th><th class="text-right">At the tap, {unitName('L')}</th><th class="text-right">Draws short</th><th
				class="text-right">Cold to hot, min</th
			><th class="text-right">COP, year's mean</th><th class="text-right">kWh a year</th><th class="text-right"
				>Costs a year</th
			><th><span class="sr-only">Take it</span></th></tr
		></thead
	>
	<tbody
		>{#each found.temperatures as one (one.store_c)}<tr class={one.chosen ? 'font-semibold' : ''}
				><td>{amount(one.store_c, '°C')}</td><td class="text-right">{one.tap_l ? fig(one.tap_l, 'L') : '–'}</td><td
					class="text-right">{one.short_draws}</td
				><td class="text-right">{one.reached ? num(one.reheat_minutes) : 'never'}</td><td class="text-right"
					>{num(one.cop, 2)}</td
				><td class="text-right">{num(one.electricity_kwh)}</td><td class="text-right"
					>{money(one.cost_minor, currency)}</td
				><td class="text-right"
					>{#if one.chosen}this one{:else}<button
							class="btn btn-quiet whitespace-nowrap"
							aria-label={`Keep the store at ${amount(one.store_c, '°C')}`}
							onclick={() => void take(one.store_c)}>Take it</button
						>{/if}</td
				></tr
			>{/each}</tbody
	>
</table>
<h2 class="mt-4 mb-1">Through the {water.exchanger === 'plate' ? 'exchanger' : 'coil'}</h2>
<table class="table table-figures">
	<tbody>
		{#if water.coil_low_m2 != null}<tr
				><td
					>Coil, by the rule <span class="note"
						>{water.coil_m2 == null ? 'nobody knows this one: the rule’s is taken' : 'common practice'}</span
					></td
				><td class="text-right"
					>{fig(water.coil_low_m2, 'm²', 1)}–{fig(water.coil_high_m2, 'm²', 1)}<span class="unit">{unitName('m²')}</span
					></td
				><td class="text-right"
					>{fig(water.coil_taken_m2, 'm²', 1)}<span class="unit">{unitName('m²')}</span>
					{#if water.coil_m2 != null}{#if water.coil_m2 < water.coil_low_m2}<span
								class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold hatch-short">small</span
							>{:else}<span class="font-semibold text-meets">meets</span>{/if}{/if}</td
				></tr
			>{/if}
		<tr
			><td>Cold to hot on the design day</td><td></td><td class="text-right"
				><button class="underline decoration-dotted underline-offset-4" onclick={() => void frame.showWorking('reheat')}
					>{water.never ? 'never' : num(water.reheat_minutes)}{#if !water.never}<span class="unit">min</span
						>{/if}</button
				></td
			></tr
		>
		<tr
			><td>Cold to hot at {amount(7, '°C')} outside</td><td></td><td class="text-right"
				>{num(water.reheat_mild_minutes)}<span class="unit">min</span></td
			></tr
		>
		<tr
			><td>Water while it tops up, design day</td><td></td><td class="text-right"
				>{fig(water.charging_c, '°C', 1)}<span class="unit">{unitName('°C')}</span></td
			></tr
		>
		<tr
			><td>It is the limit from, in the store</td><td></td><td class="text-right"
				>{fig(water.limit_c, '°C', 0)}<span class="unit">{unitName('°C')}</span></td
			></tr
		>
		<tr
			><td>Not even the least output passes from</td><td></td><td class="text-right"
				>{fig(water.stall_c, '°C', 0)}<span class="unit">{unitName('°C')}</span>
				{#if water.stall_c != null && water.stall_c < water.store_c}<span
						class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold hatch-short">stalls</span
					>{/if}</td
			></tr
		>
		<tr
			><td
				>Out of the machine's day, {num(water.daily_kwh, 1)} kWh
				<span class="note"
					>of it the store loses {num(water.standing_kwh, 1)}{water.standing_known ? '' : ', as a usual one'}</span
				></td
			><td></td><td class="text-right">{num(water.hours_per_day, 1)}<span class="unit">h</span></td></tr
		>
	</tbody>
</table>
