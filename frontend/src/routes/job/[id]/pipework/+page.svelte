<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import { api } from '$lib/api/client';
	import rules from '$lib/api/rules.json';
	import Stair from '$lib/charts/Stair.svelte';
	import { pipeSizes } from '$lib/parts/choices';
	import { type Draft, newId } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import FlowsView from '$lib/hydraulics/FlowsView.svelte';
	import FrostView from '$lib/hydraulics/FrostView.svelte';
	import SeparateView from '$lib/hydraulics/SeparateView.svelte';
	import HelpsView from '$lib/hydraulics/HelpsView.svelte';
	import RunsView from '$lib/hydraulics/RunsView.svelte';
	import TestsView from '$lib/hydraulics/TestsView.svelte';
	import VesselBlock from '$lib/hydraulics/VesselBlock.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Tabs from '$lib/parts/Tabs.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const work = $derived(design?.pipework);
	const volume = $derived(design?.volume);
	const sizes = $derived(session.job ? pipeSizes(session.job, shelf.all) : []);
	const scheme = $derived(session.scheme);
	const worst = $derived(work?.pipes.find((p) => p.id === work.worst_pipe));
	const served = $derived(new Set(work?.pipes.map((p) => p.emitter).filter(Boolean)));
	const unserved = $derived(
		(design?.rooms ?? []).flatMap((r) =>
			r.emitters
				.filter((e) => !served.has(e.id))
				.map((e) => ({ id: e.id, label: `${r.label}: ${e.label}`, added: e.action === 'add' }))
		)
	);
	const roots = $derived(work?.pipes.filter((p) => p.parent === null) ?? []);

	/** A run lies in the survey when found, in the scheme when it serves an emitter added there. */
	function write(d: Draft, run: Record<string, unknown>, inScheme: boolean): void {
		const id = newId();
		d.freeze('pipe_families', String(run.family));
		if (inScheme) d.set(`/schemes/${scheme}/pipes/${id}`, { action: 'add', run });
		else d.set(`/survey/pipes/${id}`, run);
	}
	function primaries(): void {
		void session.edit('Primaries added', (d) => write(d, { label: 'Primaries', pos: 0, ...rules.primaries }, false));
	}
	function runs(all: typeof unserved): void {
		const pos = work?.pipes.length ?? 0;
		void session.edit(all.length > 1 ? 'Runs to every emitter' : 'Run added', (d) =>
			all.forEach((e, n) =>
				write(
					d,
					{ label: `to ${e.label}`, pos: pos + n, parent: roots[0]?.id, emitter: e.id, ...rules.branch },
					e.added
				)
			)
		);
	}
	type View = 'runs' | 'tests' | 'flows' | 'helps' | 'two' | 'frost';
	let view = $state<View>('runs');
	const VIEWS: { key: View; label: string }[] = [
		{ key: 'runs', label: 'The runs' },
		{ key: 'flows', label: 'Who gets what' },
		{ key: 'tests', label: 'What tests say' },
		{ key: 'helps', label: 'The pump, and what helps' },
		{ key: 'two', label: 'One circuit or two' },
		{ key: 'frost', label: 'Frost' }
	];
	const path = { params: { path: { job_id: frame.session.id } } };
	const flows = new Slow(() => api.GET('/api/jobs/{job_id}/flows', path));
	const routes = new Slow(() => api.GET('/api/jobs/{job_id}/routes', path));
	const separating = new Slow(() => api.GET('/api/jobs/{job_id}/separating', path));
	const protecting = new Slow(() => api.GET('/api/jobs/{job_id}/protecting', path));
	const testing = new Slow(() => api.GET('/api/jobs/{job_id}/pipes-tested', path));
	const tested = $derived(testing.found?.tested);
	const found = $derived(flows.found?.flows);
	const plan = $derived(routes.found?.routes);
	const ways = $derived(separating.found?.separating);
	const guards = $derived(protecting.found?.protecting);
	/** What the view shown is waiting for, and what it says. */
	const asked = $derived(
		view === 'tests' ? testing : view === 'two' ? separating : view === 'frost' ? protecting : flows
	);
	const sentence = $derived(
		view === 'two'
			? ways?.sentence
			: view === 'frost'
				? guards?.sentence
				: view === 'runs'
					? undefined
					: view === 'tests'
						? tested?.sentence
						: found?.sentence
	);
	$effect(() => {
		if (!session.settled) return;
		if (view === 'runs') routes.ask();
		if (view === 'flows' || view === 'helps') flows.ask();
		if (view === 'two') separating.ask();
		if (view === 'tests') testing.ask();
		if (view === 'frost') protecting.ask();
	});
	const setVolumiser = (value: number | null): Promise<boolean> =>
		session.edit('Volumiser', (d) => d.put(`/schemes/${scheme}/separation/volumiser_l`, value));
</script>

