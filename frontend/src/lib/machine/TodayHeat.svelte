<script lang="ts">
	import type { Runs } from '$lib/api/client';
	import { minorUnit, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	let { runs }: { runs: Runs } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const currency = $derived(job.currency ?? 'GBP');
	const minor = $derived(minorUnit(currency));
	const tariff = $derived(job.tariff ?? {});
	const present = $derived(job.site?.present ?? {});
	const fuels = $derived(job.library?.tables?.standard?.data.fuels ?? {});
	const burns = $derived(present.how ? null : (present.fuel ?? runs.present?.fuel ?? null));
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
	const price = (key: string): number | undefined => job.prices?.[key] ?? fuels[key]?.price_minor_per_kwh;
	const OTHERWISE = [
		{ value: 'storage', label: 'storage heaters' },
		{ value: 'nothing', label: 'nothing heats it' }
	];
	const isHow = (v: string | null): boolean => OTHERWISE.some((one) => one.value === v);
	const take = (v: string | null): void =>
		void session.edit('What heats it today', (d) => {
			d.put('/site/present/how', isHow(v) ? v : null);
			d.put('/site/present/fuel', isHow(v) ? null : v);
		});
</script>

<h2 class="mt-4 mb-1">What heats it today</h2>
<div class="grid grid-cols-[repeat(auto-fill,minmax(140px,1fr))] items-end gap-x-3 gap-y-2.5">
	<label
		>It burns<Choice
			label="What heats it today"
			value={present.how ?? present.fuel ?? null}
			empty={runs.present ? `${runs.present.label}, as known` : 'nobody has said'}
			options={[...Object.entries(fuels).map(([value, f]) => ({ value, label: f.label })), ...OTHERWISE]}
			commit={take}
		/></label
	>
	{#if burns}
		<Asked
			ask={`Its price, ${minor}/kWh`}
			label="Price of what it burns"
			value={price(burns)}
			digits={1}
			commit={put(`/prices/${burns}`, `Price of ${fuels[burns]?.label ?? burns}`)}
		/>
		<Asked
			ask="Efficiency, %"
			label="Efficiency today"
			value={present.efficiency}
			times={100}
			placeholder={num((runs.present?.efficiency ?? 0) * 100)}
			digits={0}
			commit={put('/site/present/efficiency', 'Efficiency today')}
		/>
		<Asked
			ask={`Service, ${currency} a year`}
			label="Service today"
			value={present.service_minor}
			times={0.01}
			digits={0}
			commit={put('/site/present/service_minor', 'Service today')}
		/>
		{#if burns !== 'electricity'}
			<Asked
				ask={`Standing charge, ${currency} a year`}
				label="Standing charge today"
				value={tariff.standing_minor?.[burns]}
				times={0.01}
				digits={0}
				commit={put(`/tariff/standing_minor/${burns}`, 'Standing charge today')}
			/>
			<Tick
				ask="Its meter stays"
				value={present.stays ?? false}
				commit={put('/site/present/stays', 'Whether its meter stays')}
			/>
		{/if}
	{/if}
</div>

<style>
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
</style>
