<script lang="ts">
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
	const disturbance = (much: number) => `${much ? rules.disturbs[much] : 'no'} disturbance`;
</script>

<section class="way" aria-label="The cheapest way to cooler water" class:old={front.busy && found}>
	<div class="ask">
		<h2>Cheapest way to</h2>
		<NumberField
			label="Flow temperature wanted"
			value={flow}
			quantity="temperature"
			digits={0}
			unit="°C"
			width="5.6em"
			commit={(v) => desk.choose(v)}
		/>
		<button class="act" aria-label="One kelvin cooler" onclick={() => desk.choose((flow ?? 45) - 1)}>−1</button><button
			class="act"
			aria-label="One kelvin warmer"
			onclick={() => desk.choose((flow ?? 45) + 1)}>+1</button
		>
	</div>
	{#if front.refused}<p class="hatch-doubt waits" role="status">{front.refused}</p>{/if}
	{#if found}
		{#if point?.possible}
			<ul class="set" aria-label="Changes, with price and disturbance">
				{#each point.changes as change, n (n)}
					<li>
						<span
							><b>{change.room_label}</b>
							{change.what}<span class="note block"
								>{change.kind === 'concession'
									? 'a concession, counted as no saving'
									: `${money(change.cost_minor, currency)} · ${disturbance(change.disturbance)}`}{change.yearly_minor >
								50
									? ` · draws ${money(change.yearly_minor, currency)} a year`
									: ''}{found.wishes[change.way] === 'must' ? ' · pinned: must be' : ''}</span
							></span
						><span class="acts"
							>{#if !found.wishes[change.way]}<button
									class="quiet"
									aria-label={`Pin ${change.room_label}: ${change.what}`}
									onclick={() => desk.must(change.way, `${change.room_label}, ${change.what}`)}>pin</button
								>{/if}<button
								class="quiet"
								aria-label={`Refuse ${change.room_label}: ${change.what}`}
								onclick={() => desk.refuse(change.refuse, `${change.room_label}, ${change.what}`)}>not this</button
							></span
						>
					</li>
				{:else}<li><span>Nothing has to be changed.</span></li>{/each}
			</ul>
			<dl>
				<dt>Changes</dt>
				<dd><b>{money(point.cost_minor, currency)}</b></dd>
				<dt>Season, heating</dt>
				<dd>{num(point.season, 2)}</dd>
				<dt>Electricity a year</dt>
				<dd>{num(point.electricity_kwh)} kWh, {money(point.bill_minor, currency)}</dd>
				{#if point.running_minor > 50}<dt>Heaters and fans, of that</dt>
					<dd>{money(point.running_minor, currency)} a year</dd>{/if}
				{#if point.cycling_share != null}<dt
						title="Hours in which the house needs less than the machine gives at its least"
					>
						On and off
					</dt>
					<dd>{num(point.cycling_share * 100)} % of its hours</dd>{/if}
				<dt>{found.years} years in all</dt>
				<dd>{money(point.total_minor, currency)}</dd>
			</dl>
			{#if beaten}<p class="beaten">
					{num(beaten.flow_c)} °C costs {money((point.cost_minor ?? 0) - (beaten.cost_minor ?? 0), currency)} less and gives
					the better season, {num(beaten.season, 2)}{(point.cycling_share ?? 0) > (beaten.cycling_share ?? 0) + 0.01
						? ': with so little to heat the machine runs on and off for longer'
						: ''}.
				</p>{/if}
			{#if point.changes.length || line !== flow}
				<button class="act first" disabled={desk.taking || front.busy} onclick={() => void desk.take()}
					>{point.changes.length ? `Take into “${scheme?.label ?? ''}”` : `Set the line to ${num(flow)} °C`}</button
				>
			{/if}
			<p class="note">
				{point.proved
					? `Proved: no cheaper set of these serves every room${Object.values(found.wishes).includes('prefer') ? ', what is preferred counted a quarter less' : ''}${Object.values(found.wishes).includes('must') ? ', with what must be' : ''}.`
					: `Not proved: a cheaper one may exist, by at most ${num(point.gap * 100, 1)} %.`}{#if point.needed_flow_c !== null && point.needed_flow_c > point.flow_c + 0.05}<span
						class="hatch-doubt waits"
					>
						Through the whole chain it needs {num(point.needed_flow_c, 1)} °C.</span
					>{/if}{#if point.changes.length}{' '}Old boards and lagging may hold asbestos: have it tested before anything
					is opened.{/if}
			</p>
		{:else if point}
			<ul class="set">
				{#each point.lacking as room (room.room)}<li>
						<span
							><b>{room.label}</b> lacks {num(room.short_w)} W with everything that is known and not refused<span
								class="note block">It would do to {room.mend}.</span
							></span
						>
					</li>{/each}
			</ul>
			<p class="note">Or accept warmer water.</p>
		{/if}
		{#if Object.keys(found.wishes).length}
			<h3>Pinned</h3>
			<ul>
				{#each Object.entries(found.wishes) as [key, wish] (key)}<li>
						<span
							>{desk.words(key)}<span class="note block"
								>{wish === 'must'
									? 'must be done'
									: 'preferred: counts a quarter less in choosing'}{found.unmet.includes(key)
									? ', but is not on offer: it is left out'
									: ''}</span
							></span
						><button class="quiet" onclick={() => desk.unpin(key)}>unpin</button>
					</li>{/each}
			</ul>
		{/if}
		{#if found.refused.length}
			<h3>Refused</h3>
			<ul>
				{#each found.refused as key (key)}<li>
						<span>{desk.words(key)}</span><button class="quiet" onclick={() => desk.allow(key)}>allow again</button>
					</li>{/each}
			</ul>
		{/if}
		<h2>What each degree costs</h2>
		<Sentence text={found.sentence} small />
		<Front points={desk.points} chosen={flow} best={desk.best} {currency} onchoose={(to) => desk.choose(to)} />
	{:else if !front.refused}<p class="note">Weighing every combination for every temperature…</p>{/if}
</section>

<style>
	.way {
		display: grid;
		gap: 8px;
		align-content: start;
		min-width: 0;
	}
	.old {
		opacity: 0.65;
	}
	.ask {
		display: flex;
		gap: 6px;
		align-items: center;
	}
	.ask h2 {
		margin: 0 auto 0 0;
		white-space: nowrap;
	}
	.ask .act {
		padding: 0 10px;
	}
	.set {
		max-height: 252px;
		overflow: auto;
		border-top: 1px solid var(--hairline);
	}
	li {
		display: flex;
		justify-content: space-between;
		gap: 10px;
		align-items: center;
		border-bottom: 1px solid var(--hairline);
		padding: 4px 0;
	}
	li .quiet,
	.acts {
		white-space: nowrap;
		flex: none;
	}
	.acts {
		display: grid;
		justify-items: end;
	}
	.block {
		display: block;
	}
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 1px 8px;
	}
	dt {
		color: var(--muted);
	}
	dd {
		text-align: right;
		font-variant-numeric: tabular-nums;
	}
	.beaten {
		font-weight: 600;
	}
	h3 {
		font-weight: 700;
	}
	.waits {
		padding: 2px 8px;
		border-radius: 4px;
	}
	@media (max-width: 1000px) {
		.ask h2 {
			margin: 0 10px 0 0;
		}
	}
</style>
