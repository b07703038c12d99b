<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
	import type { Design } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import {
		HEIGHT,
		LINE,
		lines,
		looks,
		NEED,
		nearest,
		shape,
		stepped,
		WIDTH,
		type Band,
		type Seen,
		type Spot
	} from './curve';
	let {
		curve,
		names,
		movable,
		band = null,
		seen = [],
		spot = $bindable(null),
		onmove,
		onset
	}: {
		curve: Design['curve'];
		names: Record<string, string>;
		movable: boolean;
		band?: Band;
		seen?: Seen[];
		spot?: Spot | null;
		onmove: (key: 'cold' | 'mild', flow: number) => void;
		onset: (key: 'cold' | 'mild', flow: number) => void;
	} = $props();
	let svg: SVGSVGElement | undefined = $state();
	let held = $state<{ key: 'cold' | 'mild'; flow: number } | null>(null);
	const drawn = $derived(shape(curve, band));
	const points = $derived(looks(drawn, seen));
	/** The ends as they stand, the one under the hand where the hand has it: at once, before anything is worked out. */
	const ends = $derived(drawn.points.map((p) => (held?.key === p.key ? { ...p, flow: held.flow } : p)));
	const here = $derived(
		spot === null ? null : { t: curve.outdoor_c[spot.n] ?? 0, v: lines(curve)[spot.line]?.[spot.n] ?? null }
	);
	const name = (line: string): string =>
		line === NEED ? 'The house' : line === LINE ? 'The controller' : (names[line] ?? line);
	const reading = $derived.by(() => {
		if (spot === null || here === null || here.v === null) return '';
		const said = `${name(spot.line)} ${spot.line === LINE ? 'gives' : 'needs'} ${amount(here.v, '°C', 1)}`;
		if (spot.line === LINE) return said;
		if (spot.line === NEED) return `${said}, for ${names[curve.holds[spot.n] ?? ''] ?? 'no room'}`;
		const over = curve.over_k[spot.line]?.[spot.n];
		return over == null
			? said
			: `${said}; by the line it is ${Math.abs(over) < 0.05 ? 'at its target' : `${amount(Math.abs(over), 'K', 1)} ${over > 0 ? 'above' : 'below'} it`}`;
	});

	function flowAt(event: PointerEvent): number {
		const box = svg!.getBoundingClientRect();
		const value = drawn.y.invert(((event.clientY - box.top) / box.height) * HEIGHT);
		return Math.round(Math.min(Math.max(value, 20), 70));
	}
	function down(event: PointerEvent, key: 'cold' | 'mild', flow: number): void {
		if (!movable) return;
		held = { key, flow };
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
	}
	function look(event: PointerEvent): void {
		if (held) return;
		const box = svg!.getBoundingClientRect();
		spot = nearest(
			curve,
			drawn,
			((event.clientX - box.left) / box.width) * WIDTH,
			((event.clientY - box.top) / box.height) * HEIGHT
		);
	}
	function walk(event: KeyboardEvent): void {
		if (!event.key.startsWith('Arrow') || (event.target as Element).getAttribute('role') === 'slider') return;
		event.preventDefault();
		const start = curve.outdoor_c.findIndex((t) => t >= (curve.cold_out_c ?? drawn.x.domain[0]));
		spot = spot === null ? { n: Math.max(start, 0), line: NEED } : stepped(curve, spot, event.key, drawn.x.domain[0]);
	}
	function move(event: PointerEvent): void {
		if (!held) return;
		const flow = flowAt(event);
		if (flow === held.flow) return;
		held = { ...held, flow };
		onmove(held.key, flow);
	}
	function up(): void {
		if (held) onset(held.key, held.flow);
		held = null;
	}
	function keys(event: KeyboardEvent, key: 'cold' | 'mild', flow: number): void {
		const step = { ArrowUp: 1, ArrowDown: -1 }[event.key];
		if (!step || !movable) return;
		event.preventDefault();
		onset(key, Math.min(Math.max(flow + step, 20), 70));
	}
</script>

