<script lang="ts">
	import { amount, inUnits, fig, unitName } from '$lib/parts/units';
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { api, type Construction, type Frozen, type Refusal, type Section } from '$lib/api/client';
	import { ELEMENTS, blank, copyOf, replaceEverywhere, usesOf } from '$lib/house/builds';
	import SectionChart from '$lib/charts/Section.svelte';
	import { ordered } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Head from '$lib/parts/Head.svelte';
	import LayerTable from '$lib/house/LayerTable.svelte';
	import LibraryPick from '$lib/parts/LibraryPick.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const design = $derived(session.shown);
	const taken = $derived(Object.entries(job.library?.constructions ?? {}));
	const leaks = $derived(
		new Map((design?.house.leaks ?? []).filter((l) => l.construction).map((l) => [l.construction!, l]))
	);
	let key = $state<string | null>(untrack(() => page.url.searchParams.get('show')));
	let draft = $state.raw<Construction | null>(null);
	let choosing = $state(false);
	let replaces = $state<string | null>(null);
	let layer = $state<number | null>(null);

	const first = $derived([...leaks.keys()].find((k) => job.library?.constructions?.[k]) ?? taken[0]?.[0] ?? null);
	const here = $derived(key ?? first);
	const frozen = $derived(here ? job.library?.constructions?.[here] : undefined);
	const entry = $derived<Construction | null>(
		draft ?? frozen?.data ?? (here ? (shelf.all?.constructions[here] ?? null) : null)
	);
	const uses = $derived(here && !draft ? usesOf(job, here) : []);
	const newer = $derived(
		!draft && frozen && here && shelf.all?.sha256.constructions?.[here] && frozen.origin !== 'job'
			? shelf.all.sha256.constructions[here] !== frozen.sha256
			: false
	);

	let section = $state.raw<Section | null>(null);
	let sha256 = $state('');
	let problems = $state.raw<Record<string, string>>({});
	let refused = $state<string | null>(null);
	let asked = 0;
	const cold = $derived(design?.house.outdoor_c ?? 0);
	async function cut(one: Construction, outside: number): Promise<void> {
		const mine = ++asked;
		const answer = await api
			.POST('/api/section', {
				body: { entry: one as unknown as Record<string, never>, inside_c: 20, outside_c: outside }
			})
			.catch(() => null);
		if (mine !== asked) return;
		if (answer?.data) {
			section = inUnits(answer.data.section);
			sha256 = answer.data.sha256;
			problems = {};
			refused = null;
		} else {
			const error = answer?.error as Refusal | undefined;
			problems = Object.fromEntries((error?.problems ?? []).map((p) => [p.path, p.message]));
			const elsewhere = (error?.problems ?? []).filter((p) => !p.path.startsWith('/layers/'));
			refused = error
				? [
						error.message,
						...elsewhere.map((p) => (p.path === '/' ? p.message : `${p.path.slice(1)}: ${p.message}`))
					].join(' ')
				: 'No line just now: the drawing belongs to an earlier edit.';
		}
	}
	$effect(() => {
		if (entry) void cut(entry, cold);
		else section = null;
	});

	const DEFAULTS: Record<Construction['element'], [string, string][]> = {
		wall: [
			['wall', 'outside walls'],
			['inner_wall', 'inner walls'],
			['party_wall', 'walls to neighbours']
		],
		roof: [['roof', 'roofs and ceilings']],
		ground: [['ground', 'ground floor']],
		floor: [['floor', 'upper floors']],
		window: [['window', 'windows']],
		door: [['door', 'outside doors']]
	};
	const targets = $derived(
		entry
			? ordered(job.survey?.parts).flatMap(([id, part]) =>
					(DEFAULTS[entry.element] ?? []).map(([name, words]) => ({
						value: `${id}/${name}`,
						label: `${words} of ${part.label || id}`
					}))
				)
			: []
	);
	const likes = $derived(
		entry
			? taken
					.filter(
						([k, f]) =>
							f.data.element === entry.element &&
							k !== entry.id &&
							usesOf(job, k).some((u) => u.path.startsWith('/survey/'))
					)
					.map(([value, f]) => ({ value, label: f.data.label }))
			: []
	);

	function show(id: string): void {
		key = id;
		draft = null;
		layer = null;
	}
	/** The entry as the job holds it: its own work, or what the library and the company keep. */
	function freezeInto(d: Parameters<Parameters<typeof session.edit>[1]>[0], one: Construction): void {
		if (!draft) return d.freeze('constructions', one.id);
		const copy: Frozen = { origin: 'job', edition: 'job', sha256, data: one };
		d.set(`/library/constructions/${one.id}`, copy);
	}
	function useFor(target: string | null): void {
		if (!entry || !target) return;
		const one = entry;
		const [part, name] = target.split('/');
		void session.edit(`${one.label} used`, (d) => {
			freezeInto(d, one);
			d.set(`/survey/parts/${part}/constructions/${name}`, one.id);
		});
		show(one.id);
	}
	function insteadOf(from: string | null): void {
		if (!entry || !from) return;
		const one = entry;
		void session.edit(`${one.label} instead of ${job.library?.constructions?.[from]?.data.label ?? from}`, (d) => {
			freezeInto(d, one);
			replaceEverywhere(d, from, one.id);
		});
		show(one.id);
	}
	function intoJob(): void {
		if (!entry) return;
		const one = entry;
		void session.edit(`${one.label} taken into the job`, (d) => freezeInto(d, one));
		show(one.id);
	}
	async function forCompany(): Promise<void> {
		if (!entry) return;
		const one = entry;
		const { data, error } = await api
			.PUT('/api/company/{kind}/{key}', {
				params: { path: { kind: 'constructions', key: one.id } },
				body: one as unknown as Record<string, never>
			})
			.catch(() => ({ data: undefined, error: { message: 'No line just now.' } as Refusal }));
		if (!data) {
			refused = (error as Refusal | undefined)?.message ?? 'Not kept.';
			return;
		}
		await shelf.refresh();
		draft = null;
		await session.edit(`${one.label} taken into the job`, (d) => {
			d.set(`/library/constructions/${one.id}`, {
				origin: 'company',
				edition: String(data.edition),
				sha256: data.sha256,
				data: data.entry
			} satisfies Frozen);
		});
		show(one.id);
	}
	async function forget(id: string): Promise<void> {
		await api
			.DELETE('/api/company/{kind}/{key}', { params: { path: { kind: 'constructions', key: id } } })
			.catch(() => undefined);
		await shelf.refresh();
	}
	function takeOut(): void {
		if (!here) return;
		const gone = here;
		void session
			.edit(`${frozen?.data.label ?? gone} taken out of the job`, (d) => d.remove(`/library/constructions/${gone}`))
			.then((kept) => kept && (key = null));
	}
	function takeNewer(): void {
		if (!here || !shelf.all) return;
		const id = here;
		const copy: Frozen = {
			origin: shelf.all.own?.constructions?.[id] ? 'company' : 'library',
			edition: shelf.all.own?.constructions?.[id] ?? shelf.all.edition,
			sha256: shelf.all.sha256.constructions?.[id] ?? '',
			data: shelf.all.constructions[id]
		};
		void session.edit('Newer edition taken', (d) => d.set(`/library/constructions/${id}`, copy));
	}
	function edit(next: Construction): void {
		draft = next;
	}
	function asStated(on: boolean): void {
		if (!draft) return;
		draft = on
			? { ...draft, layers: [], stated_u_w_m2k: Math.round((section?.u_w_m2k ?? 1) * 100) / 100 }
			: { ...draft, stated_u_w_m2k: null, layers: blank(draft.element, shelf.all).layers };
	}
	const GLASS: [keyof NonNullable<Construction['glazing']>, string, string, number, number][] = [
		['glass_u_w_m2k', 'Glass U', 'W/m²K', 1, 2],
		['frame_u_w_m2k', 'Frame U', 'W/m²K', 1, 2],
		['frame_share', 'Frame share', '%', 100, 0],
		['edge_psi_w_mk', 'Edge ψ', 'W/mK', 1, 3],
		['edge_m_per_m2', 'Edge length', 'm/m²', 1, 1],
		['g_value', 'Sun let in, g', '%', 100, 0]
	];
	const grouped = $derived(
		ELEMENTS.map((e) => ({ ...e, rows: taken.filter(([, f]) => f.data.element === e.value) })).filter(
			(g) => g.rows.length
		)
	);
