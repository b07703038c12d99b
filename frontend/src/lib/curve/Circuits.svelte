<script lang="ts">
	import type { ControllersFound, Design } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { money } from '$lib/parts/format';
	import { amount } from '$lib/parts/units';
	import Dial from './Dial.svelte';
	let {
		curve,
		names,
		costs = []
	}: { curve: Design['curve']; names: Record<string, string>; costs?: ControllersFound['circuits'] } = $props();
	const costOf = $derived(Object.fromEntries(costs.map((one) => [one.id, one])));
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(frame.session.job?.currency ?? 'GBP');
</script>

{#each curve.circuits as one (one.id)}
	<h2>{one.label}</h2>
	<p class="note">
		Behind a blending valve: {one.rooms.map((r) => names[r] ?? r).join(', ')}. {#if one.over_k != null && one.over_k > 0.05}By
			the house's own line they would be up to {amount(one.over_k, 'K', 1)} too warm, at {amount(one.at_c, '°C')} outside.{/if}
	</p>
	{#if costOf[one.id]}<p>
			{costOf[one.id]!.says}
			<b
				>{costOf[one.id]!.net_minor > 0 ? 'Costs' : 'Saves'}
				{money(Math.abs(costOf[one.id]!.net_minor), currency)} a year</b
			> against one temperature for all.
		</p>{/if}
	<Dial
		rows={one.dial}
		label={one.label}
		before={(d) => {
			const own = session.job?.schemes?.[session.scheme ?? '']?.zones?.[one.id]?.control;
			if (!own?.kind) d.set(`/schemes/${session.scheme}/zones/${one.id}/control/kind`, curve.kind);
		}}
	/>
{/each}
