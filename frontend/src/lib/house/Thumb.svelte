<script lang="ts">
	import { photoSource } from './photos';
	let { sha256, size = 'thumb', alt = '' }: { sha256: string; size?: 'thumb' | 'view'; alt?: string } = $props();
	let source = $state('');
	$effect(() => {
		void photoSource(sha256, size).then((url) => (source = url));
	});
</script>

{#if source}<img src={source} {alt} />{/if}

<style>
	img {
		width: 100%;
		height: 100%;
		object-fit: cover;
	}
</style>
