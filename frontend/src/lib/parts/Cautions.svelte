<script lang="ts">
	import type { Caution } from '$lib/api/client';
	let { cautions, brief = false }: { cautions: Caution[]; brief?: boolean } = $props();
</script>

{#if cautions.length}
	<section class="cautions" aria-label="Cautions">
		{#each cautions as caution (caution.id)}
			<p>
				<strong>{caution.hazard}.</strong>
				{caution.what}
				{#if !brief}{caution.who} <span class="rule">{caution.rule}</span>{:else}{caution.who}{/if}
			</p>
		{/each}
	</section>
{/if}

<style>
	.cautions {
		border-left: 6px solid var(--short);
		padding: 2px 0 2px 12px;
		display: grid;
		gap: 5px;
		font-size: var(--small);
		line-height: 1.35;
	}
	.rule {
		color: var(--muted);
	}
</style>