<Head title="Pipework" screen="pipework" {sentence}>
	{#if !roots.length}<button class="btn btn-primary" onclick={primaries}>Add the primaries</button>
	{:else if unserved.length}<button class="btn btn-primary" onclick={() => runs(unserved)}
			>Add {unserved.length === 1 ? 'the run' : `${unserved.length} runs`} still missing</button
		>{/if}
</Head>

{#if work?.pipes.length}<Tabs label="What of the pipes" tabs={VIEWS} shown={view} take={(key) => (view = key)} />{/if}
{#if view === 'runs' || !work?.pipes.length}
	{#if !work?.pipes.length}<p class="max-w-[60ch] px-0 py-6 text-lead">
			No pipes yet. Begin with the primaries from the machine, then one run to each emitter, or let them be laid by rule
			over the plan. What cannot be seen is guessed: measure how far, assume the run.
		</p>{/if}
	{#if work && (work.pipes.length || (plan && !plan.lacks))}
		<RunsView pipes={work.pipes} {sizes} {plan} busy={routes.busy}>
			{#if work?.index_kpa != null}
				<Stair pipework={work} />
				<p class="mb-2 min-h-[1.4em]">
					{#if worst && work.worst_saving_kpa != null}The dearest piece is <strong>{worst.label}</strong>; {work.worst_next_size}
						in its place would take <strong>{amount(work.worst_saving_kpa, 'kPa', 1)}</strong> off.{/if}
				</p>
			{/if}
		</RunsView>
	{/if}

	{#if work?.pipes.length}<div class="below mt-5 grid grid-cols-[1fr_1fr] gap-6.5 narrow:grid-cols-[1fr]">
			<section class="grid content-start gap-1.5">
				<h2>Open water</h2>
				{#if volume}
					{@const most = Math.max((volume.open_l ?? 0) + volume.closed_l, volume.need_l ?? 0, 1)}
					<svg
						viewBox="0 0 400 34"
						role="img"
						aria-label={`${amount(volume.open_l, 'L')} open, ${amount(volume.closed_l, 'L')} behind closing valves, ${amount(volume.need_l, 'L')} wanted`}
					>
						<rect x="0" y="8" height="18" width={((volume.open_l ?? 0) / most) * 400} class="open" />
						<rect
							x={((volume.open_l ?? 0) / most) * 400}
							y="8"
							height="18"
							width={(volume.closed_l / most) * 400}
							class="closed"
						/>
						{#if volume.need_l}<line
								x1={(volume.need_l / most) * 400}
								x2={(volume.need_l / most) * 400}
								y1="2"
								y2="32"
								class="need"
							/>{/if}
					</svg>
					<p>
						<button
							class="underline decoration-dotted underline-offset-4"
							onclick={() => void frame.showWorking('open')}
							><strong>{amount(volume.open_l, 'L')}</strong> always open</button
						>, {amount(volume.closed_l, 'L')} behind closing valves; the machine wants
						<strong>{amount(volume.need_l, 'L')}</strong>.
					</p>
					<p class="note">
						Pipes {fig(volume.pipes_l, 'L')} · emitters {fig(volume.emitters_l, 'L')} · machine {fig(
							volume.machine_l,
							'L',
							1
						)} · volumiser {amount(volume.volumiser_l, 'L')}. Rule of thumb beside it: {amount(volume.rule_l, 'L')}.
					</p>
					{#if scheme}<label class="note"
							>Volumiser in the return <NumberField
								label="Volumiser in the return"
								value={session.job?.schemes?.[scheme]?.separation?.volumiser_l}
								digits={0}
								unit="L"
								width="6.5em"
								commit={setVolumiser}
							/></label
						>{/if}
				{/if}
				{#if design?.vessel}<VesselBlock vessel={design.vessel} />{/if}
			</section>
			<section class="grid content-start gap-1.5">
				<h2>Every circuit</h2>
				<table class="tight table table-figures">
					<thead
						><tr
							><th>Circuit</th><th class="text-right">Takes</th><th class="text-right">To drop at its lockshield</th
							></tr
						></thead
					>
					<tbody>
						{#each work?.circuits ?? [] as circuit, n (circuit.emitter)}
							<tr class:index={n === 0}
								><td>{circuit.label}{n === 0 ? ' · index' : ''}</td><td class="text-right"
									>{fig(circuit.loss_kpa, 'kPa', 1)}<span class="unit">{unitName('kPa')}</span></td
								><td class="text-right"
									>{fig(circuit.to_drop_kpa, 'kPa', 1)}<span class="unit">{unitName('kPa')}</span></td
								></tr
							>
						{/each}
					</tbody>
				</table>
			</section>
		</div>{/if}
{:else if asked.found}
	{#if asked.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{asked.refused}</p>{/if}
	<div class:opacity-60={asked.busy} aria-busy={asked.busy}>
		{#if view === 'tests'}<TestsView found={tested} />
		{:else if view === 'two' && ways}<SeparateView found={ways} />
		{:else if view === 'frost' && guards}<FrostView found={guards} />
		{:else if found?.lacks}<p class="max-w-[60ch] py-5 text-lead">{found.lacks}</p>
		{:else if found}{#if view === 'flows'}<FlowsView {found} />{:else}<HelpsView {found} />{/if}{/if}
	</div>
{:else}<p class="py-5">
		{#if asked.refused}{asked.refused}{:else}<span class="loading mr-2 loading-dots"></span>The water is sent through
			the whole house.{/if}
	</p>{/if}
{#if design?.rooms.length}<div class="mt-4.5"><Cautions cautions={design.cautions.pipework ?? []} /></div>{/if}

<style>
	svg {
		width: 100%;
		max-width: 460px;
	}
	.open {
		fill: var(--water);
	}
	.closed {
		fill: var(--water-pale);
		stroke: var(--water);
	}
	.need {
		stroke: var(--ink);
		stroke-width: 3;
	}

	.index td {
		font-weight: 700;
	}
</style>
