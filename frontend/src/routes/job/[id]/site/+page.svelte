<script lang="ts">
	import AboutJob from '$lib/house/AboutJob.svelte';
	import HouseParts from '$lib/house/HouseParts.svelte';
	import Surroundings from '$lib/house/Surroundings.svelte';
	import Practice from '$lib/job/Practice.svelte';
	import { ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { copyScheme } from '$lib/job/schemes';
	import Head from '$lib/parts/Head.svelte';
	import HistoryList from '$lib/job/HistoryList.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	function dropScheme(id: string): void {
		void session.edit('Scheme removed', (d) => {
			if (d.job.active_scheme === id) d.set('/active_scheme', null);
			d.remove(`/schemes/${id}`);
		});
	}
</script>

<Head title="Site and practice" screen="site" />

<div class="grid small-labels grid-cols-[1fr_1.15fr_1fr] gap-7.5 narrow:grid-cols-[1fr]">
	<section class="grid content-start gap-2">
		<AboutJob />
		<h2 class="mt-2">Schemes</h2>
		<p class="note">As found never changes with a scheme; each scheme lies over it.</p>
		{#each ordered(job.schemes) as [id, scheme] (id)}
			<div class="flex items-center gap-2">
				<TextField
					label={`Name of scheme ${scheme.label}`}
					value={scheme.label}
					commit={(v) => session.edit('Scheme renamed', (d) => d.set(`/schemes/${id}/label`, v))}
				/>
				<button class="btn btn-quiet" onclick={() => dropScheme(id)} aria-label={`Remove scheme ${scheme.label}`}
					>remove</button
				>
			</div>
		{/each}
		<div>
			<button class="btn btn-outline" onclick={() => copyScheme(session)}
				>{session.scheme ? 'Copy this scheme' : 'New scheme'}</button
			>
		</div>

		<Surroundings />
	</section>
	<section class="grid content-start gap-2">
		<HouseParts />
	</section>
	<section class="grid content-start gap-2">
		<Practice />
		<h2 class="mt-2">What was done</h2>
		<HistoryList />
	</section>
</div>
