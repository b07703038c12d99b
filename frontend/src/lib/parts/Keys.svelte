<script lang="ts">
	import Dialog from './Dialog.svelte';
	import { SCREENS } from '$lib/job/screens';
	let { onclose }: { onclose: () => void } = $props();
	const rows: [string, string][] = [
		['/', 'jump to a room, screen or figure'],
		...SCREENS.map((s): [string, string] => [s.shortcut, s.label]),
		['Ctrl Z', 'undo the last change (in a field: the typing first)'],
		['Ctrl Shift Z', 'redo'],
		['f', 'findings'],
		['d', 'day or dusk'],
		['Esc', 'close, or clear what the last edit did'],
		['?', 'this list']
	];
</script>

<Dialog label="Keys" {onclose}>
	<div class="head">
		<h2>Keys</h2>
		<!-- svelte-ignore a11y_autofocus -->
		<button class="quiet" autofocus onclick={onclose}>Close</button>
	</div>
	<dl>
		{#each rows as [key, what] (key)}
			<dt><kbd>{key}</kbd></dt>
			<dd>{what}</dd>
		{/each}
	</dl>
	<p class="note">
		Walking a room: ← ↑ → turn at the last corner, d a diagonal (or door), s a slope from this wall, x the last two
		numbers changed round, Backspace the last one again, Enter alone goes on.
	</p>
	<p class="note">
		How a value is known, typed after it: ! measured, = read, ~ told, ? inferred, * assumed. On the plan: arrows slide a
		room, j joins it, q turns it.
	</p>
	<p class="note">
		Single keys work outside fields. Lengths take 1.2, 1200mm or 4' 2 3/8"; a comma is as good as a point.
	</p>
</Dialog>

<style>
	.head {
		display: flex;
		justify-content: space-between;
	}
	dl {
		display: grid;
		grid-template-columns: 110px 1fr;
		gap: 5px 12px;
		margin: 8px 0;
	}
	kbd {
		font:
			600 var(--small) 'Atkinson Hyperlegible Next Variable',
			sans-serif;
		border: 1px solid var(--hairline);
		border-radius: 4px;
		padding: 1px 7px;
		background: var(--sheet);
	}
</style>
