<script lang="ts">
	import { onMount, type Snippet } from 'svelte';
	let { label, onclose, children }: { label: string; onclose: () => void; children: Snippet } = $props();
	let dialog: HTMLDialogElement | undefined = $state();
	// in the top layer: what lies beneath can neither be reached nor read until it is closed
	onMount(() => dialog?.showModal());
</script>

<dialog class="modal items-start" bind:this={dialog} aria-label={label} {onclose}>
	<div
		class="modal-box mt-[11vh] flex max-h-[78vh] w-[min(480px,92vw)] flex-col rounded-md border border-ink bg-paper px-3.5 py-3"
	>
		{@render children()}
	</div>
	<form method="dialog" class="modal-backdrop"><button>Close</button></form>
</dialog>
