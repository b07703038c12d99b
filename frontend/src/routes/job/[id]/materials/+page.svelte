<script lang="ts">
	import { api } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import { money, num } from '$lib/parts/format';
	import Head from '$lib/parts/Head.svelte';
	import { difference, fig, unitName } from '$lib/parts/units';
	import PartPrices from '$lib/plant/PartPrices.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const asked = new Slow(() =>
		api.GET('/api/jobs/{job_id}/materials', { params: { path: { job_id: frame.session.id } } })
	);
	const found = $derived(asked.found?.materials);
	$effect(() => {
		if (session.settled) asked.ask();
	});
	const groups = $derived([...new Set((found?.rows ?? []).map((r) => r.group))]);
	const NEEDS = ['essential', 'good', 'by circumstance'] as const;
	let wanted = $state<Record<string, boolean>>({ essential: true, good: true, 'by circumstance': true });
	const rows = $derived((found?.rows ?? []).filter((r) => r.stays || wanted[r.need]));
	const sum = $derived(rows.reduce((all, r) => all + (r.total_minor ?? 0), 0));
	type Row = NonNullable<typeof found>['rows'][number];
	/** How many, in this job's units: metres and litres as it says them, the rest as counted. */
	const count = (r: Row): string =>
		r.unit === 'm' || r.unit === 'L'
			? fig(r.count, r.unit, Number.isInteger(r.count) ? 0 : 1)
			: num(r.count, Number.isInteger(r.count) ? 0 : 1);
	const each = (r: Row): number | null => (r.minor == null ? null : r.minor / difference(1, r.unit));
	const WHERE: Record<string, string> = { Emitters: 'emitters', House: 'measures', 'Machine and place': 'machine' };
</script>

<Head title="Materials" screen="materials" sentence={found?.sentence}>
	{#if found && !found.lacks}
		<a class="btn btn-quiet" href={`/api/jobs/${session.id}/materials.xlsx`} download>Table (XLSX)</a>
		<a class="btn btn-quiet" href={`/api/jobs/${session.id}/materials.csv`} download>Table (CSV)</a>
	{/if}
</Head>

{#if found && !found.lacks}
	{#if asked.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{asked.refused}</p>{/if}
	<div class="mb-2 flex flex-wrap items-baseline gap-x-6 gap-y-1">
		{#each NEEDS as need (need)}<label class="flex min-h-9 items-center gap-2 touch:min-h-12"
				><input type="checkbox" class="checkbox" bind:checked={wanted[need]} />{need}
				<strong
					>{money(
						{
							essential: found.sums.essential_minor,
							good: found.sums.good_minor,
							'by circumstance': found.sums.circumstance_minor
						}[need],
						currency
					)}</strong
				></label
			>{/each}
		<span class="ms-auto text-lead">Together <strong>{money(sum, currency)}</strong></span>
	</div>
	<div class="sheet" class:opacity-60={asked.busy} aria-busy={asked.busy}>
		<table class="table table-figures">
			<thead
				><tr
					><th>What</th><th class="text-right">Number</th><th>Why</th><th>Wanted</th><th class="text-right">Each</th><th
						class="text-right">Together</th
					></tr
				></thead
			>
			{#each groups as group (group)}
				{@const held = rows.filter((r) => r.group === group)}
				{#if held.length}<tbody>
						<tr
							><th colspan="5" class="pt-3 text-left text-lead font-semibold">{group}</th><th
								class="pt-3 text-right font-semibold"
								>{money(
									held.reduce((all, r) => all + (r.total_minor ?? 0), 0),
									currency
								)}</th
							></tr
						>
						{#each held as r (r.key)}<tr
								><td
									><span class="font-semibold">{r.label}</span>{#if r.words}<span class="block note">{r.words}</span
										>{/if}</td
								><td class="text-right whitespace-nowrap">{count(r)} <span class="unit">{unitName(r.unit)}</span></td
								><td class="max-w-[38ch]">{r.why}</td><td class="whitespace-nowrap"
									>{#if r.stays}stays{:else if r.need === 'essential'}<strong>essential</strong>{:else}{r.need}{/if}</td
								><td class="text-right whitespace-nowrap"
									>{#if r.stays || r.minor === 0}–{:else if r.minor == null}<a
											class="rounded-sm px-1.5 hatch-doubt"
											href={`/job/${session.id}/${WHERE[r.group] ?? 'emitters'}`}>no price yet</a
										>{:else}{money(each(r), currency)}<span class="block note">{r.price_from}</span>{/if}</td
								><td class="text-right font-semibold"
									>{r.stays || !r.total_minor ? '–' : money(r.total_minor, currency)}</td
								></tr
							>{/each}
					</tbody>{/if}
			{/each}
		</table>
	</div>
	{#each found.notes as note (note)}<p class="mt-1 note">{note}</p>{/each}
	<div class="mt-3"><PartPrices changed={() => asked.ask()} /></div>
{:else if found}<p class="max-w-[60ch] py-5 text-lead">{found.lacks}</p>
{:else}<p class="py-5">
		{#if asked.refused}{asked.refused}{:else}<span class="loading mr-2 loading-dots"></span>The list is put together.{/if}
	</p>{/if}

<style>
	.sheet {
		max-width: 1040px;
	}
</style>
