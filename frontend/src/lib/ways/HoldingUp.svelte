<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import { api } from '$lib/api/client';
	import { money, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const asked = new Slow(() =>
		api.GET('/api/jobs/{job_id}/holding', { params: { path: { job_id: frame.session.id } } })
	);
	$effect(() => {
		if (session.settled && session.scheme) asked.ask();
	});
	const found = $derived(asked.found?.holding);
	const signed = (value: number | null, unit: string): string =>
		value === null ? '–' : `${value > 0 ? '+' : ''}${num(value)} ${unit}`;
</script>

{#if session.scheme && found}
	<section
		class="mt-4 grid gap-1.5 [&.old]:opacity-65"
		aria-label="What taking one room out would do"
		class:old={asked.busy}
		aria-busy={asked.busy}
	>
		<h2 class="border-t border-t-ink pt-2.5 text-[20px]">One room on its own</h2>
		<Sentence text={found.sentence} />
		<table class="table table-figures">
			<thead
				><tr
					><th>Room taken out</th><th class="text-right">Needs now</th><th class="text-right">The rest then</th><th
						class="text-right">Plain electric heater</th
					><th class="text-right">It would draw</th><th class="text-right">House, a year</th><th class="text-right"
						>Season</th
					><th>Or a fan unit, and all live on it</th></tr
				></thead
			>
			<tbody>
				{#each found.rooms as room (room.room)}
					<tr>
						<td><b>{room.label}</b></td>
						<td class="text-right">{fig(room.needed_flow_c, '°C', 1)}<span class="unit">{unitName('°C')}</span></td>
						<td class="text-right">{fig(room.flow_without_c, '°C', 1)}<span class="unit">{unitName('°C')}</span></td>
						<td class="text-right">{fig(room.heater_w, 'W')}<span class="unit">{unitName('W')}</span></td>
						<td class="text-right">{num(room.heater_kwh)}<span class="unit">kWh</span></td>
						<td class="text-right"
							>{signed(room.bought_more_kwh, 'kWh')}{#if room.bill_more_minor !== null}<span class="block note"
									>{room.bill_more_minor > 0 ? '+' : ''}{money(room.bill_more_minor, currency)}</span
								>{/if}</td
						>
						<td class="text-right">{num(room.season, 2)}</td>
						<td
							>{#if room.fan}{room.fan}<span class="block note"
									>{money(room.fan_cost_minor, currency)}; the room then needs {amount(room.fan_flow_c, '°C', 1)}</span
								>{:else}<span class="note">none on its wall, at its quietest speed</span>{/if}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
		<p class="note">
			The water follows what the rest needs; the heater carries the same part of its room all season, so what it draws
			is rather too much than too little.
		</p>
	</section>
{/if}
