<script lang="ts">
	import { followed } from '$lib/job/followed';
	import { api, type CorrectionFound } from '$lib/api/client';
	import Curve from '$lib/charts/Curve.svelte';
	import type { Spot } from '$lib/charts/curve';
	import LookForm from '$lib/correct/LookForm.svelte';
	import ReadingsFile from '$lib/correct/ReadingsFile.svelte';
	import SeenRooms from '$lib/correct/SeenRooms.svelte';
	import { writeStep } from '$lib/correct/step';
	import Moved from '$lib/curve/Moved.svelte';
	import { type Draft } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { day, num } from '$lib/parts/format';
	import Head from '$lib/parts/Head.svelte';
	import Tabs from '$lib/parts/Tabs.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const curve = $derived(design?.curve);
	const names = $derived(Object.fromEntries((design?.rooms ?? []).map((r) => [r.id, r.label])));
	const base = $derived(`/schemes/${session.scheme}/control`);
	const params = { path: { job_id: frame.session.id } };
	const desk = new Slow(() => api.GET('/api/jobs/{job_id}/correction', { params }));
	const moved = new Slow(() => api.GET('/api/jobs/{job_id}/controllers', { params }));
	const sources = new Slow(() => api.GET('/api/jobs/{job_id}/readings', { params }));
	const plant = new Slow(() => api.GET('/api/jobs/{job_id}/watched', { params }));
	const found = $derived(desk.found?.correction);
	const shifts = $derived(moved.found?.controllers);
	let heardAt = 0;
	$effect(() => {
		if (!session.settled) return;
		desk.ask();
		sources.ask();
		plant.ask();
	});
	$effect(() => {
		// readings of a plant come one after the other: the desk looks again now and then
		if (!session.heardPlant || Date.now() - heardAt < 10000) return;
		heardAt = Date.now();
		desk.ask();
		sources.ask();
		plant.ask();
	});
	type View = 'rooms' | 'look' | 'readings' | 'history' | 'cost';
	let view = $state<View>('look');
	const VIEWS: { key: View; label: string }[] = [
		{ key: 'look', label: 'Note a look' },
		{ key: 'readings', label: 'Readings' },
		{ key: 'rooms', label: 'Rooms as seen' },
		{ key: 'history', label: 'What was changed' },
		{ key: 'cost', label: 'What warmer water costs' }
	];
	$effect(() => {
		if (view === 'cost' && session.settled) moved.ask();
	});
	let spot = $state<Spot | null>(null);
	let why = $state('');
	const observations = $derived(
		Object.entries(session.job?.fire_up?.observations ?? {}).sort((a, b) => b[1].at.localeCompare(a[1].at))
	);
	const history = $derived(
		Object.entries(session.job?.fire_up?.corrections ?? {}).sort((a, b) => b[1].at.localeCompare(a[1].at))
	);
	/** Until when the house is left alone after the last change. */
	const again = $derived.by(() => {
		const last = history[0]?.[1].at;
		if (!last || !found) return null;
		const until = new Date(new Date(last).getTime() + found.wait_days * 864e5);
		return until > new Date() ? until.toISOString() : null;
	});
	type Move = NonNullable<CorrectionFound['step']>;
	const write = (d: Draft, move: Move, verdict: string, reason: string): void =>
		writeStep(d, { dial: curve?.dial ?? [], base, by: session.person }, move, verdict, reason);
	async function step(move: Move, verdict: string): Promise<void> {
		const reason = [move.says, ...(verdict === found?.label ? (found?.reasons ?? []) : []), why]
			.filter(Boolean)
			.join(' ');
		await session.edit(`Line corrected: ${verdict.toLowerCase()}`, (d) => write(d, move, verdict, reason));
		why = '';
		view = 'history';
	}
	const back = (one: (typeof history)[number][1]): void =>
		void session.edit('Line as it was before', (d) =>
			write(
				d,
				{
					...one,
					cold_before_c: curve?.cold_flow_c ?? one.cold_after_c,
					mild_before_c: curve?.mild_flow_c ?? one.mild_after_c,
					cold_after_c: one.cold_before_c,
					mild_after_c: one.mild_before_c,
					says: ''
				},
				'As it was before',
				`Taken back: ${(one.verdict ?? '').toLowerCase()} of ${day(one.at)}.`
			)
		);
	const START = [
		{ value: 'design', label: 'at the designed line' },
		{ value: 'low', label: 'cooler, then raised' }
	];
	const percent = (share: number): string => `${num(share * 100)} %`;
