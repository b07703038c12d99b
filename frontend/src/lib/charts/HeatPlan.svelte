<script lang="ts">
	import { amount, fig } from '$lib/parts/units';
	import type { RoomResult } from '$lib/api/client';
	import { HEIGHT, WIDTH, heatRoom, viewOf, type Stroke } from './heat';
	let {
		rooms,
		hottest,
		warmest,
		chosen,
		onroom
	}: { rooms: RoomResult[]; hottest: number; warmest: number; chosen: string | null; onroom: (id: string) => void } =
		$props();
	const drawn = $derived(rooms.map(heatRoom).filter((one) => one !== null));
	const view = $derived(viewOf(drawn));
	const points = (outline: [number, number][]): string =>
		outline
			.slice(0, -1)
			.map(([x, y]) => `${view.x(x).toFixed(1)},${view.y(y).toFixed(1)}`)
			.join(' ');
	const thick = (w: number): number => (w <= 0 ? 1.5 : 2 + 13 * Math.sqrt(w / hottest));
	const tone = (w: number | null): number => Math.round(Math.min(70, ((w ?? 0) / warmest) * 70));
	const lit = (construction: string): boolean => chosen === null || construction === chosen;
	const short = (label: string, wide: number): string =>
		label.length * 7.4 > wide ? `${label.slice(0, Math.max(3, Math.floor(wide / 7.4) - 1))}…` : label;
</script>

{#snippet line(stroke: Stroke, kinds: (string | false)[], wide: number)}
	<line
		x1={view.x(stroke.a[0])}
		y1={view.y(stroke.a[1])}
		x2={view.x(stroke.b[0])}
		y2={view.y(stroke.b[1])}
		class={kinds}
		stroke-width={wide}><title>{stroke.label}: {stroke.construction}, {amount(stroke.watts, 'W')}</title></line
	>
{/snippet}

<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="group"
	aria-label="Losses on the plan: warmer rooms lose more for their size, thicker walls more heat"
>
	{#each drawn as one (one.room.id)}
		{@const wide = Math.abs(
			view.x(Math.max(...one.outline.map((p) => p[0]))) - view.x(Math.min(...one.outline.map((p) => p[0])))
		)}
		{@const levels = one.level.filter((l) => l.watts > 5)}
		<g
			role="button"
			tabindex="0"
			aria-label={`${one.room.label}: ${amount(one.room.room_emitter_load_w, 'W', -1)}, ${amount(one.room.w_per_m2, 'W/m²')}`}
			data-heat-room={one.room.label}
			onclick={() => onroom(one.room.id)}
			onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), onroom(one.room.id))}
		>
			<polygon
				points={points(one.outline)}
				style={`fill: color-mix(in srgb, var(--heat-pale) ${tone(one.room.w_per_m2)}%, var(--sheet))`}
			/>
			{#if chosen !== null && levels.some((l) => l.construction === chosen)}<polygon
					points={points(one.outline)}
					class="level"
				/>{/if}
			{#each one.strokes.filter((s) => s.party) as stroke, n (n)}
				{@render line(stroke, ['party'], thick(stroke.watts) + 5)}
			{/each}
			{#each one.strokes.filter((s) => !s.window) as stroke, n (n)}
				{@render line(
					stroke,
					[
						stroke.inner ? 'inner' : 'wall',
						stroke.party && stroke.watts <= 0 && 'none',
						!lit(stroke.construction) && 'faint'
					],
					stroke.inner ? 1.5 : thick(stroke.watts)
				)}
			{/each}
			{#each one.strokes.filter((s) => s.window) as stroke, n (n)}
				{@const wide = Math.max(thick(stroke.watts), 5)}
				{@render line(stroke, ['wall', !lit(stroke.construction) && 'faint'], wide)}
				{@render line(stroke, ['glass'], wide * 0.4)}
			{/each}
			<text x={view.x(one.centre[0])} y={view.y(one.centre[1]) - 8} text-anchor="middle" class="name"
				>{short(one.room.label, wide)}</text
			>
			<text x={view.x(one.centre[0])} y={view.y(one.centre[1]) + 9} text-anchor="middle" class="figure"
				>{amount(one.room.room_emitter_load_w, 'W', -1)}</text
			>
			{#if wide > 92}<text x={view.x(one.centre[0])} y={view.y(one.centre[1]) + 24} text-anchor="middle" class="small"
					>{amount(one.room.w_per_m2, 'W/m²', 0)}</text
				>{/if}
			{#if wide > 130 && levels.length}<text
					x={view.x(one.centre[0])}
					y={view.y(one.centre[1]) + 39}
					text-anchor="middle"
					class="small">{levels.map((l) => `${l.name} ${fig(l.watts, 'W')}`).join(' · ')}</text
				>{/if}
		</g>
	{/each}
</svg>

<style>
	g {
		cursor: pointer;
	}
	g:focus-visible polygon:first-child {
		stroke: var(--water);
		stroke-width: 3;
	}
	polygon {
		stroke: none;
	}
	.level {
		fill: none;
		stroke: var(--heat);
		stroke-width: 2;
		stroke-dasharray: 2 5;
	}
	line {
		stroke-linecap: butt;
	}
	.wall {
		stroke: var(--heat);
	}
	.party {
		stroke: var(--ink);
	}
	.wall.none {
		stroke: var(--sheet);
	}
	.inner {
		stroke: var(--muted);
		opacity: 0.55;
	}
	.glass {
		stroke: var(--sheet);
		pointer-events: none;
	}
	.faint {
		opacity: 0.14;
	}
	.name {
		font-weight: 600;
		font-size: 13px;
		fill: var(--ink);
	}
	.figure {
		font-size: 14px;
		font-weight: 700;
		fill: var(--ink);
	}
	.small {
		font-size: 12px;
		fill: var(--muted);
	}
</style>
