<script lang="ts">
	import type { Snippet } from 'svelte';
	import type { IssuedLine } from '$lib/api/client';
	import { day } from '$lib/parts/format';
	let { lines, what, more }: { lines: IssuedLine[]; what: string; more?: Snippet<[IssuedLine]> } = $props();
</script>

{#each lines as one (one.id)}
	<article class="grid gap-1 border-t border-t-hairline pt-2" data-issued={one.state}>
		<p class="flex flex-wrap items-baseline gap-x-3">
			<b>{what} {one.number}</b><span class="note"
				>{day(one.at)}, version {one.version}{one.until ? `, holds until ${day(one.until)}` : ''}</span
			>{#if one.accepted}<b class="text-meets"
					>accepted: {one.accepted.label}, {one.accepted.by}, {day(one.accepted.day)}</b
				>{/if}
		</p>
		{#if one.differs.length}
			<div class="rounded-sm px-2.5 py-1.5 hatch-doubt">
				<b>The design has moved since:</b>
				{one.differs.join('; ')}. What was issued stays as it was.
			</div>
		{:else}<p class="note">As the job stands now.</p>{/if}
		<div class="flex flex-wrap items-center gap-2">
			{#if one.state === 'ready'}<a class="btn btn-outline" href={`/api/papers/${one.id}/file`} download
					>Take it ({one.kind === 'pack' ? 'ZIP' : 'PDF'})</a
				>
			{:else if one.state === 'failed'}<span class="rounded-sm px-2.5 py-1.5 hatch-short"
					>Its file could not be written: {one.step}</span
				>
			{:else}<progress
					class="progress h-2.5 w-40 progress-primary"
					max="100"
					value={Math.max(one.progress, 4)}
					aria-label={one.step}
				></progress><span class="note" role="status">{one.step}</span>{/if}
			{#if more}{@render more(one)}{/if}
		</div>
		<p class="note">Engine {one.engine}, fingerprint {one.fingerprint.slice(0, 12)}</p>
	</article>
{:else}<p class="note">
		None yet. What is issued is kept as it was, with its version and the fingerprint of job and design.
	</p>{/each}
