<script lang="ts">
	import type { Design } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import { amount, fig } from '$lib/parts/units';
	let { vessel }: { vessel: Design['vessel'] } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const chosen = $derived(session.scheme ? (session.job?.schemes?.[session.scheme]?.vessel ?? {}) : null);
	const put = (field: string, what: string) => (value: number | null) =>
		session.edit(`Expansion vessel, ${what}`, (d) => d.put(`/schemes/${session.scheme}/vessel/${field}`, value));
</script>

<h2>Expansion vessel</h2>
{#if vessel.least_l != null}
	<p>
		<strong>{amount(vessel.least_l, 'L')}</strong> or more for {amount(vessel.system_l, 'L')} of water that grow by
		{amount(vessel.grows_l, 'L', 1)} up to {amount(vessel.hottest_c, '°C')}{#if vessel.has_l > 0}; there {vessel.has_l ===
			1
				? 'is'
				: 'are'}
			<strong>{amount(vessel.has_l, 'L')}</strong>
			{#if vessel.verdict === 'meets'}<span class="font-semibold text-meets">meets</span>{:else}<span
					class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold hatch-short">small</span
				>{/if}{/if}.
	</p>
	<p class="note">
		Charge it to {amount(vessel.precharge_bar, 'bar', 1)} with no water in it, fill cold to
		<strong>{amount(vessel.fill_bar, 'bar', 1)}</strong>; it then goes to {amount(vessel.hot_bar, 'bar', 1)}, the relief
		opens at {amount(vessel.relief_bar, 'bar', 1)} ({vessel.relief_from}). {amount(vessel.static_m, 'm', 1)} of water stand
		on it{vessel.static_where ? `, up to ${vessel.static_where}` : ''}.
	</p>
{:else}<p class="note">No water to reckon with yet, or a pre-charge that leaves no room.</p>{/if}
{#if chosen}<div class="grid max-w-[46ch] grid-cols-3 gap-2">
		<Asked
			ask="Vessel beside it"
			label="Vessel beside the machine's"
			value={chosen.volume_l}
			digits={0}
			unit="L"
			commit={put('volume_l', 'litres')}
		/>
		<Asked
			ask="Pre-charge"
			label="Pre-charge of the vessel"
			value={chosen.precharge_bar}
			placeholder={fig(vessel.precharge_usual_bar, 'bar', 1)}
			digits={1}
			unit="bar"
			commit={put('precharge_bar', 'pre-charge')}
		/>
		<Asked
			ask="Relief"
			label="Relief valve of the heating"
			value={chosen.relief_bar}
			placeholder={fig(vessel.relief_bar, 'bar', 1)}
			digits={1}
			unit="bar"
			commit={put('relief_bar', 'relief')}
		/>
	</div>{/if}
