<script lang="ts">
	import type { Climate } from '$lib/api/client';
	import Months from '$lib/charts/Months.svelte';
	import { sendFile, type Wrong } from '$lib/job/files';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import BringFile from '$lib/job/BringFile.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import WrongFile from '$lib/job/WrongFile.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const job = $derived(session.job!);
	const key = $derived(job.climate?.entry ?? null);
	const climate = $derived(key ? (job.library?.climates?.[key]?.data ?? null) : null);
	const rule = $derived(job.climate?.rule ?? 'stated');
	let wrong = $state<Wrong | null>(null);
	let notes = $state<string[]>([]);
	let reading = $state(false);

	const RULES: [NonNullable<NonNullable<typeof job.climate>['rule']>, string][] = [
		['stated', 'Stated with the climate'],
		['long_term_p996', '99.6 %, over many years'],
		['long_term_p99', '99 %, over many years'],
		['p996', '99.6 % of this year’s hours are warmer'],
		['p99', '99 % of this year’s hours are warmer'],
		['day', 'Mean of the coldest day'],
		['three_days', 'Mean of the coldest three days']
	];
	const shown = $derived(design?.climate);
	const shift = $derived(shown?.shift_k ?? 0);
	const options = $derived(
		Object.values(shelf.all?.climates ?? {}).map((c) => ({
			value: c.id,
			label: `${c.label}, ${num(c.design_c, 1)} °C`,
			group: shelf.all?.own?.climates?.[c.id]
				? "The company's own"
				: c.synthetic
					? 'Generic, synthetic year'
					: 'Shipped'
		}))
	);
	const rows = $derived(
		(shown?.months ?? []).map((m) => ({
			name: m.name,
			outdoor: m.outdoor_c,
			parts: [{ kind: 'days', value: m.degree_days_kd }]
		}))
	);
	const below = $derived(shown?.below_hours ?? null);

	function take(id: string | null): void {
		void session.edit('Climate', (d) => {
			if (id) d.freeze('climates', id);
			d.put('/climate/entry', id);
		});
	}
	async function bring(file: File): Promise<void> {
		wrong = null;
		notes = [];
		reading = true;
		const sent = await sendFile<{ id: string; entry: Climate; notes: string[] }>(
			`/api/weather?label=${encodeURIComponent('')}`,
			'application/octet-stream',
			file
		);
		reading = false;
		wrong = sent.wrong;
		if (!sent.made) return;
		notes = sent.made.notes;
		await shelf.refresh();
		const made = sent.made;
		await session.edit(`Weather from ${file.name}`, (d) => {
			d.freeze('climates', made.id);
			d.set('/climate/entry', made.id);
			if (made.entry.long_term_p996_c != null) d.set('/climate/rule', 'long_term_p996');
			else if (!made.entry.typical) d.set('/climate/rule', 'p996');
			else d.set('/climate/rule', 'stated');
		});
	}
	const put = (path: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(path, value));
</script>

<Head title="Climate" screen="climate">
	<BringFile
		label="Bring a weather file"
		hint={reading ? 'Reading the year…' : 'Bring a weather file: EPW, TMY3, CSV'}
		accept=".epw,.csv,.tmy3,.txt"
		take={(file) => void bring(file)}
	/>
