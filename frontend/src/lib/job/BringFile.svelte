<script lang="ts">
	let { label, hint, accept, take }: { label: string; hint: string; accept: string; take: (file: File) => void } =
		$props();
	function taken(event: Event & { currentTarget: HTMLInputElement }): void {
		const file = event.currentTarget.files?.[0];
		if (file) take(file);
		event.currentTarget.value = '';
	}
</script>

<label
	class="relative inline-flex min-h-8.5 cursor-pointer items-center rounded-[5px] border border-dashed border-muted px-2.5 py-1 focus-within:[outline:3px_solid_var(--water)] pointer-coarse:min-h-12"
	>{hint}<input
		class="absolute inset-0 cursor-pointer opacity-0"
		type="file"
		{accept}
		aria-label={label}
		onchange={taken}
	/></label
>
