<script lang="ts">
	import type { Caution } from '$lib/api/client';
	let { cautions, brief = false }: { cautions: Caution[]; brief?: boolean } = $props();
</script>

{#if cautions.length}
	<section
		class="cautions grid gap-1.25 border-l-6 border-l-short pt-0.5 pr-0 pb-0.5 pl-3 text-small leading-[1.35]"
		aria-label="Cautions"
	>
		{#each cautions as caution (caution.id)}
			<p>
				<strong>{caution.hazard}.</strong>
				{caution.what}
				{#if !brief}{caution.who} <span class="text-muted">{caution.rule}</span>{:else}{caution.who}{/if}
			</p>
		{/each}
	</section>
{/if}