</script>

<Head title="Constructions" screen="constructions">
	<button
		class="btn"
		class:btn-primary={!choosing}
		class:btn-outline={!!choosing}
		onclick={() => (choosing = !choosing)}>{choosing ? 'Back to this job' : 'Choose from the library'}</button
	>
	<details class="dropdown dropdown-end">
		<summary class="btn list-none btn-outline">Compose one</summary>
		<ul class="dropdown-content menu z-30 mt-1 w-52 rounded-md border border-ink bg-sheet p-1">
			{#each ELEMENTS as e (e.value)}<li>
					<button
						class="min-h-10"
						onclick={(event) => (
							(draft = blank(e.value, shelf.all)),
							(choosing = false),
							event.currentTarget.closest('details')?.removeAttribute('open')
						)}>{e.label}</button
					>
				</li>{/each}
		</ul>
	</details>
</Head>

<div class="grid grid-cols-[292px_minmax(0,1fr)] items-start gap-6.5 narrow:grid-cols-[1fr]">
	<section class="grid min-w-0 gap-1.5" aria-label={choosing ? 'Library' : 'In this job'}>
		{#if choosing}
			<LibraryPick shown={draft ? null : here} {show} />
		{:else}
			<ul class="max-h-[calc(100vh_-_280px)] min-h-55 overflow-auto border-t border-t-hairline">
				{#each grouped as group (group.value)}
					<li class="flex items-baseline justify-between px-1.5 pt-2 pb-0.5">
						<h2>{group.label}</h2>
						<span class="note">U, {unitName('W/m²K')}</span>
					</li>
					{#each group.rows as [id, f] (id)}
						{@const leak = leaks.get(id)}
						<li>
							<button class="pickrow" class:on={here === id && !draft} onclick={() => show(id)}
								><span
									>{f.data.label}<span class="block note"
										>{leak
											? `${amount(leak.loss_w, 'W')}, ${amount(leak.area_m2, 'm²', 1)}`
											: 'loses nothing here'}{f.origin === 'library'
											? ''
											: f.origin === 'company'
												? ' · the company’s'
												: ' · this job’s'}</span
									></span
								><span class="u"
									>{num(leak?.u_w_m2k ?? (f.data.element === 'ground' ? null : shelf.all?.u_values[id]), 2)}</span
								></button
							>
						</li>
					{/each}
				{/each}
			</ul>
		{/if}
	</section>

	{#if entry}
		<section class="main grid min-w-0 gap-2" aria-label="Section">
			{#if draft}
				<div class="grid grid-cols-[1.6fr_1.2fr_0.8fr_1fr] gap-2 narrow:grid-cols-[1fr]">
					<label class="text-small text-muted"
						>Name<input
							class="input w-full bg-sheet"
							aria-label="Name of the construction"
							value={draft.label}
							maxlength="290"
							onchange={(e) => edit({ ...draft!, label: e.currentTarget.value || 'Unnamed' })}
						/></label
					>
					<label class="text-small text-muted"
						>Build<input
							class="input w-full bg-sheet"
							aria-label="Build"
							value={draft.build}
							maxlength="200"
							onchange={(e) => edit({ ...draft!, build: e.currentTarget.value })}
						/></label
					>
					<label class="text-small text-muted"
						>Age<input
							class="input w-full bg-sheet"
							aria-label="Age of the construction"
							value={draft.age}
							maxlength="200"
							onchange={(e) => edit({ ...draft!, age: e.currentTarget.value })}
						/></label
					>
					<label class="text-small text-muted"
						>From where<input
							class="input w-full bg-sheet"
							aria-label="Source"
							value={draft.source}
							maxlength="290"
							onchange={(e) => edit({ ...draft!, source: e.currentTarget.value || 'entered by hand' })}
						/></label
					>
				</div>
			{/if}
			{#if section}<Sentence text={section.sentence} />{/if}
			{#if refused}<p class="rounded-sm px-2.5 py-1 hatch-short" role="alert">
					{refused}
					{draft ? 'What you typed is kept here.' : ''}
				</p>{/if}
			<div class="grid grid-cols-[minmax(0,1fr)_214px] items-start gap-4.5 narrow:grid-cols-[1fr]">
				<div class="drawing">
					{#if section}<SectionChart {section} chosen={layer} onchoose={(n) => (layer = n)} />{/if}
				</div>
				<dl class="facts grid grid-cols-[1fr_auto] items-baseline gap-x-2 gap-y-1">
					{#if section}
						<dt class="text-small text-muted">U</dt>
						<dd class="big text-right font-display text-[25px] font-semibold whitespace-nowrap tabular-nums">
							{fig(section.u_w_m2k, 'W/m²K', 2)}<span class="unit">{unitName('W/m²K')}</span>
						</dd>
						{#if section.r_total_m2kw !== null}<dt class="text-small text-muted">R, upper limit</dt>
							<dd class="text-right font-semibold whitespace-nowrap tabular-nums">
								{fig(section.r_upper_m2kw, 'm²K/W', 3)}
							</dd>
							<dt class="text-small text-muted">R, lower limit</dt>
							<dd class="text-right font-semibold whitespace-nowrap tabular-nums">
								{fig(section.r_lower_m2kw, 'm²K/W', 3)}
							</dd>
							<dt class="text-small text-muted">R taken, their mean</dt>
							<dd class="text-right font-semibold whitespace-nowrap tabular-nums">
								{fig(section.r_total_m2kw, 'm²K/W', 3)}<span class="unit">{unitName('m²K/W')}</span>
							</dd>{/if}
						<dt class="text-small text-muted">Inside surface</dt>
						<dd class="text-right font-semibold whitespace-nowrap tabular-nums">
							{fig(section.surface_c, '°C', 1)}<span class="unit">{unitName('°C')}</span>
						</dd>
						<dt class="text-small text-muted">Mould below</dt>
						<dd class="text-right font-semibold whitespace-nowrap tabular-nums">
							{fig(section.mould_c, '°C', 1)}<span class="unit">{unitName('°C')}</span>
						</dd>
						<dt class="text-small text-muted">Dew point, {amount(20, '°C')}, 50 %</dt>
						<dd class="text-right font-semibold whitespace-nowrap tabular-nums">
							{fig(section.dew_point_c, '°C', 1)}<span class="unit">{unitName('°C')}</span>
						</dd>
					{/if}
					{#if !draft && frozen}<dt class="text-small text-muted"></dt>
						<dd class="text-right font-semibold whitespace-nowrap tabular-nums">
							<button class="btn btn-quiet" onclick={() => void frame.showWorking(`construction:${here}`)}
								>its working</button
							>
						</dd>{/if}
				</dl>
			</div>
			{#each section?.warnings ?? [] as warning (warning)}<p class="border-l-6 border-l-doubt pl-2.5">
					{warning}
				</p>{/each}

			{#if draft && draft.glazing}
				<div class="grid grid-cols-[repeat(3,1fr)] gap-x-3 gap-y-2">
					{#each GLASS as [field, label, unit, times, digits] (field)}<label class="text-small text-muted"
							>{label}<NumberField
								{label}
								value={draft.glazing[field] * times}
								{digits}
								{unit}
								width="100%"
								commit={(v) =>
									void (v !== null && edit({ ...draft!, glazing: { ...draft!.glazing!, [field]: v / times } }))}
							/></label
						>{/each}
				</div>
			{:else if draft}
				<div class="kind flex flex-wrap items-center gap-x-3.5 gap-y-2">
					<label class="flex items-center gap-1.75 text-body text-ink"
						><input
							class="h-4.25 w-4.25 accent-ink"
							type="radio"
							name="how-u"
							checked={draft.stated_u_w_m2k == null}
							onchange={() => asStated(false)}
						/>by its layers</label
					>
					<label class="flex items-center gap-1.75 text-body text-ink"
						><input
							class="h-4.25 w-4.25 accent-ink"
							type="radio"
							name="how-u"
							checked={draft.stated_u_w_m2k != null}
							onchange={() => asStated(true)}
						/>by a declared U-value</label
					>
					{#if draft.stated_u_w_m2k != null}<NumberField
							label="Declared U-value"
							value={draft.stated_u_w_m2k}
							digits={2}
							unit="W/m²K"
							width="9em"
							commit={(v) => void (v !== null && edit({ ...draft!, stated_u_w_m2k: v }))}
						/>{/if}
					{#if draft.element === 'ground'}<Choice
							label="Kind of ground floor"
							value={draft.floor_kind}
							options={[
								{ value: 'slab', label: 'slab on the ground' },
								{ value: 'suspended', label: 'over a ventilated void' }
							]}
							commit={(v) => edit({ ...draft!, floor_kind: v as Construction['floor_kind'] })}
						/>{/if}
				</div>
				{#if draft.stated_u_w_m2k == null}<LayerTable
						entry={draft}
						{section}
						{problems}
						chosen={layer}
						change={edit}
						onchoose={(n) => (layer = n)}
					/>{/if}
			{:else if section?.layers.length}
				<table class="table table-figures">
					<thead
						><tr
							><th class="px-1.5 py-0.75"></th><th class="px-1.5 py-0.75">Inside first</th><th
								class="px-1.5 py-0.75 text-right">Thick</th
							><th class="px-1.5 py-0.75 text-right">λ</th><th class="px-1.5 py-0.75 text-right">R</th><th
								class="px-1.5 py-0.75">Crossed by</th
							></tr
						></thead
					>
					<tbody
						>{#each section.layers as one, n (n)}<tr
								class="[&.faint]:opacity-55"
								class:faint={!one.counted}
								class:chosen={layer === n}
								><td class="w-5 px-1.5 py-0.75 font-bold">{n + 1}</td><td class="px-1.5 py-0.75"
									>{one.label}{#if !one.counted}<span class="note"> does not count</span>{/if}</td
								><td class="px-1.5 py-0.75 text-right"
									>{one.thickness_m === null
										? '–'
										: fig(one.thickness_m * 1000, 'mm', one.thickness_m < 0.02 ? 1 : 0)}<span class="unit"
										>{unitName('mm')}</span
									></td
								><td class="px-1.5 py-0.75 text-right">{fig(one.lambda_w_mk, 'W/mK', 3)}</td><td
									class="px-1.5 py-0.75 text-right">{fig(one.r_m2kw, 'm²K/W', 3)}</td
								><td class="px-1.5 py-0.75 note"
									>{one.bridge_share ? `${num(one.bridge_share * 100)} % ${one.bridge_label}` : ''}</td
								></tr
							>{/each}</tbody
					>
				</table>
			{:else if entry.glazing}
				<p class="note">
					Glass U {fig(entry.glazing.glass_u_w_m2k, 'W/m²K', 2)}, frame U {fig(entry.glazing.frame_u_w_m2k, 'W/m²K', 2)} over
					{num(entry.glazing.frame_share * 100)} %, edge ψ {amount(entry.glazing.edge_psi_w_mk, 'W/mK', 3)}, g {num(
						entry.glazing.g_value,
						2
					)}.
				</p>
			{/if}
			<p class="note">
				{entry.build ? `${entry.build}. ` : ''}{entry.age ? `${entry.age}. ` : ''}Source: {entry.source}.
			</p>

			<div class="flex flex-wrap items-center gap-x-3.5 gap-y-2">
				{#if draft}
					<button class="btn btn-primary" disabled={refused !== null} onclick={intoJob}>Keep in this job</button>
					<button class="btn btn-outline" disabled={refused !== null} onclick={() => void forCompany()}
						>Keep for the company</button
					>
					<button class="btn btn-quiet" onclick={() => (draft = null)}>Leave it</button>
				{:else}
					{#if !frozen}<button class="btn btn-primary" onclick={intoJob}>Take into this job</button>{/if}
					<button class="btn btn-outline" onclick={() => (draft = copyOf(entry))}>Change a copy</button>
					{#if shelf.all?.own?.constructions?.[entry.id]}<button
							class="btn btn-outline"
							onclick={() => (draft = structuredClone(entry))}>New edition</button
						><button class="btn btn-quiet" onclick={() => void forget(entry.id)}>forget it in the company</button>{/if}
					{#if newer}<button class="btn btn-outline" onclick={takeNewer}>Take the newer edition</button>{/if}
				{/if}
			</div>
			{#if !refused}
				<div class="grid max-w-160 grid-cols-[1fr_1fr] gap-3">
					<label class="text-small text-muted"
						>Use it for<Choice
							label="Use it for"
							value={null}
							empty="choose…"
							options={targets}
							commit={useFor}
						/></label
					>
					{#if likes.length}<label class="text-small text-muted"
							>or put it wherever the survey has<Choice
								label="Put it instead of"
								value={replaces}
								empty="choose…"
								options={likes}
								commit={insteadOf}
							/></label
						>{/if}
				</div>
			{/if}
			{#if !draft && frozen}
				<p class="note">
					{#if uses.length}Used in {uses.length}
						{uses.length === 1 ? 'place' : 'places'}: {uses
							.slice(0, 6)
							.map((u) => u.what)
							.join('; ')}{uses.length > 6 ? ' …' : ''}.{:else}Used nowhere.{/if}
					<button class="btn btn-quiet" onclick={takeOut}>take out of this job</button>
				</p>
			{/if}
		</section>
	{:else}
		<section class="main grid min-w-0 gap-2">
			<p class="px-1.5 py-5 text-lead">
				Choose one from the library, or say how old the house is on <a href={`/job/${session.id}/site`}
					>Site and practice</a
				>: its usual constructions follow.
			</p>
		</section>
	{/if}
</div>
<div class="mt-4"><Cautions cautions={design?.cautions.constructions ?? []} /></div>

<style>
	.drawing :global(svg) {
		max-height: min(360px, calc(100vh - 420px));
		min-height: 210px;
	}

	tr.chosen td {
		background: var(--sheet);
	}

	.kind :global(select) {
		width: auto;
	}
</style>
