<script lang="ts">
	import type { ControllersFound } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { money, num } from '$lib/parts/format';
	import Sentence from '$lib/parts/Sentence.svelte';
	import { amount } from '$lib/parts/units';
	let { found }: { found: ControllersFound } = $props();
	const frame = useFrame();
	const currency = $derived(frame.session.job?.currency ?? 'GBP');
	const most = $derived(Math.max(1, ...found.shifts.map((s) => Math.abs(s.kwh ?? 0))));
	const signed = (value: number, text: string): string => (value < 0 ? `−${text}` : `+${text}`);
</script>

<p class="max-w-[76ch] py-1"><Sentence text={found.verdict} /></p>
<h3 class="mt-1 font-semibold">The whole line moved, on this machine</h3>
<ul class="grid max-w-[720px] gap-1">
	{#each found.shifts as s (s.k)}
		<li class="grid min-h-7 grid-cols-[7em_minmax(80px,1fr)_11em_minmax(120px,1fr)] items-center gap-3 tabular-nums">
			<b>{signed(s.k, amount(Math.abs(s.k), 'K', 0))}</b>
			<span class="h-3 bg-ash"
				><i
					class="block h-full"
					class:bg-heat={(s.kwh ?? 0) > 0}
					class:bg-water={(s.kwh ?? 0) <= 0}
					style={`width: ${(Math.abs(s.kwh ?? 0) / most) * 100}%`}
				></i></span
			>
			<span class="text-right"
				>{s.kwh == null ? '–' : signed(s.kwh, `${num(Math.abs(s.kwh))} kWh`)}{s.share == null
					? ''
					: `, ${signed(s.share, `${num(Math.abs(s.share) * 100, 1)} %`)}`}</span
			>
			<span class="note"
				>{s.minor == null ? '' : `${signed(s.minor, money(Math.abs(s.minor), currency))} a year`}{(s.short_k ?? 0) >
				0.05
					? `; ${s.short_room} ${amount(s.short_k, 'K', 1)} short`
					: ''}</span
			>
		</li>
	{/each}
</ul>
<p class="note">A year of this climate by the machine's own map; what falls short then stands beside it.</p>
