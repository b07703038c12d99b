<script lang="ts">
	import type { Design } from '$lib/api/client';
	import type { Spot } from '$lib/charts/curve';
	import { amount } from '$lib/parts/units';
	let { design, spot }: { design: Design; spot: Spot | null } = $props();
	const curve = $derived(design.curve);
	/** What each room gets by the line, beside its target: on the design day, or where the pointer stands. */
	const over = $derived(
		design.rooms
			.map((r) => ({
				id: r.id,
				label: r.label,
				target: r.target_c,
				k: spot === null ? curve.design_over_k[r.id] : curve.over_k[r.id]?.[spot.n],
				floats: curve.floats.includes(r.id)
			}))
			.filter((r): r is typeof r & { k: number } => r.k != null)
			.sort((a, b) => b.k - a.k)
	);
	const most = $derived(Math.max(1, ...over.map((r) => Math.abs(r.k))));
</script>

{#if over.length}
	<p class="note">
		{spot === null ? 'On the design day' : `At ${amount(curve.outdoor_c[spot.n] ?? 0, '°C')} outside`}, against what
		each room asks for. Thermostatic valves hold theirs there.
	</p>
	<ul class="rooms grid grid-cols-[repeat(auto-fill,minmax(320px,1fr))] gap-x-6.5 gap-y-0.5">
		{#each over as r (r.id)}
			<li
				class="grid min-h-6.5 grid-cols-[minmax(90px,1.2fr)_minmax(40px,1fr)_64px_minmax(60px,auto)] items-center gap-2 tabular-nums"
				class:cold={r.k < -0.05}
			>
				<span>{r.label}</span>
				<span class="lane h-2.5 bg-ash"
					><i class="block h-full bg-heat" style={`width: ${(Math.abs(r.k) / most) * 100}%`}></i></span
				>
				<b class="text-right"
					>{Math.abs(r.k) < 0.05 ? 'as asked' : `${r.k > 0 ? '+' : '−'}${amount(Math.abs(r.k), 'K', 1)}`}</b
				>
				<span class="note"
					>{r.floats ? `no emitter: reaches ${amount(r.target + r.k, '°C', 1)}` : amount(r.target + r.k, '°C', 1)}{r.k >
					curve.warm_k
						? ', too warm'
						: ''}</span
				>
			</li>
		{/each}
	</ul>
{/if}

<style>
	.cold .lane i {
		background: var(--water);
	}
</style>
