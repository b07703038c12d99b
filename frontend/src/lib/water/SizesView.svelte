<script lang="ts">
	import type { Design, WaterDays } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { num } from '$lib/parts/format';
	import { amount, fig, unitName } from '$lib/parts/units';
	let { found, water }: { found: WaterDays; water: Design['hot_water'] } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const longest = $derived(Math.max(1, ...found.sizes.map((one) => one.short_min)));
	const take = (litres: number) =>
		session.edit(`A store of ${num(litres)} L`, (d) => d.set(`/schemes/${session.scheme}/hot_water/volume_l`, litres));
	const span = (low: number | null | undefined, high: number | null | undefined): string =>
		low == null ? '–' : `${fig(low, 'L')}–${fig(high, 'L')}`;
	const within = $derived(
		water.volume_l != null && water.rule_low_l != null ? water.volume_l >= water.rule_low_l : null
	);
</script>

<table class="table table-figures">
	<thead
		><tr
			><th>Three ways to its size</th><th class="text-right">Litres, {unitName('L')}</th><th class="text-right"
				>This one</th
			><th></th></tr
		></thead
	>
	<tbody>
		<tr
			><td>By bedrooms <span class="note">{num(water.bedrooms)}, common practice</span></td><td class="text-right"
				>{span(water.rule_low_l, water.rule_high_l)}</td
			><td class="text-right">{fig(water.volume_l, 'L')}</td><td
				>{#if within !== null}<span
						class={within
							? 'font-semibold text-meets'
							: 'badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold hatch-short'}
						>{within ? (water.verdict === 'large' ? 'large' : 'meets') : 'small'}</span
					>{/if}</td
			></tr
		>
		<tr
			><td
				>By people <span class="note"
					>{fig(water.tap_l_per_day, 'L')} {unitName('L')} a day at the tap, heated twice to once</span
				></td
			><td class="text-right">{span(water.people_low_l, water.people_high_l)}</td><td class="text-right"
				>{fig(water.volume_l, 'L')}</td
			><td></td></tr
		>
		<tr
			><td>By the day <span class="note">{found.pattern_label}, the design day outside</span></td><td class="text-right"
				>{found.least_volume_l == null ? 'none of these' : `${fig(found.least_volume_l, 'L')} or more`}</td
			><td class="text-right">{fig(water.volume_l, 'L')}</td><td></td></tr
		>
	</tbody>
</table>
<h2 class="mt-4 mb-1">The design day with another store</h2>
<table class="table table-figures">
	<thead
		><tr
			><th>Store, {unitName('L')}</th><th>Too cool at the taps</th><th class="text-right">Draws short</th><th
				class="text-right">House not heated, min</th
			><th><span class="sr-only">Take it</span></th></tr
		></thead
	>
	<tbody
		>{#each found.sizes as one (one.volume_l)}<tr class={one.chosen ? 'font-semibold' : ''}
				><td>{fig(one.volume_l, 'L')}</td><td class="w-2/5"
					>{#if one.short_min > 0}<span
							class="inline-block h-3.5 align-middle hatch-short"
							style:width={`${Math.max(2, (70 * one.short_min) / longest)}%`}
						></span>
						{num(Math.max(one.short_min, 1))} min{:else}<span class="text-meets">nobody short</span>{/if}</td
				><td class="text-right">{one.short_draws}</td><td class="text-right">{num(one.charging_min)}</td><td
					class="text-right"
					>{#if one.chosen}this one{:else}<button
							class="btn btn-quiet whitespace-nowrap"
							aria-label={`Take the store of ${amount(one.volume_l, 'L')}`}
							onclick={() => void take(one.volume_l)}>Take it</button
						>{/if}</td
				></tr
			>{/each}</tbody
	>
</table>
<p class="mt-1.5 max-w-[78ch] note">
	The day of one household with nobody to stay. Guests, teenagers and a day of washing ask for more: the rule by
	bedrooms holds a reserve the day does not.
</p>
