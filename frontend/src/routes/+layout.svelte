<script lang="ts">
	import '@fontsource-variable/atkinson-hyperlegible-next';
	import '@fontsource-variable/bricolage-grotesque';
	import '../theme.css';
	import { onMount } from 'svelte';
	import { theme } from '$lib/job/frame.svelte';
	import { post } from '$lib/job/post.svelte';
	let { children } = $props();
	onMount(() => {
		post.start();
		return theme.start();
	});
</script>

{@render children()}
