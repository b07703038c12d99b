<script lang="ts">
	import { pieces } from './format';
	let { text, small = false }: { text: string; small?: boolean } = $props();
</script>

<p class={small ? 'note' : 'lead'}>
	{#each pieces(text) as piece, n (n)}{#if piece.strong}<strong class="font-bold">{piece.text}</strong
			>{:else}{piece.text}{/if}{/each}
</p>

<style>
	.lead {
		font-size: var(--lead);
		max-width: 96ch;
	}
</style>
