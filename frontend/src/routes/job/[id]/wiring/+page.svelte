<script lang="ts">
	import { api } from '$lib/api/client';
	import { newId } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const wires = new Slow(() =>
		api.GET('/api/jobs/{job_id}/wiring', { params: { path: { job_id: frame.session.id } } })
	);
	const found = $derived(wires.found?.wiring);
	$effect(() => {
		if (session.settled) wires.ask();
	});
	const record = $derived(session.job?.fire_up?.controller ?? {});
	const circuits = $derived([...new Set((found?.points ?? []).map((p) => p.circuit))]);
	const base = '/fire_up/controller';
	const put = (path: string, what: string) => (value: unknown) =>
		session.edit(`Controller record: ${what}`, (d) => d.put(`${base}/${path}`, value));
	const parameters = $derived(
		Object.entries(record.parameters ?? {}).sort((a, b) => (a[1].pos ?? 0) - (b[1].pos ?? 0))
	);
	let name = $state('');
	const add = (): void => {
		if (!name.trim()) return;
		void session.edit(`Parameter ${name.trim()}`, (d) =>
			d.set(`${base}/parameters/${newId()}`, { name: name.trim(), pos: Date.now() / 1e6, by: session.person })
		);
		name = '';
	};
	const COLUMNS = [
		{ key: 'unit', label: 'Unit' },
		{ key: 'before', label: 'Before' },
		{ key: 'after', label: 'After' },
		{ key: 'by', label: 'Who' },
		{ key: 'way_back', label: 'How to go back' }
	] as const;
	/** What the curve desk dials in, as parameters to be written down. */
	function fromCurve(): void {
		void session.edit('Parameters of the curve', (d) => {
			for (const [n, row] of (session.shown?.curve.dial ?? []).entries())
				if (row.value != null)
					d.set(`${base}/parameters/${newId()}`, {
						name: row.label,
						unit: row.quantity,
						after: String(row.value),
						pos: Date.now() / 1e6 + n,
						by: session.person
					});
		});
	}
</script>

<Head title="Controller record" screen="wiring" sentence={found?.sentence}>
	<a class="btn btn-outline" href={`/job/${session.id}/report?kind=controller`}>For the electrical file</a>
</Head>

{#if found?.lacks}
	<p class="px-0 py-15 text-lead">{found.lacks} <a href={`/job/${session.id}/machine`}>To the machine</a></p>
{:else if found}
	<div class="grid grid-cols-[minmax(0,1fr)_290px] gap-6.5 narrow:grid-cols-[1fr]">
		<div class="overflow-x-auto" aria-busy={wires.busy}>
			<table class="table table-figures">
				<thead><tr><th>What</th><th>Takes</th><th>What it does</th><th>Terminal</th><th>Tried</th></tr></thead>
				{#each circuits as circuit (circuit)}
					<tbody>
						<tr><th colspan="5" scope="rowgroup" class="pt-4 text-left">{circuit}</th></tr>
						{#each found.points.filter((p) => p.circuit === circuit) as p (p.key)}<tr
								><td>{p.label}</td><td class="text-small text-muted">{p.kind_label}</td><td class="text-small"
									>{p.function}</td
								><td class="w-36"
									><TextField
										label={`Terminal of ${p.label}, ${p.circuit}`}
										value={p.terminal}
										commit={put(`terminals/${p.key}/terminal`, p.label)}
									/></td
								><td
									><Tick
										ask=""
										label={`${p.label}, ${p.circuit}: tried`}
										value={p.checked}
										commit={put(`terminals/${p.key}/checked`, p.label)}
									/></td
								></tr
							>{/each}
					</tbody>
				{/each}
			</table>
		</div>
		<section class="grid content-start gap-2">
			<h2>The controller</h2>
			<div class="grid grid-cols-[1fr_1fr] items-end gap-3">
				<Asked
					ask="Switched outputs"
					label="Switched outputs"
					value={record.outputs}
					digits={0}
					quantity="whole"
					commit={put('outputs', 'outputs')}
				/>
				<Asked
					ask="Inputs"
					label="Inputs"
					value={record.inputs}
					digits={0}
					quantity="whole"
					commit={put('inputs', 'inputs')}
				/>
			</div>
			<p class="note">This plant takes {found.outputs} outputs and {found.inputs} inputs.</p>
			<label class="text-small text-muted"
				>Who may change parameters<TextField
					label="Who may change parameters"
					value={record.may_change}
					commit={put('may_change', 'who may change')}
				/></label
			>
			<label class="text-small text-muted"
				>Back to the maker's settings, and what is lost<TextField
					label="Back to the maker's settings"
					value={record.factory_reset}
					commit={put('factory_reset', 'the way back')}
				/></label
			>
			<Tick
				ask="Covers earthed again"
				value={record.covers_earthed ?? false}
				commit={put('covers_earthed', 'covers earthed')}
			/>
			{#each found.notes as one (one)}<p class="note">{one}</p>{/each}
			<Cautions cautions={session.shown?.cautions.wiring ?? []} />
		</section>
	</div>
	<h2 class="mt-4">Parameters, before and after</h2>
	{#if parameters.length}
		<div class="overflow-x-auto">
			<table class="table table-figures">
				<thead
					><tr
						><th>Parameter</th>{#each COLUMNS as col (col.key)}<th>{col.label}</th>{/each}<th></th></tr
					></thead
				>
				<tbody
					>{#each parameters as [id, p] (id)}<tr
							><td>{p.name}</td>{#each COLUMNS as col (col.key)}<td
									><TextField
										label={`${col.label}, ${p.name}`}
										value={p[col.key]}
										commit={put(`parameters/${id}/${col.key}`, p.name)}
									/></td
								>{/each}<td
								><button
									class="btn btn-quiet"
									onclick={() =>
										void session.edit(`Parameter ${p.name} taken out`, (d) => d.remove(`${base}/parameters/${id}`))}
									>take out<span class="sr-only"> {p.name}</span></button
								></td
							></tr
						>{/each}</tbody
				>
			</table>
		</div>
	{:else}<p class="note">None written down yet: what stood there before is lost once it is changed.</p>{/if}
	<div class="flex flex-wrap items-end gap-3">
		<label class="w-60 text-small text-muted"
			>A parameter, as the display calls it<input
				class="input w-full bg-sheet px-1.5"
				aria-label="A parameter, as the display calls it"
				bind:value={name}
				onkeydown={(e) => e.key === 'Enter' && add()}
			/></label
		>
		<button class="btn btn-outline" disabled={!name.trim()} onclick={add}>Write it down</button>
		<button class="btn btn-outline" onclick={fromCurve}>Those of the curve desk</button>
	</div>
{:else}<p class="note" aria-busy="true">{wires.refused ?? 'The record is being laid out.'}</p>{/if}
