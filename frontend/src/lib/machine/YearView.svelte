<script lang="ts">
	import { fig, unitName } from '$lib/parts/units';
	import type { Runs } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import Fold from '$lib/parts/Fold.svelte';
	import Months from '$lib/charts/Months.svelte';
	let { runs, seen, look }: { runs: Runs; seen: string | undefined; look: (id: string) => void } = $props();
	const row = $derived(runs.rows.find((r) => r.id === seen) ?? runs.rows[0]);
	const WORDS: Record<string, string> = {
		days: 'machine, for the rooms',
		people: 'machine, for hot water',
		heat: 'beside it'
	};
	const months = $derived(
		(row?.months ?? []).map((m) => ({
			name: m.name,
			outdoor: m.outdoor_c,
			parts: [
				{ kind: 'days', value: m.machine_kwh - m.machine_water_kwh },
				{ kind: 'people', value: m.machine_water_kwh },
				{ kind: 'heat', value: m.beside_kwh }
			]
		}))
	);
	const percent = (share: number | null | undefined, digits = 0): string =>
		num(share == null ? null : share * 100, digits);
</script>

{#snippet between(range: number[] | null | undefined, told: (v: number) => string)}
	{#if range && told(range[0]!) !== told(range[1]!)}<span class="block note whitespace-nowrap"
			>{told(range[0]!)}–{told(range[1]!)}</span
		>{/if}
{/snippet}

{#if row}
	<p class="note">{row.label}: heat of every month, kWh; the line is the air outside. {runs.climate_label}.</p>
	<div class="max-w-135">
		<Months rows={months} unit="kWh" label={`${row.label}: the heat of every month and who makes it`} words={WORDS} />
	</div>
	<p class="flex flex-wrap gap-4.5 pl-11 note">
		<span><i class="k machine"></i>machine, for the rooms</span><span
			><i class="k water"></i>machine, for hot water</span
		><span><i class="k beside"></i>{row.backup === 'nothing' ? 'nobody' : row.backup}</span>
	</p>
{/if}
<div class="mt-1.5 overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th>Through the year</th><th class="text-right">Rooms alone</th><th class="text-right">Whole plant</th><th
					class="text-right">Alone, of the hours</th
				><th class="text-right">Its share of the heat</th><th class="text-right">On and off, of the hours</th><th
					class="text-right">Electricity</th
				><th class="text-right">Fuel beside</th><th class="text-right">On the test bench 35 / 55</th></tr
			></thead
		>
		<tbody>
			{#each runs.rows as r (r.id)}
				<tr class:seen={r.id === row?.id}>
					<td class="h-11"
						><button class="min-h-11 text-left font-semibold whitespace-nowrap" onclick={() => look(r.id)}
							>{r.label}<span class="block max-w-40 note whitespace-normal">with {r.backup}</span></button
						></td
					>
					<td class="text-right">{num(r.performance, 2)}{@render between(r.performance_range, (v) => num(v, 2))}</td>
					<td class="text-right"
						>{num(r.whole ?? r.blended, 2)}{#if r.blended != null}<span class="block note">fuel counted in</span
							>{/if}</td
					>
					<td class="text-right">{percent(r.alone_hours)}<span class="unit">%</span></td>
					<td class="text-right"
						>{percent(r.heat_share, 1)}<span class="unit">%</span>{@render between(r.heat_share_range, (v) =>
							percent(v, 1)
						)}</td
					>
					<td class="text-right"
						>{percent(r.cycling_hours)}<span class="unit">%</span>{@render between(r.cycling_range, (v) =>
							percent(v)
						)}</td
					>
					<td class="text-right whitespace-nowrap">{num(r.electricity_kwh)}<span class="unit">kWh</span></td>
					<td class="text-right whitespace-nowrap">{num(r.fuel_kwh)}<span class="unit">kWh</span></td>
					<td class="text-right whitespace-nowrap">{num(r.scop_35, 2)} / {num(r.scop_55, 2)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
</div>
<p class="mt-2 note">
	“Rooms alone” is this house's own season of heating; “whole plant” has hot water, standby and the heater in it.
	Neither is the COP of the coldest day ({num(row?.coldest_cop, 2)}), nor the test bench's season, which is another
	house in another climate. Small under a figure: at the P10 and P90 of the loss. Where a boiler is counted in, the
	figure blends two fuels and is no COP.
</p>
{#if row}
	<Fold title={`${row.label}, month by month`}>
		<table class="table table-figures">
			<thead
				><tr
					><th>Month</th><th class="text-right">Outside, {unitName('°C')}</th><th class="text-right">Rooms, kWh</th><th
						class="text-right">Hot water, kWh</th
					><th class="text-right">Machine, kWh</th><th class="text-right">Beside, kWh</th><th class="text-right"
						>Electricity, kWh</th
					><th class="text-right">Fuel, kWh</th><th class="text-right"
						>{row.blended == null ? 'Whole plant' : 'Blended'}</th
					><th class="text-right">Hours on and off</th></tr
				></thead
			>
			<tbody>
				{#each row.months as m (m.name)}<tr
						><td>{m.name}</td><td class="text-right">{fig(m.outdoor_c, '°C', 1)}</td><td class="text-right"
							>{num(m.heat_kwh)}</td
						><td class="text-right">{num(m.hot_water_kwh)}</td><td class="text-right">{num(m.machine_kwh)}</td><td
							class="text-right">{num(m.beside_kwh)}</td
						><td class="text-right">{num(m.electricity_kwh)}</td><td class="text-right">{num(m.fuel_kwh)}</td><td
							class="text-right">{num(m.performance, 2)}</td
						><td class="text-right">{num(m.cycling_hours)}</td></tr
					>{/each}
			</tbody>
		</table>
	</Fold>
{/if}

<style>
	th,
	td {
		padding-inline: 6px;
	}
	.seen td {
		background: var(--sheet);
	}
	.k {
		display: inline-block;
		width: 24px;
		height: 11px;
		vertical-align: -1px;
		margin-right: 6px;
	}
	.machine {
		background: var(--water-mid);
	}
	.water {
		background: var(--fill-trade);
	}
	.beside {
		background: var(--heat);
	}
</style>
