<script lang="ts">
	import { api, type PracticeFound, type Refusal } from '$lib/api/client';
	import PracticeDays from '$lib/charts/PracticeDays.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { num } from '$lib/parts/format';
	import Head from '$lib/parts/Head.svelte';
	import { fig, inUnits, unitName } from '$lib/parts/units';
	import Deeds, { type Deed } from '$lib/practice/Deeds.svelte';
	import Result from '$lib/practice/Result.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const path = { job_id: frame.session.id };
	const list = new Slow(() => api.GET('/api/jobs/{job_id}/practice', { params: { path } }));
	let level = $state<'easy' | 'usual' | 'hard'>('usual');
	let attempt = $state<string | null>(null);
	let found = $state.raw<PracticeFound | null>(null);
	let refused = $state('');
	let busy = $state(false);
	let room = $state<string | null>(null);
	$effect(() => list.ask());
	const names = $derived(Object.fromEntries((session.shown?.rooms ?? []).map((r) => [r.id, r.label])));
	const targets = $derived(Object.fromEntries((session.shown?.rooms ?? []).map((r) => [r.id, r.target_c])));
	const LEVELS = [
		{ value: 'easy', label: 'one fault, four visits, 14 days' },
		{ value: 'usual', label: 'two faults, three visits, ten days' },
		{ value: 'hard', label: 'three faults, three visits, eight days' }
	];
	type Said = { data?: { id: string; practice: PracticeFound }; error?: unknown };
	async function said(answer: Promise<Said>): Promise<void> {
		busy = true;
		try {
			const { data, error } = await answer;
			refused = data ? '' : ((error as Refusal | undefined)?.message ?? 'No answer.');
			if (data) {
				attempt = data.id;
				found = inUnits(data.practice);
			}
		} catch {
			refused = 'No line just now; what was done before is kept.';
		}
		busy = false;
		list.ask();
	}
	/** A house nothing heats by a machine cannot be run. */
	const lacking = $derived(!session.job?.schemes?.[session.scheme ?? '']?.chosen);
	const begin = (): void => void said(api.POST('/api/jobs/{job_id}/practice', { params: { path }, body: { level } }));
	const open = (id: string): void =>
		void said(api.GET('/api/jobs/{job_id}/practice/{attempt}', { params: { path: { ...path, attempt: id } } }));
	const act = (deed: Deed): void =>
		void said(
			api.POST('/api/jobs/{job_id}/practice/{attempt}', {
				params: { path: { ...path, attempt: attempt! } },
				body: { key: '', place: '', days: 0, cold_c: 0, mild_c: 0, ...deed }
			})
		);
	const readings = $derived(found?.score?.winter ?? found?.readings ?? null);
	const rooms = $derived(
		Object.entries(readings?.rooms ?? {}).map(([id, air]) => ({
			id,
			label: names[id] ?? id,
			target: targets[id],
			low: Math.min(...air),
			mean: air.reduce((a, b) => a + b, 0) / Math.max(air.length, 1)
		}))
	);
	const METERS: Record<string, [string, string, number]> = {
		heat_kwh: ['Heat', 'kWh', 1],
		store_kwh: ['of it into the store', 'kWh', 1],
		electric_kwh: ['Electricity', 'kWh', 1],
		cop: ['COP', '', 2],
		starts: ['Starts', '', 0]
	};
</script>

