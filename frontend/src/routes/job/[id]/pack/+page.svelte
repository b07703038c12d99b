<script lang="ts">
	import { onMount } from 'svelte';
	import { api } from '$lib/api/client';
	import { Issued } from '$lib/handover/issued.svelte';
	import IssuedList from '$lib/handover/IssuedList.svelte';
	import OwnPapers from '$lib/handover/OwnPapers.svelte';
	import Plates from '$lib/handover/Plates.svelte';
	import Records from '$lib/handover/Records.svelte';
	import Review from '$lib/handover/Review.svelte';
	import Upkeep from '$lib/handover/Upkeep.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import Tabs from '$lib/parts/Tabs.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const asked = new Slow(() => api.GET('/api/jobs/{job_id}/pack', { params: { path: { job_id: frame.session.id } } }));
	const found = $derived(asked.found?.pack);
	const issued = new Issued(() => frame.session, 'pack');
	onMount(() => issued.listen());
	$effect(() => {
		if (session.settled) asked.ask();
	});
	$effect(() => {
		if (session.version) void issued.look();
	});
	type View = 'records' | 'papers' | 'plates' | 'review' | 'upkeep';
	let view = $state<View>('records');
	const VIEWS: { key: View; label: string }[] = [
		{ key: 'records', label: 'Records' },
		{ key: 'papers', label: 'Papers of others' },
		{ key: 'plates', label: 'Serial numbers' },
		{ key: 'review', label: 'Questions and review' },
		{ key: 'upkeep', label: 'Maintenance' }
	];
	const handover = $derived(session.job?.handover ?? {});
	const put = (path: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`/handover/${path}`, value));
</script>

<Head title="Pack" screen="pack" sentence={found?.sentence}>
	<a class="btn btn-outline" href={`/api/jobs/${session.id}/report?kind=pack`} target="_blank" rel="noopener"
		>Open the index</a
	>
	<button class="btn btn-primary" disabled={issued.asked || !found} onclick={() => void issued.issue()}
		>Issue the pack</button
	>
</Head>

{#if found}
	{#if asked.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{asked.refused}</p>{/if}
	<div class="grid grid-cols-[minmax(0,1fr)_290px] gap-7 narrow:grid-cols-[1fr]">
		<div class="min-w-0" class:opacity-60={asked.busy} aria-busy={asked.busy}>
			<Tabs shown={view} tabs={VIEWS} label="The pack" take={(key) => (view = key)} />
			{#if view === 'records'}<Records {found} turn={(key) => (view = key)} />
			{:else if view === 'papers'}<OwnPapers />
			{:else if view === 'plates'}<Plates {found} />
			{:else if view === 'review'}<Review {found} />
			{:else}<Upkeep />{/if}
		</div>
		<section class="grid content-start gap-2.5">
			<h2>Issued</h2>
			<IssuedList lines={issued.mine} what="Pack" />
			<h2 class="mt-2">The hand-over</h2>
			<label class="text-small text-muted"
				>For whom<TextField label="For whom" value={handover.customer} commit={put('customer', 'Customer')} /></label
			>
			<label class="text-small text-muted"
				>Day of the hand-over<TextField
					type="date"
					label="Day of the hand-over"
					value={handover.handed_over}
					commit={put('handed_over', 'Day of the hand-over')}
				/></label
			>
			<label class="text-small text-muted"
				>Whom they call<TextField
					label="Whom they call"
					value={handover.contact}
					commit={put('contact', 'Whom they call')}
				/></label
			>
			<Cautions cautions={session.shown?.cautions.pack ?? []} />
		</section>
	</div>
{:else}<p class="py-5">
		{#if asked.refused}{asked.refused}{:else}<span class="loading mr-2 loading-dots"></span>Every record is looked at.{/if}
	</p>{/if}
