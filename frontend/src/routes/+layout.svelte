<script lang="ts">
	import '@fontsource-variable/atkinson-hyperlegible-next';
	import '@fontsource-variable/bricolage-grotesque';
	import '../theme.css';
	import { onMount } from 'svelte';
	import { theme } from '$lib/frame.svelte';
	let { children } = $props();
	onMount(() => theme.start());
</script>

{@render children()}
