<script lang="ts">
	import { amount } from '$lib/parts/units';
	import { api } from '$lib/api/client';
	import { takeAway } from '$lib/job/pointers';
	import Envelope from '$lib/charts/Envelope.svelte';
	import Limits from '$lib/charts/Limits.svelte';
	import { newId, nextPos } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Beside from '$lib/machine/Beside.svelte';
	import CostView from '$lib/machine/CostView.svelte';
	import EnergyPrices from '$lib/machine/EnergyPrices.svelte';
	import FourWays from '$lib/machine/FourWays.svelte';
	import OwnMachines from '$lib/machine/OwnMachines.svelte';
	import PlaceView from '$lib/machine/PlaceView.svelte';
	import SizeTable from '$lib/machine/SizeTable.svelte';
	import Tabs from '$lib/parts/Tabs.svelte';
	import TodayHeat from '$lib/machine/TodayHeat.svelte';
	import YearView from '$lib/machine/YearView.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import Head from '$lib/parts/Head.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const machine = $derived(design?.machine);
	const rows = $derived(machine?.rows ?? []);
	let looked = $state<string | null>(null);
	let beside = $state<string | null>(null);
	type View = 'size' | 'year' | 'cost' | 'place' | 'ways';
	let view = $state<View>('size');
	const VIEWS: { key: View; label: string }[] = [
		{ key: 'size', label: 'Its size' },
		{ key: 'year', label: 'Through the year' },
		{ key: 'cost', label: 'What it costs' },
		{ key: 'place', label: 'Where it stands' },
		{ key: 'ways', label: 'Four ways on' }
	];
	const row = $derived(rows.find((r) => r.id === looked) ?? rows.find((r) => r.chosen) ?? rows[0]);
	const over = $derived(rows.find((r) => r.id === beside && r.id !== row?.id) ?? null);
	const base = $derived(`/schemes/${session.scheme}`);
	const taken = $derived(new Set(rows.map((r) => r.machine)));
	const shelved = $derived(Object.values(shelf.all?.machines ?? {}));
	const size = (id: string): number => Math.max(...(shelf.all?.machines[id]?.greatest_w.flat() ?? [0]));
	const others = $derived(
		shelved
			.filter((m) => !taken.has(m.id))
			.sort((a, b) => size(a.id) - size(b.id))
			.map((m) => ({
				value: m.id,
				label: `${m.label}, ${m.refrigerant}${m.kind === 'split' ? ', split' : ''}`,
				group: shelf.all?.own?.machines?.[m.id] ? "The company's own" : 'The library’s, invented'
			}))
	);
	const entry = $derived(row ? session.job?.library?.machines?.[row.machine]?.data : null);
	const range = $derived.by((): [number, number] | null => {
		const house = frame.doubts.found?.doubts.house;
		const loss = design?.house.loss_w;
		return house && loss ? [house.p10_w / loss, house.p90_w / loss] : null;
	});
	const path = { params: { path: { job_id: frame.session.id } } };
	const running = new Slow(() => api.GET('/api/jobs/{job_id}/running', path));
	const runs = $derived(running.found?.running);
	$effect(() => {
		if (session.settled && (view === 'year' || view === 'cost')) running.ask();
	});

	const four = new Slow(() => api.GET('/api/jobs/{job_id}/alternatives', path));
	$effect(() => {
		if (session.settled && view === 'ways') four.ask();
	});

	/** What lies about the loss: some machines on either side of it, not the whole shelf. */
	const about = $derived.by(() => {
		const loss = design?.house.loss_w ?? 0;
		const near = shelved.filter((m) => !shelf.all?.own?.machines?.[m.id]).sort((a, b) => size(a.id) - size(b.id));
		const first = near.findIndex((m) => size(m.id) > loss);
		const from = Math.max(0, Math.min((first < 0 ? near.length : first) - 1, near.length - 5));
		return near.slice(from, from + 5).map((m) => m.id);
	});

	function compare(keys: string[]): void {
		void session.edit(keys.length > 1 ? 'Machines compared' : 'Machine compared', (d) => {
			for (const key of keys) {
				d.freeze('machines', key);
				const pos = nextPos(d.job.schemes?.[session.scheme ?? '']?.candidates);
				d.set(`${base}/candidates/${newId()}`, { machine: key, pos });
			}
		});
	}
	const choose = (id: string, label: string): void =>
		void session.edit(`${label} chosen`, (d) => d.set(`${base}/chosen`, id));
	const drop = (id: string, label: string): void =>
		void session.edit(`${label} no longer compared`, (d) => {
			takeAway(d, 'candidate', id);
		});
	const facts = $derived.by((): [string, string][] => {
		if (!entry) return [];
		const held = entry.contains ?? {};
		const inside = [
			held.diverter ? `diverter${held.diverter_rests ? ' that can rest between its ends' : ''}` : '',
			held.heater_kw ? `heater ${amount(held.heater_kw, 'kW', 1)}` : '',
			held.buffer_l ? `buffer ${amount(held.buffer_l, 'L')}` : '',
			held.vessel_l ? `vessel ${amount(held.vessel_l, 'L')}` : '',
			held.relief_bar ? `relief valve ${amount(held.relief_bar, 'bar', 1)}` : '',
			held.pump ? `pump driven ${held.pump}` : '',
			held.freeze_valve ? 'freeze valve' : '',
			held.refrigerant_release ? 'release for refrigerant' : ''
		].filter(Boolean);
		const or = (value: number | null | undefined, unit: string, digits = 0): string =>
			value == null ? 'not said' : amount(value, unit, digits);
		const lines = entry.lines;
		return [
			[
				'Refrigerant',
				`${entry.refrigerant}${entry.refrigerant_kg ? `, ${amount(entry.refrigerant_kg, 'kg', 2)}` : ''}${entry.flammable ? ', flammable' : ''}`
			],
			['Sound power, quiet', `${num(entry.sound_power_day_db)} dB(A), ${num(entry.sound_power_night_db)}`],
			['Least flow', or(entry.least_flow_lph, 'L/h')],
			['Water that must stay open', or(entry.least_volume_l, 'L')],
			['At most', entry.max_current_a == null ? 'not said' : `${num(entry.max_current_a)} A`],
			['Weighs', or(entry.weight_kg, 'kg')],
			['Built in', inside.join(', ') || 'nothing said'],
			...(lines
				? ([
						[
							'Lines',
							[
								`${num(lines.gas_mm, 1)} and ${num(lines.liquid_mm, 1)} mm`,
								`up to ${amount(lines.most_length_m, 'm')}, lift ${amount(lines.most_lift_m, 'm')}`,
								`charged for ${amount(lines.charged_length_m, 'm')}`,
								`then ${num(lines.extra_g_per_m)} g a metre by certified hands`
							].join('; ')
						]
					] as [string, string][])
				: [])
		];
	});
