<script lang="ts">
	import { clock } from '$lib/charts/dayStrip';
	/** A time of the day, kept as minutes since midnight; midnight at the end of a day is 24:00, typed 00:00. */
	let { value, label, commit }: { value: number; label: string; commit: (minute: number) => unknown } = $props();
	const shown = $derived(clock(value % 1440));

	function take(text: string): void {
		const parts = /^(\d{1,2}):(\d{2})/.exec(text);
		if (!parts) return;
		const minute = Number(parts[1]) * 60 + Number(parts[2]);
		if (minute !== value % 1440) void commit(minute);
	}
</script>

<input
	type="time"
	class="input w-full bg-sheet"
	aria-label={label}
	value={shown}
	onchange={(event) => take(event.currentTarget.value)}
/>
