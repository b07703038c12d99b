<script lang="ts">
	import rules from '$lib/api/rules.json';
	import type { FlowsFound } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import { num } from '$lib/parts/format';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { amount, difference, fig, unitName } from '$lib/parts/units';
	let { found }: { found: FlowsFound } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const most = $derived(Math.max(1, ...found.rows.map((r) => Math.max(r.design_lph, r.unbalanced_lph))));
	const part = (flow: number): number => (100 * flow) / most;
	const turns = $derived(session.job?.practice?.lockshield ?? rules.practice.lockshield);
	const setTurn = (n: number, field: 'turns' | 'kv_m3h') => (value: number | null) =>
		session.edit('Practice: the lockshield’s table', (d) => {
			const list = turns.map((one) => ({ ...one }));
			if (value === null) list.splice(n, 1);
			else list[n] = { ...list[n]!, [field]: value };
			d.set('/practice/lockshield', list);
		});
	const more = () =>
		session.edit('Practice: the lockshield’s table', (d) => {
			const last = turns[turns.length - 1] ?? { turns: 0, kv_m3h: 0.1 };
			d.set('/practice/lockshield', [...turns, { turns: last.turns + 1, kv_m3h: last.kv_m3h + 0.2 }]);
		});
	const warm = (value: number | null | undefined): string => fig(value, '°C', 1);
</script>

<div class="overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th>Circuit</th><th class="text-right">Wanted, {unitName('L/h')}</th><th>With nothing balanced</th><th
					class="text-right">Gets</th
				><th class="text-right">To drop, {unitName('kPa')}</th><th class="text-right">kv</th><th class="text-right"
					>Turns open</th
				></tr
			></thead
		>
		<tbody
			>{#each found.rows as r (r.emitter)}
				{@const short = r.unbalanced_lph < 0.85 * r.design_lph}<tr
					><td>{r.label}</td><td class="text-right">{fig(r.design_lph, 'L/h')}</td><td class="w-[26%]"
						><svg
							viewBox="0 0 200 14"
							preserveAspectRatio="none"
							class="block h-3.5 w-full"
							role="img"
							aria-label={`${r.label} gets ${num((100 * r.unbalanced_lph) / r.design_lph)} % of its flow`}
							><rect x="0" y="3" height="8" width={part(r.unbalanced_lph) * 2} class={short ? 'short' : 'gets'} /><line
								x1={part(r.design_lph) * 2}
								x2={part(r.design_lph) * 2}
								y1="0"
								y2="14"
								class="wanted"
							/></svg
						></td
					><td class="text-right"
						>{#if short}<span
								class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
								>{fig(r.unbalanced_lph, 'L/h')}</span
							>{:else}{fig(r.unbalanced_lph, 'L/h')}{/if}</td
					><td class="text-right">{fig(r.drop_kpa, 'kPa', 1)}</td><td class="text-right"
						>{r.kv_m3h == null ? '–' : num(r.kv_m3h, 2)}</td
					><td class="text-right font-semibold">{r.turns == null ? 'wide open' : num(r.turns, 2)}</td></tr
				>{/each}</tbody
		>
	</table>
</div>
<p class="mt-1 max-w-[78ch] note">
	Upright line: the flow wanted. Turns by the table below, a place to begin: the temperature across each emitter,
	measured with the house warm, has the last word.
</p>
{#if found.rooms.length}
	<h2 class="mt-4 mb-1">What rooms that makes on the design day</h2>
	<table class="table table-figures">
		<thead
			><tr
				><th>Room</th><th class="text-right">Wants, {unitName('°C')}</th><th class="text-right">Nothing balanced</th><th
					class="text-right">Balanced</th
				><th class="text-right">Spread then, {unitName('K')}</th><th class="text-right">balanced</th></tr
			></thead
		>
		<tbody
			>{#each found.rooms as r (r.room)}<tr
					><td>{r.label}</td><td class="text-right">{warm(r.target_c)}</td
					>{#each [r.unbalanced_c, r.balanced_c] as c, n (n)}<td class="text-right"
							>{#if (c ?? 99) < r.target_c - 0.3}<span
									class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
									>{warm(c)}</span
								>{:else}{warm(c)}{/if}</td
						>{/each}<td class="text-right"
						>{r.unbalanced_spread_k == null ? '–' : num(difference(r.unbalanced_spread_k, 'K'), 1)}</td
					><td class="text-right">{r.balanced_spread_k == null ? '–' : num(difference(r.balanced_spread_k, 'K'), 1)}</td
					></tr
				>{/each}</tbody
		>
	</table>
	<p class="mt-1 max-w-[78ch] note">
		All rooms settling together at the chosen water; rooms without a closing valve float above what they want.
	</p>
{/if}
{#each found.notes as note (note)}<p class="mt-1.5 max-w-[78ch]">{note}</p>{/each}
<div class="mt-3">
	<Fold title="The lockshield's table: turns and kv">
		<p class="max-w-[70ch] note">
			A usual lockshield of {amount(15, 'mm')}; put the maker's table in its place where it is known.
		</p>
		<table class="table max-w-80 table-figures">
			<thead><tr><th class="text-right">Turns open</th><th class="text-right">kv</th></tr></thead>
			<tbody
				>{#each turns as one, n (n)}<tr
						><td class="text-right"
							><NumberField
								label={`Turns, row ${n + 1}`}
								value={one.turns}
								digits={2}
								commit={setTurn(n, 'turns')}
							/></td
						><td class="text-right"
							><NumberField
								label={`kv, row ${n + 1}`}
								value={one.kv_m3h}
								digits={2}
								commit={setTurn(n, 'kv_m3h')}
							/></td
						></tr
					>{/each}</tbody
			>
		</table>
		{#if turns.length < 20}<button class="btn btn-quiet" onclick={() => void more()}>Another row</button>{/if}
	</Fold>
</div>

<style>
	.gets {
		fill: var(--water);
	}
	.short {
		fill: var(--short);
	}
	.wanted {
		stroke: var(--ink);
		stroke-width: 2;
	}
</style>
