<script lang="ts">
	import { api } from '$lib/api/client';
	import TwinWeek from '$lib/charts/TwinWeek.svelte';
	import RoomControl from '$lib/curve/RoomControl.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import { money, num } from '$lib/parts/format';
	import Head from '$lib/parts/Head.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	import { amount, difference, fig, unitName } from '$lib/parts/units';
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	type When = 'cold' | 'mild' | 'sunny';
	let when = $state<When>('cold');
	let way = $state('now');
	let room = $state<string | null>(null);
	const params = { path: { job_id: frame.session.id } };
	const year = new Slow(() => api.GET('/api/jobs/{job_id}/twin', { params }));
	const advised = new Slow(() => api.GET('/api/jobs/{job_id}/room-control', { params }));
	const advice = $derived(advised.found?.room_control);
	const days = new Slow(() =>
		api.GET('/api/jobs/{job_id}/twin/week', { params: { ...params, query: { week: when, way } } })
	);
	const found = $derived(year.found?.twin);
	const week = $derived(days.found?.week.week);
	const lacks = $derived(days.found?.week.lacks);
	$effect(() => {
		void [when, way];
		if (session.settled) days.ask();
	});
	$effect(() => {
		if (!session.settled) return;
		year.ask();
		advised.ask();
	});
	const WEEKS: { value: When; label: string }[] = [
		{ value: 'cold', label: 'The coldest week' },
		{ value: 'mild', label: 'A mild week' },
		{ value: 'sunny', label: 'A sunny week' }
	];
	const HEAVY = ['very light', 'light', 'medium', 'heavy', 'very heavy'].map((value) => ({ value, label: value }));
	const rooms = $derived(
		(week?.rooms ?? [])
			.map((r) => ({ ...r, low: Math.min(...r.room_c), high: Math.max(...r.room_c) }))
			.sort((a, b) => b.high - b.target_c - (a.high - a.target_c))
	);
	const signed = (value: number, text: string): string =>
		Math.abs(value) < 0.5 ? '–' : value < 0 ? `−${text}` : `+${text}`;
</script>

<Head title="The house, run" screen="twin" sentence={found?.lacks ? undefined : found?.sentence} />

