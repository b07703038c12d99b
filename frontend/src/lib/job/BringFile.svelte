<script lang="ts">
	let { label, hint, accept, take }: { label: string; hint: string; accept: string; take: (file: File) => void } =
		$props();
	function taken(event: Event & { currentTarget: HTMLInputElement }): void {
		const file = event.currentTarget.files?.[0];
		if (file) take(file);
		event.currentTarget.value = '';
	}
</script>

<label class="bring">{hint}<input type="file" {accept} aria-label={label} onchange={taken} /></label>

<style>
	.bring {
		position: relative;
		border: 1px dashed var(--muted);
		border-radius: 5px;
		padding: 4px 10px;
		cursor: pointer;
		min-height: 34px;
		display: inline-flex;
		align-items: center;
	}
	.bring input {
		position: absolute;
		inset: 0;
		opacity: 0;
		cursor: pointer;
	}
	.bring:focus-within {
		outline: 3px solid var(--water);
	}
	@media (pointer: coarse) {
		.bring {
			min-height: 48px;
		}
	}
</style>
