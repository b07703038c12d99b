<script lang="ts">
	import { amount, fig, system, unitName } from '$lib/parts/units';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Reheat from '$lib/charts/Reheat.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const water = $derived(design?.hot_water);
	const chosen = $derived(session.scheme ? (session.job?.schemes?.[session.scheme]?.hot_water ?? {}) : null);
	const household = $derived(session.job?.survey?.household ?? {});
	const found = $derived(Object.values(session.job?.survey?.stores ?? {}));
	const base = $derived(`/schemes/${session.scheme}/hot_water`);
	const put = (field: string, what: string) => (value: number | null) =>
		session.edit(`Hot water, ${what}`, (d) => d.put(`${base}/${field}`, value));
	const lives = (field: string, what: string) => (value: number | null) =>
		session.edit(`Household, ${what}`, (d) => d.put(`/survey/household/${field}`, value));
</script>

<Head title="Hot water" screen="hot-water" />

<div class="grid grid-cols-[minmax(0,1fr)_300px] gap-6.5 narrow:grid-cols-[1fr]">
	<div class="main grid content-start gap-4">
		{#if water?.stored_kwh != null}<Reheat {water} />{:else}<p class="px-0 py-7.5 text-lead">
				Say who lives here and how large the store shall be; the reheat time follows from the machine.
			</p>{/if}
		<div class="grid grid-cols-[repeat(auto-fill,minmax(118px,1fr))] gap-x-3 gap-y-2.5">
			<label
				>People<NumberField
					label="People"
					value={household.people}
					quantity="whole"
					width="100%"
					commit={lives('people', 'people')}
				/></label
			>
			<label
				>Bedrooms<NumberField
					label="Bedrooms"
					value={household.bedrooms}
					quantity="whole"
					width="100%"
					commit={lives('bedrooms', 'bedrooms')}
				/></label
			>
			{#if chosen}
				<label
					>Store volume<NumberField
						label="Store volume"
						value={chosen.volume_l}
						digits={0}
						unit="L"
						width="100%"
						commit={put('volume_l', 'volume')}
					/></label
				>
				<label
					>Store kept at<NumberField
						label="Store kept at"
						value={chosen.store_c}
						placeholder={fig(water?.store_c, '°C')}
						quantity="temperature"
						digits={0}
						unit="°C"
						width="100%"
						commit={put('store_c', 'store temperature')}
					/></label
				>
				<label
					>Cold water<NumberField
						label="Cold water"
						value={chosen.cold_c}
						placeholder={fig(water?.cold_c, '°C')}
						quantity="temperature"
						digits={0}
						unit="°C"
						width="100%"
						commit={put('cold_c', 'cold water')}
					/></label
				>
				<label
					>Coil<NumberField
						label="Coil"
						value={chosen.coil_m2}
						digits={1}
						unit="m²"
						width="100%"
						commit={put('coil_m2', 'coil')}
					/></label
				>
				<label
					>Standing loss a day<NumberField
						label="Standing loss a day"
						value={chosen.standing_kwh_per_day}
						digits={1}
						unit="kWh"
						width="100%"
						commit={put('standing_kwh_per_day', 'standing loss')}
					/></label
				>
			{/if}
		</div>
		<table class="table table-figures">
			<thead
				><tr
					><th>Asked of the store</th><th class="text-right">Usual here</th><th class="text-right">This one</th><th
					></th></tr
				></thead
			>
			<tbody>
				<tr
					><td>Volume, by bedrooms <span class="note">common practice</span></td><td class="text-right"
						>{fig(water?.rule_low_l, 'L')}–{fig(water?.rule_high_l, 'L')}<span class="unit">{unitName('L')}</span></td
					><td class="text-right">{fig(water?.volume_l, 'L')}<span class="unit">{unitName('L')}</span></td><td
						>{#if water?.verdict === 'small'}<span
								class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
								>small</span
							>{:else if water?.verdict === 'meets'}<span class="font-semibold text-meets">meets</span
							>{:else if water?.verdict === 'large'}<span
								class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-doubt"
								>large</span
							>{/if}</td
					></tr
				>
				<tr
					><td
						>{system.feet
							? 'Coil, 0.63–0.79 ft² per 1000 Btu/h on a mild day'
							: 'Coil, 0.20–0.25 m² per kW on a mild day'} <span class="note">common practice</span></td
					><td class="text-right"
						>{fig(water?.coil_low_m2, 'm²', 1)}–{fig(water?.coil_high_m2, 'm²', 1)}<span class="unit"
							>{unitName('m²')}</span
						></td
					><td class="text-right">{fig(water?.coil_m2, 'm²', 1)}<span class="unit">{unitName('m²')}</span></td><td
						>{#if water?.coil_m2 != null && water.coil_low_m2 != null}{#if water.coil_m2 < water.coil_low_m2}<span
									class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
									>small</span
								>{:else}<span class="font-semibold text-meets">meets</span>{/if}{/if}</td
					></tr
				>
				<tr
					><td>Cold to hot on the design day</td><td></td><td class="text-right"
						><button
							class="underline decoration-dotted underline-offset-4"
							onclick={() => void frame.showWorking('reheat')}
							>{num(water?.reheat_minutes)}<span class="unit">min</span></button
						></td
					><td></td></tr
				>
				<tr
					><td>Cold to hot at {amount(7, '°C')} outside</td><td></td><td class="text-right"
						>{num(water?.reheat_mild_minutes)}<span class="unit">min</span></td
					><td></td></tr
				>
				<tr
					><td>Out of the machine's day, {num(water?.daily_kwh, 1)} kWh</td><td></td><td class="text-right"
						>{num(water?.hours_per_day, 1)}<span class="unit">h</span></td
					><td></td></tr
				>
			</tbody>
		</table>
		{#each found as store (store.label)}<p class="note">
				Found: {store.label}, {amount(store.volume_l, 'L')}{store.coil_m2
					? `, coil ${amount(store.coil_m2, 'm²', 1)}`
					: ''}{store.vented ? ', vented' : ''}.
			</p>{/each}
	</div>
	<section class="side"><Cautions cautions={design?.cautions['hot-water'] ?? []} /></section>
</div>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
	}

	td {
		height: 38px;
	}
</style>
