<script lang="ts">
	import { onDestroy } from 'svelte';
	import { system } from '$lib/parts/units';
	/** A stand-in for the laser, in the sample company only: it types a measuring script into the wanted number,
	 * through the same keys a laser would send. */
	let { target }: { target: HTMLInputElement | undefined } = $props();
	const SAMPLE = 'Back bedroom\n2.41\n3.62\n2.94\n\n1.21\n1.05\n\n1.20\n0.60\n1.85\n\n';
	let open = $state(false);
	// a laser says its unit where the job's is another
	let script = $state(system.feet ? SAMPLE.replace(/(\d)$/gm, '$1 m') : SAMPLE);
	let line = $state(0);
	let timer: ReturnType<typeof setInterval> | undefined = $state();
	const lines = $derived(script.split('\n'));

	function type(text: string): void {
		if (!target) return;
		for (const letter of text) {
			target.dispatchEvent(new KeyboardEvent('keydown', { key: letter, bubbles: true }));
			target.value += letter;
			target.dispatchEvent(new Event('input', { bubbles: true }));
		}
		target.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
	}
	function step(): void {
		if (line >= lines.length - 1 && (lines[line] ?? '') === '') return stop();
		type(lines[line] ?? '');
		line += 1;
	}
	function stop(): void {
		clearInterval(timer);
		timer = undefined;
	}
	function play(): void {
		if (timer) return stop();
		timer = setInterval(step, 1400);
		step();
	}
	onDestroy(stop);
</script>

<details bind:open class="border-t border-t-hairline pt-1">
	<summary class="flex min-h-8 items-center note">No laser at hand? A player types a script (sample company)</summary>
	<textarea
		class="textarea min-h-24 w-full bg-sheet tabular-nums"
		rows="5"
		bind:value={script}
		aria-label="Measuring script, a line for each key press of the laser"></textarea>
	<div class="mt-1.5 flex items-center gap-2">
		<button class="btn btn-outline" onclick={step}>Step</button>
		<button class="btn btn-outline" onclick={play}>{timer ? 'Hold' : 'Play'}</button>
		<button class="btn btn-quiet" onclick={() => (stop(), (line = 0))}>From the top</button>
		<span class="note">line {Math.min(line + 1, lines.length)} of {lines.length}</span>
	</div>
</details>
