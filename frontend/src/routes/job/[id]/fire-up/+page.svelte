<script lang="ts">
	import { api } from '$lib/api/client';
	import AskRow from '$lib/fire/AskRow.svelte';
	import EmitterProofs from '$lib/fire/EmitterProofs.svelte';
	import PlantLine from '$lib/fire/PlantLine.svelte';
	import StepList from '$lib/fire/StepList.svelte';
	import { heard } from '$lib/house/sound';
	import { newId, type Draft } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import PhotoStrip from '$lib/house/PhotoStrip.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import { amount } from '$lib/parts/units';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const params = { path: { job_id: frame.session.id } };
	const day = new Slow(() => api.GET('/api/jobs/{job_id}/fire-up', { params }));
	const watched = new Slow(() => api.GET('/api/jobs/{job_id}/watched', { params }));
	const found = $derived(day.found?.fire_up);
	const plant = $derived(watched.found ?? null);
	$effect(() => {
		if (session.settled) day.ask();
	});
	$effect(() => {
		void session.heardPlant;
		watched.ask();
	});
	let chosen = $state<string | null>(null);
	const step = $derived(
		found?.steps.find((s) => s.key === chosen) ?? found?.steps.find((s) => s.state === 'open') ?? found?.steps[0]
	);
	const kept = $derived(step ? (session.job?.fire_up?.steps?.[step.key] ?? {}) : {});
	const WHO: Record<string, string> = {
		engineer: 'the engineer',
		electrician: 'a licensed electrician',
		refrigerant: 'who holds the refrigerant certificate',
		registered: 'who is registered for the fuel',
		second: 'somebody who did not do the work'
	};
	const at = (name: string): string => `/fire_up/steps/${step!.key}/${name}`;
	const value = (key: string, what: string) => (v: number | null, liveAt: string | null) =>
		session.edit(`${step!.label}: ${what.toLowerCase()}`, (d) => {
			const place = key.replaceAll('/', '~1');
			d.put(at(`values/${place}`), v);
			d.put(at(`live/${place}`), liveAt);
			if (v !== null) stamp(d);
		});
	/** All that the plant says of a step, of one moment. */
	async function together(): Promise<void> {
		const kept = await session.edit(`${step!.label}: taken from the plant`, (d) => {
			for (const ask of step!.asks) {
				const v = ask.channel ? plant?.figures[ask.channel] : null;
				if (v == null) continue;
				const place = ask.key.replaceAll('/', '~1');
				d.set(at(`values/${place}`), Math.round(v * 10 ** ask.digits) / 10 ** ask.digits);
				if (plant?.at) d.set(at(`live/${place}`), plant.at);
			}
			stamp(d);
		});
		if (kept) heard(true);
	}
	const curve = $derived(session.shown?.curve);
	let wrote = $state('');
	/** The four figures of the line, written to the plant that is read. */
	async function dialIn(): Promise<void> {
		for (const key of ['cold_out_c', 'cold_flow_c', 'mild_out_c', 'mild_flow_c'] as const) {
			const value = curve?.[key];
			if (value == null) continue;
			const { error } = await api.POST('/api/jobs/{job_id}/watched/orders', { params, body: { key, value } });
			if (error) return void (wrote = (error as { message?: string }).message ?? 'Not written.');
		}
		wrote = 'Ordered: it is written with the next look, and read back below.';
	}
	/** When and by whom a step was last worked at. */
	function stamp(d: Draft): void {
		d.set(at('at'), new Date().toISOString());
		if (session.person) d.set(at('by'), session.person);
	}
	async function close(state: 'open' | 'done' | 'not needed' | 'waits'): Promise<void> {
		const here = step!;
		const done = await session.edit(`${here.label}: ${state}`, (d) => {
			d.set(at('state'), state);
			stamp(d);
		});
		if (done && state !== 'open' && !(state === 'done' && here.off && !kept.reason)) {
			const n = found!.steps.findIndex((s) => s.key === here.key);
			chosen = found!.steps.slice(n + 1).find((s) => s.state === 'open')?.key ?? here.key;
		} else chosen = here.key;
	}
	let name = $state('');
	const signed = $derived(
		Object.entries(session.job?.fire_up?.signatures ?? {}).sort((a, b) => a[1].at.localeCompare(b[1].at))
	);
	const left = $derived((found?.steps ?? []).filter((s) => s.needs_reason).length);
	const sign = (): void => {
		const by = name.trim() || session.person;
		void session.edit(`Record signed by ${by}`, (d) =>
			d.set(`/fire_up/signatures/${newId()}`, { by, at: new Date().toISOString() })
		);
		name = '';
	};
</script>

<Head title="Fire-up" screen="fire-up" sentence={found?.sentence}>
	<a class="btn btn-outline" href={`/job/${session.id}/report?kind=fire-up`}>Commissioning record</a>
</Head>

