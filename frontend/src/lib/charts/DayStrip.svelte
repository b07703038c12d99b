<script lang="ts">
	import type { WaterDay } from '$lib/api/client';
	import { amount, fig, unitName } from '$lib/parts/units';
	import { DRAWS, HEIGHT, STORE, USEFUL_C, WHO, WIDTH, shape } from './dayStrip';
	let { day, look }: { day: WaterDay; look?: (n: number) => void } = $props();
	const drawn = $derived(shape(day));
	const tone = (warm: number): string => `color-mix(in oklab, var(--heat) ${warm}%, var(--water-pale))`;
</script>

<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="img"
	aria-label={`The store from midnight to midnight at ${amount(day.outdoor_c, '°C', 1)} outside: ${day.draws.length} draws, ${day.short_draws} of them short`}
>
	<defs>
		<pattern id="day-short" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
			<rect width="7" height="7" style="fill: var(--short-pale)" /><rect
				width="3"
				height="7"
				style="fill: var(--short)"
			/>
		</pattern>
		<pattern id="day-beats" width="7" height="7" patternUnits="userSpaceOnUse">
			<rect width="7" height="7" style="fill: var(--heat-pale)" /><rect
				width="3.5"
				height="7"
				style="fill: var(--heat)"
			/>
		</pattern>
	</defs>
	<text x={drawn.left - 8} y={DRAWS.top + 8} text-anchor="end" class="tick">{fig(drawn.most, 'L')} {unitName('L')}</text
	>
	<text x={drawn.left - 8} y={DRAWS.bottom} text-anchor="end" class="tick">drawn</text>
	<line x1={drawn.left} x2={drawn.right} y1={DRAWS.bottom} y2={DRAWS.bottom} class="ruled" />
	<rect
		x={drawn.left}
		y={STORE.top}
		width={drawn.right - drawn.left}
		height={STORE.bottom - STORE.top}
		style="fill: var(--water-pale)"
	/>
	{#each drawn.bands as band (band.c)}<path d={band.d} style:fill={tone(band.warm)} />{/each}
	<path d={drawn.useful} class="useful" />
	<text x={drawn.left - 8} y={STORE.top + 12} text-anchor="end" class="tick">top</text>
	<text x={drawn.left - 8} y={(STORE.top + STORE.bottom) / 2 + 4} text-anchor="end" class="name">the store</text>
	<text x={drawn.left - 8} y={STORE.bottom - 2} text-anchor="end" class="tick">bottom</text>
	{#each drawn.scale as one (one.c)}
		<rect x={drawn.right + 8} y={one.y} width="12" height={one.h + 0.5} style:fill={tone(one.warm)} />
		{#if one.c % 10 === 0}<text x={drawn.right + 24} y={one.y + one.h + 4} class="tick">{fig(one.c, '°C')}</text>{/if}
	{/each}
	<text x={drawn.right + 8} y={STORE.top - 4} class="tick">{unitName('°C')}</text>
	{#each drawn.hours as hour (hour)}
		<line x1={drawn.x(hour * 60)} x2={drawn.x(hour * 60)} y1={DRAWS.top} y2={WHO.immersion + WHO.tall} class="hour" />
		<text x={drawn.x(hour * 60)} y={WHO.immersion + WHO.tall + 18} text-anchor="middle" class="tick">{hour}:00</text>
	{/each}
	{#each drawn.ticks as tick, n (n)}
		<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
		<rect
			x={tick.x}
			y={tick.y}
			width={tick.w}
			height={tick.h}
			class={tick.short ? 'short' : 'draw'}
			onclick={() => look?.(n)}><title>{tick.said}</title></rect
		>
		{#if tick.note}<text
				x={tick.end ? tick.x + tick.w : tick.x}
				y={tick.y - 4}
				text-anchor={tick.end ? 'end' : 'start'}
				class="note">{tick.note}</text
			>{/if}
	{/each}
	<text x={drawn.left - 8} y={WHO.machine + 12} text-anchor="end" class="name">machine</text>
	<text x={drawn.left - 8} y={WHO.immersion + 12} text-anchor="end" class="name"
		>{day.sun_kwh > 0 ? 'spare sun' : 'immersion'}</text
	>
	{#each drawn.beats as beat, n (n)}<rect
			x={beat.x}
			y={beat.y}
			width={beat.w}
			height={beat.h}
			class={beat.by === 'machine' ? 'runs' : beat.by === 'immersion' ? 'byhand' : beat.by === 'sun' ? 'sun' : 'beats'}
		/>{/each}
	<text x={drawn.left} y={HEIGHT - 4} class="tick"
		>above the line the store holds {amount(USEFUL_C, '°C')} or more{day.on_and_off_min
			? '; striped: the machine runs on and off'
			: ''}</text
	>
</svg>

<style>
	.hour {
		stroke: var(--ink);
		stroke-opacity: 0.12;
	}
	.sun {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1.5;
	}
	.useful {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1.6;
	}
	.draw {
		fill: var(--water);
	}
	.short {
		fill: url('#day-short');
		stroke: var(--short);
	}
	.note {
		font-size: 12.5px;
		font-weight: 600;
		fill: var(--ink);
	}
	.name {
		font-size: 13px;
		fill: var(--ink);
	}
	.runs {
		fill: var(--heat);
	}
	.byhand {
		fill: var(--muted);
	}
	.beats {
		fill: url('#day-beats');
	}
</style>