<p class="flex min-h-5.5 items-baseline gap-4.5 note">
	<span>water flow, {unitName('°C')}</span><span class="text-ink" aria-live="polite"
		>{#if here && reading}<b>{amount(here.t, '°C')} outside</b> · {reading}{:else}Point at a line, or use the arrow
			keys, to read it.{/if}</span
	>
</p>
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<svg
	class="chart"
	bind:this={svg}
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="group"
	tabindex="0"
	aria-label="Weather curve: water flow over outdoor temperature. Arrow keys walk along its lines."
	onpointermove={look}
	onpointerdown={look}
	onkeydown={walk}
>
	<defs
		><pattern id="loss-band" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
			><rect width="7" height="7" class="band-ground" /><line y2="7" class="band-line" /></pattern
		></defs
	>
	{#each drawn.cops as cop (cop.level)}<path d={cop.ground} class="ground" />{/each}
	{#if drawn.band}<path d={drawn.band} class="band"
			><title>What the house needs at the P10 and the P90 of its loss</title></path
		>{/if}
	{#each drawn.bars as bar (bar.t)}<rect x={bar.x} y={bar.y} width={bar.w} height={bar.h} class="hours"
			><title>{amount(bar.t, '°C')}: {num(bar.hours)} hours a year</title></rect
		>{/each}
	{#each drawn.yTicks as tick (tick)}
		<line x1={drawn.frame.left} x2={drawn.frame.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
		<text x={drawn.frame.left - 8} y={drawn.y(tick) + 4} text-anchor="end" class="tick">{fig(tick, '°C')}</text>
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
	{#each drawn.cops as cop (cop.level)}
		<path d={cop.d} class="cop" />
		{#if cop.at}<text x={cop.at[0]} y={cop.at[1] - 5} class="coptext" text-anchor="end">COP {cop.level}</text>{/if}
	{/each}
	{#each drawn.rooms as room (room.id)}<path d={room.d} class="room" class:here={spot?.line === room.id}
			><title>{names[room.id]}</title></path
		>{/each}
	{#each drawn.circuits as one (one.id)}<path d={one.d} class="circuit"><title>{one.label}</title></path
		>{#if one.at}<text x={one.at[0] + 4} y={one.at[1] - 6} class="roomtext">{one.label}</text>{/if}{/each}
	<path d={drawn.need} class="need" />
	<path d={drawn.line} class="line" />
	<line
		x1={drawn.x(curve.heating_limit_c)}
		x2={drawn.x(curve.heating_limit_c)}
		y1={drawn.frame.top}
		y2={drawn.frame.bottom}
		class="limit"
	/>
	<text x={drawn.x(curve.heating_limit_c) + 5} y={drawn.frame.top + 12} class="coptext">off</text>
	{#each drawn.labels as label (label.id)}<text
			x={label.x}
			y={label.y + 4}
			class="roomtext"
			class:holds={label.bold || spot?.line === label.id}>{names[label.id]}</text
		>{/each}
	{#if spot && here && here.v !== null}
		<line x1={drawn.x(here.t)} x2={drawn.x(here.t)} y1={drawn.frame.top} y2={drawn.frame.bottom} class="cursor" />
		<circle cx={drawn.x(here.t)} cy={drawn.y(here.v)} r="5" class="dot" />
	{/if}
	{#each points as p (p.id)}<line x1={p.x} x2={p.x} y1={p.y} y2={p.to} class="should" /><circle
			cx={p.x}
			cy={p.y}
			r="4.5"
			class="seen"
			class:odd={p.odd}
		/>{/each}
	{#if held && ends.length === 2}<line
			x1={drawn.x(ends[0]!.out)}
			y1={drawn.y(ends[0]!.flow)}
			x2={drawn.x(ends[1]!.out)}
			y2={drawn.y(ends[1]!.flow)}
			class="ghost"
		/>{/if}
	{#each ends as point (point.key)}
		{#if !point.moves}<circle cx={drawn.x(point.out)} cy={drawn.y(point.flow)} r="5" class="point" />{:else}
			<g
				role="slider"
				tabindex="0"
				class:movable
				aria-label={`${point.key === 'cold' ? 'Cold' : 'Mild'} point at ${amount(point.out, '°C')} outside`}
				aria-valuemin={20}
				aria-valuemax={70}
				aria-valuenow={point.flow}
				onpointerdown={(e) => down(e, point.key, point.flow)}
				onpointermove={move}
				onpointerup={up}
				onpointercancel={up}
				onkeydown={(e) => keys(e, point.key, point.flow)}
			>
				<circle cx={drawn.x(point.out)} cy={drawn.y(point.flow)} r="26" fill="transparent" />
				<circle cx={drawn.x(point.out)} cy={drawn.y(point.flow)} r="9" class="point" />
				<text x={drawn.x(point.out) + 13} y={drawn.y(point.flow) - 10} class="pointtext">{fig(point.flow, '°C')}</text>
				{#if point.key === 'cold' && curve.holds_cold != null}
					<text x={drawn.x(point.out) + 40} y={drawn.y(point.flow) - 11} class="heldtext"
						>held by {names[curve.holds_cold]}</text
					>
				{:else if point.key === 'mild' && curve.holds_mild != null}
					<!-- it ends at the picture's edge, above its figure, so that a long name has room -->
					<text x={drawn.x(20)} y={drawn.y(point.flow) - 32} text-anchor="end" class="heldtext"
						>held by {names[curve.holds_mild]}</text
					>
				{/if}
			</g>{/if}
	{/each}
</svg>
<p class="flex flex-wrap gap-5 pl-11 note">
	<span><i class="line mr-1.5 inline-block h-0 w-6.5 border-t-4 border-t-heat align-middle"></i>controller gives</span
	><span><i class="need mr-1.5 inline-block h-0 w-6.5 border-t-4 border-t-water align-middle"></i>house needs</span
	><span
		><i class="room mr-1.5 inline-block h-0 w-6.5 border-t-2 border-t-water-mid align-middle"></i>each room, beside
		rooms as warm as the need makes them</span
	><span
		><i class="cop mr-1.5 inline-block h-0 w-6.5 border-t-2 border-dotted border-t-meets align-middle"></i>equal COP of
		the machine, the ground greener the better</span
	>{#if drawn.band}<span
			><i class="mr-1.5 inline-block h-3 w-6.5 align-middle hatch-doubt"></i>need at the P10 and the P90 of the loss</span
		>{/if}{#if drawn.circuits.length}<span
			><i class="mr-1.5 inline-block h-0 w-6.5 border-t-3 border-dashed border-t-heat align-middle"></i>a circuit of its
			own</span
		>{/if}{#if points.length}<span
			><i class="mr-2 ml-2 inline-block size-2.5 rounded-full border-2 border-ink bg-paper align-middle"></i>a look,
			with a line to where its water should have been</span
		>{/if}
</p>
<Fold title="The same as a table">
	<table class="table table-figures">
		<thead
			><tr
				><th class="text-right">Outside, {unitName('°C')}</th><th class="text-right">House needs, {unitName('°C')}</th
				><th>Held by</th><th class="text-right">Controller gives, {unitName('°C')}</th><th class="text-right"
					>Hours a year</th
				></tr
			></thead
		>
		<tbody
			>{#each curve.outdoor_c as out, n (out)}{#if out >= drawn.x.domain[0] && out <= curve.heating_limit_c}<tr
						><td class="text-right">{fig(out, '°C')}</td><td class="text-right">{fig(curve.needed_c[n], '°C', 1)}</td
						><td>{names[curve.holds[n] ?? ''] ?? '–'}</td><td class="text-right">{fig(curve.line_c[n], '°C', 1)}</td><td
							class="text-right">{num(curve.hours[n])}</td
						></tr
					>{/if}{/each}</tbody
		>
	</table>
</Fold>

<style>
	svg {
		max-height: calc(100vh - 262px);
		touch-action: none;
		user-select: none;
	}
	.coptext {
		fill: var(--muted);
		font-size: 12.5px;
		font-variant-numeric: tabular-nums;
	}
	.hours {
		fill: var(--ash);
		stroke: var(--hairline);
	}
	path {
		fill: none;
	}
	.cop {
		stroke: var(--meets);
		stroke-dasharray: 1 5;
		stroke-width: 1.6;
		stroke-linecap: round;
	}
	.coptext {
		fill: var(--meets);
	}
	.ground {
		fill: color-mix(in oklab, var(--meets) 9%, transparent);
	}
	.band {
		fill: url('#loss-band');
	}
	.band-ground {
		fill: color-mix(in oklab, var(--doubt) 10%, transparent);
	}
	.band-line {
		stroke: color-mix(in oklab, var(--doubt) 50%, transparent);
		stroke-width: 3;
	}
	.circuit {
		stroke: var(--heat);
		stroke-dasharray: 7 4;
		stroke-width: 2.4;
	}
	.room {
		stroke: var(--water-mid);
		stroke-width: 1.3;
	}
	.room.here {
		stroke: var(--ink);
		stroke-width: 2.4;
	}

	svg:focus {
		outline: none;
	}
	svg:focus-visible {
		outline: 2px solid var(--ink);
		outline-offset: 2px;
	}
	.roomtext,
	.heldtext {
		fill: var(--muted);
		font-size: 12px;
		paint-order: stroke;
		stroke: var(--paper);
		stroke-width: 3px;
		stroke-linejoin: round;
		pointer-events: none;
	}
	.roomtext.holds,
	.heldtext {
		fill: var(--ink);
		font-weight: 700;
	}
	.cursor {
		stroke: var(--ink);
		stroke-dasharray: 1 4;
		pointer-events: none;
	}
	.dot {
		fill: var(--ink);
		stroke: var(--paper);
		stroke-width: 2;
		pointer-events: none;
	}
	.need {
		stroke: var(--water);
		stroke-width: 4;
	}
	.line {
		stroke: var(--heat);
		stroke-width: 3;
	}
	.seen {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 2;
		pointer-events: none;
	}
	.seen.odd {
		stroke: var(--doubt);
		stroke-dasharray: 2 2;
	}
	.should {
		stroke: var(--ink);
		stroke-width: 1.6;
		pointer-events: none;
	}
	.ghost {
		stroke: var(--heat);
		stroke-width: 1.5;
		stroke-dasharray: 4 4;
		pointer-events: none;
	}
	.limit {
		stroke: var(--heat);
		stroke-dasharray: 3 4;
	}
	.point {
		fill: var(--heat);
		stroke: var(--paper);
		stroke-width: 3;
	}
	.movable {
		cursor: ns-resize;
	}
	g:focus {
		outline: none;
	}
	g:focus-visible .point {
		stroke: var(--ink);
	}
	.pointtext {
		fill: var(--ink);
		font-weight: 700;
		font-size: 16px;
	}
</style>
