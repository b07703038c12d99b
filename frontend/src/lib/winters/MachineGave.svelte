<script lang="ts">
	import type { WinterFound } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { money, num } from '$lib/parts/format';
	import Sentence from '$lib/parts/Sentence.svelte';
	/** What the machine really gave, against the map at the same air and water. */
	let { found }: { found: NonNullable<WinterFound['machine']> } = $props();
	const session = $derived(useFrame().session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const rows = $derived(
		[
			['Whole plant, hot water in it', found.whole == null ? null : num(found.whole, 2)],
			['Heat for the rooms', `${num(found.heat_kwh)} kWh`],
			['Hot water, of all heat', found.water_share == null ? null : `${num(found.water_share * 100)} %`],
			['Electricity', `${num(found.electric_kwh)} kWh`],
			['Heater beside it', found.heater_kwh == null ? null : `${num(found.heater_kwh)} kWh`],
			['Starts a day', found.starts_a_day == null ? null : num(found.starts_a_day, 1)],
			['Drawn while it stands', found.standby_w == null ? null : `${num(found.standby_w)} W`],
			['Of its hours clearing frost', found.defrost_share == null ? null : `${num(found.defrost_share * 100, 1)} %`],
			['Water over the line', found.off_line_k == null ? null : `${num(found.off_line_k, 1)} K`],
			['Cost, by the prices entered', found.cost_minor == null ? null : money(found.cost_minor, currency)],
			['The same heat with what was there', found.today_minor == null ? null : money(found.today_minor, currency)]
		].filter((row): row is [string, string] => row[1] !== null)
	);
</script>

{#if found.lacks}<p class="py-3">{found.lacks}</p>
{:else}
	<Sentence text={found.sentence} />
	<div class="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-8 narrow:grid-cols-[1fr]">
		<table class="table table-figures">
			<thead
				><tr
					><th>Month</th><th class="text-right">Heat, kWh</th><th class="text-right">Hot water</th><th
						class="text-right">Electricity</th
					><th class="text-right">For heating</th><th class="text-right">By its map</th></tr
				></thead
			>
			<tbody
				>{#each found.months as m (m.month)}<tr
						><td>{m.month}</td><td class="text-right">{num(m.heat_kwh)}</td><td class="text-right"
							>{num(m.water_kwh)}</td
						><td class="text-right">{num(m.electric_kwh)}</td><td class="text-right font-semibold"
							>{num(m.performance, 2)}</td
						><td class="text-right">{num(m.expected, 2)}</td></tr
					>{/each}</tbody
			>
		</table>
		<table class="table table-figures">
			<tbody
				>{#each rows as [label, value] (label)}<tr><td>{label}</td><td class="text-right font-semibold">{value}</td></tr
					>{/each}</tbody
			>
		</table>
	</div>
	<p class="note">
		Its map is read at the air and the water of every hour in which it ran steadily, with what it always draws. Cycling,
		starts and defrost are in what it gave, not in its map.
	</p>
{/if}
