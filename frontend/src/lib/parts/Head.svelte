<script lang="ts">
	import type { Snippet } from 'svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import type { ScreenKey } from '$lib/job/screens';
	import Sentence from './Sentence.svelte';
	let {
		title,
		screen,
		sentence,
		children
	}: { title: string; screen: ScreenKey; sentence?: string; children?: Snippet } = $props();
	const frame = useFrame();
</script>

<header class="head">
	<div>
		<h1>{title}</h1>
		<Sentence text={sentence ?? frame.session.shown?.sentences[screen] ?? ''} />
	</div>
	{#if children}<div class="acts">{@render children()}</div>{/if}
</header>

<style>
	.head {
		display: flex;
		justify-content: space-between;
		align-items: start;
		gap: 20px;
		margin-bottom: 12px;
	}
	.acts {
		flex: none;
		max-width: 52%;
		display: flex;
		gap: 8px;
		padding-top: 2px;
		flex-wrap: wrap;
		justify-content: end;
	}
</style>
