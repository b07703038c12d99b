<script lang="ts">
	import { amount, fig, system, unitName } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
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
	import { USUAL } from '$lib/parts/usual';
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
			label: `${c.label}, ${amount(c.design_c, '°C', 1)}`,
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
		hint={reading ? 'Reading the year…' : 'Bring a weather file: EPW, TMY3, hourly CSV'}
		accept=".epw,.csv,.tmy3,.txt"
		take={(file) => void bring(file)}
	/>
</Head>
{#if wrong}<WrongFile {wrong} close={() => (wrong = null)} />{/if}
{#if notes.length}<div class="mb-2.5 border-l-6 border-l-doubt bg-sheet px-3.5 py-2" role="status">
		{#each notes as note (note)}<p>{note}</p>{/each}<button class="btn btn-quiet" onclick={() => (notes = [])}
			>Close</button
		>
	</div>{/if}

<div class="grid grid-cols-[minmax(360px,1fr)_minmax(0,1.25fr)] gap-8.5 narrow:grid-cols-[1fr]">
	<section class="grid content-start gap-1.75">
		<label class="text-small text-muted"
			>Climate<Choice label="Climate" value={key} empty="not chosen" {options} commit={take} /></label
		>
		{#if climate}
			<p class="note">
				{#if climate.synthetic}<span
						class="mr-1.5 badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-doubt"
						>synthetic, not measured</span
					>{/if}{#if climate.typical}<span
						class="mr-1.5 badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-doubt"
						>typical year: milder than real extremes</span
					>{/if}
				{climate.source}.
				{#if climate.latitude_deg != null}{num(Math.abs(climate.latitude_deg), 2)}° {climate.latitude_deg < 0
						? 'S'
						: 'N'}, {num(Math.abs(climate.longitude_deg ?? 0), 2)}° {(climate.longitude_deg ?? 0) < 0 ? 'W' : 'E'}.{/if}
				{#if climate.altitude_m != null}Station at {amount(climate.altitude_m, 'm')}.{/if}
			</p>
		{/if}
		<h2 class="mt-2">Design temperature</h2>
		<p class="note">Which of them counts is a matter of school; every report says which.</p>
		<table class="table table-figures">
			<tbody>
				{#each RULES as [value, label] (value)}
					{@const found = shown?.rules_c[value] ?? null}
					<tr class:on={rule === value && job.climate?.design_c == null}>
						<td class="py-px"
							><label class="flex min-h-8.5 cursor-pointer items-center gap-2.25 text-body text-ink"
								><input
									class="h-4.5 w-4.5 accent-ink"
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
						<td class="py-px text-right">{fig(found, '°C', 1)}<span class="unit">{unitName('°C')}</span></td>
					</tr>
				{/each}
				<tr class:on={job.climate?.design_c != null}
					><td class="py-px">Entered by hand, from a national table</td><td class="py-px text-right"
						><NumberField
							label="Design temperature"
							between={USUAL.outdoor_c}
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
		<p>
			Designed for <b class="font-bold">{amount(design?.house.outdoor_c, '°C', 1)}</b>{#if below !== null}; {below < 1
					? 'no hour'
					: `${num(below)} hours`} of this year lie below{/if}.
		</p>
		<h2 class="mt-2">Height</h2>
		<div class="grid grid-cols-[150px_1fr] items-end gap-3.5">
			<label class="text-small text-muted"
				>Site lies at<NumberField
					label="Altitude of the site"
					value={job.site?.altitude_m}
					digits={0}
					unit="m"
					width="100%"
					commit={put('/site/altitude_m', 'Altitude of the site')}
				/></label
			>
			<label class="flex min-h-8.5 cursor-pointer items-center gap-2.25 text-body text-ink"
				><input
					class="h-4.5 w-4.5 accent-ink"
					type="checkbox"
					checked={job.climate?.correct_height ?? false}
					onchange={(e) =>
						void session.edit('Height correction', (d) => d.set('/climate/correct_height', e.currentTarget.checked))}
				/>Carry the climate to the site, {system.feet ? '−3.3 °F per 1000 ft' : '−0.6 K per 100 m'}</label
			>
		</div>
		<p class="note">
			{shift
				? `Every temperature moves by ${amount(shift, 'K', 1)}.`
				: job.climate?.correct_height
					? 'Nothing to correct, or an altitude is missing.'
					: 'Off: the climate is used as it stands.'}
		</p>
	</section>
	<section class="grid content-start gap-1.75">
		{#if rows.length}
			<h2 class="mt-2">The months</h2>
			<Months
				{rows}
				unit="K d"
				label="Degree days and mean temperature of every month"
				words={{ days: 'degree days' }}
			/>
			<p class="note">
				Bars: degree days below {amount(shown?.degree_base_c, '°C', 1)} of the monthly means. Over the hours of the year:
				{amount(shown?.degree_days_kd, 'K d')}. Mean {amount((climate?.annual_mean_c ?? 0) + shift, '°C', 1)}, which is
				also the deep ground's.
			</p>
			<Fold title="The same as a table">
				<table class="table table-figures">
					<thead
						><tr
							><th>Month</th><th class="text-right">Mean, {unitName('°C')}</th><th class="text-right">Degree days</th
							></tr
						></thead
					><tbody
						>{#each rows as row (row.name)}<tr
								><td class="py-px">{row.name}</td><td class="py-px text-right">{fig(row.outdoor, '°C', 1)}</td><td
									class="py-px text-right">{fig(row.parts[0]?.value, 'K d')}</td
								></tr
							>{/each}</tbody
					>
				</table>
			</Fold>
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
	tr.on td {
		background: var(--sheet);
		font-weight: 700;
	}
</style>
