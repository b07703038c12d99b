<script lang="ts">
	import type { Doubts } from '$lib/api/client';
	import { ordered } from '$lib/job/draft';
	import { HOWS, evidence, kindOf, type How } from '$lib/house/evidence';
	import { num, watts } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import { scale, steps } from '$lib/charts/scale';
	type Cause = Doubts['doubts']['causes'][number];
	const frame = useFrame();
	const session = $derived(frame.session);
	const desk = $derived(frame.doubts);
	const found = $derived(desk.found);
	const doubts = $derived(found?.doubts);
	const old = $derived((found?.version ?? 0) !== session.version);
	const rooms = $derived(ordered(session.job?.survey?.rooms).map(([value, r]) => ({ value, label: r.label || value })));
	let all = $state(false);
	const causes = $derived(all ? (doubts?.causes ?? []) : (doubts?.causes ?? []).slice(0, 12));
	const widest = $derived(Math.max(1, ...(doubts?.causes ?? []).map((c) => c.watts_w)));
	const hottest = $derived(Math.max(0.1, ...(doubts?.causes ?? []).map((c) => c.flow_k)));
	const ranges = $derived(
		Object.entries(doubts?.rooms ?? {})
			.map(([id, range]) => ({ id, range, room: session.design?.rooms.find((r) => r.id === id) }))
			.filter((row) => row.room)
	);
	const top = $derived(Math.max(100, ...ranges.map((row) => row.range.p90_w)) * 1.05);
	const x = $derived(scale([0, top], [128, 470]));

	/** Settling a doubt says at every place it stands how it is known now: one change. */
	function settle(cause: Cause, how: How): void {
		void session.edit(`Settled: ${cause.label}`, (d) => {
			for (const path of cause.paths) d.set(path, evidence(how, session.person));
		});
	}
	let unable = $state<string | null>(null);
	/** A gap nobody can close today: it says why, and is no gap any more. */
	function couldNot(gap: Doubts['leaving']['gaps'][number], reason: string): void {
		const name = gap.where.split('/').slice(4).join('.');
		if (reason.trim())
			void session.edit(`Could not be seen: ${gap.what}`, (d) =>
				d.set(`/survey/rooms/${gap.room}/unseen/${name}`, reason.trim())
			);
		unable = null;
	}
	function stand(room: string | null): void {
		desk.standing = room;
		desk.ask();
	}
	const sure = (how: string): { how: How; what: string }[] => HOWS.filter((h) => h.sure && h.how !== how);
</script>

