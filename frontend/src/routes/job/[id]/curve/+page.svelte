<script lang="ts">
	import { api } from '$lib/api/client';
	import Curve from '$lib/charts/Curve.svelte';
	import type { Spot } from '$lib/charts/curve';
	import Circuits from '$lib/curve/Circuits.svelte';
	import Dial from '$lib/curve/Dial.svelte';
	import KindFields from '$lib/curve/KindFields.svelte';
	import Kinds from '$lib/curve/Kinds.svelte';
	import Moved from '$lib/curve/Moved.svelte';
	import Rooms from '$lib/curve/Rooms.svelte';
	import type { Draft } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import { num } from '$lib/parts/format';
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
	const control = $derived(session.scheme ? (session.job?.schemes?.[session.scheme]?.control ?? {}) : {});
	const movable = $derived(session.scheme !== null);

	const controllers = new Slow(() =>
		api.GET('/api/jobs/{job_id}/controllers', { params: { path: { job_id: frame.session.id } } })
	);
	const found = $derived(controllers.found?.controllers);
	$effect(() => {
		if (session.settled) controllers.ask();
	});
	/** What was seen of the running house, where anybody looked: as points beside the line. */
	const params = { path: { job_id: frame.session.id } };
	const sources = new Slow(() => api.GET('/api/jobs/{job_id}/readings', { params }));
	const looked = new Slow(() => api.GET('/api/jobs/{job_id}/correction', { params }));
	$effect(() => sources.ask());
	const seen = $derived(
		Object.keys(session.job?.fire_up?.observations ?? {}).length > 0 || (sources.found?.sources.length ?? 0) > 0
	);
	$effect(() => {
		if (seen && session.settled) looked.ask();
	});

	/** The line through a point: what was dialled in by itself gives way to it. */
	const through = (key: 'cold' | 'mild', flow: number) => (d: Draft) => {
		for (const row of curve?.dial ?? []) if (row.entered && row.path.split('/').length > 5) d.remove(row.path);
		d.set(`${base}/${key}_flow_c`, flow);
	};
	const ask = (key: 'cold' | 'mild', flow: number): void => session.whatIf(through(key, flow));
	const set = (key: 'cold' | 'mild', flow: number): void =>
		void session.edit(`Curve, ${key} point ${flow} °C`, through(key, flow));
	const fit = (): void =>
		void session.edit('Curve fitted again', (d) => {
			for (const row of curve?.dial ?? []) if (row.entered) d.remove(row.path);
			['cold_flow_c', 'mild_flow_c', 'cold_out_c'].forEach((f) => d.remove(`${base}/${f}`));
		});
	const END = [
		{ value: 'settled', label: 'what the settled house needs' },
		{ value: 'waterline', label: "the waterline's, room by room" }
	];
	const KINDS = [
		{ value: 'two_point', label: 'Two points' },
		{ value: 'slope', label: 'Slope and level' },
		{ value: 'numbered', label: 'A numbered line' },
		{ value: 'offset', label: 'Built in, moved by a button' },
		{ value: 'fixed', label: 'One temperature' }
	];
	const WORDS = [
		{ value: 'comfort', label: 'Comfort first' },
		{ value: 'economy', label: 'Economy first' }
	];
	let spot = $state<Spot | null>(null);
	type View = 'rooms' | 'kinds' | 'moved';
	let view = $state<View>('rooms');
	const VIEWS: { key: View; label: string }[] = [
		{ key: 'rooms', label: 'How warm it makes each room' },
		{ key: 'kinds', label: 'Other kinds of controller' },
		{ key: 'moved', label: 'Warmer or cooler' }
	];
	const apart = $derived(
		curve?.cold_need_c != null && curve.cold_standard_c != null && curve.cold_standard_c - curve.cold_need_c >= 0.1
	);
	const moves = $derived({ cold: session.effect?.curve.cold_flow_c, mild: session.effect?.curve.mild_flow_c });
</script>