</script>

<Head
	title="Machine"
	screen="machine"
	sentence={view === 'year' || view === 'cost'
		? (runs?.sentence ?? '')
		: view === 'place'
			? design?.places.sentence
			: view === 'ways'
				? (four.found?.alternatives.sentence ?? '')
				: undefined}
/>

{#if !session.scheme}
	<p class="grid max-w-[52ch] justify-items-start gap-4 px-0 py-12.5 text-lead">
		As found there is no heat pump. Choose a scheme at the top left to compare machines.
	</p>
{:else}
	<div class="grid grid-cols-[minmax(0,1fr)_300px] gap-6.5 narrow:grid-cols-[1fr]">
		<div class="min-w-0">
			{#if rows.length}
				<Tabs label="What of the machines" tabs={VIEWS} shown={view} take={(key) => (view = key)} />
				{#if view === 'size'}
					{#if row && machine && design?.house.outdoor_c != null}
						{#if rows.length > 1}
							<label class="float-right -mt-1 flex items-center gap-2 note"
								><span class="whitespace-nowrap">Laid over it</span><Choice
									label="Lay another machine over it"
									value={over?.id ?? null}
									empty="no other"
									options={rows.filter((r) => r.id !== row.id).map((r) => ({ value: r.id, label: r.label }))}
									commit={(v) => (beside = v)}
								/></label
							>
						{/if}
						<Envelope {machine} {row} outdoor={design.house.outdoor_c} beside={over} {range} />
						{#if entry && design.curve.line_c.length}<Fold title={`How warm ${row.label} makes water`}
								><Limits {entry} curve={design.curve} store={design.hot_water.store_c} /></Fold
							>{/if}
					{/if}
					<SizeTable
						{rows}
						seen={row?.id}
						outdoor={design?.house.outdoor_c}
						flow={design?.waterline.chosen_flow_c}
						look={(id) => (looked = id)}
						{choose}
						{drop}
					/>
				{:else if view === 'place'}
					{#if design}<PlaceView
							places={design.places}
							candidate={rows.find((r) => r.chosen)?.id}
							machine={rows.find((r) => r.chosen)?.label ?? 'the machine'}
						/>{/if}
				{:else if view === 'ways'}
					{#if four.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{four.refused}</p>{/if}
					{#if four.found}<div class:opacity-60={four.busy} aria-busy={four.busy}>
							<FourWays found={four.found.alternatives} />
						</div>{:else}<p class="py-5">
							<span class="loading mr-2 loading-dots"></span>Four houses are run through the chain and the year.
						</p>{/if}
				{:else}
					{#if running.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{running.refused}</p>{/if}
					{#if runs?.lacks}
						<p class="px-0 py-5 text-lead">
							{runs.lacks}
							{#if design?.house.loss_w == null}<a href={`/job/${session.id}/rooms`}>To the rooms</a>{/if}
							<a href={`/job/${session.id}/climate`}>To the climate</a>
						</p>
						{#if view === 'cost'}<EnergyPrices /><TodayHeat {runs} />{/if}
					{:else if runs}
						<div class:opacity-60={running.busy} aria-busy={running.busy}>
							{#if view === 'year'}<YearView {runs} seen={row?.id} look={(id) => (looked = id)} />{:else}<CostView
									{runs}
									seen={row?.id}
									look={(id) => (looked = id)}
								/>{/if}
						</div>
					{:else}<p class="py-5">
							<span class="loading mr-2 loading-dots"></span>Every hour of the year is worked out.
						</p>{/if}
				{/if}
			{:else}
				<div class="grid max-w-[56ch] justify-items-start gap-4 px-0 py-12.5 text-lead">
					<p>
						{num(shelved.length)} machines lie on the shelf. Put some about the size of this house beside it and see which
						covers it.
					</p>
					<button class="btn btn-primary" onclick={() => compare(about)} disabled={!about.length}
						>Compare five about its size</button
					>
				</div>
			{/if}
			<div class="mt-3 grid gap-2">
				{#if others.length}<div class="max-w-80">
						<Choice
							label="Put another machine beside them"
							value={null}
							empty="put a machine beside the house"
							options={others}
							commit={(v) => v && compare([v])}
						/>
					</div>
				{/if}
				<OwnMachines />
			</div>
		</div>
		<section class="grid content-start gap-2.25">
			{#if row}
				<h2>{row.label}</h2>
				<dl class="grid grid-cols-[1fr_auto] gap-x-2.5 gap-y-0.75">
					<dt class="text-muted">Gives on the design day</dt>
					<dd>
						<button
							class="not-[:disabled]:underline not-[:disabled]:decoration-dotted not-[:disabled]:underline-offset-4 disabled:opacity-100"
							onclick={() => void frame.showWorking('cover')}
							disabled={!row.chosen}
							>{row.cover == null
								? 'not known yet'
								: row.inside
									? amount(row.output_w / 1000, 'kW', 2)
									: 'nothing: outside its envelope'}</button
						>
					</dd>
					<dt class="text-muted">House loses</dt>
					<dd>{design?.house.loss_w == null ? 'not known yet' : amount(design.house.loss_w / 1000, 'kW', 2)}</dd>
					{#if range}
						<dt class="text-muted">and may lose, P90</dt>
						<dd>{amount(((design?.house.loss_w ?? 0) * range[1]) / 1000, 'kW', 2)}</dd>
						<dt class="text-muted">Covers of that</dt>
						<dd>
							{num(row.cover_without_hot_water == null ? null : (row.cover_without_hot_water / range[1]) * 100)} %
						</dd>
					{/if}
					<dt class="text-muted">Least it gives there</dt>
					<dd>
						{row.least_w == null
							? 'not said'
							: row.cover == null
								? 'not known yet'
								: row.inside
									? amount(row.least_w / 1000, 'kW', 2)
									: 'nothing'}
					</dd>
					<dt class="text-muted">Hot water takes of the day</dt>
					<dd>{num(row.hot_water_hours, 1)} h</dd>
					<dt class="text-muted">Cover without hot water</dt>
					<dd>{num(row.cover_without_hot_water == null ? null : row.cover_without_hot_water * 100)} %</dd>
					{#if row.fuel}<dt class="text-muted">Season by itself, by bins</dt>
						<dd>{num(row.machine_season, 2)}</dd>
						<dt class="text-muted">Fuel counted in, no COP</dt>
						<dd>{num(row.season, 2)}</dd>
					{:else}<dt class="text-muted">Season, by bins</dt>
						<dd>{num(row.season, 2)}</dd>{/if}
					<dt class="text-muted">with hot water</dt>
					<dd>{num(row.season_with_hot_water, 2)}</dd>
				</dl>
				<p class="note">
					<strong>Covers all, says one school:</strong>
					{row.whole_school}. <strong>Smaller with a backup, the other:</strong>
					{row.small_school}.
				</p>
				<Beside id={row.id} label={row.label} quietShare={entry?.quiet_output_share} />
				<dl class="grid grid-cols-[auto_1fr] gap-x-2.5 gap-y-0.5 note">
					{#each facts as [what, said] (what)}<dt>{what}</dt>
						<dd class="plain">{said}</dd>{/each}
				</dl>
				<p class="note">
					{#if row.backup === 'none'}Nothing stands beside it: heat nobody gives is not counted.
					{/if}Season: {design?.season.climate_label || 'no climate'}, the water of this job's curve. An estimate, not a
					standard-test figure. {#if row.chosen}<button
							class="btn btn-quiet"
							onclick={() => void frame.showWorking('season')}>its working</button
						>{/if}
				</p>
			{/if}
			<Cautions cautions={design?.cautions.machine ?? []} />
		</section>
	</div>
{/if}

<style>
	dd {
		text-align: right;
		font-weight: 600;
		font-variant-numeric: tabular-nums;
	}
	dd.plain {
		font-weight: 400;
		color: var(--ink);
	}
</style>
