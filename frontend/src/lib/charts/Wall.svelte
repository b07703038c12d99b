<script lang="ts">
	import { amount, fig, lengthText, system } from '$lib/parts/units';
	import type { RoomDoc } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { WIDTH, shape, type Thing } from './wall';
	let {
		room,
		face,
		things,
		on,
		free,
		ghost,
		title
	}: {
		room: RoomDoc | undefined;
		face: string | null;
		things: Thing[];
		on: string;
		free: { length_m?: number | null; height_m?: number | null } | null;
		ghost: Thing | null;
		title: string;
	} = $props();
	const drawn = $derived(shape(room, face, things, on, free, ghost));
	const size = $derived(
		`${fig((free?.length_m ?? 0) * 1000, 'mm')}${free?.height_m ? ` × ${fig(free.height_m * 1000, 'mm')}` : ''}`
	);
	const mm = (m: number): string => (system.feet ? lengthText(m) : num(m * 1000));
</script>

<svg class="chart" viewBox={`0 0 ${WIDTH} ${drawn.height}`} role="img" aria-label={title}>
	<rect {...drawn.wall} class="wall" />
	{#each drawn.holes as hole, n (n)}
		<rect x={hole.x} y={hole.y} width={hole.width} height={hole.height} class="hole" class:guessed={hole.guessed} />
		<text x={hole.x + hole.width / 2} y={hole.y + hole.height / 2 + 4} class="word" text-anchor="middle"
			>{hole.label}</text
		>
	{/each}
	{#if drawn.free}
		<rect {...drawn.free} class="free" />
		{@const right = drawn.free.x + drawn.free.width + 92 < drawn.wall.x + drawn.wall.width}
		{@const beside = right ? drawn.free.x + drawn.free.width + 6 : drawn.free.x - 6}
		{#if right || drawn.free.x - 92 > drawn.wall.x}
			<text x={beside} y={drawn.free.y + 12} class="dim" text-anchor={right ? 'start' : 'end'}
				>free wall{' '}<tspan x={beside} dy="16">{size}</tspan></text
			>
		{:else}
			<text x={drawn.free.x + drawn.free.width - 4} y={drawn.free.y - 5} class="dim" text-anchor="end"
				>free wall {size}</text
			>
		{/if}
	{/if}
	{#each drawn.things as thing (thing.id)}
		<rect
			x={thing.x}
			y={thing.y}
			width={thing.width}
			height={thing.height}
			class="thing"
			class:on={thing.id === on}
			class:over={thing.over}
			rx="2"
		/>
		{#if thing.width > 90}<text
				x={thing.x + thing.width / 2}
				y={thing.y + thing.height / 2 + 4}
				class="in"
				class:pale={thing.id !== on}
				text-anchor="middle">{mm(thing.length_m)} × {mm(thing.height_m)}</text
			>{:else if thing.id === on}<text x={thing.x + thing.width / 2} y={thing.y - 6} class="dim" text-anchor="middle"
				>{mm(thing.length_m)} × {mm(thing.height_m)}</text
			>{/if}
	{/each}
	{#if drawn.ghost}
		<rect
			x={drawn.ghost.x}
			y={drawn.ghost.y}
			width={drawn.ghost.width}
			height={drawn.ghost.height}
			class="ghost"
			class:over={drawn.ghost.over}
			rx="2"
		/>
		<text x={drawn.ghost.x} y={drawn.ghost.y - 7} class="ghostword"
			>{mm(drawn.ghost.length_m)} × {mm(drawn.ghost.height_m)}{drawn.ghost.over ? ', does not fit' : ''}</text
		>
	{/if}
	<line
		x1={drawn.wall.x - 12}
		x2={drawn.wall.x + drawn.wall.width + 12}
		y1={drawn.wall.y + drawn.wall.height}
		y2={drawn.wall.y + drawn.wall.height}
		class="ground"
	/>
	{#each drawn.ticks as tick (tick)}
		<line
			x1={drawn.x(tick)}
			x2={drawn.x(tick)}
			y1={drawn.wall.y + drawn.wall.height}
			y2={drawn.wall.y + drawn.wall.height + 6}
			class="ground"
		/>
		<text x={drawn.x(tick)} y={drawn.wall.y + drawn.wall.height + 20} class="dim" text-anchor="middle"
			>{fig(tick, 'm')}</text
		>
	{/each}
	<text x={drawn.wall.x} y={drawn.wall.y + drawn.wall.height + 38} class="dim"
		>{drawn.known
			? `wall ${amount(drawn.metres, 'm', 2)} long, ${amount(drawn.tall, 'm', 2)} high; ${system.feet ? 'feet' : 'metres'} from its start`
			: 'on no wall yet: choose one and it is drawn to scale'}{drawn.holes.some((h) => h.guessed)
			? '; dashed: place guessed'
			: ''}</text
	>
</svg>

<style>
	.wall {
		fill: var(--ash);
		stroke: var(--hairline);
	}
	.hole {
		fill: var(--paper);
		stroke: var(--muted);
	}
	.hole.guessed {
		stroke-dasharray: 5 4;
	}
	.word,
	.dim {
		fill: var(--muted);
		font-size: 12.5px;
		font-variant-numeric: tabular-nums;
	}
	.dim {
		paint-order: stroke;
		stroke: var(--paper);
		stroke-width: 3px;
	}
	.free {
		fill: none;
		stroke: var(--meets);
		stroke-width: 2;
		stroke-dasharray: 7 4;
	}
	.thing {
		fill: var(--water-mid);
		stroke: var(--water);
	}
	.thing.on {
		fill: var(--water);
	}
	.thing.over,
	.ghost.over {
		stroke: var(--short);
		stroke-width: 4;
	}
	.in {
		fill: var(--on-water);
		font-size: 13px;
		font-weight: 700;
	}
	.in.pale {
		fill: var(--ink);
	}
	.ghost {
		fill: color-mix(in srgb, var(--heat) 16%, transparent);
		stroke: var(--heat);
		stroke-width: 2.5;
	}
	.ghostword {
		fill: var(--ink);
		font-weight: 700;
		font-size: 13px;
		paint-order: stroke;
		stroke: var(--paper);
		stroke-width: 3px;
	}
	.ground {
		stroke: var(--ink);
	}
</style>
