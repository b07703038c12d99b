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
	<div class="flex justify-between">
		<h2>Keys</h2>
		<!-- svelte-ignore a11y_autofocus -->
		<button class="btn btn-quiet" autofocus onclick={onclose}>Close</button>
	</div>
	<dl class="my-2 grid grid-cols-[110px_1fr] gap-x-3 gap-y-1.25">
		{#each rows as [key, what] (key)}
			<dt>
				<kbd
					class="rounded-sm border border-hairline bg-sheet px-1.75 py-px [font:600_var(--small)_'Atkinson_Hyperlegible_Next_Variable',_sans-serif]"
					>{key}</kbd
				>
			</dt>
			<dd>{what}</dd>
		{/each}
	</dl>
	<p class="note">
		Walking a room: ← ↑ → turn at the last corner, d a diagonal (or door), s a slope from this wall, x the last two
		numbers changed round, Backspace the last one again, Enter alone goes on.
	</p>
	<p class="note">
		How a value is known, typed after it: ! measured, = read, ~ told, ? inferred, * assumed. On the plan: arrows slide a
		room, j joins it, q turns it, m mirrors its walk.
	</p>
	<p class="note">
		Single keys work outside fields. Lengths take 1.2, 1200mm or 4' 2 3/8"; a comma is as good as a point.
	</p>
</Dialog>
