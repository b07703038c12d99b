<script lang="ts">
	import { newId } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import { unitName } from '$lib/parts/units';
	import ClockField from './ClockField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const draws = $derived(
		Object.entries(session.job?.survey?.household?.draws ?? {}).toSorted(
			(a, b) => a[1].minute - b[1].minute || a[0].localeCompare(b[0])
		)
	);
	const base = '/survey/household/draws';
	const put = (id: string, field: string, value: unknown) =>
		session.edit('A draw of hot water', (d) => d.put(`${base}/${id}/${field}`, value));
	/** What a household may draw (common practice): litres at the tap and L/min. */
	const USUAL = [
		{ what: 'shower', tap_l: 60, flow_l_min: 8, minute: 420 },
		{ what: 'bath', tap_l: 120, flow_l_min: 12, minute: 1200 },
		{ what: 'dishes', tap_l: 12, flow_l_min: 5, minute: 1110 }
	];
	const add = (one: (typeof USUAL)[number]) =>
		session.edit(`A ${one.what} every day`, (d) => {
			d.set(`${base}/${newId()}`, one);
			d.put('/survey/household/tapping', null);
		});
</script>

<div class="mt-3">
	<Fold title={draws.length ? `This household's own draws: ${draws.length}` : "This household's own draws"}>
		{#if draws.length}
			<table class="table table-figures">
				<thead
					><tr
						><th>When</th><th>What</th><th class="text-right">At the tap, {unitName('L')}</th><th class="text-right"
							>{unitName('L/min')}</th
						><th class="text-right">Wanted, {unitName('°C')}</th><th><span class="sr-only">Take out</span></th></tr
					></thead
				>
				<tbody>
					{#each draws as [id, one], n (id)}<tr>
							<td class="min-w-34"
								><ClockField
									label={`When, draw ${n + 1}`}
									value={one.minute}
									commit={(v) => put(id, 'minute', v)}
								/></td
							>
							<td
								><TextField
									label={`What, draw ${n + 1}`}
									value={one.what}
									commit={(v) => put(id, 'what', v) as Promise<boolean>}
								/></td
							>
							<td class="text-right"
								><NumberField
									label={`Litres, draw ${n + 1}`}
									value={one.tap_l}
									digits={0}
									unit="L"
									inHead
									commit={(v) => (v === null ? undefined : put(id, 'tap_l', v))}
								/></td
							>
							<td class="text-right"
								><NumberField
									label={`Flow, draw ${n + 1}`}
									value={one.flow_l_min ?? 8}
									digits={0}
									unit="L/min"
									inHead
									commit={(v) => put(id, 'flow_l_min', v)}
								/></td
							>
							<td class="text-right"
								><NumberField
									label={`Wanted, draw ${n + 1}`}
									value={one.tap_c ?? 40}
									quantity="temperature"
									digits={0}
									unit="°C"
									inHead
									commit={(v) => put(id, 'tap_c', v)}
								/></td
							>
							<td
								><button
									class="btn btn-quiet"
									aria-label={`Take draw ${n + 1} out`}
									onclick={() => void session.edit('A draw taken out', (d) => d.remove(`${base}/${id}`))}>×</button
								></td
							>
						</tr>{/each}
				</tbody>
			</table>
		{:else}<p class="note">Ask who washes when: a day of their own says more than a standard one.</p>{/if}
		<div class="flex flex-wrap gap-2 py-1">
			{#each USUAL as one (one.what)}<button class="btn btn-quiet" onclick={() => void add(one)}
					>Add a {one.what}</button
				>{/each}
		</div>
	</Fold>
</div>
