<script lang="ts">
	import { amount, fig, system } from '$lib/parts/units';
	import rules from '$lib/api/rules.json';
	import type { CheapestDesk } from './cheapest.svelte';
	import Front from '$lib/charts/Front.svelte';
	import { money, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	let { desk }: { desk: CheapestDesk } = $props();
	const session = $derived(useFrame().session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const front = $derived(desk.front);
	const found = $derived(desk.found);
	const point = $derived(desk.point);
	const flow = $derived(desk.flow);
	const beaten = $derived(desk.points.find((p) => p.flow_c === point?.beaten_by) ?? null);
	const scheme = $derived(session.scheme ? session.job?.schemes?.[session.scheme] : null);
	const line = $derived(session.shown?.waterline.chosen_flow_c ?? null);
	const season = $derived(session.shown?.headline.find((f) => f.key === 'season')?.label ?? 'Season, heating');
	const disturbance = (much: number) => `${much ? rules.disturbs[much] : 'no'} disturbance`;
</script>

<section
	class="grid min-w-0 content-start gap-2 [&.old]:opacity-65"
	aria-label="The cheapest way to cooler water"
	class:old={front.busy && found}
	aria-busy={front.busy}
>
	<div class="flex items-center gap-1.5">
		<h2 class="mt-0 mr-auto mb-0 ml-0 whitespace-nowrap narrow:mt-0 narrow:mr-2.5 narrow:mb-0 narrow:ml-0">
			Cheapest way to
		</h2>
		<NumberField
			label="Flow temperature wanted"
			value={flow}
			quantity="temperature"
			digits={0}
			unit="°C"
			width="5.6em"
			commit={(v) => desk.choose(v)}
		/>
		<button
			class="btn btn-outline px-2.5 py-0"
			aria-label={`Cooler by ${amount(1, 'K', 1)}`}
			onclick={() => desk.choose((flow ?? 45) - 1)}>−{fig(1, 'K', system.feet ? 1 : 0)}</button
		><button
			class="btn btn-outline px-2.5 py-0"
			aria-label={`Warmer by ${amount(1, 'K', 1)}`}
			onclick={() => desk.choose((flow ?? 45) + 1)}>+{fig(1, 'K', system.feet ? 1 : 0)}</button
		>
	</div>
	{#if front.refused}<p class="rounded-sm px-2 py-0.5 hatch-doubt" role="status">{front.refused}</p>{/if}
	{#if found}
		{#if point?.possible}
			<ul class="max-h-63 overflow-auto border-t border-t-hairline" aria-label="Changes, with price and disturbance">
				{#each point.changes as change, n (n)}
					<li>
						<span
							><b>{change.room_label}</b>
							{change.what}<span class="block note"
								>{change.kind === 'concession'
									? 'a concession, counted as no saving'
									: `${money(change.cost_minor, currency)} · ${disturbance(change.disturbance)}`}{change.yearly_minor >
								50
									? ` · draws ${money(change.yearly_minor, currency)} a year`
									: ''}{found.wishes[change.way] === 'must' ? ' · pinned: must be' : ''}</span
							></span
						><span class="grid flex-none justify-items-end whitespace-nowrap"
							>{#if !found.wishes[change.way]}<button
									class="btn btn-quiet flex-none whitespace-nowrap"
									aria-label={`Pin ${change.room_label}: ${change.what}`}
									onclick={() => desk.must(change.way, `${change.room_label}, ${change.what}`)}>pin</button
								>{/if}<button
								class="btn btn-quiet flex-none whitespace-nowrap"
								aria-label={`Refuse ${change.room_label}: ${change.what}`}
								onclick={() => desk.refuse(change.refuse, `${change.room_label}, ${change.what}`)}>not this</button
							></span
						>
					</li>
				{:else}<li><span>Nothing has to be changed.</span></li>{/each}
			</ul>
			<dl class="grid grid-cols-[1fr_auto] gap-x-2 gap-y-px">
				<dt class="text-muted">Changes</dt>
				<dd class="text-right tabular-nums"><b>{money(point.cost_minor, currency)}</b></dd>
				<dt class="text-muted">{season}</dt>
				<dd class="text-right tabular-nums">{num(point.season, 2)}</dd>
				<dt class="text-muted">{session.shown?.season?.fuel ? 'Electricity and fuel' : 'Electricity'} a year</dt>
				<dd class="text-right tabular-nums">{num(point.bought_kwh)} kWh, {money(point.bill_minor, currency)}</dd>
				{#if point.running_minor > 50}<dt class="text-muted">Heaters and fans, of that</dt>
					<dd class="text-right tabular-nums">{money(point.running_minor, currency)} a year</dd>{/if}
				{#if point.cycling_share != null}<dt
						class="text-muted"
						title="Hours in which the house needs less than the machine gives at its least"
					>
						On and off
					</dt>
					<dd class="text-right tabular-nums">{num(point.cycling_share * 100)} % of its hours</dd>{/if}
				<dt class="text-muted">{found.years} years in all</dt>
				<dd class="text-right tabular-nums">{money(point.total_minor, currency)}</dd>
			</dl>
			{#if point.changes.some((change) => change.kind === 'measure')}<p class="note">{found.sun}</p>{/if}
			{#if beaten}<p class="font-semibold">
					{amount(beaten.flow_c, '°C')} costs {money((point.cost_minor ?? 0) - (beaten.cost_minor ?? 0), currency)} less and
					gives the better season, {num(beaten.season, 2)}{(point.cycling_share ?? 0) >
					(beaten.cycling_share ?? 0) + 0.01
						? ': with so little to heat the machine runs on and off for longer'
						: ''}.
				</p>{/if}
			{#if point.changes.length || line !== flow}
				<button class="btn btn-primary" disabled={desk.taking || front.busy} onclick={() => void desk.take()}
					>{point.changes.length
						? `Take into “${scheme?.label ?? ''}”`
						: `Set the line to ${amount(flow, '°C')}`}</button
				>
			{/if}
			<p class="note">
				{point.proved
					? `Proved: no cheaper set of these serves every room${Object.values(found.wishes).includes('prefer') ? ', what is preferred counted a quarter less' : ''}${Object.values(found.wishes).includes('must') ? ', with what must be' : ''}.`
					: `Not proved: a cheaper one may exist, by at most ${num(point.gap * 100, 1)} %.`}{#if point.needed_flow_c !== null && point.needed_flow_c > point.flow_c + 0.05}<span
						class="badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-doubt"
					>
						Through the whole chain it needs {amount(point.needed_flow_c, '°C', 1)}.</span
					>{/if}{#if point.changes.length}{' '}Old boards and lagging may hold asbestos: have it tested before anything
					is opened.{/if}
			</p>
		{:else if point && !point.weighed}
			<p>So cool was not weighed: the warmer water took long enough, with too many ways to combine.</p>
			<p class="note">Refuse or pin what is out of the question or settled, and there is less to combine.</p>
		{:else if point}
			<ul class="max-h-63 overflow-auto border-t border-t-hairline">
				{#each point.lacking as room (room.room)}<li>
						<span
							><b>{room.label}</b> lacks {amount(room.short_w, 'W')} with everything that is known and not refused<span
								class="block note">It would do to {room.mend}.</span
							></span
						>
					</li>{/each}
			</ul>
			<p class="note">Or accept warmer water.</p>
		{/if}
		{#if Object.keys(found.wishes).length}
			<h3 class="font-bold">Pinned</h3>
			<ul>
				{#each Object.entries(found.wishes) as [key, wish] (key)}<li>
						<span
							>{desk.words(key)}<span class="block note"
								>{wish === 'must'
									? 'must be done'
									: 'preferred: counts a quarter less in choosing'}{found.unmet.includes(key)
									? ', but is not on offer: it is left out'
									: ''}</span
							></span
						><button class="btn btn-quiet flex-none whitespace-nowrap" onclick={() => desk.unpin(key)}>unpin</button>
					</li>{/each}
			</ul>
		{/if}
		{#if found.refused.length}
			<h3 class="font-bold">Refused</h3>
			<ul>
				{#each found.refused as key (key)}<li>
						<span>{desk.words(key)}</span><button
							class="btn btn-quiet flex-none whitespace-nowrap"
							onclick={() => desk.allow(key)}>allow again</button
						>
					</li>{/each}
			</ul>
		{/if}
		<h2>What each degree costs</h2>
		<Sentence text={found.sentence} small />
		<Front points={desk.points} chosen={flow} best={desk.best} {currency} onchoose={(to) => desk.choose(to)} />
	{:else if !front.refused}<p class="note">Weighing every combination for every temperature…</p>{/if}
</section>

<style>
	li {
		display: flex;
		justify-content: space-between;
		gap: 10px;
		align-items: center;
		border-bottom: 1px solid var(--hairline);
		padding: 4px 0;
	}
</style>
