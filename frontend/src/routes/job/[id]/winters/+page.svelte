<script lang="ts">
	import { page } from '$app/state';
	import { untrack } from 'svelte';
	import { api, type CorrectionFound } from '$lib/api/client';
	import PromiseChart from '$lib/charts/Promise.svelte';
	import Winter from '$lib/charts/Winter.svelte';
	import ReadingsFile from '$lib/correct/ReadingsFile.svelte';
	import { writeStep } from '$lib/correct/step';
	import HandReadings from '$lib/winters/HandReadings.svelte';
	import Learned from '$lib/winters/Learned.svelte';
	import FirstWeek from '$lib/winters/FirstWeek.svelte';
	import Lessons from '$lib/winters/Lessons.svelte';
	import MachineGave from '$lib/winters/MachineGave.svelte';
	import Trace from '$lib/winters/Trace.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { day, money, num } from '$lib/parts/format';
	import Head from '$lib/parts/Head.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	import Tabs from '$lib/parts/Tabs.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const job_id = frame.session.id;
	const sources = new Slow(() => api.GET('/api/jobs/{job_id}/readings', { params: { path: { job_id } } }));
	const rows = $derived((sources.found?.sources ?? []).filter((s) => s.count > (s.kind === 'hand' ? 5 : 0)));
	let picked = $state('');
	const source = $derived(rows.find((s) => s.id === picked) ?? rows[0]);
	const params = () => ({ params: { path: { job_id, source: source!.id } } });
	const asked = new Slow(() => api.GET('/api/jobs/{job_id}/winters/{source}', params()));
	const held = new Slow(() => api.GET('/api/jobs/{job_id}/winters/{source}/kept', params()));
	const line = new Slow(() => api.GET('/api/jobs/{job_id}/winters/{source}/curve', params()));
	const found = $derived(asked.found?.winter);
	const kept = $derived(held.found?.kept);
	const correction = $derived(line.found?.correction);
	$effect(() => {
		if (session.settled) sources.ask();
	});
	let shownFor = '';
	$effect(() => {
		if (!session.settled || !source) return;
		if (shownFor && shownFor !== source.id) asked.found = held.found = line.found = null;
		shownFor = source.id;
		asked.ask();
		held.ask();
		line.ask();
	});
	type View = 'house' | 'machine' | 'promise' | 'ours' | 'trace' | 'readings';
	const VIEW_KEYS: View[] = ['house', 'machine', 'promise', 'ours', 'trace', 'readings'];
	const wanted = untrack(() => page.url.searchParams.get('view'));
	let view = $state<View>(VIEW_KEYS.find((key) => key === wanted) ?? 'house');
	const VIEWS: { key: View; label: string }[] = [
		{ key: 'house', label: 'The house' },
		{ key: 'machine', label: 'The machine' },
		{ key: 'promise', label: 'The promise' },
		{ key: 'ours', label: 'Our winters' },
		{ key: 'trace', label: 'As it was read' },
		{ key: 'readings', label: 'Readings' }
	];
	const since = $derived(found?.advice[0]?.since ?? null);
	const base = $derived(`/schemes/${session.scheme}/control`);
	type Move = NonNullable<CorrectionFound['step']>;
	const take = (move: Move): void =>
		void session.edit(`Line corrected by the winter: ${correction!.label.toLowerCase()}`, (d) =>
			writeStep(
				d,
				{ dial: session.shown?.curve.dial ?? [], base, by: session.person },
				move,
				correction!.label,
				[move.says, ...correction!.reasons].join(' ')
			)
		);
</script>

<Head
	title="Winters"
	screen="winters"
	sentence={view === 'promise' ? kept?.sentence : view === 'ours' ? '' : found?.sentence}
