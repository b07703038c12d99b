<script lang="ts">
	import type { TwinWeek } from '$lib/api/client';
	import Fold from '$lib/parts/Fold.svelte';
	import { num } from '$lib/parts/format';
	import { amount, fig, unitName } from '$lib/parts/units';
	import { BANDS, HEIGHT, shape, WIDTH } from './twinWeek';
	let { week, room = $bindable(null) }: { week: TwinWeek; room?: string | null } = $props();
	let svg: SVGSVGElement | undefined = $state();
	let at = $state<number | null>(null);
	const drawn = $derived(shape(week));
	const shown = $derived(week.rooms.find((r) => r.id === room) ?? null);
	const MODES = ['off', 'heating', 'defrost', 'hot water'];
	const clock = (n: number): string => {
		const minutes = n * week.step_min;
		const pad = (v: number): string => String(v).padStart(2, '0');
		return `day ${Math.floor(minutes / 1440) + 1}, ${pad(Math.floor((minutes % 1440) / 60))}:${pad(minutes % 60)}`;
	};
	const reading = $derived.by(() => {
		if (at === null) return '';
		const said = `${clock(at)} · outside ${amount(week.outdoor_c[at], '°C', 1)} · water ${amount(week.supply_c[at], '°C', 1)}, back ${amount(week.return_c[at], '°C', 1)} · ${MODES[week.mode[at]!]} · ${num(week.electric_w[at])} W`;
		return shown ? `${said} · ${shown.label} ${amount(shown.room_c[at], '°C', 1)}` : said;
	});
	const days = $derived.by(() => {
		const aDay = (24 * 60) / week.step_min;
		const mean = (values: number[], d: number): number =>
			values.slice(d * aDay, (d + 1) * aDay).reduce((a, b) => a + b, 0) / aDay;
		return Array.from({ length: Math.round(week.outdoor_c.length / aDay) }, (_, d) => ({
			d,
			outside: mean(week.outdoor_c, d),
			water: mean(week.supply_c, d),
			heat: (mean(week.heat_w, d) * 24) / 1000,
			electric: (mean(week.electric_w, d) * 24) / 1000,
			least: Math.min(...week.rooms.map((r) => Math.min(...r.room_c.slice(d * aDay, (d + 1) * aDay)) - r.target_c)),
			most: Math.max(...week.rooms.map((r) => Math.max(...r.room_c.slice(d * aDay, (d + 1) * aDay)) - r.target_c))
		}));
	});
	function look(event: PointerEvent): void {
		const box = svg!.getBoundingClientRect();
		const n = Math.floor(drawn.x.invert(((event.clientX - box.left) / box.width) * WIDTH));
		at = n >= 0 && n < week.outdoor_c.length ? n : null;
	}
	function walk(event: KeyboardEvent): void {
		const step = { ArrowLeft: -1, ArrowRight: 1, PageUp: -96, PageDown: 96 }[event.key];
		if (!step) return;
		event.preventDefault();
		at = Math.min(Math.max((at ?? 0) + step, 0), week.outdoor_c.length - 1);
	}
</script>

<p class="min-h-5.5 note" aria-live="polite">
	{reading || 'Point at an hour, or use the arrow keys, to read it.'}
</p>
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<svg
	class="chart"
	bind:this={svg}
	viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
	role="group"
	tabindex="0"
	aria-label={`${week.label}: rooms, water and the air outside. Arrow keys walk through the hours.`}
	onpointermove={look}
	onpointerdown={look}
	onkeydown={walk}
