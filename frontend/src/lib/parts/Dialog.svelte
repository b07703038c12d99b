<script lang="ts">
	import type { Snippet } from 'svelte';
	let { label, onclose, children }: { label: string; onclose: () => void; children: Snippet } = $props();
</script>

<div class="veil" role="presentation" onclick={onclose}></div>
<div class="dialog" role="dialog" aria-modal="true" aria-label={label}>{@render children()}</div>

<style>
	.veil {
		position: fixed;
		inset: 0;
		background: color-mix(in srgb, var(--bar) 35%, transparent);
		z-index: 50;
	}
	.dialog {
		position: fixed;
		z-index: 51;
		top: 11vh;
		left: 50%;
		transform: translateX(-50%);
		width: min(480px, 92vw);
		background: var(--paper);
		border: 1px solid var(--ink);
		border-radius: 6px;
		padding: 12px 14px;
	}
</style>
