<script lang="ts">
	import { api, type Source } from '$lib/api/client';
	import { path, scale, steps } from '$lib/charts/scale';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import { day, num } from '$lib/parts/format';
	import { shown as inUnit, unitName } from '$lib/parts/units';
	/** Readings as they came, a few channels at a time: means with their least and greatest, however many there are. */
	let { source }: { source: Source } = $props();
	const session = $derived(useFrame().session);
	const PLAIN: Record<string, [string, string]> = {
		outdoor_c: ['outdoor', '°C'],
		supply_c: ['flow', '°C'],
		return_c: ['return', '°C'],
		wanted_c: ['flow asked for', '°C'],
		flow_lph: ['water', 'L/h'],
		electric_w: ['electricity', 'W'],
		heat_w: ['heat', 'W']
	};
	const units = $derived<Record<string, [string, string]>>({
		...PLAIN,
		...Object.fromEntries((session.shown?.rooms ?? []).map((r) => [`room:${r.id}`, [r.label, '°C']]))
	});
	const named = $derived(
		Object.fromEntries(Object.entries(units).map(([key, [label, unit]]) => [key, `${label}, ${unitName(unit)}`]))
	);
	const channels = $derived(source.channels.filter((c) => c in named));
	let span = $state<[string, string] | null>(null);
	let wanted = $state<string[]>([]);
	const shown = $derived(wanted.length ? wanted : channels.slice(0, 3));
	const asked = new Slow(() =>
		api.GET('/api/jobs/{job_id}/readings/{source}/drawn', {
			params: {
				path: { job_id: session.id, source: source.id },
				query: { channels: shown.join(','), points: 500, ...(span ? { first: span[0], last: span[1] } : {}) }
			}
		})
	);
	$effect(() => {
		void [source.id, shown, span];
		asked.ask();
	});
	const WIDTH = 960;
	const ROW = 96;
	const found = $derived(asked.found);
	const times = $derived((found?.at ?? []).map((t) => new Date(t).getTime()));
	const x = $derived(scale([times[0] ?? 0, times.at(-1) ?? 1], [150, WIDTH - 10]));
	const lanes = $derived(
		Object.entries(found?.channels ?? {}).map(([key, band], n) => {
			const unit = units[key]?.[1] ?? '';
			const inJob = (values: (number | null)[]) => values.map((v) => (v === null ? null : inUnit(v, unit)));
			band = { mean: inJob(band.mean), least: inJob(band.least), greatest: inJob(band.greatest) };
			const known = [...band.least, ...band.greatest].filter((v): v is number => v !== null);
			const low = Math.min(...known);
			const high = Math.max(...known);
			const y = scale([low, high === low ? low + 1 : high], [n * ROW + ROW - 14, n * ROW + 10]);
			const at = (values: (number | null)[]) =>
				values.map((v, k): [number, number] | null => (v === null ? null : [x(times[k]!), y(v)]));
			const up = at(band.greatest).filter((p) => p !== null);
			const down = at(band.least).filter((p) => p !== null);
			return {
				key,
				y,
				low,
				high,
				mean: path(at(band.mean)),
				area: up.length ? `${path([...up, ...down.reverse()])}Z` : '',
				ticks: steps(low, high, 3)
			};
		})
	);
	const height = $derived(Math.max(lanes.length, 1) * ROW + 24);
	const DAY_MS = 864e5;
	const SPANS: [string, number][] = [
		['a month', 30 * DAY_MS],
		['a week', 7 * DAY_MS],
		['a day', DAY_MS]
	];
	/** So much of it about a moment. */
	function about(middle: number, wide: number): void {
		span = [new Date(middle - wide / 2).toISOString(), new Date(middle + wide / 2).toISOString()];
	}
	const middle = $derived(((times[0] ?? 0) + (times.at(-1) ?? 0)) / 2);
	const wide = $derived((times.at(-1) ?? 0) - (times[0] ?? 0));
	function closer(event: MouseEvent): void {
		const box = (event.currentTarget as SVGElement).getBoundingClientRect();
		about(x.invert(((event.clientX - box.left) / box.width) * WIDTH), wide / 4);
	}
</script>

<div class="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
	{#each channels as c (c)}<label class="flex min-h-9 items-center gap-1.5 text-small touch:min-h-12"
			><input
				type="checkbox"
				class="checkbox"
				checked={shown.includes(c)}
				onchange={(e) => (wanted = e.currentTarget.checked ? [...shown, c] : shown.filter((one) => one !== c))}
			/>{named[c]}</label
		>{/each}
</div>
<div class="mb-1 flex flex-wrap items-center gap-2" role="group" aria-label="How much of it">
	<button class="btn btn-quiet" disabled={!span} onclick={() => (span = null)}>all of it</button>
	{#each SPANS as [label, ms] (label)}<button class="btn btn-quiet" onclick={() => about(middle, ms)}>{label}</button
		>{/each}
	{#if span}<button class="btn btn-quiet" onclick={() => about(middle - wide, wide)}>earlier</button><button
			class="btn btn-quiet"
			onclick={() => about(middle + wide, wide)}>later</button
		>{/if}
</div>
{#if found && times.length}
	<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
	<svg
		class="chart cursor-zoom-in"
		viewBox={`0 0 ${WIDTH} ${height}`}
		role="img"
		aria-label="Readings over time"
		onclick={closer}
	>
		{#each lanes as lane (lane.key)}
			<text x="0" y={lane.y(lane.high) + 12} class="name">{named[lane.key]}</text>
			{#each lane.ticks as tick (tick)}<line
					x1="150"
					x2={WIDTH - 10}
					y1={lane.y(tick)}
					y2={lane.y(tick)}
					class="ruled"
				/><text x="144" y={lane.y(tick) + 4} text-anchor="end" class="tick"
					>{num(tick, Math.abs(lane.high - lane.low) < 5 ? 1 : 0)}</text
				>{/each}
			<path d={lane.area} class="area" /><path d={lane.mean} class="mean" />
		{/each}
		<text x="150" y={height - 4} class="tick">{day(found.at[0]!)}</text>
		<text x={WIDTH - 10} y={height - 4} text-anchor="end" class="tick">{day(found.at.at(-1)!)}</text>
	</svg>
	<p class="note">
		{num(source.count)} moments; a click looks closer. The band is from the least to the greatest reading.
	</p>
{:else}<p class="note" aria-busy="true">{asked.refused ?? 'It is drawn.'}</p>{/if}

<style>
	.area {
		fill: var(--water-pale);
	}
	.mean {
		fill: none;
		stroke: var(--water);
		stroke-width: 1.4;
	}
	.name {
		fill: var(--ink);
		font-size: 12.5px;
	}
</style>
