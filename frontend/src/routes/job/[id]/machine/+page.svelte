<script lang="ts">
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
	<p class="empty">As found there is no heat pump. Choose a scheme at the top left to compare machines.</p>
{:else}
	<div class="desk">
		<div>
			{#if row && machine && design?.house.outdoor_c != null}
				<Envelope {machine} {row} outdoor={design.house.outdoor_c} />
			{:else if !rows.length}
				<div class="empty">
					<p>Six invented machines lie in the library. Put them beside this house and see which covers it.</p>
					<button class="act first" onclick={() => compare(Object.keys(shelf.all?.machines ?? {}))}
						>Compare all six</button
					>
				</div>
			{/if}
			{#if rows.length}
				<div class="scroll">
					<table class="plain-table">
						<thead
							><tr
								><th>Machine</th><th class="right">At {num(design?.house.outdoor_c)} / {num(flow)} °C</th><th
									class="right">COP there</th
								><th class="right">Cover</th><th class="right">Season</th><th class="right">With hot water</th><th
									class="right">On and off above</th
								><th class="right">Backup</th><th></th></tr
							></thead
						>
						<tbody>
							{#each rows as r (r.id)}
								<tr class:seen={r.id === row?.id}>
									<td
										><button class="name" onclick={() => (looked = r.id)}
											>{r.label}<span class="note">{r.refrigerant} · {num(r.sound_power_day_db)} dB(A)</span></button
										></td
									>
									<td class="right"
										>{r.inside ? num(r.output_w / 1000, 2) : 'outside'}<span class="unit"
											>{r.inside ? 'kW' : 'its envelope'}</span
										></td
									>
									<td class="right"
										>{num(r.cop, 2)}{#if r.extrapolated}<span class="hatch-doubt tag">extrapolated</span>{/if}</td
									>
									<td class="right"
										>{#if r.cover != null && r.cover < 1}<span class="hatch-short tag">short</span>{/if}
										{num(r.cover == null ? null : r.cover * 100)}<span class="unit">%</span></td
									>
									<td class="right">{num(r.season, 2)}</td>
									<td class="right">{num(r.season_with_hot_water, 2)}</td>
									<td class="right">{num(r.cycles_above_c)}<span class="unit">°C</span></td>
									<td class="right"
										>{num(r.backup_share == null ? null : r.backup_share * 100, 1)}<span class="unit">%</span></td
									>
									<td class="right acts">
										{#if r.chosen}<strong class="chosen">chosen</strong>{:else}<button
												class="act"
												onclick={() => choose(r.id, r.label)}>Choose</button
											>{/if}
										<button class="quiet" aria-label={`Stop comparing ${r.label}`} onclick={() => drop(r.id, r.label)}
											>drop</button
										>
									</td>
								</tr>
							{/each}
						</tbody>
					</table>
				</div>
				{#if others.length}<div class="more">
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
		<section class="side">
			{#if row}
				<h2>{row.label}</h2>
				<dl>
					<dt>Gives on the design day</dt>
					<dd>
						<button class="figure-link" onclick={() => void frame.showWorking('cover')} disabled={!row.chosen}
							>{num(row.output_w / 1000, 2)} kW</button
						>
					</dd>
					<dt>House loses</dt>
					<dd>{num((design?.house.loss_w ?? 0) / 1000, 2)} kW</dd>
					<dt>Least it gives there</dt>
					<dd>{num(row.least_w / 1000, 2)} kW</dd>
					<dt>Hot water takes of the day</dt>
					<dd>{num(row.hot_water_hours, 1)} h</dd>
					<dt>Cover without hot water</dt>
					<dd>{num(row.cover_without_hot_water == null ? null : row.cover_without_hot_water * 100)} %</dd>
					<dt>Backup begins below</dt>
					<dd>{row.bivalent_c == null ? 'never' : `${num(row.bivalent_c)} °C`}</dd>
					<dt>Hours on and off</dt>
					<dd>{num(row.cycling_share == null ? null : row.cycling_share * 100)} %</dd>
					<dt>Electricity, heating</dt>
					<dd>{num(row.electricity_kwh)} kWh</dd>
				</dl>
				{#if entry}
					<p class="note">
						{entry.refrigerant}
						{num(entry.refrigerant_kg, 2)} kg{entry.flammable ? ', flammable' : ''} · least flow {num(
							entry.least_flow_lph
						)} L/h · least water {num(entry.least_volume_l)} L · at most {num(entry.max_current_a)} A · {num(
							entry.weight_kg
						)} kg
					</p>
				{/if}
				<p class="note">
					Season: {design?.season.climate_label || 'no climate'}, the water of this job's curve. An estimate, not a
					standard-test figure. {#if row.chosen}<button class="quiet" onclick={() => void frame.showWorking('season')}
							>its working</button
						>{/if}
				</p>
			{/if}
			<Cautions cautions={design?.cautions.machine ?? []} brief />
		</section>
	</div>
{/if}

<style>
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 280px;
		gap: 26px;
	}
	.side {
		display: grid;
		gap: 9px;
		align-content: start;
	}
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 3px 10px;
	}
	dt {
		color: var(--muted);
	}
	dd {
		text-align: right;
		font-weight: 600;
		font-variant-numeric: tabular-nums;
	}
	.figure-link:not(:disabled) {
		text-decoration: underline dotted;
		text-underline-offset: 4px;
	}
	.figure-link:disabled {
		opacity: 1;
	}
	.scroll {
		overflow-x: auto;
		margin-top: 6px;
	}
	th,
	td {
		padding-inline: 6px;
	}
	td {
		height: 44px;
	}
	.seen td {
		background: var(--sheet);
	}
	.name {
		text-align: left;
		font-weight: 600;
		min-height: 44px;
		white-space: nowrap;
	}
	.name .note {
		display: block;
	}
	.tag {
		padding: 0 6px;
		border-radius: 4px;
		font-size: var(--small);
		font-weight: 600;
	}
	.acts {
		white-space: nowrap;
	}
	.acts .act {
		min-height: 36px;
		padding: 0 10px;
	}
	.chosen {
		color: var(--meets);
	}
	.more {
		max-width: 280px;
		margin-top: 10px;
	}
	.empty {
		font-size: var(--lead);
		padding: 50px 0;
		display: grid;
		gap: 16px;
		justify-items: start;
		max-width: 52ch;
	}
	@media (max-width: 1000px) {
		.desk {
			grid-template-columns: 1fr;
		}
	}
</style>
