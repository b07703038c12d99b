<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import { takeAway } from '$lib/job/pointers';
	import Envelope from '$lib/charts/Envelope.svelte';
	import { newId, nextPos } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Head from '$lib/parts/Head.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const machine = $derived(design?.machine);
	const rows = $derived(machine?.rows ?? []);
	let looked = $state<string | null>(null);
	const row = $derived(rows.find((r) => r.id === looked) ?? rows.find((r) => r.chosen) ?? rows[0]);
	const base = $derived(`/schemes/${session.scheme}`);
	const taken = $derived(new Set(rows.map((r) => r.machine)));
	const others = $derived(
		Object.values(shelf.all?.machines ?? {})
			.filter((m) => !taken.has(m.id))
			.map((m) => ({ value: m.id, label: `${m.label}, ${m.refrigerant}` }))
	);
	const flow = $derived(design?.waterline.chosen_flow_c);
	const entry = $derived(row ? session.job?.library?.machines?.[row.machine]?.data : null);

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
</script>

<Head title="Machine" screen="machine" />

{#if !session.scheme}
	<p class="grid max-w-[52ch] justify-items-start gap-4 px-0 py-12.5 text-lead">
		As found there is no heat pump. Choose a scheme at the top left to compare machines.
	</p>
{:else}
	<div class="grid grid-cols-[minmax(0,1fr)_280px] gap-6.5 narrow:grid-cols-[1fr]">
		<div>
			{#if row && machine && design?.house.outdoor_c != null}
				<Envelope {machine} {row} outdoor={design.house.outdoor_c} />
			{:else if !rows.length}
				<div class="grid max-w-[52ch] justify-items-start gap-4 px-0 py-12.5 text-lead">
					<p>Six invented machines lie in the library. Put them beside this house and see which covers it.</p>
					<button class="btn btn-primary" onclick={() => compare(Object.keys(shelf.all?.machines ?? {}))}
						>Compare all six</button
					>
				</div>
			{/if}
			{#if rows.length}
				<div class="mt-1.5 overflow-x-auto">
					<table class="table table-figures">
						<thead
							><tr
								><th>Machine</th><th class="text-right"
									>At {fig(design?.house.outdoor_c, '°C')} / {amount(flow, '°C')}</th
								><th class="text-right">COP there</th><th class="text-right">Cover</th><th class="text-right">Season</th
								><th class="text-right">With hot water</th><th class="text-right">On and off above</th><th
									class="text-right">Backup</th
								><th></th></tr
							></thead
						>
						<tbody>
							{#each rows as r (r.id)}
								<tr class:seen={r.id === row?.id}>
									<td class="h-11"
										><button class="min-h-11 text-left font-semibold whitespace-nowrap" onclick={() => (looked = r.id)}
											>{r.label}<span class="block note">{r.refrigerant} · {num(r.sound_power_day_db)} dB(A)</span
											></button
										></td
									>
									<td class="h-11 text-right"
										>{r.inside ? fig(r.output_w / 1000, 'kW', 2) : 'outside'}<span class="unit"
											>{r.inside ? unitName('kW') : 'its envelope'}</span
										></td
									>
									<td class="h-11 text-right"
										>{num(r.cop, 2)}{#if r.extrapolated}<span
												class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-doubt"
												>extrapolated</span
											>{/if}</td
									>
									<td class="h-11 text-right"
										>{#if r.cover != null && r.cover < 1}<span
												class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
												>short</span
											>{/if}
										{num(r.cover == null ? null : r.cover * 100)}<span class="unit">%</span></td
									>
									<td class="h-11 text-right">{num(r.season, 2)}</td>
									<td class="h-11 text-right">{num(r.season_with_hot_water, 2)}</td>
									<td class="h-11 text-right"
										>{fig(r.cycles_above_c, '°C')}<span class="unit">{unitName('°C')}</span></td
									>
									<td class="h-11 text-right"
										>{num(r.backup_share == null ? null : r.backup_share * 100, 1)}<span class="unit">%</span></td
									>
									<td class="h-11 text-right whitespace-nowrap">
										{#if r.chosen}<strong class="text-meets">chosen</strong>{:else}<button
												class="btn min-h-9 btn-outline px-2.5 py-0"
												onclick={() => choose(r.id, r.label)}>Choose</button
											>{/if}
										<button
											class="btn btn-quiet"
											aria-label={`Stop comparing ${r.label}`}
											onclick={() => drop(r.id, r.label)}>drop</button
										>
									</td>
								</tr>
							{/each}
						</tbody>
					</table>
				</div>
				{#if others.length}<div class="mt-2.5 max-w-70">
						<Choice
							label="Put another machine beside them"
							value={null}
							empty="put another beside them"
							options={others}
							commit={(v) => v && compare([v])}
						/>
					</div>{/if}
			{/if}
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
							disabled={!row.chosen}>{amount(row.output_w / 1000, 'kW', 2)}</button
						>
					</dd>
					<dt class="text-muted">House loses</dt>
					<dd>{amount((design?.house.loss_w ?? 0) / 1000, 'kW', 2)}</dd>
					<dt class="text-muted">Least it gives there</dt>
					<dd>{amount(row.least_w / 1000, 'kW', 2)}</dd>
					<dt class="text-muted">Hot water takes of the day</dt>
					<dd>{num(row.hot_water_hours, 1)} h</dd>
					<dt class="text-muted">Cover without hot water</dt>
					<dd>{num(row.cover_without_hot_water == null ? null : row.cover_without_hot_water * 100)} %</dd>
					<dt class="text-muted">Backup begins below</dt>
					<dd>{row.bivalent_c == null ? 'never' : `${amount(row.bivalent_c, '°C')}`}</dd>
					<dt class="text-muted">Hours on and off</dt>
					<dd>{num(row.cycling_share == null ? null : row.cycling_share * 100)} %</dd>
					<dt class="text-muted">Electricity, heating</dt>
					<dd>{num(row.electricity_kwh)} kWh</dd>
				</dl>
				{#if entry}
					<p class="note">
						{entry.refrigerant}
						{amount(entry.refrigerant_kg, 'kg', 2)}{entry.flammable ? ', flammable' : ''} · least flow {amount(
							entry.least_flow_lph,
							'L/h'
						)} · least water {amount(entry.least_volume_l, 'L')} · at most {num(entry.max_current_a)} A · {amount(
							entry.weight_kg,
							'kg'
						)}
					</p>
				{/if}
				<p class="note">
					Season: {design?.season.climate_label || 'no climate'}, the water of this job's curve. An estimate, not a
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

	th,
	td {
		padding-inline: 6px;
	}

	.seen td {
		background: var(--sheet);
	}
</style>