{#if lacks}
	<p class="px-0 py-15 text-lead">{lacks} <a href={`/job/${session.id}/machine`}>To the machine</a></p>
{:else}
	<div class="grid grid-cols-[minmax(0,1fr)_300px] gap-6.5 narrow:grid-cols-[1fr]">
		<div>
			<div class="mb-1 flex flex-wrap items-end gap-x-4 gap-y-2">
				<label class="w-48 text-small text-muted"
					>Which week<Choice
						label="Which week"
						value={when}
						options={WEEKS}
						commit={(v) => (when = (v ?? 'cold') as When)}
					/></label
				>
				<label class="w-72 text-small text-muted"
					>Run how<Choice
						label="Run how"
						value={way}
						options={(found?.rows ?? [{ key: 'now', label: 'As it is set' }]).map((r) => ({
							value: r.key,
							label: r.label
						}))}
						commit={(v) => (way = v ?? 'now')}
					/></label
				>
			</div>
			{#if week}
				<div aria-busy={days.busy} class:opacity-60={days.busy}>
					<p class="max-w-[86ch]"><Sentence text={week.sentence} /></p>
					<TwinWeek {week} bind:room />
				</div>
			{:else}<p class="note" aria-busy="true">{days.refused ?? 'The week is being run.'}</p>{/if}
		</div>
		<section class="grid content-start gap-2">
			<h2>Its rooms</h2>
			<ul class="grid gap-0.5">
				{#each rooms as r (r.id)}<li>
						<button
							class="grid min-h-8 w-full grid-cols-[1fr_auto] items-baseline gap-2 text-left tabular-nums"
							class:font-bold={room === r.id}
							aria-pressed={room === r.id}
							onclick={() => (room = room === r.id ? null : r.id)}
							><span class="underline decoration-dotted underline-offset-4">{r.label}</span><span
								>{fig(r.low, '°C', 1)} to {amount(r.high, '°C', 1)}<span class="ms-2 note"
									>asks {fig(r.target_c, '°C')}</span
								></span
							></button
						>
					</li>{/each}
			</ul>
			<label class="text-small text-muted"
				>How heavy the house is<Choice
					label="How heavy the house is"
					value={session.job?.survey?.heaviness}
					empty="nobody says: medium"
					options={HEAVY}
					commit={(v) => void session.edit('How heavy the house is', (d) => d.put('/survey/heaviness', v))}
				/></label
			>
			{#if found?.assumed.length}<Fold title="Reckoned with"
					><ul class="grid gap-1 text-small text-muted">
						{#each found.assumed as one (one)}<li>{one}</li>{/each}
					</ul></Fold
				>{/if}
		</section>
	</div>
	<h2 class="mt-4">A year, run in every way people argue about</h2>
	{#if found && !found.lacks}
		<div class="overflow-x-auto" aria-busy={year.busy} class:opacity-60={year.busy}>
			<table class="table table-figures">
				<thead
					><tr
						><th>Way</th><th class="text-right">Heat, kWh</th><th class="text-right">Electricity, kWh</th><th
							class="text-right">Beside now</th
						><th class="text-right">Costs</th><th class="text-right">Performance</th><th class="text-right"
							>Starts a day</th
						><th class="text-right">Short, room hours</th><th class="text-right">Warm, room hours</th><th
							>So, in this house</th
						></tr
					></thead
				>
				<tbody
					>{#each found.rows as r (r.key)}<tr class:font-semibold={r.key === 'now'}
							><td
								><button
									class="text-left underline decoration-muted decoration-dotted underline-offset-4"
									onclick={() => (way = r.key)}>{r.label}</button
								><span class="block text-small font-normal text-muted">{r.what}</span></td
							><td class="text-right">{num(r.heat_kwh)}</td><td class="text-right"
								>{num(r.electricity_kwh)}{#if r.fuel_kwh}<span class="block text-small font-normal text-muted"
										>and {num(r.fuel_kwh)} of fuel</span
									>{/if}</td
							><td class="text-right">{signed(r.more_kwh, `${num(Math.abs(r.more_kwh))}`)}</td><td class="text-right"
								>{r.key === 'now'
									? money(r.cost_minor, currency)
									: signed(r.more_minor / 100, money(Math.abs(r.more_minor), currency))}</td
							><td class="text-right">{num(r.performance, 2)}</td><td class="text-right">{num(r.starts_a_day, 1)}</td
							><td class="text-right">{num(r.short_h)}</td><td class="text-right">{num(r.warm_h)}</td><td
								class="max-w-[34ch] text-small font-normal">{r.says[0]?.toUpperCase()}{r.says.slice(1)}.</td
							></tr
						>{/each}</tbody
				>
			</table>
		</div>
		<p class="note">
			Room hours: every hour between six and ten in the evening on {found.heating_days} heating days, of every room that lies
			more than {num(difference((session.shown?.curve.tolerance_k ?? 0.3) + 0.2, 'K'), 1)}
			{unitName('K')} below or {num(difference(session.shown?.curve.warm_k ?? 1.5, 'K'), 1)}
			{unitName('K')} above what it asks for. A way that leaves rooms cooler saves for that reason too.
		</p>
	{:else}<p class="note" aria-busy={year.busy}>{found?.lacks || (year.refused ?? 'Nine years are being run.')}</p>{/if}
	<div class="mt-5 mb-1 flex flex-wrap items-center gap-4">
		<h2>The room controller: what to set, and why</h2>
		{#if advice && !advice.lacks}<a class="btn ms-auto btn-outline" href={`/job/${session.id}/report?kind=occupant`}
				>Page for those who live here</a
			>{/if}
	</div>
	{#if advice && !advice.lacks}<RoomControl found={advice} busy={advised.busy} />
	{:else}<p class="note" aria-busy={advised.busy}>
			{advice?.lacks || (advised.refused ?? 'Absences are being run.')}
		</p>{/if}
{/if}