>
	{#if rows.length > 1}<div class="w-72">
			<Choice
				label="Which readings"
				value={source?.id ?? ''}
				options={rows.map((s) => ({ value: s.id, label: s.label }))}
				commit={(v) => (picked = v ?? '')}
			/>
		</div>{/if}
</Head>
{#if found?.simulated && view !== 'ours'}<p class="mb-2 inline-block rounded-sm px-2.5 py-1 text-small hatch-doubt">
		Simulated readings: the twin told them, nobody read them.
	</p>{/if}

<Tabs shown={view} tabs={VIEWS} label="The winter" take={(key) => (view = key)} />
{#if view === 'readings'}
	<div class="grid grid-cols-2 gap-8 narrow:grid-cols-1">
		<section class="grid content-start gap-2">
			<h2>Readings</h2>
			<ReadingsFile sources={sources.found?.sources ?? []} changed={() => sources.ask()} />
		</section>
		<section class="grid content-start gap-2">
			<HandReadings sources={sources.found?.sources ?? []} changed={() => sources.ask()} />
		</section>
	</div>
{:else if view === 'ours'}<Lessons />
{:else if !source}
	<p class="max-w-[60ch] py-5 text-lead">
		{sources.found
			? 'No winter was read yet: bring a file of readings, read the plant live, or type what the meters stand at.'
			: ''}
		{#if sources.found}<button class="btn mt-2 btn-primary" onclick={() => (view = 'readings')}>Bring readings</button
			>{/if}
	</p>
{:else if view === 'trace'}<Trace {source} />
{:else if found}
	<div class:opacity-60={asked.busy} aria-busy={asked.busy}>
		{#if asked.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{asked.refused}</p>{/if}
		{#if view === 'house'}
			<div class="grid grid-cols-[minmax(0,1fr)_330px] gap-7 narrow:grid-cols-[1fr]">
				<div class="min-w-0">
					{#if found.points.length}<Winter {found} {since} />{/if}
					{#if found.signature_lacks}<p class="mt-1">{found.signature_lacks}</p>{/if}
					{#if found.signature}{@const s = found.signature}
						<div class="overflow-x-auto">
							<table class="table mt-2 table-figures">
								<thead
									><tr
										><th></th><th class="text-right">Measured</th><th class="text-right">P10 to P90</th><th
											class="text-right">Designed</th
										></tr
									></thead
								>
								<tbody>
									<tr
										><td>Loss for every kelvin, {unitName('W/K')}</td><td class="text-right font-semibold"
											>{fig(s.h_w_k.mid, 'W/K')}</td
										><td class="text-right">{fig(s.h_w_k.low, 'W/K')} to {fig(s.h_w_k.high, 'W/K')}</td><td
											class="text-right"
											>{s.design_h_w_k
												? `${fig(s.design_h_w_k.mid, 'W/K')} (${fig(s.design_h_w_k.low, 'W/K')} to ${fig(s.design_h_w_k.high, 'W/K')})`
												: '–'}</td
										></tr
									>
									<tr
										><td>Heated below, outside, {unitName('°C')}</td><td class="text-right font-semibold"
											>{fig(s.limit_c.mid, '°C', 1)}</td
										><td class="text-right">{fig(s.limit_c.low, '°C', 1)} to {fig(s.limit_c.high, '°C', 1)}</td><td
											class="text-right">{s.design_limit_c == null ? '–' : fig(s.design_limit_c, '°C', 1)}</td
										></tr
									>
									<tr
										><td>Base load, kWh a day</td><td class="text-right font-semibold">{num(s.base_kwh.mid, 1)}</td><td
											class="text-right">{num(s.base_kwh.low, 1)} to {num(s.base_kwh.high, 1)}</td
										><td class="text-right">–</td></tr
									>
									<tr
										><td>Rooms, mean, {unitName('°C')}</td><td class="text-right font-semibold"
											>{fig(s.inside_c, '°C', 1)}</td
										><td></td><td class="text-right">{fig(s.wanted_c, '°C', 1)}</td></tr
									>
								</tbody>
							</table>
						</div>
						<p class="note">{s.days} days, {s.left_out} left out.</p>{/if}
					{#each found.notes as note (note)}<p class="note">{note}</p>{/each}
					{#if found.proof}<section class="mt-4 grid gap-1"><FirstWeek proof={found.proof} /></section>{/if}
				</div>
				<section class="grid content-start gap-3">
					{#if found.advice.length}
						<h2>What changed</h2>
						{#each found.advice as a (a.key)}
							<div class="grid gap-0.5 border-l-6 border-l-short ps-3" data-advice={a.key}>
								<p><b>{a.label}</b>, since {day(a.since)} <span class="note">sure on {day(a.seen)}</span></p>
								<p>{a.change}.</p>
								<p class="note">It may be {a.why}.</p>
								<p>{a.first}</p>
							</div>
						{/each}
					{/if}
					<h2>The line</h2>
					{#if correction?.lacks}<p class="note">{correction.lacks}</p>
					{:else if correction}
						<Sentence text={correction.sentence} />
						{#if correction.step}{@const step = correction.step}
							<p>
								<button class="btn btn-primary" onclick={() => take(step)}
									>Take the step: {amount(step.cold_after_c, '°C')} cold, {amount(step.mild_after_c, '°C')} mild</button
								>
							</p>{/if}
						<p class="note">By its coldest five weeks. {correction.test}</p>
					{:else}<p class="note" aria-busy="true">{line.refused ?? 'The line is weighed.'}</p>{/if}
					<h2>What it says of the doubts</h2>
					<Learned {found} />
				</section>
			</div>
		{:else if view === 'machine'}
			{#if found.machine}<MachineGave found={found.machine} />
			{:else}<p class="max-w-[60ch] py-4 text-lead">
					Meters read now and then say what the house uses, not what the machine does hour by hour: bring in its log.
				</p>{/if}
		{:else if view === 'promise'}
			{#if kept?.lacks}<p class="py-4 text-lead">{kept.lacks}</p>
			{:else if kept?.promised}
				<div class="grid grid-cols-[minmax(0,1fr)_330px] gap-7 narrow:grid-cols-[1fr]">
					<div class="min-w-0"><PromiseChart found={kept} /></div>
					<section class="grid content-start gap-2">
						<h2>What moved it</h2>
						{#each kept.movers as m (m.key)}<p>
								<b>{m.label}</b>: {m.kwh > 0 ? '+' : ''}{num(m.kwh)} kWh <span class="note">{m.says}</span>
							</p>{/each}
						<p><b>Nobody can explain</b>: {num(kept.unexplained_kwh)} kWh</p>
						{#if kept.rooms.length}<h2 class="mt-2">Rooms, in the cold hours</h2>
							<table class="table table-figures">
								<thead
									><tr
										><th>Room</th><th class="text-right">Promised, {unitName('°C')}</th><th class="text-right"
											>Was, {unitName('°C')}</th
										></tr
									></thead
								>
								<tbody
									>{#each kept.rooms as r (r.label)}<tr
											><td>{r.label}</td><td class="text-right">{fig(r.promised_c, '°C', 1)}</td><td
												class="text-right font-semibold"
												>{#if r.short}<span class="rounded-sm px-1 hatch-short">short</span>{/if}
												{fig(r.cold_c, '°C', 1)}</td
											></tr
										>{/each}</tbody
								>
							</table>{/if}
						{#if kept.normal_year_kwh}<h2 class="mt-2">An ordinary year from here</h2>
							<p>
								{num(kept.normal_year_kwh.low)} to {num(kept.normal_year_kwh.high)} kWh of heat{kept.cost_normal_minor
									? `, ${money(kept.cost_normal_minor.low, currency)} to ${money(kept.cost_normal_minor.high, currency)} of electricity`
									: ''}.
							</p>{/if}
						<p class="note">
							{kept.days} days, {num(kept.of_year * 100)} % of an ordinary year's heat. Promised {held.found?.pack
								? `in pack ${held.found.pack}`
								: 'by the design as it stands: no pack was issued'}.
						</p>
						<a
							class="btn btn-outline"
							href={`/api/jobs/${session.id}/report?kind=promise`}
							target="_blank"
							rel="noopener">The promise as a page</a
						>
					</section>
				</div>
			{:else}<p class="note" aria-busy="true">{held.refused ?? 'The promise is held against it.'}</p>{/if}
		{/if}
	</div>
{:else}<p class="py-5">
		{#if asked.refused}{asked.refused}{:else}<span class="loading mr-2 loading-dots"></span>The winter is read.{/if}
	</p>{/if}
