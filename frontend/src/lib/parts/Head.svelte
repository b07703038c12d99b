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

<header class="mb-3 flex items-start justify-between gap-5">
	<div>
		<h1>{title}</h1>
		<Sentence text={sentence ?? frame.session.shown?.sentences[screen] ?? ''} />
	</div>
	{#if children}<div class="flex max-w-[52%] flex-none flex-wrap justify-end gap-2 pt-0.5">
			{@render children()}
		</div>{/if}
</header>
