<script lang="ts">
	import type { FireUpFound, Watched } from '$lib/api/client';
	import { heard } from '$lib/house/sound';
	import { useFrame } from '$lib/job/frame.svelte';
	import { num } from '$lib/parts/format';
	import NumberField from '$lib/parts/NumberField.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	import { difference, unitName } from '$lib/parts/units';
	let { found, plant }: { found: FireUpFound; plant: Watched | null } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const values = $derived(session.job?.fire_up?.steps?.emitters?.values ?? {});
	const roomOf = $derived(
		Object.fromEntries((session.shown?.rooms ?? []).flatMap((r) => r.emitters.map((e) => [e.id, r.id])))
	);
	const put = (key: string, value: number | null) =>
		session.edit('Emitters, as measured', (d) =>
			d.put(`/fire_up/steps/emitters/values/${key.replaceAll('/', '~1')}`, value)
		);
	const live = $derived(plant?.state === 'live' ? plant.figures : {});
	const can = $derived(found.balance.emitters.some((e) => live[`tail:${e.id}:return`] != null));
	async function takeAll(): Promise<void> {
		const tenth = (v: number): number => Math.round(v * 10) / 10;
		const kept = await session.edit('All tails taken from the plant', (d) => {
			for (const e of found.balance.emitters) {
				for (const side of ['flow', 'return']) {
					const v = live[`tail:${e.id}:${side}`];
					if (v != null) d.set(`/fire_up/steps/emitters/values/tail~1${e.id}~1${side}`, tenth(v));
				}
				const air = live[`room:${roomOf[e.id]}`];
				if (air != null) d.set(`/fire_up/steps/emitters/values/room~1${roomOf[e.id]}`, tenth(air));
			}
		});
		if (kept) heard(true);
	}
</script>

<p class="py-1 text-lead"><Sentence text={found.balance.sentence} /></p>
{#if found.balance.moves.length}
	<ol class="grid gap-1.5 rounded-md border border-ink px-3.5 py-2.5">
		{#each found.balance.moves as m, n (m.emitter)}<li class="grid grid-cols-[1.6em_1fr_auto] gap-2">
				<b>{n + 1}.</b><span><b>{m.room}</b>, {m.label}: {m.says}</span><span class="note tabular-nums"
					>{num(m.share_before * 100)} % of its water, then {num(m.share_after * 100)} %</span
				>
			</li>{/each}
	</ol>
{/if}
<div class="mt-2 flex items-center gap-3">
	<button class="btn min-h-14 btn-outline" disabled={!can} onclick={() => void takeAll()}
		>Take all tails from the plant</button
	>
</div>
<div class="overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th>Emitter</th><th class="text-right">Flow tail, {unitName('°C')}</th><th class="text-right"
					>Return tail, {unitName('°C')}</th
				><th class="text-right">Turns open</th><th class="text-right">Spread, {unitName('K')}</th><th class="text-right"
					>Expected, {unitName('K')}</th
				><th class="text-right">Of its water</th><th>So</th></tr
			></thead
		>
		<tbody
			>{#each found.balance.emitters as e (e.id)}<tr
					><td>{e.room}<span class="block text-small text-muted">{e.label}</span></td>
					{#each ['flow', 'return'] as const as side (side)}<td class="text-right"
							><NumberField
								label={`${side === 'flow' ? 'Flow' : 'Return'} tail of ${e.label}, ${e.room}`}
								value={values[`tail/${e.id}/${side}`] ?? null}
								unit="°C"
								digits={1}
								inHead
								quantity="temperature"
								commit={(v) => put(`tail/${e.id}/${side}`, v)}
							/></td
						>{/each}<td class="text-right"
						><NumberField
							label={`Turns open of ${e.label}, ${e.room}`}
							value={values[`turns/${e.id}`] ?? null}
							digits={2}
							commit={(v) => put(`turns/${e.id}`, v)}
						/></td
					><td class="text-right">{e.spread_k == null ? '–' : num(difference(e.spread_k, 'K'), 1)}</td><td
						class="text-right">{e.expected_k == null ? '–' : num(difference(e.expected_k, 'K'), 1)}</td
					><td class="text-right">{e.share == null ? '–' : `${num(e.share * 100)} %`}</td><td class="text-small"
						><span class="rounded-sm px-1" class:hatch-short={e.verdict === 'off'}
							>{e.verdict === 'meets' ? 'meets' : e.verdict === 'off' ? `off: ${e.said}` : ''}</span
						></td
					></tr
				>{/each}</tbody
		>
	</table>
</div>
