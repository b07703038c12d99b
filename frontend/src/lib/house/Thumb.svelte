<script lang="ts">
	import { photoSource } from './photos';
	let { sha256, size = 'thumb', alt = '' }: { sha256: string; size?: 'thumb' | 'view'; alt?: string } = $props();
	let source = $state('');
	$effect(() => {
		void photoSource(sha256, size).then((url) => (source = url));
	});
</script>

{#if source}<img class="h-full w-full object-cover" src={source} {alt} />{/if}