</script>

<Head title="Correction desk" screen="correction" sentence={found?.sentence}>
	<a class="btn btn-outline" href={`/job/${session.id}/curve`}>Curve desk</a>
</Head>

{#if design && curve?.cold_flow_c != null}
	<div class="grid grid-cols-[minmax(0,1fr)_340px] gap-6.5 narrow:grid-cols-[1fr]">
		<div>
			<Curve
				{curve}
				{names}
				movable={false}
				seen={found?.points ?? []}
				bind:spot
				onmove={() => undefined}
				onset={() => undefined}
			/>
		</div>
		<section class="grid content-start gap-2" aria-busy={desk.busy} class:opacity-60={desk.busy && !!found}>
			{#if found}
				<h2>{found.label}</h2>
				{#if found.begin}
					<p>{found.begin.says}</p>
					<button class="btn btn-neutral" onclick={() => void step(found.begin!, 'Started low')}>Begin there</button>
				{/if}
				{#if found.step}
					<dl class="rounded-md border border-hairline bg-sheet px-3.5 py-2">
						{#each [{ out: found.step.cold_out_c, was: found.step.cold_before_c, is: found.step.cold_after_c }, { out: found.step.mild_out_c, was: found.step.mild_before_c, is: found.step.mild_after_c }] as end (end.out)}
							<div class="grid min-h-9 grid-cols-[1fr_auto] items-baseline gap-2">
								<dt>at {amount(end.out, '°C')} outside</dt>
								<dd class="tabular-nums">
									{#if end.was !== end.is}<span class="me-2 note">{fig(end.was, '°C')} →</span>
									{/if}<b class="figure text-[22px]">{fig(end.is, '°C')}<span class="unit">{unitName('°C')}</span></b>
								</dd>
							</div>
						{/each}
					</dl>
					<label class="text-small text-muted"
						>Anything to add to why<TextField
							label="Anything to add to why"
							value={why}
							commit={(v) => void (why = v)}
						/></label
					>
					<button class="btn btn-neutral" onclick={() => void step(found.step!, found.label)}>Take this step</button>
					<p class="note">{found.wait}</p>
				{/if}
				{#if again}<p class="rounded-md px-3 py-2 hatch-doubt">
						Changed {day(history[0]![1].at)}: leave it until {day(again)}, then look again.
					</p>{/if}
				{#if found.test}<p><b>The one cheap test:</b> {found.test}</p>{/if}
				{#if found.reasons.length}
					<h3 class="font-semibold">Why</h3>
					<ul class="grid gap-1 text-small">
						{#each found.reasons as one (one)}<li>{one}</li>{/each}
					</ul>
				{/if}
				{#if found.chances.length}
					<h3 class="font-semibold">How likely</h3>
					<ul class="grid gap-1 text-small">
						{#each found.chances as one (one.key)}<li class="grid grid-cols-[1fr_90px_3.2em] items-center gap-2">
								<span>{one.label}</span><span class="h-2.5 bg-ash"
									><i class="block h-full bg-ink" style={`width:${one.chance * 100}%`}></i></span
								><span class="text-right tabular-nums">{percent(one.chance)}</span>
							</li>{/each}
					</ul>
				{/if}
				{#each found.beside as one (one)}<p class="note">{one}</p>{/each}
				{#if !found.wait && found.constant_h}<p class="note">
						This house answers with a time constant of {num(found.constant_h)} h: after a step it is left alone for a day
						to three.
					</p>{/if}
			{:else}<p class="note" aria-busy="true">{desk.refused ?? 'What was seen is being weighed.'}</p>{/if}
			<label class="text-small text-muted"
				>Where a line begins<Choice
					label="Where a line begins"
					value={followed(session.job?.practice).curve_start}
					options={START}
					commit={(v) => void session.edit('Practice: start of the curve', (d) => d.set('/practice/curve_start', v))}
				/></label
			>
		</section>
	</div>
	<div class="mt-3.5">
		<Tabs label="At the desk" tabs={VIEWS} shown={view} take={(key) => (view = key)} />
		{#if view === 'rooms'}
			{#if found?.rooms.length}<SeenRooms {found} />{:else}<p class="note">Nobody looked yet.</p>{/if}
		{:else if view === 'look'}
			<LookForm live={plant.found ?? null} />
			{#if observations.length}
				<h3 class="mt-3 font-semibold">Looks by hand</h3>
				<table class="table table-figures">
					<thead
						><tr
							><th>When</th><th class="text-right">Outside, {unitName('°C')}</th><th class="text-right"
								>Flow, {unitName('°C')}</th
							><th class="text-right">Return, {unitName('°C')}</th><th class="text-right">Rooms</th><th>Sun</th><th
								>Who, note</th
							><th></th></tr
						></thead
					>
					<tbody
						>{#each observations as [id, one] (id)}<tr
								><td>{new Date(one.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}</td><td
									class="text-right">{fig(one.outdoor_c, '°C', 1)}</td
								><td class="text-right">{fig(one.flow_c, '°C', 1)}</td><td class="text-right"
									>{fig(one.return_c, '°C', 1)}</td
								><td class="text-right">{Object.keys(one.rooms ?? {}).length}</td><td
									>{one.bright == null ? '–' : one.bright ? 'bright' : 'dull'}</td
								><td>{[one.by, one.note].filter(Boolean).join(': ')}</td><td
									><button
										class="btn btn-quiet"
										aria-label={`Take out the look of ${one.at}`}
										onclick={() =>
											void session.edit('A look taken out', (d) => d.remove(`/fire_up/observations/${id}`))}
										>take out</button
									></td
								></tr
							>{/each}</tbody
					>
				</table>
			{/if}
		{:else if view === 'readings'}
			<ReadingsFile
				sources={sources.found?.sources ?? []}
				changed={() => {
					sources.ask();
					desk.ask();
				}}
			/>
		{:else if view === 'cost'}
			{#if shifts && !shifts.lacks}<Moved found={shifts} />{:else}<p class="note" aria-busy={moved.busy}>
					{shifts?.lacks || (moved.refused ?? 'Being worked out.')}
				</p>{/if}
		{:else if history.length}
			<table class="table table-figures">
				<thead
					><tr
						><th>When</th><th>Who</th><th>What</th><th class="text-right">Cold end, {unitName('°C')}</th><th
							class="text-right">Mild end, {unitName('°C')}</th
						><th>Why</th><th></th></tr
					></thead
				>
				<tbody
					>{#each history as [id, one], n (id)}<tr
							><td class="whitespace-nowrap"
								>{new Date(one.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}</td
							><td>{one.by}</td><td>{one.verdict}</td><td class="text-right whitespace-nowrap"
								>{fig(one.cold_before_c, '°C')} → {fig(one.cold_after_c, '°C')}</td
							><td class="text-right whitespace-nowrap"
								>{fig(one.mild_before_c, '°C')} → {fig(one.mild_after_c, '°C')}</td
							><td class="max-w-[56ch] text-small">{one.why}</td><td
								>{#if n === 0}<button class="btn btn-quiet" onclick={() => back(one)}>take back</button>{/if}</td
							></tr
						>{/each}</tbody
				>
			</table>
		{:else}<p class="note">The line stands as it was dialled in. {found?.school ?? ''}</p>{/if}
	</div>
{:else}
	<p class="px-0 py-15 text-lead">
		A line to correct needs rooms with a loss and emitters, and a climate. <a href={`/job/${session.id}/curve`}
			>To the curve desk</a
		>
	</p>
{/if}
