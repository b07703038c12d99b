<script lang="ts" generics="K extends string">
	let {
		shown,
		tabs,
		label,
		take
	}: { shown: K; tabs: { key: K; label: string }[]; label: string; take: (key: K) => void } = $props();
	function turn(event: KeyboardEvent): void {
		const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
		if (!step) return;
		const n = tabs.findIndex((tab) => tab.key === shown);
		const next = tabs[(n + step + tabs.length) % tabs.length]!;
		take(next.key);
		document.getElementById(`tab-${next.key}`)?.focus();
		event.preventDefault();
	}
</script>

<div class="mb-3 tabs gap-1 border-b border-b-ink" role="tablist" aria-label={label}>
	{#each tabs as tab (tab.key)}
		<button
			role="tab"
			id={`tab-${tab.key}`}
			class="tab px-3 text-ink aria-selected:bg-ink aria-selected:font-semibold aria-selected:text-paper touch:min-h-12"
			aria-selected={shown === tab.key}
			tabindex={shown === tab.key ? 0 : -1}
			onkeydown={turn}
			onclick={() => take(tab.key)}>{tab.label}</button
		>
	{/each}
</div>
