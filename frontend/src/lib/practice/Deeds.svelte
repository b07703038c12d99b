<script lang="ts">
	import type { PracticeFound } from '$lib/api/client';
	import Asked from '$lib/parts/Asked.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { amount } from '$lib/parts/units';
	export type Deed = {
		kind: 'wait' | 'repair' | 'curve' | 'finish';
		key?: string;
		place?: string;
		days?: number;
		cold_c?: number;
		mild_c?: number;
	};
	let { found, busy, act }: { found: PracticeFound; busy: boolean; act: (deed: Deed) => void } = $props();
	let key = $state<string | null>(null);
	let place = $state<string | null>(null);
	let cold = $state<number | null>(null);
	let mild = $state<number | null>(null);
	const choice = $derived(found.choices.find((c) => c.key === key));
	const ready = $derived(choice !== undefined && (!choice.where.length || place !== null));
	function repair(): void {
		act({ kind: 'repair', key: key!, place: place ?? '' });
		[key, place] = [null, null];
	}
	function line(): void {
		act({ kind: 'curve', cold_c: cold ?? found.cold_flow_c, mild_c: mild ?? found.mild_flow_c });
		[cold, mild] = [null, null];
	}
</script>

<section class="grid content-start gap-2" aria-busy={busy}>
	<h2>Do something</h2>
	<label class="text-small text-muted"
		>What<Choice
			label="What to do"
			value={key}
			empty="choose"
			options={found.choices.map((c) => ({ value: c.key, label: c.label }))}
			commit={(v) => ([key, place] = [v ?? null, null])}
		/></label
	>
	{#if choice?.where.length}<label class="text-small text-muted"
			>Where<Choice
				label="Where"
				value={place}
				empty="choose"
				options={choice.where.map((w) => ({ value: w[0] ?? '', label: w[1] ?? '' }))}
				commit={(v) => (place = v ?? null)}
			/></label
		>{/if}
	<button class="btn btn-neutral" disabled={!ready || busy} onclick={repair}>Do it</button>
	<h3 class="mt-2 font-semibold">Dial in a line</h3>
	<p class="note">
		The card says {amount(found.designed_cold_c, '°C')} at {amount(found.cold_out_c, '°C')} outside, {amount(
			found.designed_mild_c,
			'°C'
		)} at {amount(found.mild_out_c, '°C')}. What stands in the controller is for you to read.
	</p>
	<div class="grid grid-cols-[1fr_1fr] items-end gap-3">
		<Asked
			ask="Cold end"
			label="Cold end"
			value={cold}
			unit="°C"
			digits={0}
			quantity="temperature"
			commit={(v) => void (cold = v)}
		/>
		<Asked
			ask="Mild end"
			label="Mild end"
			value={mild}
			unit="°C"
			digits={0}
			quantity="temperature"
			commit={(v) => void (mild = v)}
		/>
	</div>
	<button class="btn btn-outline" disabled={busy || (cold === null && mild === null)} onclick={line}>Dial it in</button>
	<h3 class="mt-2 font-semibold">Go away and come again</h3>
	<div class="flex flex-wrap gap-2">
		{#each [1, 2, 4].filter((d) => d <= found.days_left) as d (d)}<button
				class="btn btn-outline"
				disabled={busy}
				onclick={() => act({ kind: 'wait', days: d })}>{d === 1 ? 'a day' : `${d} days`}</button
			>{/each}
		{#if !found.days_left}<span class="note">No days are left.</span>{/if}
	</div>
	<button class="btn mt-2 btn-outline" disabled={busy} onclick={() => act({ kind: 'finish' })}
		>Finish, and see the winter</button
	>
	{#if found.log.length}
		<h3 class="mt-2 font-semibold">So far</h3>
		<ol class="list-decimal ps-5 text-small">
			{#each found.log as one, n (n)}<li>{one}</li>{/each}
		</ol>
	{/if}
</section>
