<script lang="ts">
	import { amount, fig, unitName, watts } from '$lib/parts/units';
	import type { Doubts } from '$lib/api/client';
	import { ordered } from '$lib/job/draft';
	import { HOWS, evidence, kindOf, type How } from '$lib/house/evidence';
	import { num } from '$lib/parts/format';
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

<header class="mb-3 flex items-end justify-between gap-5">
	<div>
		<h1>Doubts and gaps</h1>
		<Sentence text={doubts?.sentence ?? 'Working out the range.'} />
	</div>
	{#if old && found}<span class="note"
			>for version {found.version}; the new one is being worked out
			<span class="loading loading-xs loading-dots" aria-hidden="true"></span></span
		>{/if}
</header>

<div
	class="grid grid-cols-[minmax(0,1.35fr)_minmax(300px,0.85fr)] gap-7.5 narrow:grid-cols-[1fr] [&.old]:opacity-65"
	class:old
	aria-busy={old}
>
	<section>
		<h2>What to go back and look at</h2>
		<table class="table table-figures">
			<thead
				><tr
					><th>Doubt</th><th>Known by</th><th class="text-right">Moves the loss</th><th class="text-right"
						>and the water</th
					><th>Settle it</th></tr
				></thead
			>
			<tbody>
				{#each causes as cause (cause.key)}
					<tr>
						<td class="first:w-[40%]">
							<strong>{cause.label}</strong>
							<span class="block note">{cause.mend}</span>
						</td>
						<td class="first:w-[40%]"
							><span
								class="rounded-[9px] px-2 py-0 text-small whitespace-nowrap not-[.hatch-doubt]:bg-ash"
								class:hatch-doubt={!kindOf(cause.how).sure}>{kindOf(cause.how).shape} {cause.how}</span
							><span class="block note whitespace-nowrap"
								>−{num(cause.low_share * 100)} / +{num(cause.high_share * 100)} %</span
							></td
						>
						<td class="relative min-w-21.5 text-right first:w-[40%]"
							><i class="absolute right-1 bottom-2 h-1 bg-heat" style:width={`${(cause.watts_w / widest) * 100}%`}
							></i><span>{watts(cause.watts_w)}<span class="unit">{unitName('W')}</span></span></td
						>
						<td class="relative min-w-21.5 text-right first:w-[40%]"
							><i class="absolute right-1 bottom-2 h-1 bg-water" style:width={`${(cause.flow_k / hottest) * 100}%`}
							></i><span>{fig(cause.flow_k, 'K', 1)}<span class="unit">{unitName('K')}</span></span></td
						>
						<td class="whitespace-nowrap first:w-[40%]">
							{#if cause.paths.length}
								{#each sure(cause.how) as h (h.how)}<button
										class="btn btn-quiet px-1 py-0"
										aria-label={`${cause.label} is ${h.how}`}
										onclick={() => settle(cause, h.how)}>{h.how}</button
									>{/each}
							{/if}
						</td>
					</tr>
				{:else}
					<tr><td class="first:w-[40%]" colspan="5">{doubts ? 'No doubt moves anything.' : 'Working it out.'}</td></tr>
				{/each}
			</tbody>
		</table>
		{#if (doubts?.causes.length ?? 0) > 12}<button class="btn btn-quiet" onclick={() => (all = !all)}
				>{all ? 'Only the first twelve' : `All ${doubts?.causes.length}`}</button
			>{/if}
	</section>
	<aside class="grid content-start gap-5.5">
		<section>
			<h2>Before you leave</h2>
			<Sentence text={found?.leaving.sentence ?? ''} />
			<label class="my-1.5 grid gap-0.5 text-small text-muted"
				>You stand in<Choice
					label="The room you stand in"
					value={desk.standing}
					empty="nowhere: walking order"
					options={rooms}
					commit={stand}
				/></label
			>
			<ol>
				{#each (found?.leaving.gaps ?? []).slice(0, 14) as gap, n (n)}
					<li
						class="flex justify-between gap-2.5 border-b border-l-4 border-b-hairline border-l-hairline pt-1 pr-0 pb-1 pl-2.5 [&.required]:border-l-doubt"
						class:required={gap.required}
					>
						{#if gap.room}<a
								class="decoration-hairline underline-offset-3"
								href={`/job/${session.id}/plan?room=${gap.room}`}>{gap.what}</a
							>{:else}<a class="decoration-hairline underline-offset-3" href={`/job/${session.id}/walk-round`}
								>{gap.what}</a
							>{/if}
						{#if gap.room}<button
								class="btn ml-auto btn-quiet min-h-6 text-small whitespace-nowrap"
								aria-label={`Could not be seen: ${gap.what}`}
								onclick={() => (unable = unable === gap.where ? null : gap.where)}>could not see</button
							>{/if}
						{#if gap.distance_m !== null}<span class="num note">{amount(gap.distance_m, 'm')}</span>{/if}
					</li>
					{#if unable === gap.where}<li
							class="flex justify-between gap-2.5 border-b border-l-4 border-b-hairline border-l-hairline pt-1 pr-0 pb-1 pl-2.5"
						>
							<TextField
								label={`Why it could not be seen: ${gap.what}`}
								value=""
								placeholder="because …"
								commit={(v) => couldNot(gap, v)}
							/>
						</li>{/if}
				{:else}
					<li
						class="flex justify-between gap-2.5 border-b border-l-4 border-b-hairline border-l-hairline pt-1 pr-0 pb-1 pl-2.5"
					>
						No gaps.
					</li>
				{/each}
			</ol>
			{#if (found?.leaving.gaps.length ?? 0) > 14}<p class="note">
					and {(found?.leaving.gaps.length ?? 0) - 14} more
				</p>{/if}
			{#if found?.leaving.unseen.length}<h3 class="mt-2 font-bold">Could not be seen</h3>
				{#each found.leaving.unseen as gap, n (n)}<p class="note">{gap.what}</p>{/each}{/if}
		</section>
		<section>
			<h2>Range of each room <span class="note">P10 to P90, {unitName('W')} its emitter must meet</span></h2>
			<svg viewBox={`0 0 480 ${ranges.length * 22 + 24}`} role="img" aria-label="Range of each room">
				{#each steps(0, top, 4, 'W') as v (v)}
					<line x1={x(v)} x2={x(v)} y1="0" y2={ranges.length * 22} class="ruled" />
					<text x={x(v)} y={ranges.length * 22 + 16} text-anchor="middle">{fig(v, 'W')}</text>
				{/each}
				{#each ranges as row, n (row.id)}
					<text x="122" y={n * 22 + 15} text-anchor="end" class="name">{row.room?.label}</text>
					<line x1={x(row.range.p10_w)} x2={x(row.range.p90_w)} y1={n * 22 + 11} y2={n * 22 + 11} class="whisker" />
					<line x1={x(row.range.p50_w)} x2={x(row.range.p50_w)} y1={n * 22 + 4} y2={n * 22 + 18} class="middle" />
					<circle cx={x(row.room?.room_emitter_load_w ?? 0)} cy={n * 22 + 11} r="3.2" class="single" />
				{/each}
			</svg>
			<p class="note">
				Line: half of the {num(doubts?.samples)} samples lie either side. Dot: the single design. Flow temperature {fig(
					doubts?.flow_p10_c,
					'°C',
					1
				)} to {amount(doubts?.flow_p90_c, '°C', 1)}.
			</p>
			<p class="mt-2">
				<a class="link" href={`/job/${session.id}/winters?view=ours`}>What our own winters say of houses like this</a>
			</p>
		</section>
	</aside>
</div>

<style>
	svg text {
		font-size: 12px;
		fill: var(--muted);
	}
	svg .name {
		fill: var(--ink);
		font-size: 12.5px;
	}
	.ruled {
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
</style>
