<script lang="ts">
	import rules from '$lib/api/rules.json';
	import { amount, fig, unitName } from '$lib/parts/units';
	import { num } from '$lib/parts/format';
	import { untrack } from 'svelte';
	import { HEIGHT, WIDTH, shape, type Dot, type Kind, type Look, type Mark, type Places } from './site';
	let {
		places,
		dots,
		boundary,
		bends,
		seen,
		look,
		move,
		remove
	}: {
		places: Places;
		dots: Dot[];
		boundary: Mark[];
		/** Bends of the seen place's pipes and cable; their ends are the unit's and the Design's. */
		bends: { route: Mark[]; cable: Mark[] };
		seen: string | null;
		look: (id: string) => void;
		/** What was put where by hand; kind is the map or line of the site it lies in. */
		move: (kind: Kind, id: string, to: Mark) => void;
		remove: (kind: Kind, id: string) => void;
	} = $props();
	/** The scale stands still while something is dragged over it. */
	let held = $state.raw<{ kind: Kind; id: string; from: Mark; to: Mark } | null>(null);
	const fresh = $derived(shape(places, [...dots, ...boundary, ...bends.route, ...bends.cable]));
	let still = $state.raw(untrack(() => fresh));
	$effect(() => {
		if (!held) still = fresh;
	});
	const drawn = $derived(held ? still : fresh);
	let svg: SVGSVGElement | undefined = $state();
	const spot = (kind: Kind, id: string, at: Mark): Mark => (held?.kind === kind && held.id === id ? held.to : at);

	function under(event: PointerEvent): Mark {
		const box = svg!.getBoundingClientRect();
		const grow = Math.min(box.width / WIDTH, box.height / HEIGHT);
		const left = (box.width - WIDTH * grow) / 2;
		const top = (box.height - HEIGHT * grow) / 2;
		const at = drawn.at((event.clientX - box.left - left) / grow, (event.clientY - box.top - top) / grow);
		return { x: Math.round(at.x * 20) / 20, y: Math.round(at.y * 20) / 20 };
	}
	function grasp(event: PointerEvent, kind: Kind, id: string, from: Mark): void {
		if (kind === 'places') look(id);
		held = { kind, id, from, to: from };
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		(event.currentTarget as SVGElement).focus();
		event.preventDefault();
	}
	function drag(event: PointerEvent): void {
		if (held) held = { ...held, to: under(event) };
	}
	function drop(): void {
		if (!held) return;
		const { kind, id, from, to } = held;
		if (from.x !== to.x || from.y !== to.y) move(kind, id, to);
		held = null;
	}
	const STEP_M = 0.1;
	function nudge(event: KeyboardEvent, kind: Kind, id: string, from: Mark): void {
		if ((event.key === 'Delete' || event.key === 'Backspace') && kind !== 'places') {
			event.preventDefault();
			return remove(kind, id);
		}
		const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
		if (!by) return;
		event.preventDefault();
		const step = event.shiftKey ? 1 : STEP_M;
		move(kind, id, {
			x: Math.round((from.x + by[0]! * step) * 100) / 100,
			y: Math.round((from.y + by[1]! * step) * 100) / 100
		});
	}
	const loud = $derived(places.places.find((p) => p.id === seen));
	const SAID: Record<Look, string> = {
		ear: 'where it is heard',
		opening: 'an opening',
		tree: 'a tree or hedge',
		patio: 'a patio or path',
		meter: 'the meter, where the cable ends',
		tap: 'the main tap',
		store: 'the store, where the pipes end',
		unit: 'another unit that is heard'
	};
	/** Our own shapes, about their middle. */
	const SHAPES: Record<Look, string> = {
		ear: 'M-8 -8h16v16h-16Z',
		opening: 'M0 -7l7 7l-7 7l-7 -7Z',
		tree: 'M0 -10q7 0 7 6q4 2 2 7q-2 5 -9 5q-7 0 -9 -5q-2 -5 2 -7q0 -6 7 -6ZM0 8v4',
		patio: 'M-10 -6h20v12h-20ZM-3 -6v12M4 -6v12M-10 0h20',
		meter: 'M-7 -9h14v18h-14ZM-4 -4h8M0 -1l-2 4h4l-2 4',
		tap: 'M0 -9q8 9 6 14q-2 4 -6 4q-4 0 -6 -4q-2 -5 6 -14Z',
		store: 'M-6 -7q0 -4 6 -4q6 0 6 4v14q0 4 -6 4q-6 0 -6 -4ZM-6 -2h12',
		unit: 'M-9 -5h18v10h-18ZM0 0m-3 0a3 3 0 1 0 6 0a3 3 0 1 0 -6 0'
	};
	/** Near the right edge a name stands on the left of its mark. */
	const right = (at: Mark): boolean => drawn.x(at.x) > WIDTH * 0.78;
	/** A unit that blows down the picture has its name over it. */
	const down = (facing: number): boolean => Math.cos((facing * Math.PI) / 180) < -0.5;
	const UNIT = rules.unit_m;
	/** Levels are named to the lower right of their ring, where least stands about a unit. */
	const ASLANT = Math.SQRT1_2;
	const px = (at: Mark): string => `${drawn.x(at.x).toFixed(1)} ${drawn.y(at.y).toFixed(1)}`;
	const along = (points: Mark[], closed = false): string =>
		points.length ? `M${points.map(px).join('L')}${closed ? 'Z' : ''}` : '';
	const edge = $derived(boundary.map((at, n) => spot('boundary', String(n), at)));
	/** The two ways of the seen place: the unit, its bends, and the end the Design knows. */
	const ways = $derived.by(() => {
		if (!loud) return [];
		const unit = spot('places', loud.id, { x: loud.x_m, y: loud.y_m });
		return (['route', 'cable'] as const).map((kind) => {
			const mine = bends[kind].map((at, n) => spot(kind, String(n), at));
			const mark = dots.find((d) => d.look === (kind === 'route' ? 'store' : 'meter'));
			const end = mark ? [spot('marks', mark.id, mark)] : [];
			return { kind, bends: mine, points: [unit, ...mine, ...end] };
		});
	});
