<script lang="ts">
	import type { Pipe, RoutesFound } from '$lib/api/client';
	import { amount } from '$lib/parts/units';
	import { untrack } from 'svelte';
	import { HEIGHT, WIDTH, board, pieces, thick, type Spot3 } from './pipesPlan';
	/** Pipes on the storeys: width is flow, the index lit, risers as rings, what nobody has confirmed dashed. */
	let {
		plan,
		runs,
		looked,
		ghosts,
		look,
		move,
		bend,
		remove
	}: {
		plan: RoutesFound;
		runs: { pipe: Pipe; way: Spot3[]; proposed: boolean }[];
		looked: string | null;
		/** A tree that is only proposed: ways over the plan. */
		ghosts: Spot3[][];
		look: (id: string) => void;
		/** A point of the run that is looked at, put elsewhere; a bend put into it; a bend taken out. */
		move: (n: number, to: Spot3) => void;
		bend: (after: number, at: Spot3) => void;
		remove: (n: number) => void;
	} = $props();
	let held = $state.raw<{ n: number; from: Spot3; to: Spot3 } | null>(null);
	const fresh = $derived(board(plan.storeys, [...runs.flatMap((r) => r.way), ...ghosts.flat()]));
	/** The scale stands still while something is dragged over it. */
	let still = $state.raw(untrack(() => fresh));
	$effect(() => {
		if (!held) still = fresh;
	});
	const on = $derived(held ? still : fresh);
	const most = $derived(Math.max(1, ...runs.map((r) => r.pipe.flow_lph ?? 0)));
	const shown = $derived(
		runs.map((r) => {
			const way =
				held && r.pipe.id === looked
					? r.way.map((p, n) => (n === held!.n ? { ...p, x: held!.to.x, y: held!.to.y } : p))
					: r.way;
			return { ...r, way, cut: pieces(on, way) };
		})
	);
	const loud = $derived(shown.find((r) => r.pipe.id === looked));
	const d = (line: Spot3[]): string => `M${line.map((p) => `${on.x(p).toFixed(1)} ${on.y(p).toFixed(1)}`).join('L')}`;
	let svg: SVGSVGElement | undefined = $state();
	function under(event: PointerEvent): Spot3 {
		const box = svg!.getBoundingClientRect();
		const grow = Math.min(box.width / WIDTH, box.height / HEIGHT);
		const at = on.under(
			(event.clientX - box.left - (box.width - WIDTH * grow) / 2) / grow,
			(event.clientY - box.top - (box.height - HEIGHT * grow) / 2) / grow
		);
		return { ...at, x: Math.round(at.x * 20) / 20, y: Math.round(at.y * 20) / 20 };
	}
	function grasp(event: PointerEvent, n: number, from: Spot3): void {
		held = { n, from, to: from };
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		(event.currentTarget as SVGElement).focus();
		event.preventDefault();
		event.stopPropagation();
	}
	function drag(event: PointerEvent): void {
		// a point stays on its storey: it is moved to another in the fields beside
		if (held) held = { ...held, to: { ...under(event), z: held.from.z } };
	}
	function drop(): void {
		if (!held) return;
		const { n, from, to } = held;
		if (from.x !== to.x || from.y !== to.y) move(n, to);
		held = null;
	}
	function nudge(event: KeyboardEvent, n: number, from: Spot3): void {
		if (event.key === 'Delete' || event.key === 'Backspace') {
			event.preventDefault();
			return remove(n);
		}
		const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
		if (!by) return;
		event.preventDefault();
		const step = event.shiftKey ? 0.5 : 0.05;
		move(n, { ...from, x: from.x + by[0]! * step, y: from.y + by[1]! * step });
	}
	const middle = (a: Spot3, b: Spot3): Spot3 => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2, z: a.z });
	const at = (m: number[]): Spot3 => ({ x: m[0] ?? 0, y: m[1] ?? 0, z: m[2] ?? 0 });
	const names = $derived(new Map(plan.storeys.map((s, n) => [n, s.label])));
</script>

<svg
	bind:this={svg}
	class="chart touch-none"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="group"
	aria-label="Pipes on the plan"
	onpointermove={drag}
	onpointerup={drop}
	onpointercancel={() => (held = null)}
