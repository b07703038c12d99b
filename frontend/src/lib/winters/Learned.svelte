<script lang="ts">
	import type { WinterFound } from '$lib/api/client';
	import type { Operation } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { num } from '$lib/parts/format';
	/** What the winter says of the doubts: proposals somebody takes or leaves. */
	let { found, by = 'the winter' }: { found: Pick<WinterFound, 'proposals'>; by?: string } = $props();
	const session = $derived(useFrame().session);
	const share = (v: number): string => `${num(v * 100)} %`;
</script>

{#each found.proposals as p (p.key)}
	<div class="grid gap-0.5 border-t border-t-hairline pt-1.5" data-proposal={p.key}>
		<p><b>{p.says}.</b></p>
		<p class="note">
			Of what was told: {share(p.before.low)} to {share(p.before.high)} before, {share(p.after.low)} to {share(
				p.after.high
			)} now.
		</p>
		{#if p.operations.length}<p>
				<button
					class="btn btn-outline"
					onclick={() =>
						void session.edit(`By ${by}: ${p.label}`, (d) => d.follow(p.operations as unknown as Operation[]))}
					>Take it: {p.take_label}</button
				>
			</p>{/if}
	</div>
{:else}<p class="note">Nothing of it moves a doubt.</p>{/each}
<p class="note">
	Every sampled house is weighed by how well it fits what was measured. Taken or left, it is a proposal: what is taken
	is one edit, and undone like any.
</p>
