<script lang="ts">
	import { amount, fig, unitName, watts } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
	import rules from '$lib/api/rules.json';
	import type { RoomResult } from '$lib/api/client';
	import type { Mend } from '$lib/ways/cheapest.svelte';
	import { money } from '$lib/parts/format';
	import { WIDTH, shape } from './waterline';
	let {
		rooms,
		chosen,
		outdoor,
		picked = null,
		height = 500,
		asked = null,
		mends = null,
		currency = 'GBP',
		ghost = null,
		onroom,
		onmove,
		oncancel,
		onset
	}: {
		rooms: RoomResult[];
		chosen: number | null;
		outdoor: number | null;
		picked?: string | null;
		height?: number;
		/** The flow temperature the cheapest way is asked for, and what it does in each room. */
		asked?: number | null;
		mends?: Record<string, Mend> | null;
		currency?: string;
		/** Where a room would stand after the way that is being looked at. */
		ghost?: { room: string; needed: number } | null;
		onroom: (id: string) => void;
		onmove: (flow: number) => void;
		oncancel: () => void;
		onset: (flow: number) => void;
	} = $props();

	const ROOMY = 26; // wide enough for words under a column
	const rows = $derived(mends ? 3 : 1);
	let dragged = $state<number | null>(null);
	let svg: SVGSVGElement | undefined = $state();
	const settled = $derived(shape(rooms, chosen, height, rows));
	let frozen = $state.raw<ReturnType<typeof shape> | null>(null);
	const drawn = $derived(frozen && dragged !== null ? shape(rooms, dragged, height, rows, frozen.y) : settled);
	const at = $derived(dragged ?? chosen);

	function flowAt(event: PointerEvent): number {
		const box = svg!.getBoundingClientRect();
		const pixel = ((event.clientY - box.top) / box.height) * height;
		const value = (frozen ?? settled).y.invert(pixel);
		return Math.round(Math.min(Math.max(value, 25), 70) * 2) / 2;
	}
	function down(event: PointerEvent): void {
		frozen = settled;
		dragged = chosen;
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
	}
	function move(event: PointerEvent): void {
		if (dragged === null) return;
		const flow = flowAt(event);
		if (flow === dragged) return;
		dragged = flow;
		onmove(flow);
	}
	function up(): void {
		if (dragged === null) return;
		onset(dragged);
		dragged = null;
		frozen = null;
	}
	/** A key held down moves the line as a hand would; letting go keeps it, as one change. */
	function keys(event: KeyboardEvent): void {
		const step = { ArrowUp: 0.5, ArrowDown: -0.5, PageUp: 5, PageDown: -5 }[event.key];
		if (event.key === 'Escape' && dragged !== null) {
			event.stopPropagation();
			dragged = frozen = null;
			oncancel();
		}
		if (!step || chosen === null) return;
		event.preventDefault();
		frozen ??= settled;
		dragged = Math.min(Math.max((dragged ?? chosen) + step, 25), 70);
		onmove(dragged);
	}
	function press(event: KeyboardEvent, id: string): void {
		if (event.key === 'Enter' || event.key === ' ') {
			event.preventDefault();
			onroom(id);
		}
	}
</script>

<p class="mb-0.5 note">
	Flow temperature each room needs at {amount(outdoor, '°C')} outside, {unitName('°C')} · column width = heat its emitter
	meets
</p>
<svg
	class="chart"
	bind:this={svg}
	viewBox={`0 0 ${WIDTH} ${height}`}
	role="group"
	aria-label="Waterline: flow temperature each room needs, with the chosen line"
