<script lang="ts">
	let {
		value,
		label,
		placeholder = '',
		strong = false,
		commit
	}: {
		value: string | null | undefined;
		label: string;
		placeholder?: string;
		strong?: boolean;
		commit: (value: string) => Promise<boolean> | void;
	} = $props();
	let typed = $state<string | null>(null);

	async function take(): Promise<void> {
		if (typed === null) return;
		const text = typed.trim();
		if (text !== (value ?? '')) await commit(text);
		typed = null;
	}
</script>

<input
	class="field"
	class:strong
	autocomplete="off"
	maxlength="200"
	aria-label={label}
	{placeholder}
	value={typed ?? value ?? ''}
	oninput={(event) => (typed = event.currentTarget.value)}
	onblur={take}
	onkeydown={(event) => {
		if (event.key === 'Enter') void take();
		if (event.key === 'Escape') typed = null;
	}}
/>

<style>
	.strong {
		font-weight: 600;
	}
</style>
