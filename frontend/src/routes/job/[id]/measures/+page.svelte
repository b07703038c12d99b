<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import rules from '$lib/api/rules.json';
	import { api, type MeasureEntry, type Tried } from '$lib/api/client';
	import { newId, ordered, type Operation } from '$lib/job/draft';
	import { minorUnit, money, num } from '$lib/parts/format';
	import { CompanyPrices } from '$lib/job/companyPrices.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const currency = $derived(job.currency ?? 'GBP');
	let chosen = $state<string[]>([]);
	let thick = $state<Record<string, string>>({});
	let adopting = $state(false);
	const tries = new Slow(() =>
		api.POST('/api/jobs/{job_id}/measures', {
			params: { path: { job_id: frame.session.id } },
			body: { chosen: $state.snapshot(chosen) }
		})
	);
	$effect(() => {
		if (session.settled) tries.ask();
	});
	const found = $derived(tries.found?.measures);

	/** Options of one measure on one construction: they differ in thickness or in what is put in, and exclude each other. */
	type Group = { key: string; options: Tried[] };
	const groups = $derived.by(() => {
		const out: Group[] = [];
		for (const one of found?.tried ?? []) {
			const key = `${one.option.measure}:${one.option.was ?? ''}`;
			const known = out.find((g) => g.key === key);
			if (known) known.options.push(one);
			else out.push({ key, options: [one] });
		}
		return out;
	});
	const shownOf = (group: Group): Tried =>
		group.options.find((o) => o.option.key === thick[group.key]) ??
		group.options.find((o) => chosen.includes(o.option.key)) ??
		group.options[Math.min(1, group.options.length - 1)]!;
	const most = $derived(Math.max(1, ...(found?.tried ?? []).map((t) => t.effect.loss_w)));
	const scheme = $derived(session.scheme ? job.schemes?.[session.scheme] : null);
	const adopted = $derived(
		ordered(scheme?.measures).filter(
			([, m]) => m.kind === 'construction' || m.kind === 'tightness' || m.kind === 'ventilation'
		)
	);
	const less = (minor: number | null): string =>
		minor === null ? '–' : `${minor < 0 ? '+' : '−'}${money(Math.abs(minor), currency)}`;
	const labelOf = (key: string): string => {
		const one = found?.tried.find((t) => t.option.key === key)?.option;
		return one ? `${one.label}${one.detail && one.was ? `, ${one.detail}` : ''}` : key;
	};
	const named = (measure: (typeof adopted)[number][1]): string =>
		measure.label ||
		(measure.kind === 'tightness'
			? `n50 ${num(measure.n50_per_h, 1)} per hour`
			: measure.kind === 'ventilation'
				? 'heat of the air recovered'
				: (job.library?.constructions?.[measure.construction ?? '']?.data.label ?? 'another construction'));

	function pick(group: Group, on: boolean): void {
		const keys = group.options.map((o) => o.option.key);
		chosen = chosen.filter((key) => !keys.includes(key));
		if (on) chosen = [...chosen, shownOf(group).option.key];
		tries.ask();
	}
	function choose(group: Group, key: string): void {
		const was = group.options.some((o) => chosen.includes(o.option.key));
		thick = { ...thick, [group.key]: key };
		if (was) pick(group, true);
	}
	async function adopt(): Promise<void> {
		adopting = true;
		const label =
			chosen.length === 1
				? labelOf(chosen[0]!)
				: `${chosen.length} measures: ${chosen.map(labelOf).join('; ')}`.slice(0, 190);
		const { data, error } = await api
			.POST('/api/jobs/{job_id}/measures/change', {
				params: { path: { job_id: session.id } },
				body: { chosen: $state.snapshot(chosen) }
			})
			.catch(() => ({ data: undefined, error: { message: 'No line just now.' } }));
		adopting = false;
		if (!data) {
			session.notice = {
				message: (error as { message?: string } | undefined)?.message ?? 'Not taken.',
				kept: 'Your choice is kept; the scheme is as it was.',
				places: []
			};
			return;
		}
		chosen = [];
		await session.edit(label, (d) => d.follow(data.operations as Operation[]));
	}
	function newScheme(): void {
		void session.edit('Scheme added', (d) => {
			const id = newId();
			d.set(`/schemes/${id}`, { label: 'Proposal', pos: 0 });
			d.set('/active_scheme', id);
		});
	}

	const table = new CompanyPrices<MeasureEntry>(
		'measures',
		() => shelf.all?.measures,
		() => session,
		() => tries.ask()
	);
	const setPrice = (key: string, field: 'fixed_minor' | 'm2_minor' | 'm2_minor_per_m', value: number | null) =>
		table.put(key, field, value, { source: `the company's own, ${new Date().toISOString().slice(0, 10)}` });
	const cautioned = $derived(
		(session.shown?.cautions.measures ?? []).filter(
			(c) =>
				chosen.length === 0 ||
				chosen.some((key) => found?.tried.find((t) => t.option.key === key)?.option.cautions.includes(c.id))
		)
	);
