<script lang="ts">
	import type { Wrong } from './files';
	let { wrong, close }: { wrong: Wrong; close: () => void } = $props();
	const SHOWN = 8;
</script>

<div class="mb-2.5 border-l-6 border-l-heat bg-sheet px-3.5 py-2" role="alert">
	<strong>{wrong.message}</strong>
	{#each wrong.places.slice(0, SHOWN) as place (place)}<p class="note">{place}</p>{/each}
	{#if wrong.places.length > SHOWN}<p class="note">and {wrong.places.length - SHOWN} more</p>{/if}
	<button class="btn btn-quiet" onclick={close}>Close</button>
</div>
