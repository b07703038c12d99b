<script lang="ts">
	import { CompanyPrices } from '$lib/job/companyPrices.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	/** What parts cost the company: for every job of it. */
	let { changed }: { changed: () => void } = $props();
	const session = $derived(useFrame().session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	type Price = NonNullable<typeof shelf.all>['plant_parts'][string];
	const table = new CompanyPrices<Price>(
		'plant_parts',
		() => shelf.all?.plant_parts,
		() => session,
		() => changed()
	);
	const sized = (row: Price): string => (row.id === 'pipe' || row.id === 'insulation' ? 'mm of bore' : 'litre');
</script>

<Fold title="What parts cost the company" opened={() => void table.load()}>
	<table class="table max-w-220 table-figures">
		<thead
			><tr
				><th>Part</th><th class="text-right">One of it</th><th class="text-right">And for every litre, or mm of bore</th
				><th>From</th><th><span class="sr-only">Back</span></th></tr
			></thead
		>
		<tbody
			>{#each Object.entries(table.rows) as [key, row] (key)}<tr
					><td>{row.label}</td><td class="text-right"
						><NumberField
							label={`${row.label}, one of it`}
							value={row.minor / 100}
							digits={2}
							unit={currency}
							width="7.6em"
							commit={(v) => table.put(key, 'minor', v)}
						/></td
					><td class="text-right"
						>{#if row.minor_per_size}<NumberField
								label={`${row.label}, for every ${sized(row)}`}
								value={row.minor_per_size / 100}
								digits={2}
								unit={currency}
								width="7.6em"
								commit={(v) => table.put(key, 'minor_per_size', v)}
							/>{/if}</td
					><td class="note">{table.own[key] ? `your own, edition ${table.own[key]}` : 'ours, a guess'}</td><td
						>{#if table.own[key]}<button class="btn btn-quiet" onclick={() => void table.back(key)}>back to ours</button
							>{/if}</td
					></tr
				>{/each}</tbody
		>
	</table>
</Fold>
