<script lang="ts">
	import Fold from '$lib/parts/Fold.svelte';
	import { fig, unitName } from '$lib/parts/units';
	import { HEIGHT, shape, WIDTH, type Readings } from './practice';
	let { readings, room, name }: { readings: Readings; room: string | null; name: (room: string) => string } = $props();
	const drawn = $derived(shape(readings, room, name));
	/** Names of days so far apart that they do not lie on each other. */
	const apart = $derived(Math.max(Math.ceil(drawn.days.length / 12), 1));
	const every = $derived(readings.hour.map((h, n) => [h, n] as const).filter(([h]) => h % 6 === 0));
</script>

<svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} class="w-full" role="img" aria-label="Readings by the hour">
	{#each drawn.yTicks as t (t)}<line x1="44" x2={WIDTH - 96} y1={drawn.y(t)} y2={drawn.y(t)} class="rule" /><text
			x="38"
			y={drawn.y(t) + 4}
			text-anchor="end"
			class="tick">{fig(t, '°C')}</text
		>{/each}
	{#each drawn.days as h, n (h)}<line x1={drawn.x(h)} x2={drawn.x(h)} y1="14" y2={HEIGHT - 34} class="day" /><text
			x={drawn.x(h) + 4}
			y={HEIGHT - 18}
			class="tick">{n % apart === 0 ? `day ${h / 24 + 1}` : ''}</text
		>{/each}
	{#each drawn.lines as line (line.key)}<path d={line.d} class={line.key} /><text
			x={WIDTH - 90}
			y={line.end + 4}
			class="name">{line.label}</text
		>{/each}
	<text x="44" y="11" class="tick">{unitName('°C')}</text>
</svg>
<Fold title="The same as a table, every six hours">
	<table class="table table-figures">
		<thead
			><tr
				><th>Day, hour</th><th class="text-right">Outdoors, {unitName('°C')}</th><th class="text-right"
					>Asked for, {unitName('°C')}</th
				><th class="text-right">Flow, {unitName('°C')}</th><th class="text-right">Return, {unitName('°C')}</th><th
					class="text-right">Water, {unitName('L/h')}</th
				><th class="text-right">Electricity, {unitName('W')}</th></tr
			></thead
		>
		<tbody
			>{#each every as [h, n] (h)}<tr
					><td>{Math.floor(h / 24) + 1}, {h % 24}:00</td><td class="text-right"
						>{fig(readings.outdoor_c[n], '°C', 1)}</td
					><td class="text-right">{fig(readings.wanted_c[n], '°C', 1)}</td><td class="text-right"
						>{fig(readings.supply_c[n], '°C', 1)}</td
					><td class="text-right">{fig(readings.return_c[n], '°C', 1)}</td><td class="text-right"
						>{fig(readings.flow_lph[n], 'L/h')}</td
					><td class="text-right">{fig(readings.electric_w[n], 'W')}</td></tr
				>{/each}</tbody
		>
	</table>
</Fold>

<style>
	path {
		fill: none;
		stroke-width: 2;
	}
	.rule,
	.day {
		stroke: var(--hairline);
	}
	.wanted {
		stroke: var(--ink);
		stroke-dasharray: 2 3;
	}
	.supply {
		stroke: var(--heat);
		stroke-width: 2.6;
	}
	.return {
		stroke: var(--water);
	}
	.outdoor {
		stroke: var(--muted);
		stroke-dasharray: 7 3;
	}
	.room {
		stroke: var(--ink);
	}
	.tick,
	.name {
		fill: var(--muted);
		font-size: 12px;
		font-variant-numeric: tabular-nums;
	}
	.name {
		fill: var(--ink);
	}
</style>
