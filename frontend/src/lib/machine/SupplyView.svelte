<script lang="ts">
	import { unitName } from '$lib/parts/units';
	import type { Design } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	let { electrics }: { electrics: Design['places']['electrics'] } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const supply = $derived(session.job?.site?.supply ?? {});
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
</script>

<h2 class="mt-4 mb-1">What the supply is asked for</h2>
<div class="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-x-3 gap-y-2">
	<Asked
		ask="Main fuse, A"
		label="Main fuse"
		value={supply.fuse_a}
		digits={0}
		commit={put('/site/supply/fuse_a', 'Main fuse')}
	/>
	<Asked
		ask="House after diversity, A"
		label="What the house draws"
		value={supply.present_a}
		digits={0}
		commit={put('/site/supply/present_a', 'What the house draws')}
	/>
	<label
		>Spare way in the board<Choice
			label="Spare way in the board"
			value={supply.spare_way == null ? null : supply.spare_way ? 'yes' : 'no'}
			empty="not looked at"
			options={[
				{ value: 'yes', label: 'there is one' },
				{ value: 'no', label: 'there is none' }
			]}
			commit={(v) => put('/site/supply/spare_way', 'Spare way')(v == null ? null : v === 'yes')}
		/></label
	>
	{#if supply.spare_way === false}<Asked
			ask={`A larger board costs, ${session.job?.currency ?? 'GBP'}`}
			label="Cost of a larger board"
			value={supply.board_minor}
			times={0.01}
			digits={0}
			commit={put('/site/supply/board_minor', 'Cost of a larger board')}
		/>{/if}
	<Tick
		ask="Heater never with the machine"
		value={supply.interlocked ?? false}
		commit={put('/site/supply/interlocked', 'Interlock')}
	/>
</div>
<p class="mt-1">
	{electrics.labels
		.map((label, n) => `${num(electrics.amperes[n])} A ${label}`)
		.join(' + ')}{#if electrics.labels.length}{' = '}<strong>{num(electrics.sum_a)} A</strong
		>{/if}{#if electrics.left_a != null}, {electrics.left_a < 0
			? `${num(-electrics.left_a)} A more than the main fuse`
			: `${num(electrics.left_a)} A left under the main fuse`}{/if}.
	{electrics.lacks}
</p>
<p class="note">
	A sum, no verdict: a licensed electrician states the demand, decides and notifies the network operator. Distances in {unitName(
		'm'
	)}; the maker's manual wins over every general figure here.
</p>

<style>
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
</style>