</Head>
{#if wrong}<WrongFile {wrong} close={() => (wrong = null)} />{/if}
{#if notes.length}<div class="notes" role="status">
		{#each notes as note (note)}<p>{note}</p>{/each}<button class="quiet" onclick={() => (notes = [])}>Close</button>
	</div>{/if}

<div class="desk">
	<section>
		<label>Climate<Choice label="Climate" value={key} empty="not chosen" {options} commit={take} /></label>
		{#if climate}
			<p class="note">
				{#if climate.synthetic}<span class="hatch-doubt tag">synthetic, not measured</span
					>{/if}{#if climate.typical}<span class="hatch-doubt tag">typical year: milder than real extremes</span>{/if}
				{climate.source}.
				{#if climate.latitude_deg != null}{num(Math.abs(climate.latitude_deg), 2)}° {climate.latitude_deg < 0
						? 'S'
						: 'N'}, {num(Math.abs(climate.longitude_deg ?? 0), 2)}° {(climate.longitude_deg ?? 0) < 0 ? 'W' : 'E'}.{/if}
				{#if climate.altitude_m != null}Station at {num(climate.altitude_m)} m.{/if}
			</p>
		{/if}
		<h2>Design temperature</h2>
		<p class="note">Which of them counts is a matter of school; every report says which.</p>
		<table class="plain-table">
			<tbody>
				{#each RULES as [value, label] (value)}
					{@const found = shown?.rules_c[value] ?? null}
					<tr class:on={rule === value && job.climate?.design_c == null}>
						<td
							><label class="pick"
								><input
									type="radio"
									name="rule"
									checked={rule === value && job.climate?.design_c == null}
									disabled={found == null}
									onchange={() =>
										void session.edit(
											'Design temperature, by rule',
											(d) => (d.set('/climate/rule', value), d.remove('/climate/design_c'))
										)}
								/>{label}</label
							></td
						>
						<td class="right">{found == null ? '–' : num(found, 1)}<span class="unit">°C</span></td>
					</tr>
				{/each}
				<tr class:on={job.climate?.design_c != null}
					><td>Entered by hand, from a national table</td><td class="right"
						><NumberField
							label="Design temperature"
							value={job.climate?.design_c}
							quantity="temperature"
							digits={1}
							unit="°C"
							width="6.4em"
							commit={put('/climate/design_c', 'Design temperature')}
						/></td
					></tr
				>
			</tbody>
		</table>
		<p class="said">
			Designed for <b>{num(design?.house.outdoor_c, 1)} °C</b>{#if below !== null}; {below < 1
					? 'no hour'
					: `${num(below)} hours`} of this year lie below{/if}.
		</p>
		<h2>Height</h2>
		<div class="two">
			<label
				>Site lies at<NumberField
					label="Altitude of the site"
					value={job.site?.altitude_m}
					digits={0}
					unit="m"
					width="100%"
					commit={put('/site/altitude_m', 'Altitude of the site')}
				/></label
			>
			<label class="pick"
				><input
					type="checkbox"
					checked={job.climate?.correct_height ?? false}
					onchange={(e) =>
						void session.edit('Height correction', (d) => d.set('/climate/correct_height', e.currentTarget.checked))}
				/>Carry the climate to the site, −0.6 K per 100 m</label
			>
		</div>
		<p class="note">
			{shift
				? `Every temperature moves by ${num(shift, 1)} K.`
				: job.climate?.correct_height
					? 'Nothing to correct, or an altitude is missing.'
					: 'Off: the climate is used as it stands.'}
		</p>
	</section>
	<section>
		{#if rows.length}
			<h2>The months</h2>
			<Months
				{rows}
				unit="K d"
				label="Degree days and mean temperature of every month"
				words={{ days: 'degree days' }}
			/>
			<p class="note">
				Bars: degree days below {num(shown?.degree_base_c, 1)} °C of the monthly means. Over the hours of the year: {num(
					shown?.degree_days_kd
				)} K d. Mean {num((climate?.annual_mean_c ?? 0) + shift, 1)} °C, which is also the deep ground's.
			</p>
			<details class="tablebox">
				<summary>The same as a table</summary>
				<table class="plain-table">
					<thead><tr><th>Month</th><th class="right">Mean, °C</th><th class="right">Degree days</th></tr></thead><tbody
						>{#each rows as row (row.name)}<tr
								><td>{row.name}</td><td class="right">{num(row.outdoor, 1)}</td><td class="right"
									>{num(row.parts[0]?.value)}</td
								></tr
							>{/each}</tbody
					>
				</table>
			</details>
		{/if}
		{#if climate}
			<p class="note">
				{#if climate.year_sha256}Carries 8760 hours with sun. <a href={`/api/jobs/${session.id}/weather.epw`} download
						>Take it as EPW</a
					>{:else}Carries no hourly year: the season runs on its bins; the year and the bills need one.{/if}
			</p>
		{/if}
		<p class="note">
			A weather file stays with the company and can be chosen in every job; it travels in a job's zip. What a file lacks
			is bridged only where it is short, and said here.
		</p>
	</section>
</div>

<style>
	.desk {
		display: grid;
		grid-template-columns: minmax(360px, 1fr) minmax(0, 1.25fr);
		gap: 34px;
	}
	section {
		display: grid;
		gap: 7px;
		align-content: start;
	}
	section > h2 {
		margin-top: 8px;
	}
	label {
		font-size: var(--small);
		color: var(--muted);
	}
	.pick {
		display: flex;
		gap: 9px;
		align-items: center;
		min-height: 34px;
		color: var(--ink);
		font-size: var(--text);
		cursor: pointer;
	}
	.pick input {
		width: 18px;
		height: 18px;
		accent-color: var(--ink);
	}
	tr.on td {
		background: var(--sheet);
		font-weight: 700;
	}
	td {
		padding-block: 1px;
	}
	.said b {
		font-weight: 700;
	}
	.two {
		display: grid;
		grid-template-columns: 150px 1fr;
		gap: 14px;
		align-items: end;
	}
	.tag {
		display: inline-block;
		padding: 0 7px;
		border-radius: 4px;
		margin-right: 6px;
	}
	.notes {
		border-left: 6px solid var(--doubt);
		background: var(--sheet);
		padding: 8px 14px;
		margin-bottom: 10px;
	}
	@media (max-width: 1000px) {
		.desk {
			grid-template-columns: 1fr;
		}
	}
</style>
