<script lang="ts">
	import { minorUnit } from '$lib/parts/format';
	import { sendFile, type Wrong } from '$lib/job/files';
	import { useFrame } from '$lib/job/frame.svelte';
	import BringFile from '$lib/job/BringFile.svelte';
	import WrongFile from '$lib/job/WrongFile.svelte';
	import Hours from '$lib/charts/Hours.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const currency = $derived(job.currency ?? 'GBP');
	const minor = $derived(minorUnit(currency));
	const tariff = $derived(job.tariff ?? {});
	const fuels = $derived(job.library?.tables?.standard?.data.fuels ?? {});
	const price = (key: string): number | undefined => job.prices?.[key] ?? fuels[key]?.price_minor_per_kwh;
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
	let wrong = $state.raw<Wrong | null>(null);
	let notes = $state.raw<string[]>([]);
	async function bring(file: File): Promise<void> {
		const asked = new URLSearchParams({ zone: job.time_zone ?? 'UTC', label: file.name.replace(/\.csv$/i, '') });
		const { made, wrong: bad } = await sendFile<{ by_month: number[][]; label: string; notes: string[] }>(
			`/api/tariff?${asked}`,
			'text/csv',
			file
		);
		wrong = bad;
		notes = made?.notes ?? [];
		if (made)
			void session.edit('Prices by the hour brought in', (d) =>
				d.set('/tariff/hours', { label: made.label, by_month: made.by_month })
			);
	}
</script>

<h2 class="mt-4 mb-1">What energy costs</h2>
<div class="grid grid-cols-[repeat(auto-fill,minmax(140px,1fr))] items-end gap-x-3 gap-y-2.5">
	{#if !tariff.hours}
		<Asked
			ask={`Electricity, ${minor}/kWh`}
			label="Price of electricity"
			value={price('electricity')}
			digits={1}
			commit={put('/prices/electricity', 'Price of electricity')}
		/>
		<Asked
			ask={`At night, ${minor}/kWh`}
			label="Price of electricity at night"
			value={tariff.night_minor}
			digits={1}
			placeholder="the same"
			commit={put('/tariff/night_minor', 'Price at night')}
		/>
		{#if tariff.night_minor != null}
			<Asked
				ask="from, o'clock"
				label="Night price from"
				value={tariff.night_from_h ?? 0}
				quantity="whole"
				commit={put('/tariff/night_from_h', 'Night price from')}
			/>
			<Asked
				ask="to, o'clock"
				label="Night price to"
				value={tariff.night_to_h ?? 7}
				quantity="whole"
				commit={put('/tariff/night_to_h', 'Night price to')}
			/>
		{/if}
	{/if}
	<Asked
		ask={`Standing charge, ${currency} a year`}
		label="Standing charge of electricity"
		value={tariff.standing_minor?.electricity}
		times={0.01}
		digits={0}
		commit={put('/tariff/standing_minor/electricity', 'Standing charge of electricity')}
	/>
	<Asked
		ask="Prices may be off by, ± %"
		label="Prices may be off by"
		value={tariff.spread}
		times={100}
		digits={0}
		placeholder="15"
		commit={put('/tariff/spread', 'How far prices may be off')}
	/>
	<Asked
		ask="Prices rise, % a year"
		label="Prices rise"
		value={tariff.rise}
		times={100}
		digits={1}
		placeholder="2"
		commit={put('/tariff/rise', 'How prices rise')}
	/>
	<Tick
		ask="Paid beforehand"
		value={tariff.prepaid ?? false}
		commit={(on) => put('/tariff/prepaid', 'Prepayment')(on || null)}
	/>
</div>
<div class="mt-2 flex flex-wrap items-center gap-2.5">
	<BringFile
		label="Bring in prices by the hour"
		hint="Bring in prices by the hour (CSV)"
		accept=".csv,text/csv"
		take={(file) => void bring(file)}
	/>
	{#if tariff.hours}
		<strong>{tariff.hours.label}</strong>
		<a class="note" download href={`/api/jobs/${session.id}/tariff.csv`}>take them out</a>
		<button class="btn btn-quiet" onclick={() => void put('/tariff/hours', 'Prices by the hour taken off')(null)}
			>back to one price</button
		>
	{:else}<span class="note"
			>columns <code>from</code> and <code>price</code>, steps of 15 to 60 minutes; times without an offset are the
			clock of {job.time_zone ?? 'UTC'}</span
		>{/if}
</div>
{#if wrong}<WrongFile {wrong} close={() => (wrong = null)} />{/if}
{#each notes as note (note)}<p class="note" role="status">{note}</p>{/each}
{#if tariff.hours}<Hours byMonth={tariff.hours.by_month} unit={`${minor}/kWh`} />{/if}
{#if tariff.prepaid}<p class="note">
		Paid beforehand: credit for the standing charge too is kept on the meter through absences, or the heating, its frost
		guard and the store go off with it.
	</p>{/if}