>
	{#each on.storeys as s (s.id)}
		<text x={s.left + s.width / 2} y="14" text-anchor="middle" class="storey">{s.label}</text>
		{#each s.rooms as r (r.room)}
			{@const ring = r.outline_m.map(([x, y]) => ({ x: x ?? 0, y: y ?? 0, z: s.level_m }))}
			<path d={`${d(ring)}Z`} class="room" />
			<text
				x={ring.reduce((sum, p) => sum + on.x(p), 0) / ring.length}
				y={ring.reduce((sum, p) => sum + on.y(p), 0) / ring.length}
				text-anchor="middle"
				class="tick">{r.label}</text
			>
		{/each}
	{/each}
	{#each ghosts as way, n (n)}{#each pieces(on, way).lines as line, k (k)}<path
				d={d(line)}
				class="ghost"
			/>{/each}{#each pieces(on, way).rises as rise, k (k)}<circle
				cx={on.x(rise.from)}
				cy={on.y(rise.from)}
				r="6"
				class="ghostly ring"
			/><circle cx={on.x(rise.to)} cy={on.y(rise.to)} r="6" class="ghostly ring" />{/each}{/each}
	{#each shown as r (r.pipe.id)}
		<g
			class="run"
			class:index={r.pipe.on_index}
			class:on={r.pipe.id === looked}
			class:faded={ghosts.length > 0}
			role="button"
			tabindex="0"
			aria-pressed={r.pipe.id === looked}
			aria-label={`${r.pipe.label || 'A run'}, ${amount(r.pipe.flow_lph, 'L/h')}${r.pipe.on_index ? ', on the index circuit' : ''}${r.proposed ? ', not confirmed' : ''}`}
			onclick={() => look(r.pipe.id)}
			onkeydown={(event) => {
				if (event.key !== 'Enter' && event.key !== ' ') return;
				event.preventDefault();
				look(r.pipe.id);
			}}
		>
			{#each r.cut.lines as line, n (n)}
				<path d={d(line)} class="reach" />
				<path
					d={d(line)}
					class="pipe"
					class:proposed={r.proposed}
					style={`stroke-width:${thick(r.pipe, most).toFixed(1)}`}
				/>
			{/each}
			{#each r.cut.rises as rise, n (n)}
				{@const up = rise.to.z > rise.from.z}
				{#each [rise.from, rise.to] as end, k (k)}
					<circle cx={on.x(end)} cy={on.y(end)} r="8" class="ring" />
					<text x={on.x(end) + 11} y={on.y(end) + 16} class="name"
						>{(k === 0) === up ? 'up to' : 'down to'} {names.get(on.storeyOf(k === 0 ? rise.to.z : rise.from.z))}</text
					>
				{/each}
			{/each}
		</g>
	{/each}
	{#each plan.spots as spot (spot.emitter)}
		{@const p = at(spot.at_m)}
		<rect x={on.x(p) - 4} y={on.y(p) - 4} width="8" height="8" class="spot"
			><title>{spot.label}, {spot.why}</title></rect
		>
	{/each}
	{#if plan.start_m.length}{@const p = at(plan.start_m)}<circle cx={on.x(p)} cy={on.y(p)} r="6.5" class="start" /><text
			x={on.x(p)}
			y={on.y(p) - 10}
			text-anchor="middle"
			class="name">here it begins</text
		>{/if}
	{#each plan.risers as r (r.id)}{#each on.storeys as s (s.id)}{@const p = {
				x: r.at_m[0] ?? 0,
				y: r.at_m[1] ?? 0,
				z: s.level_m
			}}<circle cx={on.x(p)} cy={on.y(p)} r="9" class="given"><title>{r.label}</title></circle>{/each}{/each}
	{#if loud}
		{#each loud.way.slice(1) as p, n (n)}{@const a =
				loud.way[n]!}{#if a.z === p.z && Math.hypot(a.x - p.x, a.y - p.y) * on.scale > 44}{@const m = middle(a, p)}
				<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions (the fields beside put in a bend by keyboard) -->
				<g class="add" onclick={() => bend(n, m)}
					><circle cx={on.x(m)} cy={on.y(m)} r="7" /><path
						d={`M${on.x(m) - 4} ${on.y(m)}h8M${on.x(m)} ${on.y(m) - 4}v8`}
					/></g
				>{/if}{/each}
		{#each loud.way as p, n (n)}
			<g
				class="hand"
				role="button"
				tabindex="0"
				aria-label={`Point ${n + 1} of ${loud.pipe.label || 'the run'}: drag it, or move it with the arrow keys; Delete takes it out`}
				onpointerdown={(event) => grasp(event, n, p)}
				onkeydown={(event) => nudge(event, n, p)}
			>
				<circle cx={on.x(p)} cy={on.y(p)} r="18" class="touch" />
				<circle cx={on.x(p)} cy={on.y(p)} r="5.5" class="point" />
			</g>
		{/each}
	{/if}
</svg>

<style>
	svg {
		width: 100%;
		max-height: 430px;
	}
	.storey {
		fill: var(--ink);
		font-weight: 600;
		font-size: 13.5px;
	}
	.room {
		fill: var(--sheet);
		stroke: var(--hairline);
		stroke-width: 1.5;
	}
	.run {
		cursor: pointer;
		outline: none;
	}
	.pipe,
	.reach,
	.ghost {
		fill: none;
		stroke: var(--water);
		stroke-linejoin: round;
		stroke-linecap: round;
	}
	.reach {
		stroke: transparent;
		stroke-width: 18px;
	}
	.pipe.proposed {
		stroke-dasharray: 9 6;
		stroke-linecap: butt;
	}
	.ghost {
		stroke: var(--doubt);
		stroke-width: 3;
		stroke-dasharray: 7 5;
	}
	.index .pipe {
		stroke: var(--ink);
	}
	.on .pipe {
		stroke: var(--heat);
	}
	.faded .pipe {
		opacity: 0.3;
	}
	.run:focus-visible .pipe {
		stroke: var(--heat);
	}
	.ring {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 2.5;
	}
	.ghostly {
		stroke: var(--doubt);
	}
	.given {
		fill: none;
		stroke: var(--muted);
		stroke-dasharray: 2 3;
		stroke-width: 2;
	}
	.spot {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 1.5;
	}
	.start {
		fill: var(--ink);
	}
	.name {
		fill: var(--ink);
		font-size: 11.5px;
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.hand {
		cursor: grab;
	}
	.touch {
		fill: transparent;
	}
	.point {
		fill: var(--paper);
		stroke: var(--heat);
		stroke-width: 3;
	}
	.hand:focus-visible {
		outline: none;
	}
	.hand:focus-visible .point {
		fill: var(--heat);
	}
	.add {
		cursor: copy;
	}
	.add circle {
		fill: var(--paper);
		stroke: var(--muted);
	}
	.add path {
		stroke: var(--muted);
		stroke-width: 1.5;
	}
</style>
