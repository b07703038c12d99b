<script lang="ts">
	import { api } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import { day } from '$lib/parts/format';
	import Sentence from '$lib/parts/Sentence.svelte';
	/** What is looked after by what is fitted, for the customer's calendar. */
	const frame = useFrame();
	const session = $derived(frame.session);
	const asked = new Slow(() =>
		api.GET('/api/jobs/{job_id}/upkeep', { params: { path: { job_id: frame.session.id } } })
	);
	const found = $derived(asked.found?.upkeep);
	$effect(() => {
		if (session.settled) asked.ask();
	});
</script>

{#if found?.lacks}<p class="py-4 text-lead">{found.lacks}</p>
{:else if found}
	<Sentence text={found.sentence} />
	{#if found.assumed}<p class="my-1 rounded-sm px-2.5 py-1.5 hatch-doubt">
			Nobody has said the day of the hand-over: the plan counts from today.
		</p>{/if}
	<a class="btn my-2 btn-outline" href={`/api/jobs/${session.id}/upkeep.ics`} download>For the calendar (iCalendar)</a>
	{#if found.gone.length}<p class="note">
			{found.gone.length} of an earlier issue {found.gone.length === 1 ? 'is' : 'are'} no longer needed and called off in
			it.
		</p>{/if}
	<div class="overflow-x-auto">
		<table class="table table-figures">
			<thead><tr><th>What</th><th>First</th><th>Then</th><th>How</th><th>Who</th></tr></thead>
			<tbody
				>{#each found.items as one (one.uid)}<tr
						><td><b>{one.label}</b><span class="block note">{one.why}</span></td><td class="whitespace-nowrap"
							>{day(one.first)}</td
						><td class="whitespace-nowrap">{one.said}</td><td
							>{one.how}.<span class="block note">{one.caution.line}</span></td
						><td>{one.who}</td></tr
					>{/each}</tbody
			>
		</table>
	</div>
	<p class="note">Intervals are common practice; the makers' manuals go before them.</p>
{:else}<p class="note" aria-busy="true">{asked.refused ?? 'The plan is being laid out.'}</p>{/if}
