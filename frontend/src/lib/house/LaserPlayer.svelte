<script lang="ts">
	import { onDestroy } from 'svelte';
	/** A stand-in for the laser, in the sample company only: it types a measuring script into the wanted number,
	 * through the same keys a laser would send. */
	let { target }: { target: HTMLInputElement | undefined } = $props();
	const SAMPLE = 'Back bedroom\n2.41\n3.62\n2.94\n\n1.21\n1.05\n\n1.20\n0.60\n1.85\n\n';
	let open = $state(false);
	let script = $state(SAMPLE);
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

<details bind:open class="player">
	<summary class="note">No laser at hand? A player types a script (sample company)</summary>
	<textarea
		class="field"
		rows="5"
		bind:value={script}
		aria-label="Measuring script, a line for each key press of the laser"></textarea>
	<div class="acts">
		<button class="act" onclick={step}>Step</button>
		<button class="act" onclick={play}>{timer ? 'Hold' : 'Play'}</button>
		<button class="quiet" onclick={() => (stop(), (line = 0))}>From the top</button>
		<span class="note">line {Math.min(line + 1, lines.length)} of {lines.length}</span>
	</div>
</details>

<style>
	.player {
		border-top: 1px solid var(--hairline);
		padding-top: 4px;
	}
	summary {
		min-height: 32px;
		display: flex;
		align-items: center;
	}
	textarea {
		min-height: 96px;
		font-variant-numeric: tabular-nums;
	}
	.acts {
		display: flex;
		gap: 8px;
		align-items: center;
		margin-top: 6px;
	}
</style>
