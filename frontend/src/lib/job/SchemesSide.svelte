<script lang="ts">
	import { fig, unitName } from '$lib/parts/units';
	import { api } from '$lib/api/client';
	import { money, num } from '$lib/parts/format';
	import { useFrame } from './frame.svelte';
	import { copyScheme } from './schemes';
	import { Slow } from './slow.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const side = new Slow(() =>
		api.GET('/api/jobs/{job_id}/schemes', { params: { path: { job_id: frame.session.id } } })
	);
	$effect(() => {
		if (session.settled) side.ask();
	});
	const rows = $derived(side.found?.side.rows ?? []);
	const heads = $derived(rows[0]?.figures ?? []);
</script>

<section
	class="mt-4 border-t border-t-ink pt-2.5 [&.old]:opacity-65"
	aria-label="Schemes side by side"
	class:old={side.busy && rows.length > 0}
>
	<div class="flex items-center justify-between gap-4">
		<h2 class="text-[20px]">Schemes side by side</h2>
		{#if session.scheme}<button class="btn btn-outline" onclick={() => copyScheme(session)}
				>Keep this one, go on with a copy</button
			>{/if}
	</div>
	{#if rows.length}
		<div class="overflow-x-auto">
			<table class="table table-figures">
				<thead
					><tr
						><th>Scheme</th>{#each heads as figure (figure.key)}<th class="text-right">{figure.label}</th>{/each}<th
							class="text-right">Electricity a year</th
						><th class="text-right">Costs a year</th><th class="text-right">Changes cost</th><th></th></tr
					></thead
				>
				<tbody>
					{#each rows as row (row.id ?? '')}
						<tr class:on={row.shown}>
							<td class="whitespace-nowrap"
								><b>{row.label}</b>{#if row.changes}<span class="block note"
										>{row.changes}
										{row.changes === 1 ? 'change' : 'changes'}{#if row.short}, <span
												class="badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-short"
												>{row.short} short</span
											>{/if}</span
									>{/if}</td
							>
							{#each row.figures as figure, n (figure.key)}<td class="text-right whitespace-nowrap"
									>{#if figure.value === null}<span class="note">{figure.lacks || '–'}</span>{:else}{fig(
											figure.value,
											figure.unit,
											figure.digits
										)}<span class="unit">{unitName(figure.unit)}</span
										>{#if figure.label !== rows[0]?.figures[n]?.label}<span class="block note">{figure.label}</span
											>{/if}{/if}</td
								>{/each}
							<td class="text-right whitespace-nowrap"
								>{num(row.electricity_kwh)}<span class="unit">kWh</span>{#if row.fuel_kwh}<span class="block note"
										>and {num(row.fuel_kwh)} kWh of fuel</span
									>{/if}</td
							>
							<td class="text-right whitespace-nowrap">{money(row.bill_minor, currency)}</td>
							<td class="text-right whitespace-nowrap">{row.cost_minor ? money(row.cost_minor, currency) : '–'}</td>
							<td class="text-right whitespace-nowrap"
								>{#if row.shown}<span class="font-semibold text-meets">shown</span>{:else}<button
										class="btn btn-quiet"
										aria-label={`Show ${row.label}`}
										onclick={() =>
											void session.edit(row.id ? 'Other scheme' : 'As found', (d) => d.set('/active_scheme', row.id))}
										>show</button
									>{/if}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		<p class="note">
			The same chain for each. Changes cost what was written into the scheme when they were taken; what was entered by
			hand has no price. {side.found?.side.sun}
		</p>
	{/if}
</section>

<style>
	.on td {
		background: var(--sheet);
	}
</style>
