<script lang="ts">
	import { api } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import Tabs from '$lib/parts/Tabs.svelte';
	import CleanView from '$lib/water/CleanView.svelte';
	import DayView from '$lib/water/DayView.svelte';
	import FitsView from '$lib/water/FitsView.svelte';
	import SizesView from '$lib/water/SizesView.svelte';
	import StoreFields from '$lib/water/StoreFields.svelte';
	import WarmthView from '$lib/water/WarmthView.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const water = $derived(design?.hot_water);
	type View = 'day' | 'size' | 'warm' | 'clean' | 'fits';
	let view = $state<View>('day');
	const VIEWS: { key: View; label: string }[] = [
		{ key: 'day', label: 'Its day' },
		{ key: 'size', label: 'How large' },
		{ key: 'warm', label: 'How warm' },
		{ key: 'clean', label: 'Kept clean' },
		{ key: 'fits', label: 'Place and main' }
	];
	const path = { params: { path: { job_id: frame.session.id } } };
	const days = new Slow(() => api.GET('/api/jobs/{job_id}/water-days', path));
	const found = $derived(days.found?.water_days);
	$effect(() => {
		if (session.settled) days.ask();
	});
	const sentence = $derived(view === 'fits' || !found ? undefined : found.sentence);
</script>

<Head title="Hot water" screen="hot-water" {sentence} />

{#if !session.scheme}
	<p class="grid max-w-[52ch] justify-items-start gap-4 px-0 py-12.5 text-lead">
		As found there is no new store. Choose a scheme at the top left to size one.
	</p>
{:else if water}
	<div class="grid grid-cols-[minmax(0,1fr)_300px] gap-6.5 narrow:grid-cols-[1fr]">
		<div class="min-w-0">
			<Tabs label="What of the hot water" tabs={VIEWS} shown={view} take={(key) => (view = key)} />
			{#if view === 'fits'}<FitsView {water} />
			{:else if found}
				{#if days.refused}<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">{days.refused}</p>{/if}
				<div class:opacity-60={days.busy} aria-busy={days.busy}>
					{#if view === 'day'}<DayView {found} />
					{:else if !found.days.length}<p class="py-5 text-lead">
							Who lives here, a store's litres and a climate: then its day is worked out.
						</p>
					{:else if view === 'size'}<SizesView {found} {water} />
					{:else if view === 'warm'}<WarmthView {found} {water} />
					{:else}<CleanView {found} />{/if}
				</div>
			{:else}<p class="py-5">
					{#if days.refused}{days.refused}{:else}<span class="loading mr-2 loading-dots"></span>The store's day is
						worked out.{/if}
				</p>{/if}
		</div>
		<section class="grid content-start gap-2.25">
			<StoreFields {water} />
			<Cautions cautions={design?.cautions['hot-water'] ?? []} />
		</section>
	</div>
{/if}