<Head title="Curve desk" screen="curve">
	{#if curve?.cold_flow_c != null}<a class="btn btn-outline" href={`/job/${session.id}/report?kind=curve-card`}
			>Curve card</a
		>{/if}
</Head>

{#if design && curve?.cold_flow_c != null}
	<div class="grid grid-cols-[minmax(0,1fr)_340px] gap-6.5 narrow:grid-cols-[1fr]">
		<div>
			<Curve
				{curve}
				{names}
				{movable}
				band={found?.band ?? null}
				seen={seen ? (looked.found?.correction.points ?? []) : []}
				bind:spot
				onmove={ask}
				onset={set}
			/>
			<div class="mt-3.5">
				<Tabs label="What of the line" tabs={VIEWS} shown={view} take={(key) => (view = key)} />
				{#if view === 'rooms'}<Rooms {design} {spot} />
				{:else if found}<div
						aria-busy={controllers.busy}
						class:opacity-60={controllers.busy}
						title={controllers.busy ? 'for the previous edit' : undefined}
					>
						{#if found.lacks}<p>{found.lacks}</p>{:else if view === 'kinds'}<Kinds {found} />{:else}<Moved
								{found}
							/>{/if}
					</div>
				{:else}<p class="note" aria-busy={controllers.busy}>{controllers.refused ?? 'Being worked out.'}</p>{/if}
			</div>
		</div>
		<section class="grid content-start gap-2">
			<h2>Dial in</h2>
			{#if movable}
				<div class="grid grid-cols-[1fr_1fr] gap-x-3">
					<label class="text-small text-muted"
						>Kind of controller<Choice
							label="Kind of controller"
							value={control.kind ?? 'two_point'}
							options={KINDS}
							commit={(v) => void session.edit('Kind of controller', (d) => d.set(`${base}/kind`, v))}
						/></label
					>
					<label class="text-small text-muted"
						>The customer's word<Choice
							label="The customer's word"
							value={control.priority}
							empty="nobody has asked"
							options={WORDS}
							commit={(v) => void session.edit("The customer's word", (d) => d.put(`${base}/priority`, v))}
						/></label
					>
				</div>
			{/if}
			{#if curve.lacks}<p class="rounded-md px-3 py-2 hatch-doubt">
					{curve.lacks} Until then the line is one of two points.
				</p>{/if}
			<p class="note">
				{curve.fitted ? 'Fitted to the rooms' : 'Set by hand'}, {amount(curve.tolerance_k, 'K', 1)} short let be.
				<button
					class="min-h-8 underline decoration-dotted underline-offset-4"
					onclick={() => void frame.showWorking('curve')}>The working</button
				>
			</p>
			<Dial rows={[...curve.dial, ...curve.limits]} label="Curve" {moves}>
				<button class="btn btn-outline" disabled={curve.fitted} onclick={fit}>Fit it again</button>
			</Dial>
			{#if movable}<Fold title="What this controller can be told"><KindFields {control} /></Fold>{/if}
			<Circuits {curve} {names} costs={found?.circuits ?? []} />
			{#if found?.boiler.length}
				<h2>The hybrid's own controller</h2>
				<p class="note">{found.boiler_why}</p>
				<Dial rows={found.boiler} label="Hybrid" />
				{#if movable}<label class="text-small text-muted"
						>Who enters new prices<TextField
							label="Who enters new prices"
							value={control.boiler?.prices_by ?? ''}
							commit={(v) => session.edit('Who enters new prices', (d) => d.put(`${base}/boiler/prices_by`, v))}
						/></label
					>{/if}
			{/if}
			{#if curve.cold_need_c != null}
				<h2>The cold end</h2>
				<div class="ends rounded-md border border-hairline bg-sheet px-3.5 py-2">
					<div class="[&.on]:font-bold" class:on={curve.cold_end === 'settled'}>
						<span>The settled house needs</span><b
							>{fig(curve.cold_need_c, '°C', 1)}<span class="unit">{unitName('°C')}</span></b
						>
					</div>
					<div class="[&.on]:font-bold" class:on={curve.cold_end === 'waterline'}>
						<span>Each room by itself (waterline)</span><b
							>{fig(curve.cold_standard_c, '°C', 1)}<span class="unit">{unitName('°C')}</span></b
						>
					</div>
				</div>
				{#if apart}
					<p class="note">Less, because {curve.cold_why.join('; ')}. The other stays its limit.</p>
					<label class="text-small text-muted"
						>Dial in<Choice
							label="Which cold end is dialled in"
							value={curve.cold_end}
							options={END}
							commit={(v) =>
								void session.edit('Practice: cold end of the curve', (d) => d.set('/practice/cold_end', v))}
						/></label
					>
				{/if}
				<p class="note">
					Held by <b>{names[curve.holds_cold ?? ''] ?? 'no room'}</b> when it is cold{#if curve.holds_mild && curve.holds_mild !== curve.holds_cold},
						by <b>{names[curve.holds_mild]}</b> when it is mild{:else if curve.holds_mild}{' '}and when it is mild{/if}.
				</p>
			{/if}
			<p class="note">
				Worst room {amount(curve.short_room_k, 'K', 1)} short; at most {amount(curve.excess_k, 'K', 1)} above need.
				{#if design.season.excess_kwh != null && design.season.excess_kwh > 0.5}The line costs {num(
						design.season.excess_kwh
					)} kWh a year more than water exactly as warm as needed.{/if}
			</p>
			<Cautions cautions={design.cautions.curve ?? []} />
		</section>
	</div>
{:else}
	<p class="px-0 py-15 text-lead">
		A curve needs rooms with a loss and emitters, and a climate. <a href={`/job/${session.id}/rooms`}>To the rooms</a>
	</p>
{/if}

<style>
	.ends > div {
		display: grid;
		grid-template-columns: 1fr auto;
		align-items: center;
		gap: 8px;
		min-height: 38px;
	}

	.ends .on > span::before {
		content: '▸ ';
	}
</style>
