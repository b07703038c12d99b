<script lang="ts">
	let {
		ask,
		label = ask,
		value,
		commit
	}: { ask: string; label?: string; value: boolean; commit: (on: boolean) => unknown } = $props();
</script>

<label class="flex min-h-9 items-center gap-2 text-small text-muted touch:min-h-12"
	><input
		type="checkbox"
		class="checkbox"
		aria-label={label === ask ? undefined : label}
		checked={value}
		onchange={(event) => void commit(event.currentTarget.checked)}
	/>{ask}</label
>
