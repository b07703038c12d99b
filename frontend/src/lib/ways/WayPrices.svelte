<script lang="ts">
	import { amount } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
	import type { CheapestDesk } from './cheapest.svelte';
	import { money, num } from '$lib/parts/format';
	import { CompanyPrices } from '$lib/job/companyPrices.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	let { desk }: { desk: CheapestDesk } = $props();
	const session = $derived(useFrame().session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const front = $derived(desk.front);
	const found = $derived(desk.found);
	type Price = NonNullable<typeof shelf.all>['emitter_prices'][string];
	const PRICED: Record<string, string> = {
		fan: 'Fan unit, beside its price',
		floor: 'New floor: per m², per room',
		electric: 'Heater of its own'
	};
	const PRICES: [Exclude<keyof Price, 'id'>, string][] = [
		['m_minor', 'per metre'],
		['same_minor', 'on the same pipes'],
		['longer_minor', 'longer'],
		['new_minor', 'in a new place']
	];
	const table = new CompanyPrices<Price>(
		'emitter_prices',
		() => shelf.all?.emitter_prices,
		() => session,
		() => front.ask()
	);
</script>

{#if found}
	<section class="mt-3.5 border-t border-t-ink pt-2.5" aria-label="What the cheapest way is counted from">
		<p class="max-w-[110ch] note">
			Season by the chosen machine's own map at that water. {found.years} years: changes and electricity, without interest
			or rising prices. Panels on the same pipes, longer and taller ones within the recorded free wall, further ones where
			it has room, fan units at their quietest speed, new floors, a room's own walls, and the measures of
			<a href={`/job/${session.id}/measures`}>Measures</a>; heaters of their own and cooler rooms only where you allowed
			them. No heat is credited from room to room. A hollow dot costs more than a warmer one and gives no better season.
		</p>
		<Fold title="The same as a table">
			<table class="table table-figures">
				<thead
					><tr
						><th class="text-right">Water</th><th class="text-right">Changes cost</th><th class="text-right">Season</th
						><th class="text-right">On and off</th><th class="text-right">Bill a year</th><th class="text-right"
							>{found.years} years</th
						><th>Short</th></tr
					></thead
				>
				<tbody
					>{#each desk.points as p (p.flow_c)}<tr class:on={p.flow_c === desk.flow}
							><td class="text-right"
								><button class="fig" onclick={() => desk.choose(p.flow_c)}>{amount(p.flow_c, '°C')}</button></td
							><td class="text-right">{money(p.cost_minor, currency)}</td><td class="text-right">{num(p.season, 2)}</td
							><td class="text-right">{p.cycling_share == null ? '–' : `${num(p.cycling_share * 100)} %`}</td><td
								class="text-right">{money(p.bill_minor, currency)}</td
							><td class="text-right">{money(p.total_minor, currency)}</td><td class="max-w-[110ch] note"
								>{p.lacking.map((l) => `${l.label} ${amount(l.short_w, 'W')}`).join(', ')}</td
							></tr
						>{/each}</tbody
				>
			</table>
		</Fold>
		<Fold title="What panels cost the company" opened={() => void table.load()}>
			<table class="prices table table-figures">
				<thead
					><tr
						><th>Panel</th><th class="text-right">Per metre at 600 mm</th><th class="text-right">On the same pipes</th
						><th class="text-right">Longer, new tails</th><th class="text-right">In a new place</th><th>From</th><th
						></th></tr
					></thead
				>
				<tbody>
					{#each Object.entries(table.rows) as [key, row] (key)}
						<tr
							><td>{PRICED[key] ?? key.toUpperCase()}</td>{#each PRICES as [field, what] (field)}<td class="text-right"
									><NumberField
										label={`${key.toUpperCase()}, ${what}`}
										value={row[field] / 100}
										digits={0}
										unit={currency}
										width="7.6em"
										commit={(v) => table.put(key, field, v)}
									/></td
								>{/each}<td class="max-w-[110ch] note"
								>{table.own[key] ? `your own, edition ${table.own[key]}` : 'ours, a guess'}</td
							><td
								>{#if table.own[key]}<button class="btn btn-quiet" onclick={() => void table.back(key)}
										>back to ours</button
									>{/if}</td
							></tr
						>
					{/each}
				</tbody>
			</table>
		</Fold>
	</section>
{/if}

<style>
	tr.on td {
		background: var(--sheet);
	}
</style>
