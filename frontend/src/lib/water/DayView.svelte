<script lang="ts">
	import type { WaterDays } from '$lib/api/client';
	import DayStrip from '$lib/charts/DayStrip.svelte';
	import { clock } from '$lib/charts/dayStrip';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { num } from '$lib/parts/format';
	import { amount, difference, fig, unitName } from '$lib/parts/units';
	import OwnDraws from './OwnDraws.svelte';
	let { found }: { found: WaterDays } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	let which = $state<string>('design');
	const day = $derived(found.days.find((one) => one.key === which) ?? found.days[0]);
	const patterns = $derived(Object.values(shelf.all?.tapping ?? {}));
	const chosen = $derived(session.job?.survey?.household?.tapping ?? null);
	const own = $derived(Object.keys(session.job?.survey?.household?.draws ?? {}).length > 0);
	const short = $derived(day?.draws.filter((one) => one.short_min > 0) ?? []);
	const setPattern = (key: string | null) =>
		session.edit('Household, the day of its hot water', (d) => d.put('/survey/household/tapping', key));
	const options = $derived([
		...patterns.toSorted((a, b) => a.draws.length - b.draws.length).map((one) => ({ value: one.id, label: one.label })),
		...(own ? [{ value: 'own', label: "this household's own draws" }] : [])
	]);
</script>

<div class="mb-1 flex flex-wrap items-end gap-3">
	<label class="w-72 text-small text-muted"
		>The day<Choice
			label="The pattern of the day"
			value={chosen}
			empty={own ? 'its own draws' : 'by the people who live here'}
			{options}
			commit={(v) => void setPattern(v)}
		/></label
	>
	{#if found.days.length > 1}<label class="w-52 text-small text-muted"
			>Outside<Choice
				label="Which day outside"
				value={which}
				options={found.days.map((one) => ({
					value: one.key,
					label: `${one.label.toLowerCase()}, ${amount(one.outdoor_c, '°C', 0)}`
				}))}
				commit={(v) => (which = v ?? 'design')}
			/></label
		>{/if}
	{#if found.pattern}<p class="mb-1.5 note">{found.pattern_label}: {found.pattern_why}</p>{/if}
</div>
{#if day}
	<DayStrip {day} />
	<dl class="mt-1 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-x-4 gap-y-1">
		<div>
			<dt>Drawn</dt>
			<dd>{num(day.tapped_kwh, 1)} kWh</dd>
		</div>
		<div>
			<dt>Lost by the store</dt>
			<dd>{num(day.lost_kwh, 1)} kWh</dd>
		</div>
		<div>
			<dt>Electricity</dt>
			<dd>{num(day.electricity_kwh, 1)} kWh</dd>
		</div>
		{#if day.sun_kwh > 0}<div>
				<dt>From spare sun</dt>
				<dd>{num(day.sun_kwh, 1)} kWh</dd>
			</div>{/if}
		<div>
			<dt>COP of the charges</dt>
			<dd>{num(day.cop, 2)}</dd>
		</div>
		<div>
			<dt>House not heated</dt>
			<dd>{num(day.charging_min)} min</dd>
		</div>
		<div>
			<dt>At a stretch</dt>
			<dd>{num(day.longest_min)} min</dd>
		</div>
		<div>
			<dt>Rooms cool meanwhile by</dt>
			<dd>{day.room_drop_k == null ? '–' : `${num(difference(day.room_drop_k, 'K'), 1)} ${unitName('K')}`}</dd>
		</div>
		<div>
			<dt>Coolest at a tap</dt>
			<dd>{amount(day.coolest_c, '°C', 0)}</dd>
		</div>
	</dl>
	{#if short.length}
		<table class="table mt-2 table-figures">
			<thead
				><tr
					><th>Short</th><th class="text-right">Litres, {unitName('L')}</th><th class="text-right"
						>Wanted, {unitName('°C')}</th
					><th class="text-right">Falls to</th><th class="text-right">Too cool for, min</th></tr
				></thead
			>
			<tbody
				>{#each short as one, n (n)}<tr
						><td>{clock(one.minute)} {one.what}</td><td class="text-right">{fig(one.litres, 'L')}</td><td
							class="text-right">{fig(one.tap_c, '°C')}</td
						><td class="text-right"
							><span class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
								>{fig(one.least_c, '°C')}</span
							></td
						><td class="text-right">{num(one.short_min, 0)}</td></tr
					>{/each}</tbody
			>
		</table>
	{/if}
	{#each found.notes as note (note)}<p class="mt-1.5 max-w-[78ch]">{note}</p>{/each}
{/if}
<OwnDraws />

<style>
	dt {
		font-size: var(--small);
		color: var(--muted);
	}
	dd {
		font-weight: 600;
		font-variant-numeric: tabular-nums;
	}
</style>
