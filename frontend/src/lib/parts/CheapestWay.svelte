<script lang="ts">
	import { api } from '../api/client';
	import Front from '../charts/Front.svelte';
	import type { Operation } from '../draft';
	import { money, num } from '../format';
	import { useFrame } from '../frame.svelte';
	import { shelf } from '../library.svelte';
	import { Slow } from '../slow.svelte';
	import NumberField from './NumberField.svelte';
	import Sentence from './Sentence.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const currency = $derived(job.currency ?? 'GBP');
	const path = { params: { path: { job_id: frame.session.id } } };
	const front = new Slow(() => api.GET('/api/jobs/{job_id}/front', path));
	$effect(() => {
		if (session.settled && session.scheme) front.ask();
	});
	const found = $derived(front.found?.front);
	const points = $derived(found?.points ?? []);
	let wanted = $state<number | null>(null);
	let taking = $state(false);
	const best = $derived([...points].filter((p) => p.total_minor !== null).sort((a, b) => (a.total_minor ?? 0) - (b.total_minor ?? 0))[0]?.flow_c ?? null);
	const flow = $derived(wanted ?? best);
	const point = $derived(points.find((p) => p.flow_c === flow));
	const scheme = $derived(session.scheme ? job.schemes?.[session.scheme] : null);
	const DISTURBS = ['no disturbance', 'little disturbance', 'some disturbance', 'much disturbance'];

	function choose(value: number | null): void {
		wanted = value === null ? null : Math.min(60, Math.max(30, Math.round(value)));
	}
	const refuse = (key: string, what: string): void => void session.edit(`Refused: ${what}`, (d) => d.set(`/schemes/${session.scheme}/refused`, [...(d.job.schemes?.[session.scheme ?? '']?.refused ?? []).filter((k) => k !== key), key]));
	const allow = (key: string): void => void session.edit('Allowed again', (d) => d.set(`/schemes/${session.scheme}/refused`, (d.job.schemes?.[session.scheme ?? '']?.refused ?? []).filter((k) => k !== key)));

	const unpin = (key: string): void => void session.edit('No longer pinned', (d) => d.remove(`/schemes/${session.scheme}/wishes/${key}`));
	const must = (key: string, what: string): void => void session.edit(`Must be: ${what}`, (d) => d.set(`/schemes/${session.scheme}/wishes/${key}`, 'must'));
	const room = (id: string | undefined): string => job.survey?.rooms?.[id ?? '']?.label ?? id ?? '';

	/** What a pin or a refusal is about, in words. */
	function words(key: string): string {
		const [kind, ...rest] = key.split(':');
		if (kind === 'way') {
			const known = points.flatMap((p) => p.changes).find((c) => c.way === key);
			const about = /^(?:new|floor|faces|electric|accept)-(.+)$/.exec(rest[0] ?? '')?.[1];
			const emitter = job.survey?.emitters?.[rest[0] ?? ''];
			return known ? `${known.room_label}: ${known.what}` : `${room(about ?? emitter?.room)}: ${rest.slice(1).join(' ').toUpperCase()}`;
		}
		if (kind === 'fan') return `no fan unit in ${room(rest[0])}`;
		if (kind === 'floor') return `no new floor in ${room(rest[0])}`;
		if (kind === 'faces') return `walls of ${room(rest[0])} stay as they are`;
		if (kind === 'emitter') {
			const emitter = job.survey?.emitters?.[rest[0] ?? ''] ?? scheme?.emitters?.[rest[0] ?? ''];
			return `${job.survey?.rooms?.[emitter?.room ?? '']?.label ?? ''}: ${emitter?.label || 'radiator'} stays`;
		}
		if (kind === 'new') return `no further radiator in ${room(rest[0])}`;
		return `not: ${(rest[0] ?? '').replaceAll('-', ' ')}`;
	}
	type Price = NonNullable<typeof shelf.all>['emitter_prices'][string];
	const PRICED: Record<string, string> = { fan: 'Fan unit, beside its price', floor: 'New floor: per m², per room', electric: 'Heater of its own' };
	const PRICES: [Exclude<keyof Price, 'id'>, string][] = [['m_minor', 'per metre'], ['same_minor', 'on the same pipes'], ['longer_minor', 'longer'], ['new_minor', 'in a new place']];
	let prices = $state.raw<Record<string, Price>>({});
	let own = $state.raw<Record<string, number>>({});
	const KIND = 'emitter_prices';
	async function loadPrices(): Promise<void> {
		const { data } = await api.GET('/api/company/{kind}', { params: { path: { kind: KIND } } }).catch(() => ({ data: undefined }));
		own = Object.fromEntries((data?.entries ?? []).map((e) => [e.id, e.edition]));
		prices = { ...shelf.all?.emitter_prices, ...Object.fromEntries((data?.entries ?? []).map((e) => [e.id, e.entry as Price])) };
	}
	async function setPrice(key: string, field: Exclude<keyof Price, 'id'>, value: number | null): Promise<boolean> {
		const row = prices[key];
		if (!row || value === null) return false;
		const { error } = await api.PUT('/api/company/{kind}/{key}', { params: { path: { kind: KIND, key } }, body: { ...row, [field]: Math.round(value * 100) } as unknown as Record<string, never> }).catch(() => ({ error: { message: 'No line just now.' } }));
		if (error) session.notice = { message: (error as { message?: string }).message ?? 'Not kept.', kept: 'The old price stands.', places: [] };
		await loadPrices();
		front.ask();
		return !error;
	}
	async function shippedPrice(key: string): Promise<void> {
		await api.DELETE('/api/company/{kind}/{key}', { params: { path: { kind: KIND, key } } }).catch(() => undefined);
		await loadPrices();
		front.ask();
	}
	async function take(): Promise<void> {
		if (flow === null) return;
		taking = true;
		const { data, error } = await api.POST('/api/jobs/{job_id}/front/change', { ...path, body: { flow_c: flow } }).catch(() => ({ data: undefined, error: { message: 'No line just now.' } }));
		taking = false;
		if (!data) {
			session.notice = { message: (error as { message?: string } | undefined)?.message ?? 'Not taken.', kept: 'The scheme is as it was.', places: [] };
			return;
		}
		const count = point?.changes.length ?? 0;
		await session.edit(`Cheapest way to ${num(flow)} °C: ${count} ${count === 1 ? 'change' : 'changes'}`, (d) => d.follow(data.operations as Operation[]));
	}