>
	{#each drawn.days as day (day.x)}
		<line x1={day.x} x2={day.x} y1={BANDS.rooms[0]} y2={BANDS.machine[1]} class="ruled" />
		<text x={day.x + 4} y={HEIGHT - 6} class="tick">{day.label}</text>
	{/each}
	<text x={drawn.frame.left} y="13" class="tick">rooms, {unitName('°C')}</text>
	{#each drawn.roomTicks as tick (tick)}
		<line x1={drawn.frame.left} x2={drawn.frame.right} y1={drawn.rooms(tick)} y2={drawn.rooms(tick)} class="ruled" />
		<text x={drawn.frame.left - 6} y={drawn.rooms(tick) + 4} text-anchor="end" class="tick">{fig(tick, '°C')}</text>
	{/each}
	{#each drawn.traces as trace (trace.id)}<path d={trace.d} class="room" class:here={trace.id === room} />{/each}
	{#if shown}<line
			x1={drawn.frame.left}
			x2={drawn.frame.right}
			y1={drawn.rooms(shown.target_c)}
			y2={drawn.rooms(shown.target_c)}
			class="target"
		/>{/if}
	<text x={drawn.frame.left} y={BANDS.water[0] - 8} class="tick">water, {unitName('°C')}</text>
	{#each drawn.waterTicks as tick (tick)}
		<line x1={drawn.frame.left} x2={drawn.frame.right} y1={drawn.water(tick)} y2={drawn.water(tick)} class="ruled" />
		<text x={drawn.frame.left - 6} y={drawn.water(tick) + 4} text-anchor="end" class="tick">{fig(tick, '°C')}</text>
	{/each}
	<path d={drawn.back} class="back" />
	<path d={drawn.wanted} class="wanted" />
	<path d={drawn.supply} class="supply" />
	<text x={drawn.frame.left} y={BANDS.air[0] - 6} class="tick">outside, {unitName('°C')}</text>
	{#each drawn.airTicks as tick (tick)}
		<text x={drawn.frame.left - 6} y={drawn.air(tick) + 4} text-anchor="end" class="tick">{fig(tick, '°C')}</text>
	{/each}
	<path d={drawn.outside} class="outside" />
	{#each drawn.modes as one, n (n)}{#if one.mode > 0}<rect
				x={one.x}
				y={BANDS.machine[0]}
				width={one.w}
				height="16"
				class={one.mode === 3 ? 'hot' : 'heats'}
			/>{/if}{#if one.mode === 2}<rect
				x={one.x}
				y={BANDS.machine[0] + 8}
				width={one.w}
				height="8"
				class="thaws"
			/>{/if}{/each}
	{#if at !== null}<line
			x1={drawn.x(at + 0.5)}
			x2={drawn.x(at + 0.5)}
			y1={BANDS.rooms[0]}
			y2={BANDS.machine[1]}
			class="cursor"
		/>{/if}
</svg>
<p class="flex flex-wrap gap-x-5 gap-y-1 pl-11 note">
	<span><i class="mr-1.5 inline-block h-0 w-6.5 border-t-4 border-t-heat align-middle"></i>water as it is</span>
	<span><i class="mr-1.5 inline-block h-0 w-6.5 border-t-2 border-dashed border-t-ink align-middle"></i>asked for</span>
	<span><i class="mr-1.5 inline-block h-0 w-6.5 border-t-2 border-t-water align-middle"></i>coming back</span>
	<span><i class="mr-1.5 inline-block h-3 w-4 bg-heat align-middle"></i>heating</span>
	<span><i class="mr-1.5 inline-block h-3 w-4 bg-water align-middle"></i>hot water</span>
	<span><i class="mr-1.5 inline-block h-1.5 w-4 bg-ink align-middle"></i>defrost</span>
</p>
<Fold title="The same as a table, by day">
	<table class="table table-figures">
		<thead
			><tr
				><th>Day</th><th class="text-right">Outside, {unitName('°C')}</th><th class="text-right"
					>Water, {unitName('°C')}</th
				><th class="text-right">Heat, kWh</th><th class="text-right">Electricity, kWh</th><th class="text-right"
					>Coldest below its target, {unitName('K')}</th
				><th class="text-right">Warmest above, {unitName('K')}</th></tr
			></thead
		>
		<tbody
			>{#each days as day (day.d)}<tr
					><td>{day.d + 1}</td><td class="text-right">{fig(day.outside, '°C', 1)}</td><td class="text-right"
						>{fig(day.water, '°C', 1)}</td
					><td class="text-right">{num(day.heat, 1)}</td><td class="text-right">{num(day.electric, 1)}</td><td
						class="text-right">{fig(Math.max(-day.least, 0), 'K', 1)}</td
					><td class="text-right">{fig(Math.max(day.most, 0), 'K', 1)}</td></tr
				>{/each}</tbody
		>
	</table>
</Fold>

<style>
	svg {
		touch-action: pan-y;
	}
	svg:focus {
		outline: none;
	}
	svg:focus-visible {
		outline: 2px solid var(--ink);
		outline-offset: 2px;
	}
	path {
		fill: none;
	}
	.room {
		stroke: var(--water-mid);
		stroke-width: 1.1;
	}
	.room.here {
		stroke: var(--ink);
		stroke-width: 2.4;
	}
	.target {
		stroke: var(--ink);
		stroke-dasharray: 2 4;
	}
	.supply {
		stroke: var(--heat);
		stroke-width: 2.4;
	}
	.wanted {
		stroke: var(--ink);
		stroke-dasharray: 5 4;
		stroke-width: 1.2;
	}
	.back,
	.outside {
		stroke: var(--water);
		stroke-width: 1.6;
	}
	.heats {
		fill: var(--heat);
	}
	.thaws {
		fill: var(--ink);
	}
	.hot {
		fill: var(--water);
	}
	.cursor {
		stroke: var(--ink);
		stroke-dasharray: 1 4;
		pointer-events: none;
	}
</style>
