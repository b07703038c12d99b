<script lang="ts">
	import type { SeparatingFound } from '$lib/api/client';
	import { emitterPath } from '$lib/emitters/emitters';
	import { useFrame } from '$lib/job/frame.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	let { found }: { found: SeparatingFound } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const volume = $derived(session.shown?.volume);
	const needs = $derived(found.needs.filter((n) => n.litres != null && n.litres > 0));
	const most = $derived(
		1.05 * Math.max((volume?.open_l ?? 0) + (volume?.closed_l ?? 0), ...needs.map((n) => n.litres ?? 0), 1)
	);
	const x = (litres: number): number => (760 * litres) / most;
	/** The pieces of the open water, left to right. */
	const pieces = $derived.by(() => {
		if (!volume) return [];
		const all = [
			{ label: 'machine', litres: volume.machine_l },
			{ label: 'pipes', litres: volume.pipes_l },
			{ label: 'emitters', litres: volume.emitters_l },
			{ label: 'volumiser', litres: volume.volumiser_l },
			{ label: 'separator', litres: volume.separator_l }
		].filter((one) => one.litres > 0);
		return all.map((one, n) => ({ ...one, from: all.slice(0, n).reduce((sum, p) => sum + p.litres, 0) }));
	});
	/** Which of the marks stand on a line of their own, so that their words keep clear of each other. */
	const marks = $derived.by(() => {
		const ends = [-99, -99, -99, -99];
		return [...needs]
			.sort((a, b) => (a.litres ?? 0) - (b.litres ?? 0))
			.map((n) => {
				const at = x(n.litres ?? 0);
				const row = Math.max(
					0,
					ends.findIndex((end) => at > end)
				);
				ends[row] = at + 170;
				return { ...n, at, row };
			});
	});
	const OPEN = 'lockshields';
	const CLOSES = 'thermostatic';
	function swap(emitter: string, label: string, open: boolean): void {
		void session.edit(`${label}: ${open ? 'closed by a thermostatic valve' : 'left open'}`, (d) => {
			const at = emitterPath(d.job, session.scheme, emitter);
			const floor = found.opens.find((o) => o.emitter === emitter)?.valve_label.includes('manifold');
			d.set(`${at}/spec/valve`, open ? (floor ? 'actuator' : CLOSES) : floor ? 'manifold-open' : OPEN);
		});
	}
</script>

<h2 class="mt-5">Water that always goes round</h2>
{#if volume}
	<p class="mb-1">
		<strong>{amount(volume.open_l, 'L')}</strong> open, {amount(volume.closed_l, 'L')} behind closing valves. Press an emitter
		to close or open it and watch the bar.
	</p>
	<svg
		viewBox="0 0 770 120"
		class="chart"
		role="img"
		aria-label={`${amount(volume.open_l, 'L')} open; ${needs.map((n) => `${n.label} ${amount(n.litres, 'L')}`).join(', ')}`}
	>
		{#each pieces as p (p.label)}
			<rect x={x(p.from)} y="4" width={x(p.litres)} height="26" class="open" />
			{#if x(p.litres) > 62}<text x={x(p.from) + 5} y="22" class="in">{p.label} {fig(p.litres, 'L')}</text>{/if}
		{/each}
		<rect x={x(volume.open_l ?? 0)} y="4" width={x(volume.closed_l)} height="26" class="closed" />
		{#if x(volume.closed_l) > 84}<text x={x(volume.open_l ?? 0) + 5} y="22" class="tick"
				>can close {fig(volume.closed_l, 'L')}</text
			>{/if}
		{#each marks as m (m.key)}
			<line x1={m.at} x2={m.at} y1="0" y2={44 + 20 * m.row} class="need" />
			<text
				x={m.at > 600 ? m.at - 4 : m.at + 4}
				y={46 + 20 * m.row}
				text-anchor={m.at > 600 ? 'end' : 'start'}
				class="name">{m.label}, {amount(m.litres, 'L')}</text
			>
		{/each}
	</svg>
{/if}
<div class="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-x-4">
	{#each found.opens as o (o.emitter)}
		<button
			class="flex min-h-9 items-center justify-between gap-2 border-b border-hairline text-left touch:min-h-12"
			aria-pressed={o.open}
			aria-label={`${o.label}, ${o.open ? 'open' : 'closes'}: change`}
			onclick={() => swap(o.emitter, o.label, o.open)}
			><span class="flex items-center gap-2"
				><span class="mark" class:closes={!o.open}></span><span
					>{o.label}<span class="block note">{o.open ? 'always open' : 'closes'} · {o.advice}</span></span
				></span
			><span class="font-semibold tabular-nums">{fig(o.litres, 'L', 1)}<span class="unit">{unitName('L')}</span></span
			></button
		>
	{/each}
</div>
<dl class="mt-2 grid gap-0.5">
	{#each found.needs as n (n.key)}<div class="flex gap-2">
			<dt class="w-46 flex-none text-muted">{n.label}</dt>
			<dd><strong>{n.litres == null ? '–' : amount(n.litres, 'L')}</strong> <span class="note">{n.why}</span></dd>
		</div>{/each}
</dl>

<style>
	svg {
		width: 100%;
		max-width: 780px;
		max-height: 130px;
	}
	.open {
		fill: var(--water);
		stroke: var(--paper);
	}
	.closed {
		fill: var(--water-pale);
		stroke: var(--water);
	}
	.in {
		fill: var(--on-water);
		font-size: 12.5px;
	}
	.need {
		stroke: var(--ink);
		stroke-width: 2;
	}
	.name {
		paint-order: stroke;
		stroke: var(--paper);
		stroke-width: 3px;
		fill: var(--ink);
		font-size: 12.5px;
	}
	.mark {
		width: 14px;
		height: 14px;
		border-radius: 50%;
		background: var(--water);
		flex: none;
	}
	.closes {
		background: transparent;
		border: 2px solid var(--water);
	}
</style>