</script>

{#if session.scheme}
	<section class="way" aria-label="The cheapest way to cooler water" class:old={front.busy && found}>
		<h2 class="rule">The cheapest way to cooler water</h2>
		{#if front.refused}<p class="hatch-doubt waits" role="status">{front.refused}</p>{/if}
		{#if found}
			<Sentence text={found.sentence} />
			<div class="desk">
				<div>
					<Front {points} chosen={flow} {best} {currency} onchoose={choose} />
					<details class="tablebox"><summary>The same as a table</summary>
						<table class="plain-table"><thead><tr><th class="right">Water</th><th class="right">Changes cost</th><th class="right">Season</th><th class="right">Bill a year</th><th class="right">{found.years} years</th><th>Short</th></tr></thead>
							<tbody>{#each points as p (p.flow_c)}<tr class:on={p.flow_c === flow}><td class="right"><button class="fig" onclick={() => choose(p.flow_c)}>{num(p.flow_c)} °C</button></td><td class="right">{money(p.cost_minor, currency)}</td><td class="right">{num(p.season, 2)}</td><td class="right">{money(p.bill_minor, currency)}</td><td class="right">{money(p.total_minor, currency)}</td><td class="note">{p.lacking.map((l) => `${l.label} ${num(l.short_w)} W`).join(', ')}</td></tr>{/each}</tbody>
						</table>
					</details>
					<p class="note">Season by the chosen machine's own map at that water. {found.years} years: changes and electricity, without interest or rising prices. Panels on the same pipes, longer and taller ones within the recorded free wall, further ones where it has room, fan units at their quietest speed, new floors, a room's own walls, and the measures of <a href={`/job/${session.id}/measures`}>Measures</a>; heaters of their own and cooler rooms only where you allowed them. No heat is credited from room to room.</p>
				</div>
				<div class="side">
					<div class="ask"><span>To</span><NumberField label="Flow temperature wanted" value={flow} quantity="temperature" digits={0} unit="°C" width="6.4em" commit={(v) => choose(v)} /><button class="act" aria-label="One kelvin cooler" onclick={() => choose((flow ?? 45) - 1)}>−1</button><button class="act" aria-label="One kelvin warmer" onclick={() => choose((flow ?? 45) + 1)}>+1</button></div>
					{#if point?.possible}
						<ul>
							{#each point.changes as change, n (n)}
								<li><span><b>{change.room_label}</b> {change.what}<span class="note block">{change.kind === 'concession' ? 'a concession, counted as no saving' : `${money(change.cost_minor, currency)} · ${DISTURBS[change.disturbance]}`}{change.yearly_minor > 50 ? ` · draws ${money(change.yearly_minor, currency)} a year` : ''}{found.wishes[change.way] === 'must' ? ' · pinned: must be' : ''}</span></span><span class="acts">{#if !found.wishes[change.way]}<button class="quiet" aria-label={`Pin ${change.room_label}: ${change.what}`} onclick={() => must(change.way, `${change.room_label}, ${change.what}`)}>pin</button>{/if}<button class="quiet" aria-label={`Refuse ${change.room_label}: ${change.what}`} onclick={() => refuse(change.refuse, `${change.room_label}, ${change.what}`)}>not this</button></span></li>
							{:else}<li><span>Nothing has to be changed.</span></li>{/each}
						</ul>
						<dl>
							<dt>Changes</dt><dd><b>{money(point.cost_minor, currency)}</b></dd>
							<dt>Season, heating</dt><dd>{num(point.season, 2)}</dd>
							<dt>Electricity a year</dt><dd>{num(point.electricity_kwh)} kWh, {money(point.bill_minor, currency)}</dd>
							{#if point.running_minor > 50}<dt>Heaters and fans, of that</dt><dd>{money(point.running_minor, currency)} a year</dd>{/if}
							<dt>{found.years} years in all</dt><dd>{money(point.total_minor, currency)}</dd>
						</dl>
						<p class="note">{point.proved ? `Proved: no cheaper set of these serves every room${Object.values(found.wishes).includes('prefer') ? ', what is preferred counted a quarter less' : ''}${Object.values(found.wishes).includes('must') ? ', with what must be' : ''}.` : `Not proved: a cheaper one may exist, by at most ${num(point.gap * 100, 1)} %.`}{#if point.needed_flow_c !== null && point.needed_flow_c > point.flow_c + 0.05}<span class="hatch-doubt waits"> Through the whole chain it needs {num(point.needed_flow_c, 1)} °C.</span>{/if}</p>
						<button class="act first" disabled={taking || front.busy} onclick={() => void take()}>Take into “{scheme?.label}”</button>
						<p class="note">One change, undone like any other; the survey keeps what was found. Old boards and lagging may hold asbestos: have it tested before anything is opened.</p>
					{:else if point}
						<ul>{#each point.lacking as room (room.room)}<li><span><b>{room.label}</b> lacks {num(room.short_w)} W with everything that is known and not refused<span class="note block">It would do to {room.mend}.</span></span></li>{/each}</ul>
						<p class="note">Or accept warmer water.</p>
					{/if}
					{#if Object.keys(found.wishes).length}
						<h3>Pinned</h3>
						<ul>{#each Object.entries(found.wishes) as [key, wish] (key)}<li><span>{words(key)}<span class="note block">{wish === 'must' ? 'must be done' : 'preferred: counts a quarter less in choosing'}{found.unmet.includes(key) ? ', but is not on offer: it is left out' : ''}</span></span><button class="quiet" onclick={() => unpin(key)}>unpin</button></li>{/each}</ul>
					{/if}
					{#if found.refused.length}
						<h3>Refused</h3>
						<ul>{#each found.refused as key (key)}<li><span>{words(key)}</span><button class="quiet" onclick={() => allow(key)}>allow again</button></li>{/each}</ul>
					{/if}
				</div>
			</div>
			<details class="tablebox" ontoggle={(event) => event.currentTarget.open && void loadPrices()}>
				<summary>What panels cost the company</summary>
				<table class="plain-table prices">
					<thead><tr><th>Panel</th><th class="right">Per metre at 600 mm</th><th class="right">On the same pipes</th><th class="right">Longer, new tails</th><th class="right">In a new place</th><th>From</th><th></th></tr></thead>
					<tbody>
						{#each Object.entries(prices) as [key, row] (key)}
							<tr><td>{PRICED[key] ?? key.toUpperCase()}</td>{#each PRICES as [field, what] (field)}<td class="right"><NumberField label={`${key.toUpperCase()}, ${what}`} value={row[field] / 100} digits={0} unit={currency} width="7.6em" commit={(v) => setPrice(key, field, v)} /></td>{/each}<td class="note">{own[key] ? `your own, edition ${own[key]}` : 'ours, a guess'}</td><td>{#if own[key]}<button class="quiet" onclick={() => void shippedPrice(key)}>back to ours</button>{/if}</td></tr>
						{/each}
					</tbody>
				</table>
			</details>
		{:else if !front.refused}<p class="note">Weighing every combination for every temperature…</p>{/if}
	</section>
{/if}

<style>
	.way {
		margin-top: 16px;
	}
	.old {
		opacity: 0.65;
	}
	.rule {
		border-top: 1px solid var(--ink);
		padding-top: 10px;
		font-size: 20px;
	}
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
		gap: 28px;
		margin-top: 6px;
	}
	.side {
		display: grid;
		gap: 8px;
		align-content: start;
	}
	.ask {
		display: flex;
		gap: 8px;
		align-items: center;
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
	.block {
		display: block;
	}
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 2px 8px;
	}
	dt {
		color: var(--muted);
	}
	dd {
		text-align: right;
		font-variant-numeric: tabular-nums;
	}
	h3 {
		font-weight: 700;
	}
	tr.on td {
		background: var(--sheet);
	}
	.waits {
		padding: 2px 8px;
		border-radius: 4px;
	}
	@media (max-width: 1000px) {
		.desk {
			grid-template-columns: 1fr;
		}
	}
</style>
