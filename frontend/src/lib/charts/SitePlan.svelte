<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import { num } from '$lib/parts/format';
	import { untrack } from 'svelte';
	import { HEIGHT, WIDTH, shape, type Mark, type Places } from './site';
	type Dot = Mark & { id: string; label: string };
	let {
		places,
		receivers,
		openings,
		seen,
		look,
		move
	}: {
		places: Places;
		receivers: Dot[];
		openings: Dot[];
		seen: string | null;
		look: (id: string) => void;
		/** What was put where by hand; kind is the map of the site it lies in. */
		move: (kind: 'places' | 'receivers' | 'openings', id: string, to: Mark) => void;
	} = $props();
	/** The scale stands still while something is dragged over it. */
	let held = $state.raw<{ kind: 'places' | 'receivers' | 'openings'; id: string; to: Mark } | null>(null);
	const fresh = $derived(shape(places, [...receivers, ...openings]));
	let still = $state.raw(untrack(() => fresh));
	$effect(() => {
		if (!held) still = fresh;
	});
	const drawn = $derived(held ? still : fresh);
	let svg: SVGSVGElement | undefined = $state();
	const spot = (kind: string, id: string, x: number, y: number): Mark =>
		held?.kind === kind && held.id === id ? held.to : { x, y };

	function under(event: PointerEvent): Mark {
		const box = svg!.getBoundingClientRect();
		const grow = Math.min(box.width / WIDTH, box.height / HEIGHT);
		const left = (box.width - WIDTH * grow) / 2;
		const top = (box.height - HEIGHT * grow) / 2;
		const at = drawn.at((event.clientX - box.left - left) / grow, (event.clientY - box.top - top) / grow);
		return { x: Math.round(at.x * 20) / 20, y: Math.round(at.y * 20) / 20 };
	}
	function grasp(event: PointerEvent, kind: 'places' | 'receivers' | 'openings', id: string, from: Mark): void {
		if (kind === 'places') look(id);
		held = { kind, id, to: from };
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		event.preventDefault();
	}
	function drag(event: PointerEvent): void {
		if (held) held = { ...held, to: under(event) };
	}
	function drop(): void {
		if (!held) return;
		const { kind, id, to } = held;
		const was = { places: places.places.map((p) => ({ id: p.id, x: p.x_m, y: p.y_m })), receivers, openings }[
			kind
		].find((one) => one.id === id);
		if (was && (was.x !== to.x || was.y !== to.y)) move(kind, id, to);
		held = null;
	}
	const STEP_M = 0.1;
	function nudge(event: KeyboardEvent, kind: 'places' | 'receivers' | 'openings', id: string, from: Mark): void {
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
	/** Near the right edge a name stands on the left of its mark. */
	const right = (at: Mark): boolean => drawn.x(at.x) > WIDTH * 0.78;
	/** A unit that blows down the picture has its name over it. */
	const down = (facing: number): boolean => Math.cos((facing * Math.PI) / 180) < -0.5;
	const UNIT = { wide: 1.1, deep: 0.45 };
</script>

<p class="note">
	the ground floor and what stands about it; drag a unit, a window or an opening, or move it with the arrow keys{loud
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
	{#each drawn.outline as ring (ring)}<path d={ring} class="house" />{/each}
	{#if loud}
		{@const at = spot('places', loud.id, loud.x_m, loud.y_m)}
		{#each loud.levels as level (level.level_db)}
			<circle cx={drawn.x(at.x)} cy={drawn.y(at.y)} r={level.radius_m * drawn.scale} class="level" />
			<text x={drawn.x(at.x)} y={drawn.y(at.y) - level.radius_m * drawn.scale - 3} text-anchor="middle" class="tick"
				>{num(level.level_db)} dB(A)</text
			>
		{/each}
		{#if places.zone_m != null}<circle
				cx={drawn.x(at.x)}
				cy={drawn.y(at.y)}
				r={(places.zone_m + UNIT.wide / 2) * drawn.scale}
				class="zone"
				><title>protection zone, {amount(places.zone_m, 'm', 2)} about it: the manual draws its own</title></circle
			>{/if}
	{/if}
	{#each openings as one (one.id)}
		{@const at = spot('openings', one.id, one.x, one.y)}
		<g
			class="mark"
			role="button"
			tabindex="0"
			aria-label={`${one.label}, an opening`}
			onpointerdown={(event) => grasp(event, 'openings', one.id, at)}
			onkeydown={(event) => nudge(event, 'openings', one.id, at)}
		>
			<circle cx={drawn.x(at.x)} cy={drawn.y(at.y)} r="16" class="touch" />
			<path d={`M${drawn.x(at.x)} ${drawn.y(at.y) - 7}l7 7l-7 7l-7 -7Z`} class="opening" />
			<text
				x={drawn.x(at.x) + (right(at) ? -11 : 11)}
				y={drawn.y(at.y) + 4}
				text-anchor={right(at) ? 'end' : 'start'}
				class="name">{one.label}</text
			>
		</g>
	{/each}
	{#each receivers as one (one.id)}
		{@const at = spot('receivers', one.id, one.x, one.y)}
		{@const heard = loud?.heard.find((h) => h.id === one.id)}
		<g
			class="mark"
			role="button"
			tabindex="0"
			aria-label={`${one.label}, where it is heard`}
			onpointerdown={(event) => grasp(event, 'receivers', one.id, at)}
			onkeydown={(event) => nudge(event, 'receivers', one.id, at)}
		>
			<circle cx={drawn.x(at.x)} cy={drawn.y(at.y)} r="16" class="touch" />
			<rect
				x={drawn.x(at.x) - 8}
				y={drawn.y(at.y) - 8}
				width="16"
				height="16"
				class="ear"
				class:short={heard && !heard.met}
			/>
			<text
				x={drawn.x(at.x) + (right(at) ? -12 : 12)}
				y={drawn.y(at.y) + 4}
				text-anchor={right(at) ? 'end' : 'start'}
				class="name">{one.label}{heard ? ` ${num(heard.level_db, 1)} dB(A)` : ''}</text
			>
		</g>
	{/each}
	{#each places.places as place (place.id)}
		{@const at = spot('places', place.id, place.x_m, place.y_m)}
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
	.opening {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 2;
	}
	.ear {
		fill: var(--water-pale);
		stroke: var(--water);
		stroke-width: 2;
	}
	.ear.short {
		fill: var(--short-pale);
		stroke: var(--short);
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
