<script lang="ts">
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

<div class="desk">
	<div class="main">
		{#if water?.stored_kwh != null}<Reheat {water} />{:else}<p class="empty">
				Say who lives here and how large the store shall be; the reheat time follows from the machine.
			</p>{/if}
		<div class="fields">
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
						placeholder={num(water?.store_c)}
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
						placeholder={num(water?.cold_c)}
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
		<table class="plain-table">
			<thead
				><tr><th>Asked of the store</th><th class="right">Usual here</th><th class="right">This one</th><th></th></tr
				></thead
			>
			<tbody>
				<tr
					><td>Volume, by bedrooms <span class="note">common practice</span></td><td class="right"
						>{num(water?.rule_low_l)}–{num(water?.rule_high_l)}<span class="unit">L</span></td
					><td class="right">{num(water?.volume_l)}<span class="unit">L</span></td><td
						>{#if water?.verdict === 'small'}<span class="hatch-short tag">small</span
							>{:else if water?.verdict === 'meets'}<span class="ok">meets</span
							>{:else if water?.verdict === 'large'}<span class="hatch-doubt tag">large</span>{/if}</td
					></tr
				>
				<tr
					><td>Coil, 0.20–0.25 m² per kW on a mild day <span class="note">common practice</span></td><td class="right"
						>{num(water?.coil_low_m2, 1)}–{num(water?.coil_high_m2, 1)}<span class="unit">m²</span></td
					><td class="right">{num(water?.coil_m2, 1)}<span class="unit">m²</span></td><td
						>{#if water?.coil_m2 != null && water.coil_low_m2 != null}{#if water.coil_m2 < water.coil_low_m2}<span
									class="hatch-short tag">small</span
								>{:else}<span class="ok">meets</span>{/if}{/if}</td
					></tr
				>
				<tr
					><td>Cold to hot on the design day</td><td></td><td class="right"
						><button class="figure-link" onclick={() => void frame.showWorking('reheat')}
							>{num(water?.reheat_minutes)}<span class="unit">min</span></button
						></td
					><td></td></tr
				>
				<tr
					><td>Cold to hot at 7 °C outside</td><td></td><td class="right"
						>{num(water?.reheat_mild_minutes)}<span class="unit">min</span></td
					><td></td></tr
				>
				<tr
					><td>Out of the machine's day, {num(water?.daily_kwh, 1)} kWh</td><td></td><td class="right"
						>{num(water?.hours_per_day, 1)}<span class="unit">h</span></td
					><td></td></tr
				>
			</tbody>
		</table>
		{#each found as store (store.label)}<p class="note">
				Found: {store.label}, {num(store.volume_l)} L{store.coil_m2
					? `, coil ${num(store.coil_m2, 1)} m²`
					: ''}{store.vented ? ', vented' : ''}.
			</p>{/each}
	</div>
	<section class="side"><Cautions cautions={design?.cautions['hot-water'] ?? []} /></section>
</div>

<style>
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 300px;
		gap: 26px;
	}
	.main {
		display: grid;
		gap: 16px;
		align-content: start;
	}
	.fields {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(118px, 1fr));
		gap: 10px 12px;
	}
	label {
		font-size: var(--small);
		color: var(--muted);
	}
	.tag {
		padding: 1px 8px;
		border-radius: 4px;
		font-weight: 600;
		font-size: var(--small);
	}
	.ok {
		color: var(--meets);
		font-weight: 600;
	}
	.figure-link {
		text-decoration: underline dotted;
		text-underline-offset: 4px;
	}
	td {
		height: 38px;
	}
	.empty {
		font-size: var(--lead);
		padding: 30px 0;
	}
	@media (max-width: 1000px) {
		.desk {
			grid-template-columns: 1fr;
		}
	}
</style>
