<script lang="ts">
	import { followed } from '$lib/job/followed';
	import { amount, fig, unitName } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
	import { api } from '$lib/api/client';
	import Days from '$lib/charts/Days.svelte';
	import Months from '$lib/charts/Months.svelte';
	import { ordered } from '$lib/job/draft';
	import { money, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Bills from '$lib/house/Bills.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const design = $derived(session.shown);
	const practice = $derived(followed(job.practice));
	const path = { params: { path: { job_id: frame.session.id } } };
	const year = new Slow(() => api.GET('/api/jobs/{job_id}/year', path));
	$effect(() => {
		if (session.settled) year.ask();
	});
	const found = $derived(year.found?.year);
	const rows = $derived(
		(found?.months ?? []).map((m) => {
			const free = Math.max(m.loss_kwh - m.heat_kwh, 0);
			const given = m.sun_kwh + m.people_kwh;
			const share = given > 0 ? m.sun_kwh / given : 0;
			return {
				name: m.name,
				outdoor: m.outdoor_c,
				parts: [
					{ kind: 'heat', value: m.heat_kwh },
					{ kind: 'people', value: free * (1 - share) },
					{ kind: 'sun', value: free * share }
				]
			};
		})
	);
	const line = $derived.by(() => {
		const house = design?.house;
		if (!house?.loss_w || house.outdoor_c == null || !house.h_w_k) return [];
		return [
			{ outdoor: house.outdoor_c, watts: house.loss_w },
			{
				outdoor: Math.min(house.outdoor_c + house.loss_w / house.h_w_k, 20),
				watts: Math.max(house.loss_w - house.h_w_k * (20 - house.outdoor_c), 0)
			}
		];
	});
	/** Every window of the survey, for the share of the sun that reaches it past trees, reveals and curtains. */
	const panes = $derived(
		ordered(job.survey?.rooms).flatMap(([id, room]) =>
			Object.entries(room.faces ?? {}).flatMap(([face, doc]) =>
				ordered(doc.openings)
					.filter(([, o]) => (o.kind ?? 'window') === 'window')
					.map(([key, o], n) => ({
						path: `/survey/rooms/${id}/faces/${face}/openings/${key}`,
						what: `${room.label}: ${o.label || `window ${n + 1} of ${face}`}`,
						sunlit: o.sunlit
					}))
			)
		)
	);
	const GAINS = [
		{ value: 'people_and_sun', label: 'people, devices and sun, hour by hour' },
		{ value: 'people', label: 'people and devices only' },
		{ value: 'none', label: 'none: loss is demand' }
	];
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
</script>

<Head title="Year and bills" screen="year" sentence={found?.sentence ?? ''} />

{#if year.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{year.refused}</p>{/if}
{#if found?.lacks}
	<p class="px-0 py-5 text-lead"><a href={`/job/${session.id}/climate`}>To the climate</a></p>
{:else if found}
	<div
		class="mb-3 grid grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-7.5 narrow:grid-cols-[1fr] [&.old]:opacity-60"
		class:old={year.busy || session.stale}
		aria-busy={year.busy || session.stale}
	>
		<section class="grid min-w-0 content-start gap-1.5">
			<h2>Month by month</h2>
			<Months
				{rows}
				unit="kWh"
				label="What the house loses every month: heating, people, sun"
				words={{ heat: 'from the heating', people: 'from people and devices', sun: 'from the sun' }}
			/>
			<p class="flex flex-wrap gap-x-4 gap-y-1 note">
				<span><i class="mr-1.25 inline-block h-2.75 w-4 bg-heat [vertical-align:-1px]"></i>heating gives</span><span
					><i class="mr-1.25 inline-block h-2.75 w-4 bg-fill-trade [vertical-align:-1px]"></i>people and devices give</span
				><span
					><i
						class="mr-1.25 inline-block h-2.75 w-4 [vertical-align:-1px] [background:repeating-linear-gradient(45deg,_var(--short-pale)_0_4px,_var(--short)_4px_6px)]"
					></i>sun gives</span
				><span
					><i class="mr-1.25 inline-block h-0 w-4 border-t-2 border-t-ink align-middle"></i>outside, {unitName(
						'°C'
					)}</span
				>
			</p>
		</section>
		<section class="grid min-w-0 content-start gap-1.5">
			<h2>Day by day</h2>
			<Days outdoor={found.day_outdoor_c} heat={found.day_heat_w} {line} />
			<p class="flex flex-wrap gap-x-4 gap-y-1 note">
				<span><i class="mr-1.25 inline-block h-2 w-2 rounded-sm bg-heat [vertical-align:-1px]"></i>a day</span><span
					><i class="mr-1.25 inline-block h-0 w-4 border-t-2 border-dashed border-t-ink align-middle"></i>the loss,
					nothing given</span
				>
			</p>
		</section>
	</div>
	<div class="mb-3 grid grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-7.5 narrow:grid-cols-[1fr]">
		<section class="grid min-w-0 content-start gap-1.5">
			<div class="overflow-x-auto">
				<table class="table table-figures">
					<thead
						><tr
							><th class="px-1.5 py-0.75">Month</th><th class="px-1.5 py-0.75 text-right">Outside</th><th
								class="px-1.5 py-0.75 text-right">Degree days</th
							><th class="px-1.5 py-0.75 text-right">Lost</th><th class="px-1.5 py-0.75 text-right">Sun</th><th
								class="px-1.5 py-0.75 text-right">People</th
							><th class="px-1.5 py-0.75 text-right">Heat</th><th class="px-1.5 py-0.75 text-right">Electricity</th
							>{#if found.fuel}<th class="px-1.5 py-0.75 text-right">Fuel</th>{/if}</tr
						></thead
					>
					<tbody
						>{#each found.months as m (m.name)}<tr
								><td class="px-1.5 py-0.75">{m.name}</td><td class="px-1.5 py-0.75 text-right"
									>{fig(m.outdoor_c, '°C', 1)}<span class="unit">{unitName('°C')}</span></td
								><td class="px-1.5 py-0.75 text-right">{num(m.degree_days_kd)}</td><td class="px-1.5 py-0.75 text-right"
									>{num(m.loss_kwh)}</td
								><td class="px-1.5 py-0.75 text-right">{num(m.sun_kwh)}</td><td class="px-1.5 py-0.75 text-right"
									>{num(m.people_kwh)}</td
								><td class="px-1.5 py-0.75 text-right">{num(m.heat_kwh)}</td><td class="px-1.5 py-0.75 text-right"
									>{num(m.electricity_kwh)}</td
								>{#if found.fuel}<td class="px-1.5 py-0.75 text-right">{num(m.fuel_kwh)}</td>{/if}</tr
							>{/each}</tbody
					>
					<tfoot
						><tr
							><td class="px-1.5 py-0.75 font-bold">Year</td><td class="px-1.5 py-0.75 font-bold"></td><td
								class="px-1.5 py-0.75 text-right font-bold">{num(found.degree_days_kd)}</td
							><td class="px-1.5 py-0.75 text-right font-bold">{num(found.loss_kwh)}</td><td
								class="px-1.5 py-0.75 text-right font-bold">{num(found.sun_kwh)}</td
							><td class="px-1.5 py-0.75 text-right font-bold">{num(found.people_kwh)}</td><td
								class="px-1.5 py-0.75 text-right font-bold">{num(found.heat_kwh)}</td
							><td class="px-1.5 py-0.75 text-right font-bold"
								>{num(found.electricity_kwh)}<span class="unit">kWh</span></td
							>{#if found.fuel}<td class="px-1.5 py-0.75 text-right font-bold"
									>{num(found.fuel_kwh)}<span class="unit">kWh</span></td
								>{/if}</tr
						></tfoot
					>
				</table>
			</div>
			<p class="note">
				Lost, sun and people: while there is heating. Degree days below {amount(found.degree_base_c, '°C', 1)}. By
				degree days alone the same house asks for {num(found.by_degree_days_kwh)} kWh.
			</p>
			{#if found.by_bins}<p class="note">{found.by_bins}</p>{/if}
		</section>
		<section class="grid min-w-0 content-start gap-1.5">
			<dl class="grid grid-cols-[1fr_auto] gap-x-2.5 gap-y-0.75">
				<dt class="text-muted">Heat of the year</dt>
				<dd class="text-right font-semibold tabular-nums">{num(found.heat_kwh)} kWh</dd>
				<dt class="text-muted">Electricity</dt>
				<dd class="text-right font-semibold tabular-nums">{num(found.electricity_kwh)} kWh</dd>
				{#if found.fuel}<dt class="text-muted">Burnt by {found.beside}</dt>
					<dd class="text-right font-semibold tabular-nums">{num(found.fuel_kwh)} kWh</dd>{/if}
				<dt class="text-muted">
					{found.fuel ? 'Heat for each kWh bought, fuel counted in: no COP' : 'Season, hour by hour'}
				</dt>
				<dd class="text-right font-semibold tabular-nums">{num(found.performance, 2)}</dd>
				{#if found.short_kwh}<dt class="text-muted">Heat nobody gives</dt>
					<dd class="text-right font-semibold tabular-nums">{num(found.short_kwh)} kWh</dd>{/if}
				<dt class="text-muted">Costs a year</dt>
				<dd class="text-right font-semibold tabular-nums">{money(found.bill_minor, job.currency)}</dd>
				<dt class="text-muted">Coldest month, mean</dt>
				<dd class="text-right font-semibold tabular-nums">{amount((found.coldest_month_w ?? 0) / 1000, 'kW', 2)}</dd>
				<dt class="text-muted">Hours of heating</dt>
				<dd class="text-right font-semibold tabular-nums">{num(found.heating_hours)} h</dd>
			</dl>
			{#if found.glass.length}
				<h2 class="mt-2">Sun through the glass</h2>
				<table class="table table-figures">
					<tbody
						>{#each found.glass as glass, n (n)}<tr
								><td
									>{glass.bearing}{glass.tilt_deg < 89 && glass.tilt_deg > 0
										? `, sloping ${num(glass.tilt_deg)}°`
										: ''}</td
								><td class="text-right">{fig(glass.area_m2, 'm²', 1)}<span class="unit">{unitName('m²')}</span></td><td
									class="text-right">{num(glass.sun_kwh)}<span class="unit">kWh</span></td
								></tr
							>{/each}</tbody
					>
				</table>
			{/if}
			{#if panes.length}
				<Fold title="Shade of each window">
					<table class="table table-figures">
						<tbody
							>{#each panes as pane (pane.path)}<tr
									><td>{pane.what}</td><td class="text-right"
										><NumberField
											label={`Sun past shade of ${pane.what}`}
											value={pane.sunlit}
											times={100}
											placeholder={num(practice.sunlit * 100)}
											digits={0}
											unit="%"
											width="5.6em"
											commit={put(`${pane.path}/sunlit`, `${pane.what}, shade`)}
										/></td
									></tr
								>{/each}</tbody
						>
					</table>
				</Fold>
			{/if}
			<h2 class="mt-2">How it is counted</h2>
			<label class="min-w-0 text-small text-muted"
				>Gains<Choice
					label="Gains through the year"
					value={practice.year_gains}
					options={GAINS}
					commit={(v) => void session.edit('Practice: gains of the year', (d) => d.set('/practice/year_gains', v))}
				/></label
			>
			<div class="grid grid-cols-[1fr_1fr] items-end gap-x-3 gap-y-2">
				<label class="min-w-0 text-small text-muted"
					>People, devices<NumberField
						label="People and devices"
						value={practice.people_w_per_m2}
						digits={1}
						unit="W/m²"
						width="100%"
						commit={put('/practice/people_w_per_m2', 'Practice: people')}
					/></label
				>
				<label class="min-w-0 text-small text-muted"
					>No heating above<NumberField
						label="Heating limit"
						value={practice.heating_limit_c}
						quantity="temperature"
						digits={1}
						unit="°C"
						width="100%"
						commit={put('/practice/heating_limit_c', 'Practice: heating limit')}
					/></label
				>
				<label class="min-w-0 text-small text-muted"
					>Sun past shade<NumberField
						label="Sun past shade"
						value={practice.sunlit}
						times={100}
						digits={0}
						unit="%"
						width="100%"
						commit={put('/practice/sunlit', 'Practice: shade')}
					/></label
				>
				<label class="min-w-0 text-small text-muted"
					>House holds gains<NumberField
						label="House holds gains"
						value={practice.gain_hold_h}
						digits={0}
						unit="h"
						width="100%"
						commit={put('/practice/gain_hold_h', 'Practice: gains held')}
					/></label
				>
			</div>
			{#if found.synthetic}<p class="note">
					<span class="badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-doubt"
						>synthetic year</span
					>
					{found.climate_label}. <a href={`/job/${session.id}/climate`}>Bring a measured one</a>
				</p>{/if}
		</section>
	</div>
{:else}<p class="note">
		Working the year hour by hour <span class="loading loading-xs loading-dots" aria-hidden="true"></span>
	</p>{/if}

<Bills />