</script>

{#snippet corner(kind: Kind, n: number, at: Mark, said: string)}
	<g
		class="mark"
		role="button"
		tabindex="0"
		aria-label={said}
		onpointerdown={(event) => grasp(event, kind, String(n), at)}
		onkeydown={(event) => nudge(event, kind, String(n), at)}
	>
		<circle cx={drawn.x(at.x)} cy={drawn.y(at.y)} r="16" class="touch" />
		<circle cx={drawn.x(at.x)} cy={drawn.y(at.y)} r="4.5" class={`bend ${kind}`} />
	</g>
{/snippet}

<p class="note">
	the ground floor and what stands about it; drag what stands on it, or move it with the arrow keys; Delete takes it off{loud
		?.levels.length
		? ' · rings: how loud it is by day with nothing in the way'
		: ''}
</p>
<svg
	bind:this={svg}
	class="chart touch-none"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="group"
	aria-label="The site with the places for the unit"
	onpointermove={drag}
	onpointerup={drop}
	onpointercancel={() => (held = null)}
>
	{#if edge.length > 1}<path d={along(edge, edge.length > 2)} class="edge" />{/if}
	{#each drawn.outline as ring (ring)}<path d={ring} class="house" />{/each}
	{#if loud}
		{@const at = spot('places', loud.id, { x: loud.x_m, y: loud.y_m })}
		{#if loud.contours.length && !held}
			{#each loud.contours as contour (contour.level_db)}
				{#each contour.lines as line, n (n)}<path
						d={along(line.map(([x, y]) => ({ x: x ?? 0, y: y ?? 0 })))}
						class="level"
					/>{/each}
				{@const top = contour.lines.flat().sort((a, b) => (b[1] ?? 0) - (a[1] ?? 0))[0]}
				{#if top}<text x={drawn.x(top[0] ?? 0)} y={drawn.y(top[1] ?? 0) - 3} text-anchor="middle" class="tick"
						>{num(contour.level_db)} dB(A)</text
					>{/if}
			{/each}
		{:else}
			{#each loud.levels as level (level.level_db)}
				<circle cx={drawn.x(at.x)} cy={drawn.y(at.y)} r={level.radius_m * drawn.scale} class="level" />
				<text
					x={drawn.x(at.x) + level.radius_m * drawn.scale * ASLANT + 3}
					y={drawn.y(at.y) + level.radius_m * drawn.scale * ASLANT + 10}
					class="tick">{num(level.level_db)} dB(A)</text
				>
			{/each}
		{/if}
		{#if places.zone_m != null}<circle
				cx={drawn.x(at.x)}
				cy={drawn.y(at.y)}
				r={(places.zone_m + UNIT.wide / 2) * drawn.scale}
				class="zone"
				><title>protection zone, {amount(places.zone_m, 'm', 2)} about it: the manual draws its own</title></circle
			>{/if}
	{/if}
	{#each ways as way (way.kind)}
		{#if way.points.length > 1}
			<path d={along(way.points)} class={way.kind} />
			{#each way.bends as at, n (n)}{@render corner(
					way.kind,
					n,
					at,
					`bend ${n + 1} of the ${way.kind === 'route' ? 'pipes' : 'cable'}`
				)}{/each}
		{/if}
	{/each}
	{#each boundary as was, n (n)}{@render corner(
			'boundary',
			n,
			spot('boundary', String(n), was),
			`corner ${n + 1} of the plot`
		)}{/each}
	{#each dots as one (one.kind + one.id)}
		{@const at = spot(one.kind, one.id, one)}
		{@const heard = one.look === 'ear' ? loud?.heard.find((h) => h.id === one.id) : undefined}
		<g
			class="mark"
			role="button"
			tabindex="0"
			aria-label={`${one.label}, ${SAID[one.look]}`}
			onpointerdown={(event) => grasp(event, one.kind, one.id, at)}
			onkeydown={(event) => nudge(event, one.kind, one.id, at)}
		>
			<circle cx={drawn.x(at.x)} cy={drawn.y(at.y)} r="16" class="touch" />
			<path
				transform={`translate(${px(at)})`}
				d={SHAPES[one.look]}
				class={one.look}
				class:short={heard && !heard.met}
			/>
			<text
				x={drawn.x(at.x) + (right(at) ? -13 : 13)}
				y={drawn.y(at.y) + 4}
				text-anchor={right(at) ? 'end' : 'start'}
				class="name">{one.label}{heard ? ` ${num(heard.level_db, 1)} dB(A)` : ''}</text
			>
		</g>
	{/each}
	{#each places.places as place (place.id)}
		{@const at = spot('places', place.id, { x: place.x_m, y: place.y_m })}
		<g
			class="mark"
			role="button"
			tabindex="0"
			aria-label={`${place.label}, a place for the unit`}
			onpointerdown={(event) => grasp(event, 'places', place.id, at)}
			onkeydown={(event) => {
				if (event.key === 'Enter') look(place.id);
				nudge(event, 'places', place.id, at);
			}}
		>
			<circle cx={drawn.x(at.x)} cy={drawn.y(at.y)} r="20" class="touch" />
			<g transform={`translate(${drawn.x(at.x)} ${drawn.y(at.y)}) rotate(${place.facing_deg})`}>
				<rect
					x={(-UNIT.wide / 2) * drawn.scale}
					y={(-UNIT.deep / 2) * drawn.scale}
					width={UNIT.wide * drawn.scale}
					height={UNIT.deep * drawn.scale}
					class="unit-box"
					class:seen={place.id === seen}
					class:short={place.unmet > 0}
				/>
				<path d={`M0 ${(-UNIT.deep / 2) * drawn.scale}v${-0.8 * drawn.scale}m-5 7l5 -7l5 7`} class="blow" />
			</g>
			<text
				x={drawn.x(at.x)}
				y={drawn.y(at.y) + (down(place.facing_deg) ? -1 : 1) * (UNIT.wide * drawn.scale * 0.5 + 14)}
				text-anchor="middle"
				class="name strong">{place.label}{place.chosen ? ' · taken' : ''}</text
			>
		</g>
	{/each}
	<g transform={`translate(16 ${HEIGHT - 14})`}>
		<line x1="0" x2={5 * drawn.scale} y1="0" y2="0" class="rule" />
		<text x={5 * drawn.scale + 6} y="4" class="tick">{fig(5, 'm')} {unitName('m')}</text>
	</g>
</svg>

<style>
	svg {
		max-height: max(280px, calc(100vh - 400px));
		background: var(--sheet);
	}
	.house {
		fill: var(--ash);
		stroke: var(--ink);
		stroke-width: 2;
	}
	.level {
		fill: none;
		stroke: var(--water);
		stroke-dasharray: 2 5;
	}
	.zone {
		fill: var(--short-pale);
		opacity: 0.55;
		stroke: var(--short);
		stroke-dasharray: 6 3;
	}
	.mark {
		cursor: grab;
	}
	.mark:focus-visible {
		outline: none;
	}
	.mark:focus-visible .touch {
		stroke: var(--water);
		stroke-width: 3;
	}
	.touch {
		fill: transparent;
	}
	.edge {
		fill: none;
		stroke: var(--muted);
		stroke-width: 1.5;
		stroke-dasharray: 14 4 2 4;
	}
	path.route {
		fill: none;
		stroke: var(--heat);
		stroke-width: 3;
	}
	path.cable {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1.5;
		stroke-dasharray: 5 3;
	}
	.bend {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 1.5;
	}
	.opening,
	.meter,
	.store {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 2;
	}
	.ear,
	.tap {
		fill: var(--water-pale);
		stroke: var(--water);
		stroke-width: 2;
	}
	.ear.short {
		fill: var(--short-pale);
		stroke: var(--short);
	}
	.tree {
		fill: var(--ash);
		stroke: var(--meets);
		stroke-width: 2;
	}
	.patio {
		fill: var(--ash);
		stroke: var(--muted);
		stroke-width: 1.5;
	}
	.unit {
		fill: var(--doubt-pale, var(--ash));
		stroke: var(--ink);
		stroke-width: 1.5;
		stroke-dasharray: 3 2;
	}
	.unit-box {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 2;
	}
	.unit-box.seen {
		fill: var(--water-mid);
	}
	.unit-box.short {
		stroke: var(--short);
		stroke-width: 3;
	}
	.blow {
		fill: none;
		stroke: var(--water);
		stroke-width: 2.5;
	}
	.name {
		fill: var(--ink);
		font-size: 13px;
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3;
	}
	.strong {
		font-weight: 600;
	}
	.rule {
		stroke: var(--ink);
		stroke-width: 3;
	}
</style>
