<script lang="ts">
	import rules from '$lib/api/rules.json';
	import type { Runs } from '$lib/api/client';
	import { unitName } from '$lib/parts/units';
	import { minorUnit, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	let { runs, seen }: { runs: Runs; seen: string | undefined } = $props();
	const frame = useFrame();
	const usual = rules;
	const session = $derived(frame.session);
	const solar = $derived(session.job?.site?.solar);
	const minor = $derived(minorUnit(session.job?.currency ?? 'GBP'));
	const row = $derived(runs.rows.find((r) => r.id === seen));
	const collectors = $derived(session.job?.site?.collectors);
	const collector = (at: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`/site/collectors/${at}`, value));
	const beginCollectors = (): void => void session.edit('Collectors', (d) => d.set('/site/collectors', { area_m2: 4 }));
	const put = (at: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`/site/solar/${at}`, value));
	const without = (): void => void session.edit('No own sun', (d) => d.remove('/site/solar'));
	const begin = (): void => void session.edit('Own sun', (d) => d.set('/site/solar', { peak_kw: 4 }));
</script>

<h2 class="mt-4 mb-1">Its own sun</h2>
{#if !solar}
	<button class="btn btn-outline" onclick={begin}>There are solar modules</button>
{:else}
	<div class="grid grid-cols-[repeat(auto-fill,minmax(130px,1fr))] items-end gap-x-3 gap-y-2.5">
		<Asked
			ask="Rating, kW"
			label="Rating of the modules"
			value={solar.peak_kw}
			digits={1}
			commit={(v) => (v == null ? without() : put('peak_kw', 'Rating of the modules')(v))}
		/>
		<Asked
			ask="Looks towards, °"
			label="Bearing of the modules"
			value={solar.bearing_deg ?? usual.solar.bearing_deg}
			digits={0}
			commit={(v) => put('bearing_deg', 'Bearing of the modules')(v ?? usual.solar.bearing_deg)}
		/>
		<Asked
			ask="Slope, °"
			label="Slope of the modules"
			value={solar.tilt_deg ?? usual.solar.tilt_deg}
			digits={0}
			commit={(v) => put('tilt_deg', 'Slope of the modules')(v ?? usual.solar.tilt_deg)}
		/>
		<Asked
			ask="Shaded, %"
			label="Shade on the modules"
			value={solar.shaded ?? usual.solar.shaded}
			times={100}
			digits={0}
			commit={(v) => put('shaded', 'Shade on the modules')(v ?? usual.solar.shaded)}
		/>
		<Asked
			ask="Household, kWh a year"
			label="What the household draws"
			value={solar.household_kwh ?? usual.solar.household_kwh}
			digits={0}
			commit={(v) => put('household_kwh', 'What the household draws')(v ?? usual.solar.household_kwh)}
		/>
		<Asked
			ask={`Paid for export, ${minor}/kWh`}
			label="Paid for export"
			value={solar.export_minor ?? usual.solar.export_minor}
			digits={1}
			commit={(v) => put('export_minor', 'Paid for export')(v ?? usual.solar.export_minor)}
		/>
		<Tick
			ask="What is left heats the store"
			value={solar.diverter ?? false}
			commit={put('diverter', 'What is left heats the store')}
		/>
	</div>
	<p class="mt-1">
		{#if runs.sun}They make about <strong>{num(runs.sun.made_kwh)} kWh</strong> a year; the household takes {num(
				runs.sun.household_kwh
			)}, {row ? `${row.label} ${num(row.own_sun_kwh)}` : ''}.{/if}
		<button class="btn btn-quiet" onclick={without}>there are none</button>
	</p>
	<p class="note">
		The sun of this climate's year on that slope; household by a usual day. What heat takes of it is worth what its
		export would pay. No battery is reckoned.
	</p>
{/if}

{#if !collectors}
	<p class="mt-1"><button class="btn btn-outline" onclick={beginCollectors}>Collectors heat the store</button></p>
{:else}
	<div class="mt-2 grid grid-cols-[repeat(auto-fill,minmax(130px,1fr))] items-end gap-x-3 gap-y-2.5">
		<Asked
			ask={`Collectors, ${unitName('m²')}`}
			label="Area of the collectors"
			value={collectors.area_m2}
			unit="m²"
			inHead
			digits={1}
			commit={(v) =>
				v == null
					? session.edit('No collectors', (d) => d.remove('/site/collectors'))
					: collector('area_m2', 'Area of the collectors')(v)}
		/>
		<Asked
			ask="Looks towards, °"
			label="Bearing of the collectors"
			value={collectors.bearing_deg ?? usual.collectors.bearing_deg}
			digits={0}
			commit={(v) => collector('bearing_deg', 'Bearing of the collectors')(v ?? usual.collectors.bearing_deg)}
		/>
		<Asked
			ask="Slope, °"
			label="Slope of the collectors"
			value={collectors.tilt_deg ?? usual.collectors.tilt_deg}
			digits={0}
			commit={(v) => collector('tilt_deg', 'Slope of the collectors')(v ?? usual.collectors.tilt_deg)}
		/>
		<Asked
			ask="Of the sun, %"
			label="Efficiency of the collectors"
			value={collectors.efficiency ?? usual.collectors.efficiency}
			times={100}
			digits={0}
			commit={(v) => collector('efficiency', 'Efficiency of the collectors')(v ?? usual.collectors.efficiency)}
		/>
	</div>
	<p class="note">They make hot water only, every day at most what it asks.</p>
{/if}
