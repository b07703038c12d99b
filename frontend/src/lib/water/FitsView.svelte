<script lang="ts">
	import type { Design } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	let { water }: { water: Design['hot_water'] } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const chosen = $derived(session.scheme ? (session.job?.schemes?.[session.scheme]?.hot_water ?? {}) : {});
	const put = (field: string, what: string) => (value: number | null) =>
		session.edit(`Hot water, ${what}`, (d) => d.put(`/schemes/${session.scheme}/hot_water/${field}`, value));
	const place = $derived(water.checks.filter((one) => one.key.startsWith('cupboard')));
	const main = $derived(water.checks.filter((one) => !one.key.startsWith('cupboard')));
</script>

{#snippet rows(title: string, list: typeof water.checks)}
	<table class="table mb-4 table-figures">
		<thead
			><tr><th>{title}</th><th class="text-right">Wanted</th><th class="text-right">There</th><th class="w-24"></th></tr
			></thead
		>
		<tbody
			>{#each list as one (one.key)}<tr
					><td
						>{one.label}<span class="block note"
							>{one.note}{#if one.verdict === 'unknown'}; <a href={`/job/${session.id}/walk-round`}
									>enter it on the walk-round</a
								>{/if}</span
						></td
					><td class="text-right"
						>{fig(one.low, one.unit, one.digits)}{one.high == null
							? ''
							: `–${fig(one.high, one.unit, one.digits)}`}<span class="unit">{unitName(one.unit)}</span></td
					><td class="text-right"
						>{fig(one.value, one.unit, one.digits)}<span class="unit">{unitName(one.unit)}</span></td
					><td
						>{#if one.verdict === 'small'}<span
								class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold hatch-short">too little</span
							>{:else if one.verdict === 'meets'}<span class="font-semibold text-meets">meets</span>{:else}<span
								class="text-muted">not known</span
							>{/if}</td
					></tr
				>{/each}</tbody
		>
	</table>
{/snippet}

{#if place.length}{@render rows('Where it shall stand', place)}
	<div class="mb-4 grid max-w-[62ch] grid-cols-4 gap-3 narrow:grid-cols-2">
		<Asked
			ask="Store, diameter"
			label="Store, diameter"
			value={chosen.diameter_m}
			quantity="length"
			digits={2}
			unit="m"
			commit={put('diameter_m', 'diameter')}
		/>
		<Asked
			ask="Store, height"
			label="Store, height"
			value={chosen.height_m}
			quantity="length"
			digits={2}
			unit="m"
			commit={put('height_m', 'height')}
		/>
		<Asked
			ask="Store, empty"
			label="Store, weight empty"
			value={chosen.empty_kg}
			digits={0}
			unit="kg"
			commit={put('empty_kg', 'weight')}
		/>
		<Asked
			ask="Accumulator"
			label="Accumulator, usable"
			value={chosen.accumulator_l}
			digits={0}
			unit="L"
			commit={put('accumulator_l', 'accumulator')}
		/>
	</div>
	<p class="mb-4 max-w-[78ch]">
		{water.beside}
		{#if water.full_kg != null}Full it weighs some {amount(water.full_kg, 'kg')}: whether the floor carries that is for
			a builder to say.{/if}
	</p>
{/if}
{@render rows('The incoming main, for a mains-pressure store', main)}