<PlantLine {plant} changed={() => watched.ask()} />
{#if found?.hot_says}<p class="mt-2 rounded-md px-3 py-2 hatch-doubt">{found.hot_says}</p>{/if}
{#if found && step}
	<div class="mt-3 grid grid-cols-[270px_minmax(0,1fr)] gap-6.5 narrow:grid-cols-[1fr]">
		<div class="max-h-[calc(100vh-250px)] overflow-y-auto narrow:max-h-56">
			<StepList steps={found.steps} shown={step.key} take={(key) => (chosen = key)} />
		</div>
		<section class="grid content-start gap-2" aria-busy={day.busy}>
			<div class="flex flex-wrap items-baseline gap-3">
				<h2 class="text-[25px]">{step.label}</h2>
				<span class="note">by {WHO[step.who]}{step.visit === 'second' ? ', on the second visit' : ''}</span>
				{#if step.waits}<span class="rounded-sm px-1.5 hatch-doubt">{step.waits}</span>{/if}
			</div>
			<p class="max-w-[76ch] text-lead">{step.how}</p>
			{#key step.key}<Cautions cautions={step.cautions} />{/key}
			{#key step.key}{#each step.asks as ask (ask.key)}<AskRow
						{ask}
						value={kept.values?.[ask.key] ?? null}
						{plant}
						commit={value(ask.key, ask.label)}
					/>{/each}{/key}
			{#if step.asks.filter((a) => a.channel).length > 1}
				<button
					class="btn min-h-14 w-fit btn-outline"
					disabled={plant?.state !== 'live'}
					onclick={() => void together()}>Take them together from the plant</button
				>
			{/if}
			{#if step.key === 'curve-set' && plant?.watched && curve?.kind === 'two_point' && curve.cold_flow_c != null}
				<div class="flex flex-wrap items-center gap-3">
					<button class="btn min-h-14 btn-outline" disabled={plant.state !== 'live'} onclick={() => void dialIn()}
						>Write the line to the plant: {amount(curve.cold_flow_c, '°C')} at {amount(curve.cold_out_c, '°C')}, {amount(
							curve.mild_flow_c,
							'°C'
						)} at {amount(curve.mild_out_c, '°C')}</button
					>
					<span class="note" role="status"
						>{wrote || 'It changes the controller at once: only who may, as the controller record says.'}</span
					>
				</div>
			{/if}
			{#if step.key === 'emitters'}<EmitterProofs {found} {plant} />{/if}
			<div class="grid grid-cols-[1fr_1fr_1fr] items-end gap-3 border-t border-t-hairline pt-2 narrow:grid-cols-[1fr]">
				{#key step.key}
					<label class="text-small text-muted"
						>Instrument<TextField
							label="Instrument"
							value={kept.instrument}
							commit={(v) => session.edit(`${step.label}: instrument`, (d) => d.put(at('instrument'), v))}
						/></label
					>
					<label class="text-small text-muted"
						>Note<TextField
							label="Note"
							value={kept.note}
							commit={(v) => session.edit(`${step.label}: note`, (d) => d.put(at('note'), v))}
						/></label
					>
					<label class="text-small text-muted"
						>{step.off ? 'Why it is off its band' : 'Reason, where something is off'}<TextField
							label="Reason"
							value={kept.reason}
							commit={(v) => session.edit(`${step.label}: reason`, (d) => d.put(at('reason'), v))}
						/></label
					>
				{/key}
			</div>
			{#key step.key}<PhotoStrip about={{ item: `fire-up.${step.key}` }} label={step.label} />{/key}
			{#if step.needs_reason}<p class="rounded-md px-3 py-2 hatch-short" role="alert">
					Done with {step.off === 1 ? 'a figure' : `${step.off} figures`} off the band: say why, or measure again.
				</p>{/if}
			<div class="flex flex-wrap items-center gap-3">
				{#if step.state === 'open'}
					<button class="btn min-h-14 px-8 btn-neutral" onclick={() => void close('done')}>Done</button>
					<button class="btn min-h-14 btn-outline" onclick={() => void close('waits')}>Waits for its day</button>
					<button class="btn btn-quiet min-h-14" onclick={() => void close('not needed')}>not needed here</button>
				{:else}
					<span
						><b>{step.state === 'waits' ? 'Waits for its day' : step.state[0]!.toUpperCase() + step.state.slice(1)}</b
						>{kept.at
							? `, ${new Date(kept.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}`
							: ''}{kept.by ? `, ${kept.by}` : ''}</span
					>
					<button class="btn min-h-14 btn-outline" onclick={() => void close('open')}>Open it again</button>
				{/if}
			</div>
		</section>
	</div>
	<section class="mt-4 grid gap-2 border-t border-t-ink pt-3">
		<h2>The record</h2>
		<p class="note">
			{found.done} of {found.steps.length} steps are done or not needed, {found.open} open.
			{left ? `${left} off their band without a reason.` : ''}
			{found.notes.join(' ')}
		</p>
		<div class="flex flex-wrap items-end gap-3">
			<label class="w-60 text-small text-muted"
				>Second visit, after about a week<TextField
					label="Second visit"
					type="date"
					value={session.job?.fire_up?.second_visit}
					commit={(v) => session.edit('Second visit', (d) => d.put('/fire_up/second_visit', v))}
				/></label
			>
			<label class="w-60 text-small text-muted"
				>Name<TextField
					label="Name of who signs"
					value={name}
					placeholder={session.person}
					commit={(v) => void (name = v)}
				/></label
			>
			<button class="btn btn-neutral" disabled={left > 0} onclick={sign}>Sign the record</button>
		</div>
		{#each signed as [id, one] (id)}<p>
				Signed by <b>{one.by}</b>, {new Date(one.at).toLocaleString('en-GB', {
					dateStyle: 'medium',
					timeStyle: 'short'
				})}.
			</p>{/each}
	</section>
{:else}<p class="note" aria-busy="true">{day.refused ?? 'The day is being laid out.'}</p>{/if}
