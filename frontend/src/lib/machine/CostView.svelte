<script lang="ts">
	import type { Runs } from '$lib/api/client';
	import { minorUnit, money, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import EnergyPrices from './EnergyPrices.svelte';
	import Grants from './Grants.svelte';
	import OwnSun from './OwnSun.svelte';
	import Shifting from './Shifting.svelte';
	import TodayHeat from './TodayHeat.svelte';
	import Spans from '$lib/charts/Spans.svelte';
	let { runs, seen, look }: { runs: Runs; seen: string | undefined; look: (id: string) => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const currency = $derived(job.currency ?? 'GBP');
	const minor = $derived(minorUnit(currency));
	const row = $derived(runs.rows.find((r) => r.id === seen));
	const bars = $derived([
		...(runs.present
			? [{ key: 'today', label: `${runs.present.label} today`, strong: false, ...pounds(runs.present.cost_minor) }]
			: []),
		...runs.rows.map((r) => ({ key: r.id, label: r.label, strong: r.id === seen, ...pounds(r.cost_minor) }))
	]);
	function pounds(span: { low: number; mid: number; high: number }): { low: number; mid: number; high: number } {
		return { low: span.low / 100, mid: span.mid / 100, high: span.high / 100 };
	}
	const range = (span: { low: number; high: number } | null | undefined): string =>
		span ? `${money(span.low, currency)} to ${money(span.high, currency)}` : '–';
</script>

<p class="note">a year's energy, standing charges and service, with its range: {runs.range_why}</p>
<Spans rows={bars} label="What a year costs, by machine and today" told={(v) => money(v * 100, currency)} />
<div class="mt-1.5 overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th>A year</th><th class="text-right">Costs</th><th class="text-right">Saves against today</th><th
					class="text-right">Carbon</th
				><th class="text-right">Paid once</th><th class="text-right">Fifteen years</th></tr
			></thead
		>
		<tbody>
			{#if runs.present}<tr
					><td class="h-11"
						><strong>{runs.present.label} today</strong><span class="block note"
							>{num(runs.present.efficiency * 100)} %, {runs.present.why}</span
						></td
					><td class="text-right whitespace-nowrap">{range(runs.present.cost_minor)}</td><td class="text-right">–</td
					><td class="text-right whitespace-nowrap">{num(runs.present.carbon_kg.mid)}<span class="unit">kg</span></td
					><td class="text-right">–</td><td class="text-right whitespace-nowrap">{range(runs.present_fifteen_minor)}</td
					></tr
				>{/if}
			{#each runs.rows as r (r.id)}
				<tr class:seen={r.id === seen}>
					<td class="h-11"
						><button class="min-h-11 text-left font-semibold whitespace-nowrap" onclick={() => look(r.id)}
							>{r.label}<span class="block max-w-40 note whitespace-normal"
								>with {r.backup}{r.break_even_cop == null
									? ''
									: `; worth running above COP ${num(r.break_even_cop, 2)}`}</span
							></button
						></td
					>
					<td class="text-right whitespace-nowrap">{range(r.cost_minor)}</td>
					<td class="text-right whitespace-nowrap">{range(r.saves_minor)}</td>
					<td class="text-right whitespace-nowrap">{num(r.carbon_kg.mid)}<span class="unit">kg</span></td>
					<td class="text-right">{money(r.once_minor, currency)}</td>
					<td class="text-right whitespace-nowrap">{range(r.fifteen_minor)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
</div>
{#if runs.present_lacks}<p class="mt-2 rounded-sm px-3 py-1.5 hatch-doubt">{runs.present_lacks}</p>{/if}
<p class="mt-2 note">
	A saving holds the house the same on both sides and lets every price move by itself. Fifteen years are added up
	without interest. Prices, rises and carbon are the job's own guesses until somebody enters better ones.
</p>

{#if row}<Fold title={`How ${row.label}'s year is summed`}>
		<table class="table table-figures">
			<tbody>
				{#each row.terms as term (term.label)}<tr
						><td>{term.label}</td><td class="text-right">{term.kwh == null ? '' : `${num(term.kwh)} kWh`}</td><td
							class="text-right">{term.kwh ? `${num(term.minor / term.kwh, 2)} ${minor}/kWh` : ''}</td
						><td class="text-right">{money(term.minor, currency)}</td></tr
					>{/each}
				<tr class="font-semibold"
					><td>a year, as reckoned</td><td></td><td></td><td class="text-right"
						>{money(row.cost_minor.mid, currency)}</td
					></tr
				>
			</tbody>
		</table>
		<p class="note">
			Every hour's electricity at that hour's price ({runs.tariff}). The range: {money(row.cost_minor.low, currency)} at the
			lower loss and lower prices, {money(row.cost_minor.high, currency)} at the higher of both.
		</p>
	</Fold>{/if}
<Shifting {runs} {currency} />
<EnergyPrices />
<OwnSun {runs} {seen} />
<TodayHeat {runs} />
<Grants {runs} {seen} />

<style>
	th,
	td {
		padding-inline: 6px;
	}
	.seen td {
		background: var(--sheet);
	}
</style>
