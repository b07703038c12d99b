<script lang="ts">
	import { api, type Refusal, type Watched } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { num } from '$lib/parts/format';
	let { plant, changed }: { plant: Watched | null; changed: () => void } = $props();
	const frame = useFrame();
	const params = { path: { job_id: frame.session.id } };
	let speed = $state('60');
	let address = $state<string | null>(null);
	let said = $state('');
	let now = $state(Date.now());
	let heard = $state(Date.now());
	$effect(() => {
		void plant;
		heard = Date.now();
	});
	$effect(() => {
		const tick = setInterval(() => (now = Date.now()), 1000);
		return () => clearInterval(tick);
	});
	/** How old the last reading is, counted on from when it was told. */
	const age = $derived(plant?.heard_s == null ? null : plant.heard_s + Math.max(now - heard, 0) / 1000);
	const SPEEDS = [
		{ value: '1', label: 'as quick as time' },
		{ value: '60', label: 'a minute a second' },
		{ value: '600', label: 'ten minutes a second' }
	];
	const STATES: Record<string, string> = {
		none: 'No plant is read.',
		stopped: 'No plant is read.',
		waiting: 'Waiting for the plant.',
		live: 'Live.',
		lost: 'The line is cut.',
		refused: 'Not read.'
	};
	async function ask(body: { address?: string; stand_in?: { speed: number } }): Promise<void> {
		const { error } = await api.POST('/api/jobs/{job_id}/watched', {
			params,
			body: { every_s: body.stand_in ? 1 : 5, ...body }
		});
		said = (error as Refusal | undefined)?.message ?? '';
		changed();
	}
	async function stop(): Promise<void> {
		await api.DELETE('/api/jobs/{job_id}/watched', { params });
		changed();
	}
</script>

<div
	class="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-md border border-hairline bg-sheet px-3.5 py-2"
	role="group"
	aria-label="The plant"
>
	<p class="min-w-[16ch]" role="status">
		<b
			class="rounded-sm px-1"
			class:hatch-short={plant?.state === 'lost' || plant?.state === 'refused'}
			class:text-meets={plant?.state === 'live'}>{STATES[plant?.state ?? 'none']}</b
		>
		{#if plant?.watched}<span class="note"
				>{plant.simulated ? 'Simulated plant. ' : `${plant.address}. `}{plant.said}
				{#if age !== null && (plant.state === 'lost' || age > 15)}Last heard {num(age)} s ago; what it said stays, greyed.{/if}
				{plant.waiting_orders ? `${plant.waiting_orders} settings wait.` : ''}</span
			>{/if}
	</p>
	{#if plant?.watched}
		{#each plant.problems.slice(0, 2) as one (one)}<span class="text-small text-doubt">{one}</span>{/each}
		<button class="btn ms-auto btn-outline" onclick={() => void stop()}>Stop reading</button>
	{:else if plant}
		<span class="ms-auto flex flex-wrap items-center gap-2">
			{#if plant.listed.length}
				<span class="w-52"
					><Choice
						label="Which gateway"
						value={address ?? plant.listed[0]}
						options={plant.listed.map((value) => ({ value, label: value }))}
						commit={(v) => (address = v ?? null)}
					/></span
				>
				<button class="btn btn-neutral" onclick={() => void ask({ address: address ?? plant.listed[0] })}
					>Read it</button
				>
			{/if}
			<span class="w-48"
				><Choice label="How quick" value={speed} options={SPEEDS} commit={(v) => (speed = v ?? '60')} /></span
			>
			<button class="btn btn-outline" onclick={() => void ask({ stand_in: { speed: Number(speed) } })}
				>Start a simulated plant</button
			>
		</span>
	{/if}
	{#if said}<span class="w-full text-small text-doubt" role="alert">{said}</span>{/if}
	{#if plant && !plant.worker}<span class="w-full text-small text-doubt"
			>Nobody works in the background: start it with ./start.</span
		>{/if}
	{#if plant && !plant.watched && !plant.listed.length}<span class="w-full note"
			>Real gateways are read at addresses listed at the start alone: ./start --gateway 192.0.2.10:502</span
		>{/if}
</div>