<Head title="Practice" screen="practice" sentence={found?.sentence}>
	{#if found}<button class="btn btn-outline" onclick={() => ((found = null), (attempt = null))}
			>Back to the attempts</button
		>{/if}
</Head>
<p class="mb-3 rounded-md px-3 py-1.5 hatch-doubt">
	<b>Simulated.</b> This is the house of this job as a twin, with something wrong in it; nothing here touches the job or a
	plant.
</p>

{#if refused}<p class="py-2 text-doubt" role="alert">{refused}</p>{/if}
{#if !found}
	<div class="flex flex-wrap items-end gap-3">
		<label class="w-80 text-small text-muted"
			>How hard<Choice
				label="How hard"
				value={level}
				options={LEVELS}
				commit={(v) => (level = (v ?? 'usual') as typeof level)}
			/></label
		>
		<button class="btn btn-neutral" disabled={busy || lacking} onclick={begin}>Begin</button>
		{#if busy}<span class="note" role="status">The house is being run in.</span>{/if}
	</div>
	{#if list.found?.attempts.length}
		<h2 class="mt-4">Attempts at this house</h2>
		<table class="table table-figures">
			<thead
				><tr
					><th>When</th><th>How hard</th><th class="text-right">Done</th><th class="text-right">Found</th><th
						class="text-right">Score</th
					><th></th></tr
				></thead
			>
			<tbody
				>{#each list.found.attempts as a (a.id)}<tr
						><td>{new Date(a.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}</td><td
							>{a.level}</td
						><td class="text-right">{a.deeds}</td><td class="text-right"
							>{a.found === null ? '–' : `${a.found} of ${a.of}`}</td
						><td class="text-right"><b>{a.total ?? '–'}</b></td><td
							><button class="btn btn-quiet" onclick={() => open(a.id)}
								>{a.total === null ? 'go on' : 'look again'}<span class="sr-only">
									with the attempt of {a.at}</span
								></button
							></td
						></tr
					>{/each}</tbody
			>
		</table>
	{/if}
{:else}
	{#if found.score}<Result score={found.score} />{/if}
	<div
		class="grid grid-cols-[minmax(0,1fr)_300px] gap-6.5 narrow:grid-cols-[1fr]"
		class:mt-4={found.score}
		aria-busy={busy}
		class:opacity-60={busy}
	>
		<div>
			<h2>{found.score ? 'The month after the last visit' : 'Since the visit before'}</h2>
			{#if readings}<PracticeDays {readings} {room} name={(id) => names[id] ?? id} />{/if}
			{#if !found.score}
				<h2 class="mt-3">Clip probes, with the machine running</h2>
				<table class="table table-figures">
					<thead
						><tr
							><th>Emitter</th><th class="text-right">Flow, {unitName('°C')}</th><th class="text-right"
								>Return, {unitName('°C')}</th
							><th class="text-right">Return expected, {unitName('°C')}</th></tr
						></thead
					>
					<tbody
						>{#each found.emitters as e (e.id)}<tr
								><td>{e.room}<span class="ms-2 note">{e.label}</span></td><td class="text-right"
									>{fig(e.flow_c, '°C', 1)}</td
								><td class="text-right">{fig(e.return_c, '°C', 1)}</td><td class="text-right text-muted"
									>{fig(e.flow_c - e.expected_k, '°C', 1)}</td
								></tr
							>{/each}</tbody
					>
				</table>
			{/if}
		</div>
		<div class="grid content-start gap-3">
			{#if !found.over}<Deeds {found} {busy} {act} />{/if}
			<section>
				<h2>Rooms</h2>
				<ul class="grid">
					{#each rooms as r (r.id)}<li>
							<button
								class="grid min-h-8 w-full grid-cols-[1fr_auto] items-baseline gap-2 text-left tabular-nums"
								class:font-bold={room === r.id}
								aria-pressed={room === r.id}
								onclick={() => (room = room === r.id ? null : r.id)}
								><span class="underline decoration-dotted underline-offset-4">{r.label}</span><span
									>{fig(r.mean, '°C', 1)}<span class="ms-2 note"
										>low {fig(r.low, '°C', 1)}, asks {fig(r.target, '°C')}</span
									></span
								></button
							>
						</li>{/each}
				</ul>
			</section>
			{#if !found.score}<section>
					<h2>Meters</h2>
					<dl class="grid grid-cols-[1fr_auto] gap-x-3 tabular-nums">
						{#each Object.entries(METERS) as [key, [label, unit, digits]] (key)}<dt>{label}</dt>
							<dd class="text-right">{num(found.meters[key], digits)} {unit}</dd>{/each}
					</dl>
				</section>{/if}
			{#if found.score && found.log.length}<section>
					<h2>What was done</h2>
					<ol class="list-decimal ps-5 text-small">
						{#each found.log as one, n (n)}<li>{one}</li>{/each}
					</ol>
				</section>{/if}
		</div>
	</div>
{/if}
