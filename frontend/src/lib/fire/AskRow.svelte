<script lang="ts">
	import type { FireAsk, Watched } from '$lib/api/client';
	import { heard } from '$lib/house/sound';
	import { num } from '$lib/parts/format';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { amount, fig } from '$lib/parts/units';
	import Band from './Band.svelte';
	let {
		ask,
		value,
		plant,
		commit
	}: {
		ask: FireAsk;
		/** As it stands in the job: the band's own answer comes later. */
		value: number | null;
		plant: Watched | null;
		commit: (value: number | null, liveAt: string | null) => Promise<boolean> | void;
	} = $props();
	const temperature = $derived(ask.unit === '°C');
	const live = $derived(ask.channel && plant?.watched ? (plant.figures[ask.channel] ?? null) : null);
	const stale = $derived(plant?.state !== 'live');
	const told = (v: number | null): string =>
		v == null ? '' : ask.unit ? amount(v, ask.unit, ask.digits) : num(v, ask.digits);
	const between = $derived(
		ask.low != null && ask.high != null
			? `${ask.unit ? fig(ask.low, ask.unit, ask.digits) : num(ask.low, ask.digits)} to ${told(ask.high)}`
			: ask.low != null
				? `${told(ask.low)} or more`
				: ask.high != null
					? `${told(ask.high)} or less`
					: ask.expected != null
						? `about ${told(ask.expected)}`
						: ''
	);
	async function take(): Promise<void> {
		if (live == null) return;
		const grain = 10 ** ask.digits;
		const kept = await commit(Math.round(live * grain) / grain, plant?.at ?? null);
		if (kept !== false) heard(true);
	}
</script>

<div
	class="grid grid-cols-[minmax(150px,1.1fr)_minmax(140px,1fr)_auto] items-center gap-x-4 gap-y-1 border-t border-t-hairline py-2 narrow:grid-cols-[1fr_auto]"
>
	<div>
		<b>{ask.label}</b>
		<span class="block text-small text-muted"
			>{#if between}expected {between}{ask.why ? `: ${ask.why}` : ''}{:else}{ask.why}{/if}</span
		>
	</div>
	<div>
		<Band {ask} {live} {stale} />
		{#if live != null}<span class="text-small" class:text-muted={stale}
				>{stale ? 'was' : 'now'} {told(live)}{stale ? ', the line is cut' : ''}</span
			>{/if}
	</div>
	<div class="flex items-center justify-end gap-2">
		{#if ask.derived}<b class="figure text-[22px]" class:hatch-short={ask.verdict === 'off'}>{told(ask.value)}</b>
		{:else}<NumberField
				label={ask.label}
				{value}
				unit={ask.unit}
				digits={ask.digits}
				width="7.4em"
				quantity={temperature ? 'temperature' : 'plain'}
				commit={(v) => commit(v, null)}
			/>{#if ask.channel}<button
					class="btn min-h-14 btn-outline"
					disabled={live == null || stale}
					onclick={() => void take()}>Take<span class="sr-only"> {ask.label} from the plant</span></button
				>{/if}{/if}
		<span class="w-12 text-small font-semibold" class:text-meets={ask.verdict === 'meets'}
			>{ask.verdict === 'meets'
				? 'meets'
				: ask.verdict === 'off'
					? 'off'
					: ask.verdict === 'noted'
						? 'noted'
						: ''}</span
		>
	</div>
</div>
