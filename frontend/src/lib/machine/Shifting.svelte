<script lang="ts">
	import { amount, difference, unitName } from '$lib/parts/units';
	import type { Runs } from '$lib/api/client';
	import { money, num } from '$lib/parts/format';
	let { runs, currency }: { runs: Runs; currency: string } = $props();
	const machine = $derived(runs.rows.find((r) => r.chosen)?.label ?? 'the machine');
</script>

{#if runs.shifted.length}
	<h2 class="mt-4 mb-1">Heat moved into the cheap hours</h2>
	<p>{runs.shifted_why}</p>
	<table class="table table-figures">
		<thead
			><tr
				><th>Of the dear hours' heat</th><th class="text-right">Moved, kWh</th><th class="text-right"
					>Water warmer, {unitName('K')}</th
				><th class="text-right">Hottest</th><th class="text-right">Rooms swing, {unitName('K')}</th><th
					class="text-right">More drawn, kWh</th
				><th class="text-right">Saves a year</th></tr
			></thead
		>
		<tbody>
			{#each runs.shifted as one (one.share)}<tr
					><td>{num(one.share * 100)} %</td><td class="text-right">{num(one.moved_kwh)}</td><td class="text-right"
						>{num(difference(one.warmer_k, 'K'), 1)}</td
					><td class="text-right"
						>{amount(one.hottest_c, '°C', 1)}{#if one.beyond}<span class="block note">beyond {machine}</span>{/if}</td
					><td class="text-right">{one.swing_k == null ? '–' : num(difference(one.swing_k, 'K'), 1)}</td><td
						class="text-right">{num(one.electricity_more_kwh)}</td
					><td class="text-right">{money(one.saves_minor, currency)}</td></tr
				>{/each}
		</tbody>
	</table>
	<p class="note">
		{machine} alone, by this job's curve: into the six cheapest hours of each day, as far as it can give more there. The rooms
		swing by what a house of ordinary weight holds; a light one swings twice as much.
	</p>
{/if}
