<script lang="ts">
	import { api } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import PlantPicture from '$lib/plant/PlantPicture.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const asked = new Slow(() => api.GET('/api/jobs/{job_id}/plant', { params: { path: { job_id: frame.session.id } } }));
	const plant = $derived(asked.found?.plant);
	$effect(() => {
		if (session.settled) asked.ask();
	});
	let picked = $state('heating');
	const shown = $derived(plant?.states.find((s) => s.key === picked) ?? plant?.states[0]);
	let looked = $state<string | null>(null);
	const part = $derived(plant?.parts.find((p) => p.id === looked));
	const listed = $derived((plant?.parts ?? []).filter((p) => p.kind));
	const SIDES = { flow: 'flow', return: 'return', between: 'between both', tap: 'drinking water', cable: 'wired' };
</script>

<Head title="Plant" screen="plant" sentence={plant?.sentence}>
	{#if plant && !plant.lacks}<a
			class="btn btn-quiet"
			href={`/api/jobs/${session.id}/plant.svg?state=${encodeURIComponent(shown?.key ?? 'heating')}`}
			download>Drawing (SVG)</a
		>{/if}
</Head>

{#if plant && !plant.lacks && shown}
	{#if asked.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{asked.refused}</p>{/if}
	<div class="flex flex-wrap items-center gap-x-4 gap-y-1">
		<div class="join" role="radiogroup" aria-label="State of the plant">
			{#each plant.states as state (state.key)}<button
					class={`btn join-item ${state.key === shown.key ? 'btn-primary' : 'btn-quiet'}`}
					role="radio"
					aria-checked={state.key === shown.key}
					onclick={() => (picked = state.key)}>{state.label}</button
				>{/each}
		</div>
		<p>{shown.words}</p>
	</div>
	<div class="mt-2" class:opacity-60={asked.busy} aria-busy={asked.busy}>
		<PlantPicture {plant} state={shown.key} {looked} look={(id) => (looked = looked === id ? null : id)} />
	</div>
	<p class="min-h-[2.8em]" aria-live="polite">
		{#if part}<strong>{part.label}</strong>{part.words ? `, ${part.words}` : ''}{part.kind
				? `: ${part.why} (${part.stays ? 'stays' : part.need}; ${SIDES[part.side]}).`
				: part.why
					? `: ${part.why}.`
					: '.'}{:else}<span class="note">Press a part to read what it is for.</span>{/if}
	</p>
	{#if plant.holds.length}<p class="max-w-[90ch]">
			The machine already holds {plant.holds.join(', ')}: none of it is drawn or bought twice.
		</p>{/if}
	<h2 class="mt-3 mb-1">Every part</h2>
	<table class="table table-figures">
		<thead><tr><th>Part</th><th>Size</th><th>Where</th><th>Side</th><th>What for</th><th>Wanted</th></tr></thead>
		<tbody
			>{#each listed as p (p.id)}<tr class:on={p.id === looked}
					><td
						><button
							class="text-left font-semibold underline decoration-muted decoration-dotted underline-offset-4"
							aria-pressed={p.id === looked}
							onclick={() => (looked = looked === p.id ? null : p.id)}>{p.label}</button
						></td
					><td>{p.words}</td><td>{p.band.toLowerCase()}</td><td>{SIDES[p.side]}</td><td>{p.why}</td><td
						>{p.stays ? 'stays' : p.need}</td
					></tr
				>{/each}</tbody
		>
	</table>
	{#each plant.notes as note (note)}<p class="mt-1 note">{note}</p>{/each}
	<div class="mt-4.5"><Cautions cautions={session.shown?.cautions.pipework ?? []} /></div>
{:else if plant}<p class="max-w-[60ch] py-5 text-lead">{plant.lacks}</p>
{:else}<p class="py-5">
		{#if asked.refused}{asked.refused}{:else}<span class="loading mr-2 loading-dots"></span>The plant is laid out.{/if}
	</p>{/if}

<style>
	tr.on td {
		background: var(--sheet);
	}
</style>
