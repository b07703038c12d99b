<script lang="ts">
	import { clock } from '$lib/charts/dayStrip';
	import TextField from '$lib/parts/TextField.svelte';
	/**
	 * A time of the day, kept as minutes since midnight; midnight at the end of a day is 24:00, typed 00:00. It is taken when the
	 * hand is done with it: a browser says a new time after every figure that is typed.
	 */
	let { value, label, commit }: { value: number; label: string; commit: (minute: number) => unknown } = $props();

	function take(text: string): Promise<boolean> | void {
		const parts = /^(\d{1,2}):(\d{2})/.exec(text);
		if (!parts) return;
		const minute = Number(parts[1]) * 60 + Number(parts[2]);
		if (minute !== value % 1440) return commit(minute) as Promise<boolean> | void;
	}
</script>

<TextField type="time" {label} value={clock(value % 1440)} commit={take} />
