<script lang="ts">
	import { onMount } from 'svelte';
	import { api, type OfferVariant } from '$lib/api/client';
	import Sums from '$lib/charts/Sums.svelte';
	import Accept from '$lib/handover/Accept.svelte';
	import { Issued } from '$lib/handover/issued.svelte';
	import IssuedList from '$lib/handover/IssuedList.svelte';
	import OfferLines from '$lib/handover/OfferLines.svelte';
	import OfferTerms from '$lib/handover/OfferTerms.svelte';
	import Permissions from '$lib/handover/Permissions.svelte';
	import { ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import { money, num } from '$lib/parts/format';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import Tabs from '$lib/parts/Tabs.svelte';
	import { amount } from '$lib/parts/units';
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const asked = new Slow(() => api.GET('/api/jobs/{job_id}/offer', { params: { path: { job_id: frame.session.id } } }));
	const found = $derived(asked.found?.offer);
	$effect(() => {
		if (session.settled) asked.ask();
	});
	const issued = new Issued(() => frame.session, 'offer');
	onMount(() => issued.listen());
	$effect(() => {
		if (session.version) void issued.look();
	});
	type View = 'read' | 'lines' | 'permissions' | 'terms' | 'issued';
	let view = $state<View>('read');
	const VIEWS: { key: View; label: string }[] = [
		{ key: 'read', label: 'As the customer reads it' },
		{ key: 'lines', label: 'Lines' },
		{ key: 'permissions', label: 'Permissions' },
		{ key: 'terms', label: 'Taxes, payment, terms' },
		{ key: 'issued', label: 'Issued' }
	];
	const schemes = $derived(ordered(session.job?.schemes));
	const named = $derived(session.job?.handover?.offer?.variants ?? []);
	const inOffer = $derived(named.length ? named : session.scheme ? [session.scheme] : []);
	const take = (variants: string[], label: string) =>
		void session.edit(label, (d) => d.set('/handover/offer/variants', variants));
	const able = $derived((found?.variants ?? []).filter((v) => !v.lacks));
	let looked = $state('');
	const shown = $derived(able.find((v) => v.scheme === looked) ?? able[0]);
	const bars = $derived(
		able.map((v) => ({
			key: v.scheme,
			label: v.label,
			strong: v.scheme === shown?.scheme,
			off: v.sums.granted,
			open: v.sums.unpriced > 0,
			parts: [
				{ key: 'goods', label: 'goods', value: v.sums.goods + v.sums.margin },
				{ key: 'work', label: 'work', value: v.sums.labour + v.sums.travel },
				{
					key: 'held',
					label: 'reserve, heaters, own lines',
					value: v.sums.reserve + v.sums.heaters + Math.max(v.sums.own, 0)
				},
				{ key: 'tax', label: 'taxes', value: v.sums.tax }
			]
		}))
	);
	const range = (span: { low: number; high: number } | null, share = 0.01): string =>
		span ? `${num(span.low * share)} to ${num(span.high * share)}` : '–';
	const ROWS: { label: string; cell: (v: OfferVariant) => string; strong?: boolean }[] = $derived([
		{ label: 'Machine', cell: (v) => v.machine },
		{ label: 'Water on the coldest day', cell: (v) => (v.flow_c == null ? '–' : amount(v.flow_c, '°C')) },
		{ label: 'Goods and work, taxes in it', cell: (v) => money(v.sums.gross, currency) },
		{ label: 'Grants, when they come', cell: (v) => (v.sums.granted ? `−${money(v.sums.granted, currency)}` : '–') },
		{
			label: 'To pay',
			cell: (v) => `${v.sums.unpriced ? 'at least ' : ''}${money(v.sums.pay, currency)}`,
			strong: true
		},
		{ label: `Heat and hot water a year, ${currency}`, cell: (v) => range(v.cost_minor) },
		...(found?.today
			? [
					{
						label: `less than ${found.today.label} today (${range(found.today.cost_minor)})`,
						cell: (v: OfferVariant) => range(v.saves_minor)
					}
				]
			: []),
		{
			label: `Carbon, kg a year${found?.today ? ` (${range(found.today.carbon_kg, 1)} today)` : ''}`,
			cell: (v) => range(v.carbon_kg, 1)
		},
		{
			label: 'Days at the house, of these without heat',
			cell: (v) => `${v.disturbance.days}, ${v.disturbance.cold_days}`
		}
	]);
</script>

<Head title="Offer" screen="offer" sentence={found?.sentence}>
	{#if found && !found.lacks}
		<a class="btn btn-quiet" href={`/api/jobs/${session.id}/offer.xlsx`} download>Workbook (XLSX)</a>
		<a class="btn btn-outline" href={`/api/jobs/${session.id}/report?kind=offer`} target="_blank" rel="noopener"
			>Open the page</a
		>
		<button
			class="btn btn-primary"
			disabled={issued.asked}
			onclick={() => void issued.issue().then((done) => done && (view = 'issued'))}>Issue the offer</button
		>
	{/if}
</Head>

{#if schemes.length}
	<fieldset class="mb-2 flex flex-wrap items-center gap-x-5 gap-y-1" aria-label="Schemes in the offer">
		<legend class="sr-only">Schemes in the offer</legend>
		<span class="note">In the offer:</span>
		{#each schemes as [id, scheme] (id)}
			{@const at = inOffer.indexOf(id)}
			<span class="flex items-center gap-1">
				<label class="flex min-h-9 items-center gap-2 touch:min-h-12"
					><input
						type="checkbox"
						class="checkbox"
						checked={at >= 0}
						onchange={(e) =>
							take(
								e.currentTarget.checked ? [...inOffer, id] : inOffer.filter((one) => one !== id),
								`${scheme.label} in the offer`
							)}
					/>{scheme.label || 'Scheme'}</label
				>{#if at === 0 && inOffer.length > 1}<b class="text-small">recommended</b>{:else if at > 0}<button
						class="btn btn-quiet"
						onclick={() => take([id, ...inOffer.filter((one) => one !== id)], `${scheme.label} recommended`)}
						>recommend<span class="sr-only"> {scheme.label}</span></button
					>{/if}
			</span>
		{/each}
	</fieldset>
{/if}

{#if found?.lacks}
	<p class="max-w-[60ch] py-5 text-lead">
		{found.lacks} <a class="link" href={`/job/${session.id}/machine`}>To the machine</a>
	</p>
	{#if issued.mine.length}<IssuedList lines={issued.mine} what="Offer" />{/if}
{:else if found}
	{#if asked.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{asked.refused}</p>{/if}
	<Tabs shown={view} tabs={VIEWS} label="The offer" take={(key) => (view = key)} />
	<div class:opacity-60={asked.busy} aria-busy={asked.busy}>
		{#if view === 'read'}
			<div class="grid grid-cols-[minmax(0,1fr)_300px] gap-7 narrow:grid-cols-[1fr]">
				<div class="min-w-0">
					<Sums
						rows={bars}
						label="What every variant comes to"
						told={(v) => money(v, currency)}
						take={(key) => (looked = key)}
					/>
					<div class="overflow-x-auto">
						<table class="table table-figures">
							<thead
								><tr
									><th></th>{#each able as v (v.scheme)}<th class="text-right"
											>{v.label}{v.first && able.length > 1 ? ', recommended' : ''}</th
										>{/each}</tr
								></thead
							>
							<tbody
								>{#each ROWS as row (row.label)}<tr
										><td>{row.label}</td>{#each able as v (v.scheme)}<td class="text-right" class:font-bold={row.strong}
												>{row.cell(v)}</td
											>{/each}</tr
									>{/each}</tbody
							>
						</table>
					</div>
				</div>
				<section class="grid content-start gap-2">
					{#each able as v (v.scheme)}
						<h2>{v.label}: in the house</h2>
						<ul class="list-disc ps-5">
							{#each v.disturbance.said as line (line)}<li>{line}</li>{/each}
						</ul>
						{#if v.differs.length}<p class="note">Against {able[0]?.label}: {v.differs.join('; ')}.</p>{/if}
					{/each}
					{#each found.notes as note (note)}<p class="note">{note}</p>{/each}
					<Cautions cautions={session.shown?.cautions.offer ?? session.shown?.cautions.machine ?? []} />
				</section>
			</div>
		{:else if view === 'lines' && shown}
			{#if able.length > 1}<Tabs
					shown={shown.scheme}
					tabs={able.map((v) => ({ key: v.scheme, label: v.label }))}
					label="Variant"
					take={(key) => (looked = key)}
				/>{/if}
			<OfferLines variant={shown} changed={() => asked.ask()} />
		{:else if view === 'permissions'}<Permissions lines={found.permissions} />
		{:else if view === 'terms'}<OfferTerms {found} />
		{:else}
			<div class="grid max-w-200 gap-3">
				<IssuedList lines={issued.mine} what="Offer">
					{#snippet more(one)}
						<a class="btn btn-quiet" href={`/api/issued/${one.id}/offer.xlsx`} download>Workbook (XLSX)</a>
						{#if !one.accepted}<Accept
								{one}
								variants={found.variants}
								accept={(body) => issued.accept(one.id, body)}
							/>{/if}
					{/snippet}
				</IssuedList>
			</div>
		{/if}
	</div>
{:else}<p class="py-5">
		{#if asked.refused}{asked.refused}{:else}<span class="loading mr-2 loading-dots"></span>Every scheme of the offer is
			worked out.{/if}
	</p>{/if}