>
	<defs>
		<pattern id="short-hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
			<rect width="8" height="8" style="fill: var(--short-pale)" /><rect
				width="3"
				height="8"
				style="fill: var(--short)"
			/>
		</pattern>
	</defs>
	{#each drawn.ticks as tick (tick)}
		{@const y = drawn.y(tick)}
		<line x1={drawn.left} x2={drawn.right} y1={y} y2={y} class="ruled" />
		<text x={drawn.left - 8} y={y + 4} class="tick" text-anchor="end">{fig(tick, '°C')}</text>
	{/each}
	{#each drawn.columns as column (column.id)}
		{@const middle = column.x + column.width / 2}
		<g
			class="column"
			role="button"
			tabindex="0"
			aria-label={`${column.label}: needs ${amount(column.needed, '°C', 1)} water, ${column.short ? `only ${amount(column.room.reached_c, '°C', 1)} in the room` : 'meets'}. What may be done?`}
			aria-pressed={picked === column.id}
			class:picked={picked === column.id}
			onclick={() => onroom(column.id)}
			onkeydown={(e) => press(e, column.id)}
		>
			{#if drawn.lineY !== null}<rect
					x={column.x}
					width={column.width}
					y={drawn.lineY}
					height={Math.max(drawn.base - drawn.lineY, 0)}
					class="under"
				/>{/if}
			{#if column.needed !== null}
				<rect
					x={column.x}
					width={column.width}
					y={column.wetTop}
					height={Math.max(drawn.base - column.wetTop, 0)}
					class="wet"
				/>
				{#if column.short}
					<rect
						x={column.x + 0.5}
						width={column.width - 1}
						y={column.top}
						height={Math.max(column.wetTop - column.top, 0)}
						class="dry"
					/>
					{#if column.wetTop - column.top > 34 && column.width > 54}
						<text x={middle} y={(column.top + column.wetTop) / 2 - 2} class="only" text-anchor="middle"
							>only<tspan x={middle} dy="15">{amount(column.room.reached_c, '°C', 1)}</tspan></text
						>
					{/if}
					{#if !(column.wetTop - column.top > 34 && column.width > 54) && drawn.base - column.wetTop > 30 + column.label.length * 7.5}
						<text x={middle} y={column.wetTop + 18} class="in small" text-anchor="middle"
							>{column.width > 62
								? `only ${fig(column.room.reached_c, '°C', 1)}`
								: column.width > 32
									? 'short'
									: ''}</text
						>
					{/if}
					<text x={middle} y={column.top - 6} class="above" text-anchor="middle"
						>{column.width > 18 ? fig(column.needed, '°C', column.width > 29 ? 1 : 0) : ''}{column.capped
							? ' ↑'
							: ''}</text
					>
				{:else}
					<text x={middle} y={column.wetTop + 17} class="in" text-anchor="middle"
						>{column.width > 18 ? fig(column.needed, '°C', column.width > 29 ? 1 : 0) : ''}</text
					>
				{/if}
				<text
					class="name"
					style:font-size={`${Math.min(14, column.width)}px`}
					transform={`translate(${middle + Math.min(5, column.width * 0.35)} ${drawn.base - 8}) rotate(-90)`}
					>{column.label}</text
				>
			{:else}
				<text class="name dark" transform={`translate(${middle + 5} ${drawn.base - 8}) rotate(-90)`}
					>{column.label}{column.room.status === 'no emitter'
						? ', no emitter'
						: column.room.status === 'own heater'
							? ', heater of its own'
							: ''}</text
				>
			{/if}
			<text x={middle} y={drawn.base + 16} class="tick" text-anchor="middle"
				>{column.width > ROOMY ? fig((column.room.room_emitter_load_w ?? 0) / 1000, 'kW', 2) : ''}</text
			>
			{#if ghost?.room === column.id}
				{@const y = drawn.y(Math.max(ghost.needed, drawn.low))}
				<rect x={column.x + 1.5} width={column.width - 3} {y} height={Math.max(drawn.base - y - 1, 0)} class="ghost" />
				{#if column.width > 29}<text x={middle} y={y + 17} class="ghostword" text-anchor="middle"
						>{fig(ghost.needed, '°C', 1)}</text
					>{/if}
			{/if}
			{#if mends?.[column.id] && column.width <= ROOMY}
				<rect x={middle - 3} y={drawn.base + 26} width="6" height="6" class="does"
					><title>{column.label}: {money(mends[column.id]!.cost_minor, currency)}</title></rect
				>
			{:else if mends && column.width > ROOMY}
				{@const mend = mends[column.id]}
				<text x={middle} y={drawn.base + 33} class="tick" class:does={mend} text-anchor="middle"
					>{mend ? money(mend.cost_minor, currency) : '–'}</text
				>
				<text x={middle} y={drawn.base + 50} class="tick" text-anchor="middle"
					>{mend ? rules.disturbs[mend.disturbance] : ''}</text
				>
			{/if}
		</g>
	{/each}
	<line x1={drawn.left} x2={drawn.right} y1={drawn.base} y2={drawn.base} class="ground" />
	<text x={drawn.right + 6} y={drawn.base + 16} class="tick">{unitName('kW')}</text>
	{#if mends}
		<text x={drawn.right + 6} y={drawn.base + 33} class="tick">to {amount(asked, '°C')}</text>
		{#if drawn.columns.some((column) => column.width > ROOMY)}<text x={drawn.right + 6} y={drawn.base + 50} class="tick"
				>disturbs</text
			>{/if}
	{/if}
	{#if asked !== null && at !== null && Math.abs(asked - at) > 0.3}
		<line x1={drawn.left - 6} x2={drawn.right} y1={drawn.y(asked)} y2={drawn.y(asked)} class="asked" />
		<text x={drawn.right + 6} y={drawn.y(asked) + 5} class="tick">{fig(asked, '°C')} asked</text>
	{/if}
	{#if at !== null}
		{@const y = drawn.y(at)}
		<g
			class="line"
			role="slider"
			tabindex="0"
			aria-label="Design flow temperature"
			aria-orientation="vertical"
			aria-valuemin={25}
			aria-valuemax={70}
			aria-valuenow={at}
			aria-valuetext={amount(at, '°C', 1)}
			onpointerdown={down}
			onpointermove={move}
			onpointerup={up}
			onpointercancel={up}
			onkeydown={keys}
			onkeyup={up}
			onblur={up}
		>
			<rect x={drawn.left - 6} width={WIDTH - drawn.left + 6} y={y - 24} height="48" fill="transparent" />
			<line x1={drawn.left - 6} x2={drawn.right} y1={y} y2={y} class="water" />
			<path d={`M${drawn.right} ${y} l12 -17 h58 v34 h-58 z`} class="flag" />
			<text x={drawn.right + 40} y={y + 6} text-anchor="middle" class="flagtext">{fig(at, '°C', 1)}</text>
		</g>
	{/if}
</svg>
<Fold title="The same as a table">
	<table class="table table-figures">
		<thead
			><tr
				><th>Room</th><th class="text-right">Emitter meets, {unitName('W')}</th><th class="text-right"
					>Needs, {unitName('°C')}</th
				><th class="text-right">Reaches, {unitName('°C')}</th><th>At {amount(at, '°C', 1)} water</th></tr
			></thead
		>
		<tbody
			>{#each rooms as room (room.id)}<tr
					><td>{room.label}</td><td class="text-right">{watts(room.room_emitter_load_w)}</td><td class="text-right"
						>{fig(room.needed_flow_c, '°C', 1)}</td
					><td class="text-right">{fig(room.reached_c, '°C', 1)}</td><td>{room.status}</td></tr
				>{/each}</tbody
		>
	</table>
</Fold>

<style>
	svg {
		touch-action: none;
		user-select: none;
	}

	.ghost {
		fill: color-mix(in srgb, var(--on-water) 22%, transparent);
		stroke: var(--on-water);
		stroke-width: 2;
		stroke-dasharray: 6 4;
	}
	.ghostword {
		fill: var(--on-water);
		font-weight: 700;
		font-size: 14px;
		paint-order: stroke;
		stroke: var(--water);
		stroke-width: 4px;
	}
	.asked {
		stroke: var(--heat);
		stroke-width: 2;
		stroke-dasharray: 7 5;
		pointer-events: none;
	}
	.does {
		fill: var(--ink);
		font-weight: 700;
	}
	.ground {
		stroke: var(--ink);
		stroke-width: 1.5;
	}
	.under {
		fill: var(--water-pale);
	}
	.wet {
		fill: var(--water);
	}
	.dry {
		fill: url(#short-hatch);
		stroke: var(--short);
	}
	.only {
		fill: var(--ink);
		font-weight: 700;
		font-size: 13px;
		paint-order: stroke;
		stroke: var(--short-pale);
		stroke-width: 4px;
	}
	.above {
		fill: var(--short-text);
		font-weight: 700;
		font-size: 14px;
	}
	.in,
	.name {
		fill: var(--on-water);
		font-weight: 700;
		font-size: 14px;
	}
	.name {
		font-weight: 500;
		paint-order: stroke;
		stroke: var(--water);
		stroke-width: 3px;
	}
	.small {
		font-size: 12.5px;
	}
	.name.dark {
		stroke: none;
		fill: var(--ink);
	}
	.column {
		cursor: pointer;
	}
	.column.picked .wet,
	.column.picked .dry {
		stroke: var(--ink);
		stroke-width: 3;
	}
	.line {
		cursor: ns-resize;
	}
	.line:focus-visible .flag,
	.column:focus-visible .under {
		stroke: var(--ink);
		stroke-width: 3;
	}
	.column:focus,
	.line:focus {
		outline: none;
	}
	.column:focus-visible .wet {
		stroke: var(--ink);
		stroke-width: 3;
	}
	.water {
		stroke: var(--heat);
		stroke-width: 4;
	}
	.flag {
		fill: var(--heat);
	}
	.flagtext {
		fill: var(--paper);
		font-weight: 700;
		font-size: 17px;
		font-variant-numeric: tabular-nums;
	}
</style>
