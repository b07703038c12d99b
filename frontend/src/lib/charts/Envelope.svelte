<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
	import type { Design, CandidateResult } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { HEIGHT, WIDTH, shape } from './envelope';
	let {
		machine,
		row,
		outdoor,
		beside = null,
		range = null
	}: {
		machine: Design['machine'];
		row: CandidateResult;
		outdoor: number;
		/** Another machine, laid over it. */
		beside?: CandidateResult | null;
		/** What the loss may be of the figure, P10 and P90. */
		range?: [number, number] | null;
	} = $props();
	const drawn = $derived(shape(machine, row, outdoor, beside, range));
</script>

<p class="note">heat, {unitName('kW')}, with the water of this job's curve</p>
<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="img"
	aria-label={`${row.label}: house load against the machine's output over outdoor temperature`}
>
	<defs>
		<pattern id="cycle-hatch" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
			><rect width="9" height="9" style="fill: var(--doubt-pale)" /><rect
				width="2"
				height="9"
				style="fill: var(--doubt)"
			/></pattern
		>
		<pattern id="backup-hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
			><rect width="8" height="8" style="fill: var(--short-pale)" /><rect
				width="3"
				height="8"
				style="fill: var(--short)"
			/></pattern
		>
	</defs>
	{#each drawn.bars as bar (bar.t)}<rect x={bar.x} y={bar.y} width={bar.w} height={bar.h} class="hours"
			><title>{amount(bar.t, '°C')}: {num(bar.hours)} hours a year</title></rect
		>{/each}
	{#each drawn.yTicks as tick (tick)}
		<line x1={drawn.frame.left} x2={drawn.frame.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
		<text x={drawn.frame.left - 8} y={drawn.y(tick) + 4} text-anchor="end" class="tick"
			>{fig(tick, 'kW', tick % 1 ? 1 : 0)}</text
		>
	{/each}
	{#each drawn.xTicks as tick (tick)}<text
			x={drawn.x(tick)}
			y={drawn.frame.bottom + 18}
			text-anchor="middle"
			class="tick">{fig(tick, '°C')}</text
		>{/each}
	<text x={drawn.frame.right} y={drawn.frame.bottom + 35} text-anchor="end" class="tick"
		>outside, {unitName('°C')} · grey bars: hours a year</text
	>
	<path d={drawn.between} class="between" />
	<path d={drawn.cycling} fill="url(#cycle-hatch)" />
	<path d={drawn.backup} fill="url(#backup-hatch)" />
	<path d={drawn.greatest} class="out" />
	<path d={drawn.least} class="out thin" />
	{#if drawn.other}<path d={drawn.other.greatest} class="other" /><path d={drawn.other.least} class="other" />{/if}
	<path d={drawn.doubt} class="doubt" />
	<path d={drawn.season} class="season" />
	<path d={drawn.load} class="load" />
	<line x1={drawn.x(outdoor)} x2={drawn.x(outdoor)} y1={drawn.frame.top} y2={drawn.frame.bottom} class="day" />
	<text x={drawn.x(outdoor) + 5} y={drawn.frame.bottom - 8} class="tick">design day</text>
	<text
		x={drawn.frame.right - 4}
		y={drawn.y((row.greatest_curve_w.at(-1) ?? 0) / 1000) - 7}
		text-anchor="end"
		class="tick strong">most it gives</text
	>
	{#if drawn.other && beside}<text
			x={drawn.other.end[0] - 4}
			y={drawn.other.end[1] - 7}
			text-anchor="end"
			class="tick faint">{beside.label}</text
		>{/if}
	<text
		x={drawn.frame.right - 4}
		y={drawn.y((row.least_curve_w.at(-1) ?? 0) / 1000) - 7}
		text-anchor="end"
		class="tick strong">least it gives</text
	>
</svg>
<p class="flex flex-wrap gap-x-3.5 gap-y-1 pl-11 note">
	<span><i class="k load"></i>house loses</span><span><i class="k season"></i>less gains</span>{#if range}<span
			><i class="k doubted"></i>may lose, P10 to P90</span
		>{/if}<span><i class="k border-y-2 border-y-water bg-water-pale"></i>machine can give</span><span
		><i class="k hatch-doubt"></i>switches on and off</span
	><span><i class="k hatch-short"></i>backup works</span>
</p>
<Fold title="The same as a table">
	<table class="table table-figures">
		<thead
			><tr
				><th class="text-right">Outside, {unitName('°C')}</th><th class="text-right">House loses, {unitName('kW')}</th
				><th class="text-right">Most, {unitName('kW')}</th><th class="text-right">Least, {unitName('kW')}</th><th
					class="text-right">Hours a year</th
				></tr
			></thead
		>
		<tbody
			>{#each machine.outdoor_c as out, n (out)}{#if out >= drawn.x.domain[0]}<tr
						><td class="text-right">{fig(out, '°C')}</td><td class="text-right"
							>{fig((machine.load_w[n] ?? 0) / 1000, 'kW', 2)}</td
						><td class="text-right">{fig((row.greatest_curve_w[n] ?? 0) / 1000, 'kW', 2)}</td><td class="text-right"
							>{fig((row.least_curve_w[n] ?? 0) / 1000, 'kW', 2)}</td
						><td class="text-right">{num(machine.hours[n])}</td></tr
					>{/if}{/each}</tbody
		>
	</table>
</Fold>

<style>
	svg {
		max-height: max(240px, calc(100vh - 460px));
	}
	.strong {
		fill: var(--water);
		font-weight: 600;
	}
	.hours {
		fill: var(--ash);
		stroke: var(--hairline);
	}
	.between {
		fill: var(--water-pale);
		opacity: 0.65;
	}
	.out {
		fill: none;
		stroke: var(--water);
		stroke-width: 3;
	}
	.thin {
		stroke-width: 1.6;
	}
	.load {
		fill: none;
		stroke: var(--heat);
		stroke-width: 3.5;
	}
	.doubt {
		fill: var(--heat);
		opacity: 0.16;
	}
	.other {
		fill: none;
		stroke: var(--muted);
		stroke-width: 2;
		stroke-dasharray: 2 4;
	}
	.faint {
		fill: var(--muted);
		font-weight: 600;
	}
	.season {
		fill: none;
		stroke: var(--heat);
		stroke-width: 2;
		stroke-dasharray: 7 4;
	}
	.day {
		stroke: var(--ink);
		stroke-dasharray: 3 4;
	}

	.k {
		display: inline-block;
		width: 24px;
		height: 11px;
		vertical-align: -1px;
		margin-right: 6px;
	}
	.k.load {
		height: 0;
		border-top: 4px solid var(--heat);
		vertical-align: middle;
	}
	.k.doubted {
		background: var(--heat);
		opacity: 0.25;
	}
	.k.season {
		height: 0;
		border-top: 2px dashed var(--heat);
		vertical-align: middle;
	}
</style>
