<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { SpacingResult } from '$lib/api/client';
	import { HEIGHT, WIDTH, shape } from './floor';
	let { row, room_c, pipe_m, cover_m }: { row: SpacingResult; room_c: number; pipe_m: number; cover_m: number } =
		$props();
	const drawn = $derived(row.spacing_m ? shape(row, room_c, row.spacing_m, pipe_m, cover_m) : null);
	const words = $derived(
		`Surface across the pipes: ${amount(row.surface_mean_c, '°C', 1)} in the mean, ${amount(row.surface_most_c, '°C', 1)} over a pipe, limit ${amount(row.limit_c, '°C', 0)}`
	);
</script>

{#if drawn}
	<svg class="chart" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={words}>
		{#each drawn.ticks as tick (tick)}
			<line x1={drawn.left} x2={drawn.right} y1={drawn.y(tick)} y2={drawn.y(tick)} class="ruled" />
			<text x={drawn.left - 8} y={drawn.y(tick) + 4} class="tick" text-anchor="end">{fig(tick, '°C')}</text>
		{/each}
		<text x={drawn.left - 8} y="12" class="tick" text-anchor="end">{unitName('°C')}</text>
		<line x1={drawn.left} x2={drawn.right} y1={drawn.limitY} y2={drawn.limitY} class="limit" />
		<text x={drawn.right + 6} y={drawn.limitY + 4} class="tick">limit {fig(row.limit_c, '°C')}</text>
		<path d={drawn.line} class="line" class:over={!row.within} />
		<text x={drawn.right + 6} y={drawn.meanY + 4} class="tick">mean {fig(row.surface_mean_c, '°C', 1)}</text>
		<rect
			x={drawn.left}
			width={drawn.right - drawn.left}
			y={drawn.screedTop}
			height={drawn.screedBottom - drawn.screedTop}
			class="screed"
		/>
		{#each drawn.pipes as pipe, n (n)}<circle cx={pipe.x} cy={drawn.pipeY} r={pipe.r} class="pipe" />{/each}
		<text x={(drawn.left + drawn.right) / 2} y={HEIGHT - 6} class="tick" text-anchor="middle"
			>pipes {amount((row.spacing_m ?? 0) * 1000, 'mm')} apart, {amount(cover_m * 1000, 'mm')} over them; the cut is to scale
			across</text
		>
	</svg>
{:else}
	<p class="note">{words}. By the maker's characteristic: no wave is drawn.</p>
{/if}

<style>
	.limit {
		stroke: var(--short);
		stroke-width: 2;
		stroke-dasharray: 7 4;
	}
	.line {
		fill: none;
		stroke: var(--heat);
		stroke-width: 3;
	}
	.line.over {
		stroke-dasharray: 3 3;
	}
	.screed {
		fill: var(--ash);
		stroke: var(--muted);
	}
	.pipe {
		fill: var(--water);
		stroke: var(--ink);
	}
</style>
