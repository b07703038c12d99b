<script lang="ts">
	import type { Caution } from '$lib/api/client';
	import { page } from '$app/state';
	let { cautions }: { cautions: Caution[] } = $props();

	/** Cautions read before on this step of this job, on this machine: the first time they stand unfolded. */
	const key = `cinder-cautions ${page.url.pathname}`;
	const before = new Set((localStorage.getItem(key) ?? '').split(' '));
	$effect(() => localStorage.setItem(key, [...new Set([...before, ...cautions.map((c) => c.id)])].join(' ')));
</script>

{#if cautions.length}
	<section class="cautions border-l-6 border-l-short ps-3 text-small" aria-label="Cautions">
		{#each cautions as caution (caution.id)}
			<details class="collapse-arrow collapse rounded-none" open={!before.has(caution.id)}>
				<summary class="collapse-title min-h-7 py-1 ps-5 pe-0 after:start-1 after:end-auto touch:min-h-12 touch:py-3">
					<strong>{caution.hazard}.</strong>
					{caution.line}
				</summary>
				<p class="collapse-content ps-5 pe-0 pb-1.5 text-muted">
					{caution.what}
					{caution.who}
					{caution.rule}
				</p>
			</details>
		{/each}
	</section>
{/if}
