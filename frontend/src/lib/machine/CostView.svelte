<script lang="ts">
	import type { Runs } from '$lib/api/client';
	import { minorUnit, money, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import Spans from '$lib/charts/Spans.svelte';
	let { runs, seen, look }: { runs: Runs; seen: string | undefined; look: (id: string) => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const currency = $derived(job.currency ?? 'GBP');
	const minor = $derived(minorUnit(currency));
	const tariff = $derived(job.tariff ?? {});
	const present = $derived(job.site?.present ?? {});
	const fuels = $derived(job.library?.tables?.standard?.data.fuels ?? {});
	const burns = $derived(present.fuel ?? runs.present?.fuel ?? null);
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
	const major = (at: string, label: string) => (value: number | null) =>
		session.edit(label, (d) => d.put(at, value == null ? null : Math.round(value * 100)));
	const price = (key: string): number | undefined => job.prices?.[key] ?? fuels[key]?.price_minor_per_kwh;
	const bars = $derived([
		...(runs.present
			? [{ key: 'today', label: `${runs.present.label} today`, strong: false, ...pounds(runs.present.cost_minor) }]
			: []),
		...runs.rows.map((r) => ({ key: r.id, label: r.label, strong: r.id === seen, ...pounds(r.cost_minor) }))
	]);
	function pounds(span: { low: number; mid: number; high: number }): { low: number; mid: number; high: number } {
		return { low: span.low / 100, mid: span.mid / 100, high: span.high / 100 };
	}
	const range = (span: { low: number; high: number } | null | undefined): string =>
		span ? `${money(span.low, currency)} to ${money(span.high, currency)}` : '–';
</script>

<p class="note">a year's energy, standing charges and service, with its range: {runs.range_why}</p>
<Spans rows={bars} label="What a year costs, by machine and today" told={(v) => money(v * 100, currency)} />
<div class="mt-1.5 overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th>A year</th><th class="text-right">Costs</th><th class="text-right">Saves against today</th><th
					class="text-right">Carbon</th
				><th class="text-right">Paid once</th><th class="text-right">Fifteen years</th></tr
			></thead
		>
		<tbody>
			{#if runs.present}<tr
					><td class="h-11"
						><strong>{runs.present.label} today</strong><span class="block note"
							>{num(runs.present.efficiency * 100)} %, {runs.present.why}</span
						></td
					><td class="text-right whitespace-nowrap">{range(runs.present.cost_minor)}</td><td class="text-right">–</td
					><td class="text-right whitespace-nowrap">{num(runs.present.carbon_kg.mid)}<span class="unit">kg</span></td
					><td class="text-right">–</td><td class="text-right whitespace-nowrap">{range(runs.present_fifteen_minor)}</td
					></tr
				>{/if}
			{#each runs.rows as r (r.id)}
				<tr class:seen={r.id === seen}>
					<td class="h-11"
						><button class="min-h-11 text-left font-semibold whitespace-nowrap" onclick={() => look(r.id)}
							>{r.label}<span class="block max-w-40 note whitespace-normal"
								>with {r.backup}{r.break_even_cop == null
									? ''
									: `; worth running above COP ${num(r.break_even_cop, 2)}`}</span
							></button
						></td
					>
					<td class="text-right whitespace-nowrap">{range(r.cost_minor)}</td>
					<td class="text-right whitespace-nowrap">{range(r.saves_minor)}</td>
					<td class="text-right whitespace-nowrap">{num(r.carbon_kg.mid)}<span class="unit">kg</span></td>
					<td class="text-right">{money(r.once_minor, currency)}</td>
					<td class="text-right whitespace-nowrap">{range(r.fifteen_minor)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
</div>
{#if runs.present_lacks}<p class="mt-2 rounded-sm px-3 py-1.5 hatch-doubt">{runs.present_lacks}</p>{/if}
<p class="mt-2 note">
	A saving holds the house the same on both sides and lets every price move by itself. Fifteen years are added up
	without interest. Prices, rises and carbon are the job's own guesses until somebody enters better ones.
</p>

<h2 class="mt-4 mb-1">What energy costs</h2>
<div class="grid grid-cols-[repeat(auto-fill,minmax(140px,1fr))] gap-x-3 gap-y-2.5">
	<label
		>Electricity, {minor}/kWh<NumberField
			label="Price of electricity"
			value={price('electricity')}
			digits={1}
			width="100%"
			commit={put('/prices/electricity', 'Price of electricity')}
		/></label
	>
	<label
		>At night, {minor}/kWh<NumberField
			label="Price of electricity at night"
			value={tariff.night_minor}
			digits={1}
			placeholder="the same"
			width="100%"
			commit={put('/tariff/night_minor', 'Price at night')}
		/></label
	>
	{#if tariff.night_minor != null}
		<label
			>from, o'clock<NumberField
				label="Night price from"
				value={tariff.night_from_h ?? 0}
				quantity="whole"
				width="100%"
				commit={put('/tariff/night_from_h', 'Night price from')}
			/></label
		>
		<label
			>to, o'clock<NumberField
				label="Night price to"
				value={tariff.night_to_h ?? 7}
				quantity="whole"
				width="100%"
				commit={put('/tariff/night_to_h', 'Night price to')}
			/></label
		>
	{/if}
	<label
		>Standing charge, {currency} a year<NumberField
			label="Standing charge of electricity"
			value={tariff.standing_minor?.electricity == null ? null : tariff.standing_minor.electricity / 100}
			digits={0}
			width="100%"
			commit={major('/tariff/standing_minor/electricity', 'Standing charge of electricity')}
		/></label
	>
	<label
		>Prices may be off by, ± %<NumberField
			label="Prices may be off by"
			value={tariff.spread == null ? null : tariff.spread * 100}
			digits={0}
			placeholder="15"
			width="100%"
			commit={(v) => put('/tariff/spread', 'How far prices may be off')(v == null ? null : v / 100)}
		/></label
	>
	<label
		>Prices rise, % a year<NumberField
			label="Prices rise"
			value={tariff.rise == null ? null : tariff.rise * 100}
			digits={1}
			placeholder="2"
			width="100%"
			commit={(v) => put('/tariff/rise', 'How prices rise')(v == null ? null : v / 100)}
		/></label
	>
</div>
<h2 class="mt-4 mb-1">What heats it today</h2>
<div class="grid grid-cols-[repeat(auto-fill,minmax(140px,1fr))] items-end gap-x-3 gap-y-2.5">
	<label
		>It burns<Choice
			label="What heats it today"
			value={present.fuel ?? null}
			empty={runs.present ? `${runs.present.label}, as known` : 'nobody has said'}
			options={Object.entries(fuels).map(([value, f]) => ({ value, label: f.label }))}
			commit={put('/site/present/fuel', 'What heats it today')}
		/></label
	>
	{#if burns}
		<label
			>Its price, {minor}/kWh<NumberField
				label="Price of what it burns"
				value={price(burns)}
				digits={1}
				width="100%"
				commit={put(`/prices/${burns}`, `Price of ${fuels[burns]?.label ?? burns}`)}
			/></label
		>
		<label
			>Efficiency, %<NumberField
				label="Efficiency today"
				value={present.efficiency == null ? null : present.efficiency * 100}
				placeholder={num((runs.present?.efficiency ?? 0) * 100)}
				digits={0}
				width="100%"
				commit={(v) => put('/site/present/efficiency', 'Efficiency today')(v == null ? null : v / 100)}
			/></label
		>
		<label
			>Service, {currency} a year<NumberField
				label="Service today"
				value={present.service_minor == null ? null : present.service_minor / 100}
				digits={0}
				width="100%"
				commit={major('/site/present/service_minor', 'Service today')}
			/></label
		>
		{#if burns !== 'electricity'}
			<label
				>Standing charge, {currency} a year<NumberField
					label="Standing charge today"
					value={tariff.standing_minor?.[burns] == null ? null : tariff.standing_minor[burns]! / 100}
					digits={0}
					width="100%"
					commit={major(`/tariff/standing_minor/${burns}`, 'Standing charge today')}
				/></label
			>
			<label class="flex min-h-9 items-center gap-2"
				><input
					type="checkbox"
					class="checkbox"
					checked={present.stays ?? false}
					onchange={(event) => void put('/site/present/stays', 'Whether its meter stays')(event.currentTarget.checked)}
				/>Its meter stays</label
			>
		{/if}
	{/if}
</div>

<style>
	th,
	td {
		padding-inline: 6px;
	}
	.seen td {
		background: var(--sheet);
	}
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
</style>
