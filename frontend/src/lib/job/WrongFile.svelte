<script lang="ts">
	import type { Wrong } from './files';
	let { wrong, close }: { wrong: Wrong; close: () => void } = $props();
	const SHOWN = 8;
</script>

<div class="wrong" role="alert">
	<strong>{wrong.message}</strong>
	{#each wrong.places.slice(0, SHOWN) as place (place)}<p class="note">{place}</p>{/each}
	{#if wrong.places.length > SHOWN}<p class="note">and {wrong.places.length - SHOWN} more</p>{/if}
	<button class="quiet" onclick={close}>Close</button>
</div>

<style>
	.wrong {
		border-left: 6px solid var(--heat);
		background: var(--sheet);
		padding: 8px 14px;
		margin-bottom: 10px;
	}
</style>