<header class="head">
	<div>
		<h1>Doubts and gaps</h1>
		<Sentence text={doubts?.sentence ?? 'Working out the range.'} />
	</div>
	{#if old && found}<span class="note">for version {found.version}; the new one is being worked out</span>{/if}
</header>

<div class="two" class:old>
	<section>
		<h2>What to go back and look at</h2>
		<table class="plain-table doubts">
			<thead
				><tr
					><th>Doubt</th><th>Known by</th><th class="right">Moves the loss</th><th class="right">and the water</th><th
						>Settle it</th
					></tr
				></thead
			>
			<tbody>
				{#each causes as cause (cause.key)}
					<tr>
						<td>
							<strong>{cause.label}</strong>
							<span class="note">{cause.mend}</span>
						</td>
						<td
							><span class="how" class:hatch-doubt={!kindOf(cause.how).sure}>{kindOf(cause.how).shape} {cause.how}</span
							><span class="note spread">−{num(cause.low_share * 100)} / +{num(cause.high_share * 100)} %</span></td
						>
						<td class="right bar"
							><i style:width={`${(cause.watts_w / widest) * 100}%`}></i><span
								>{watts(cause.watts_w)}<span class="unit">W</span></span
							></td
						>
						<td class="right bar water"
							><i style:width={`${(cause.flow_k / hottest) * 100}%`}></i><span
								>{num(cause.flow_k, 1)}<span class="unit">K</span></span
							></td
						>
						<td class="settle">
							{#if cause.paths.length}
								{#each sure(cause.how) as h (h.how)}<button
										class="quiet"
										aria-label={`${cause.label} is ${h.how}`}
										onclick={() => settle(cause, h.how)}>{h.how}</button
									>{/each}
							{/if}
						</td>
					</tr>
				{:else}
					<tr><td colspan="5">{doubts ? 'No doubt moves anything.' : 'Working it out.'}</td></tr>
				{/each}
			</tbody>
		</table>
		{#if (doubts?.causes.length ?? 0) > 12}<button class="quiet" onclick={() => (all = !all)}
				>{all ? 'Only the first twelve' : `All ${doubts?.causes.length}`}</button
			>{/if}
	</section>
	<aside>
		<section>
			<h2>Before you leave</h2>
			<Sentence text={found?.leaving.sentence ?? ''} />
			<label class="standing"
				>You stand in<Choice
					label="The room you stand in"
					value={desk.standing}
					empty="nowhere: walking order"
					options={rooms}
					commit={stand}
				/></label
			>
			<ol class="gaps">
				{#each (found?.leaving.gaps ?? []).slice(0, 14) as gap, n (n)}
					<li class:required={gap.required}>
						{#if gap.room}<a href={`/job/${session.id}/plan?room=${gap.room}`}>{gap.what}</a>{:else}<a
								href={`/job/${session.id}/walk-round`}>{gap.what}</a
							>{/if}
						{#if gap.room}<button
								class="quiet small"
								aria-label={`Could not be seen: ${gap.what}`}
								onclick={() => (unable = unable === gap.where ? null : gap.where)}>could not see</button
							>{/if}
						{#if gap.distance_m !== null}<span class="note num">{num(gap.distance_m)} m</span>{/if}
					</li>
					{#if unable === gap.where}<li>
							<TextField
								label={`Why it could not be seen: ${gap.what}`}
								value=""
								placeholder="because …"
								commit={(v) => couldNot(gap, v)}
							/>
						</li>{/if}
				{:else}
					<li>No gaps.</li>
				{/each}
			</ol>
			{#if (found?.leaving.gaps.length ?? 0) > 14}<p class="note">
					and {(found?.leaving.gaps.length ?? 0) - 14} more
				</p>{/if}
			{#if found?.leaving.unseen.length}<h3>Could not be seen</h3>
				{#each found.leaving.unseen as gap, n (n)}<p class="note">{gap.what}</p>{/each}{/if}
		</section>
		<section>
			<h2>Range of each room <span class="note">P10 to P90, W its emitter must meet</span></h2>
			<svg viewBox={`0 0 480 ${ranges.length * 22 + 24}`} role="img" aria-label="Range of each room">
				{#each steps(0, top, 4) as v (v)}
					<line x1={x(v)} x2={x(v)} y1="0" y2={ranges.length * 22} class="grid" />
					<text x={x(v)} y={ranges.length * 22 + 16} text-anchor="middle">{num(v)}</text>
				{/each}
				{#each ranges as row, n (row.id)}
					<text x="122" y={n * 22 + 15} text-anchor="end" class="name">{row.room?.label}</text>
					<line x1={x(row.range.p10_w)} x2={x(row.range.p90_w)} y1={n * 22 + 11} y2={n * 22 + 11} class="whisker" />
					<line x1={x(row.range.p50_w)} x2={x(row.range.p50_w)} y1={n * 22 + 4} y2={n * 22 + 18} class="middle" />
					<circle cx={x(row.room?.room_emitter_load_w ?? 0)} cy={n * 22 + 11} r="3.2" class="single" />
				{/each}
			</svg>
			<p class="note">
				Line: half of the {num(doubts?.samples)} samples lie either side. Dot: the single design. Flow temperature {num(
					doubts?.flow_p10_c,
					1
				)} to {num(doubts?.flow_p90_c, 1)} °C.
			</p>
		</section>
	</aside>
</div>

<style>
	.head {
		display: flex;
		justify-content: space-between;
		gap: 20px;
		align-items: end;
		margin-bottom: 12px;
	}
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1.35fr) minmax(300px, 0.85fr);
		gap: 30px;
	}
	.two.old {
		opacity: 0.65;
	}
	.doubts td:first-child {
		width: 40%;
	}
	.doubts .note {
		display: block;
	}
	.how {
		padding: 0 8px;
		border-radius: 9px;
		font-size: var(--small);
		white-space: nowrap;
	}
	.how:not(.hatch-doubt) {
		background: var(--ash);
	}
	.spread {
		white-space: nowrap;
	}
	.bar {
		position: relative;
		min-width: 86px;
	}
	.bar i {
		position: absolute;
		right: 4px;
		bottom: 8px;
		height: 4px;
		background: var(--heat);
	}
	.bar.water i {
		background: var(--water);
	}
	.settle {
		white-space: nowrap;
	}
	.settle .quiet {
		padding: 0 4px;
	}
	aside {
		display: grid;
		gap: 22px;
		align-content: start;
	}
	.standing {
		display: grid;
		gap: 2px;
		font-size: var(--small);
		color: var(--muted);
		margin: 6px 0;
	}
	.gaps li {
		display: flex;
		justify-content: space-between;
		gap: 10px;
		padding: 4px 0 4px 10px;
		border-bottom: 1px solid var(--hairline);
		border-left: 4px solid var(--hairline);
	}
	.small {
		font-size: var(--small);
		min-height: 24px;
		margin-left: auto;
		white-space: nowrap;
	}
	.gaps .required {
		border-left-color: var(--doubt);
	}
	.gaps a {
		text-decoration-color: var(--hairline);
		text-underline-offset: 3px;
	}
	svg text {
		font-size: 12px;
		fill: var(--muted);
	}
	svg .name {
		fill: var(--ink);
		font-size: 12.5px;
	}
	.grid {
		stroke: var(--hairline);
	}
	.whisker {
		stroke: var(--heat);
		stroke-width: 7;
		opacity: 0.55;
	}
	.middle {
		stroke: var(--ink);
		stroke-width: 2;
	}
	.single {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 1.6;
	}
	h3 {
		font-weight: 700;
		margin-top: 8px;
	}
	@media (max-width: 1000px) {
		.two {
			grid-template-columns: 1fr;
		}
	}
</style>