</script>

<Head title="Measures" screen="measures" sentence={found?.sentence ?? ''} />
{#if tries.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt" role="status">{tries.refused}</p>{/if}

{#if !session.scheme}
	<div class="grid justify-items-start gap-3.5 px-0 py-10 text-lead">
		<p>Measures belong to a scheme; the survey keeps what was found.</p>
		<button class="btn btn-primary" onclick={newScheme}>Begin a scheme</button>
	</div>
{:else if !found}
	<p class="note">
		Trying every measure through the whole chain <span class="loading loading-xs loading-dots" aria-hidden="true"
		></span>
	</p>
{:else if found.base_loss_w === null}
	<p class="grid justify-items-start gap-3.5 px-0 py-10 text-lead">
		<a href={`/job/${session.id}/plan?walk=new`}>Walk the first room</a>
	</p>
{:else}
	<div
		class="grid grid-cols-[minmax(0,1fr)_268px] gap-6 narrow:grid-cols-[1fr] [&.old]:opacity-65"
		class:old={tries.busy}
	>
		<div class="min-w-0 overflow-x-auto">
			<table class="table table-figures [&_.text-right:not(.wraps)]:whitespace-nowrap [&_th]:align-bottom">
				<thead>
					<tr
						><th class="px-1.25"></th><th class="px-1.25">Measure</th><th class="px-1.25">How much of it</th><th
							class="loss min-w-24 px-1.25">Off the loss</th
						><th class="px-1.25 text-right">Water</th><th class="px-1.25 text-right">Season</th><th
							class="px-1.25 text-right">Bill a year</th
						><th class="px-1.25 text-right">Costs</th><th class="wraps px-1.25 text-right">Pays back, years</th><th
							class="px-1.25">Disturbs</th
						></tr
					>
				</thead>
				<tbody>
					{#each groups as group (group.key)}
						{@const one = shownOf(group)}
						{@const on = group.options.some((o) => chosen.includes(o.option.key))}
						<tr class:on data-measure={group.key}>
							<td class="h-12.5 px-1.25 nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								><input
									class="checkbox checkbox-sm"
									type="checkbox"
									checked={on}
									aria-label={`Choose ${one.option.label}, ${one.option.was_label}`}
									onchange={(e) => pick(group, e.currentTarget.checked)}
								/></td
							>
							<td class="h-12.5 px-1.25 nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								><b>{one.option.label}</b><span class="block note" title={one.option.note}
									>{one.option.was_label}{#if one.option.area_m2}, {amount(one.option.area_m2, 'm²', 0)}{/if}</span
								></td
							>
							<td class="h-12.5 px-1.25 nth-[2]:min-w-37.5 nth-[3]:min-w-31">
								{#if group.options.length > 1}
									<select
										class="select min-h-7.5 w-full max-w-42 appearance-none bg-sheet ps-2 pe-7"
										aria-label={`How much: ${one.option.label}, ${one.option.was_label}`}
										value={one.option.key}
										onchange={(e) => choose(group, e.currentTarget.value)}
										>{#each group.options as option (option.option.key)}<option value={option.option.key}
												>{option.option.detail}</option
											>{/each}</select
									>
								{:else}<span class="note">{one.option.detail || one.option.becomes_label}</span>{/if}
								{#if one.option.u_before_w_m2k !== null}<span class="block note"
										>U {fig(one.option.u_before_w_m2k, 'W/m²K', 2)} → {fig(one.option.u_after_w_m2k, 'W/m²K', 2)}</span
									>{/if}
								{#if Math.abs(one.effect.sun_kwh) > 0.5}<span
										class="block note whitespace-nowrap"
										title="By so much heat a year the new panes change what the sun gives; it is counted in the bill"
										>sun {one.effect.sun_kwh > 0 ? '−' : '+'}{amount(Math.abs(one.effect.sun_kwh), 'kWh', 0)}</span
									>{/if}
							</td>
							<td class="loss h-12.5 min-w-24 px-1.25 nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								><span class="num font-bold"
									>{fig(one.effect.loss_w / 1000, 'kW', 2)}<span class="unit">{unitName('kW')}</span></span
								><span class="block h-1.75 bg-ash"
									><i class="block h-full bg-heat" style={`width: ${Math.max(0, (one.effect.loss_w / most) * 100)}%`}
									></i></span
								></td
							>
							<td class="h-12.5 px-1.25 text-right nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								>{one.effect.flow_c !== null && Math.abs(one.effect.flow_c) > 0.05
									? `${one.effect.flow_c < 0 ? '+' : '−'}${fig(Math.abs(one.effect.flow_c), 'K', 1)}`
									: '0'}<span class="unit">{unitName('K')}</span></td
							>
							<td class="h-12.5 px-1.25 text-right nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								>{one.effect.season === null
									? '–'
									: Math.abs(one.effect.season) < 0.005
										? '0'
										: `${one.effect.season < 0 ? '+' : '−'}${num(Math.abs(one.effect.season), 2)}`}</td
							>
							<td class="h-12.5 px-1.25 text-right nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								>{less(one.effect.bill_minor)}</td
							>
							<td class="h-12.5 px-1.25 text-right nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								>{money(one.option.cost_minor, currency)}</td
							>
							<td class="h-12.5 px-1.25 text-right nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								>{one.effect.payback_years === null
									? '–'
									: one.effect.payback_years > 99
										? '> 99'
										: num(one.effect.payback_years, 0)}</td
							>
							<td class="h-12.5 px-1.25 nth-[2]:min-w-37.5 nth-[3]:min-w-31"
								>{rules.disturbs[one.option.disturbance]}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
			{#if !groups.length}<p class="grid justify-items-start gap-3.5 px-0 py-10 text-lead">
					No measure of the table fits this house any more.
				</p>{/if}
			<p class="note">
				Each alone on “{scheme?.label}”, worked through the whole chain with the water following the rooms. Electricity {num(
					found.price_minor_per_kwh,
					1
				)}
				{minorUnit(currency)} per kWh. {found.sun} Prices are yours to set below.
			</p>
		</div>
		<section class="grid content-start gap-2" aria-label="Together">
			<h2>Together</h2>
			{#if chosen.length}
				<ul>
					{#each chosen as key (key)}<li class="flex items-center justify-between gap-2 border-b border-b-hairline">
							{labelOf(key)}
							<button
								class="btn btn-quiet flex-none whitespace-nowrap"
								aria-label={`Leave out ${labelOf(key)}`}
								onclick={() => ((chosen = chosen.filter((k) => k !== key)), tries.ask())}>leave out</button
							>
						</li>{/each}
				</ul>
				{#if found.together}
					<dl class="grid grid-cols-[1fr_auto] gap-x-2 gap-y-1">
						<dt class="text-muted">Loss</dt>
						<dd class="text-right whitespace-nowrap tabular-nums">
							{fig((found.base_loss_w ?? 0) / 1000, 'kW', 2)} →
							<b>{fig(((found.base_loss_w ?? 0) - found.together.loss_w) / 1000, 'kW', 2)}</b>
							{unitName('kW')}
						</dd>
						<dt class="text-muted">Water it needs</dt>
						<dd class="text-right whitespace-nowrap tabular-nums">
							{fig(found.base_flow_c, '°C', 1)} →
							<b
								>{fig(
									found.base_flow_c == null || found.together.flow_c == null
										? null
										: found.base_flow_c - found.together.flow_c,
									'°C',
									1
								)}</b
							> °C
						</dd>
						<dt class="text-muted">Season</dt>
						<dd class="text-right whitespace-nowrap tabular-nums">
							{num(found.base_season, 2)} →
							<b
								>{num(
									found.base_season == null || found.together.season == null
										? null
										: found.base_season - found.together.season,
									2
								)}</b
							>
						</dd>
						<dt class="text-muted">Bill a year</dt>
						<dd class="text-right whitespace-nowrap tabular-nums">
							{money(found.base_bill_minor, currency)} →
							<b
								>{money(
									found.base_bill_minor == null || found.together.bill_minor == null
										? null
										: found.base_bill_minor - found.together.bill_minor,
									currency
								)}</b
							>
						</dd>
						<dt class="text-muted">Cost</dt>
						<dd class="text-right whitespace-nowrap tabular-nums">
							<b>{money(found.together.cost_minor, currency)}</b>
						</dd>
						<dt class="text-muted">Pays back in</dt>
						<dd class="text-right whitespace-nowrap tabular-nums">
							{found.together.payback_years == null ? '–' : `${num(found.together.payback_years)} years`}
						</dd>
					</dl>
				{:else if !tries.busy}<p class="note">These do not fit beside each other.</p>{/if}
				<button
					class="btn btn-primary"
					disabled={adopting || tries.busy || !found.together}
					onclick={() => void adopt()}>Take into “{scheme?.label}”</button
				>
				<p class="note">One change, undone like any other. The survey keeps what was found.</p>
			{:else}
				<p class="note">
					Tick some to see what they do all at once: less than their sum, and sometimes one gets in another's way.
				</p>
			{/if}
			{#if adopted.length}
				<h2>In this scheme already</h2>
				<ul>
					{#each adopted as [id, measure] (id)}<li
							class="flex items-center justify-between gap-2 border-b border-b-hairline"
						>
							<span
								>{named(measure)}{#if measure.cost_minor}<span class="note"
										>, {money(measure.cost_minor, currency)}</span
									>{/if}</span
							><button
								class="btn btn-quiet flex-none whitespace-nowrap"
								aria-label={`Take ${named(measure)} out of the scheme`}
								onclick={() =>
									void session.edit(`${named(measure)} taken out`, (d) =>
										d.remove(`/schemes/${session.scheme}/measures/${id}`)
									)}>take out</button
							>
						</li>{/each}
				</ul>
			{/if}
			<Cautions cautions={cautioned} />
		</section>
	</div>
{/if}

<details class="mt-4.5 border-t border-t-ink" ontoggle={(event) => event.currentTarget.open && void table.load()}>
	<summary class="flex min-h-11 items-center font-bold">Prices of the company</summary>
	<table class="table table-figures">
		<thead
			><tr
				><th class="px-1.25">Measure</th><th class="px-1.25 text-right">Once</th><th class="px-1.25 text-right"
					>Per {unitName('m²')}</th
				><th class="px-1.25 text-right">More per m² and 100 mm</th><th class="px-1.25">From</th><th class="px-1.25"
				></th></tr
			></thead
		>
		<tbody>
			{#each Object.entries(table.rows) as [key, row] (key)}
				<tr>
					<td class="h-10 px-1.25 nth-[2]:min-w-37.5 nth-[3]:min-w-31">{row.label}</td>
					<td class="h-10 px-1.25 text-right nth-[2]:min-w-37.5 nth-[3]:min-w-31"
						><NumberField
							label={`${row.label}, once`}
							value={row.fixed_minor / 100}
							digits={0}
							unit={currency}
							width="8em"
							commit={(v) => setPrice(key, 'fixed_minor', v)}
						/></td
					>
					<td class="h-10 px-1.25 text-right nth-[2]:min-w-37.5 nth-[3]:min-w-31"
						><NumberField
							label={`${row.label}, per square metre`}
							value={(row.m2_minor ?? 0) / 100}
							digits={0}
							unit={currency}
							width="8em"
							commit={(v) => setPrice(key, 'm2_minor', v)}
						/></td
					>
					<td class="h-10 px-1.25 text-right nth-[2]:min-w-37.5 nth-[3]:min-w-31"
						><NumberField
							label={`${row.label}, per 100 mm`}
							value={(row.m2_minor_per_m ?? 0) / 1000}
							digits={1}
							unit={currency}
							width="8em"
							commit={(v) => setPrice(key, 'm2_minor_per_m', v === null ? null : v * 10)}
						/></td
					>
					<td class="h-10 px-1.25 note nth-[2]:min-w-37.5 nth-[3]:min-w-31"
						>{table.own[key] ? `your own, edition ${table.own[key]}` : 'ours, a guess'}</td
					>
					<td class="h-10 px-1.25 nth-[2]:min-w-37.5 nth-[3]:min-w-31"
						>{#if table.own[key]}<button class="btn btn-quiet" onclick={() => void table.back(key)}>back to ours</button
							>{/if}</td
					>
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="note">
		Kept for the company: every job reckons with them from now on. Prices already taken into a scheme stay as they were.
	</p>
</details>

<style>
	.on td {
		background: var(--sheet);
	}
</style>
