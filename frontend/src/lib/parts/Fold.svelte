<script lang="ts">
	import type { Snippet } from 'svelte';
	let {
		title,
		strong = false,
		opened,
		children
	}: { title: string; strong?: boolean; opened?: () => void; children: Snippet } = $props();
</script>

<details class="collapse-arrow collapse rounded-none" ontoggle={(event) => event.currentTarget.open && opened?.()}>
	<summary
		class={[
			'collapse-title flex min-h-8 items-center px-0 py-1 ps-5 after:start-1 after:end-auto touch:min-h-12',
			strong ? 'text-body font-bold' : 'text-small text-muted'
		]}>{title}</summary
	>
	<div class="collapse-content overflow-x-auto px-0">{@render children()}</div>
</details>
