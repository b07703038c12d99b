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
	/** The application's own words; words of the trade are not explained here. */
	const words: [string, string][] = [
		['as found', 'the house before anything is changed; a scheme lies over it'],
		['scheme', 'a set of changes tried over the house as found; one is on show at a time'],
		['walk', 'a room measured along its walls: length, turn, length, turn'],
		['face', 'a wall, floor or ceiling of a room; what it touches it learns from the plan'],
		['waterline', 'the flow temperature of the design day, drawn through the water each room needs'],
		['short', 'a room, emitter or machine that gets less than it needs, hatched in yellow'],
		['doubt', 'a value nobody has measured, with the watts it may move; hatched in plum'],
		['how it is known', 'measured ●, read ■, told ◖, inferred ◇ or assumed ○: it sets the range of a figure'],
		['P10 to P90', 'nine times in ten the figure lies above the first, one time in ten above the second'],
		['bar', 'the six figures at the bottom: the chain in working order'],
		['part of the house', 'what of the house’s own loss is this room’s: mean wind, no heat traded between rooms'],
		['open water', 'what is left to circulate when every closing valve has shut'],
		['index', 'the circuit that takes the most head; the pump must serve it'],
		['school', 'one of several ways of the trade to reckon; every report says which was followed'],
		['set aside', 'an edit that met somebody else’s and waits for a decision'],
		['finding', 'what stands open, and what would mend it']
	];
	let shown = $state<'keys' | 'words'>('keys');
</script>

<Dialog label="Keys" {onclose}>
	<div class="flex shrink-0 justify-between">
		<div class="tabs" role="tablist" aria-label="Help">
			{#each [['keys', 'Keys'], ['words', 'Words']] as const as [key, label] (key)}
				<button
					role="tab"
					class="tab px-3 text-ink aria-selected:bg-ink aria-selected:font-semibold aria-selected:text-paper"
					aria-selected={shown === key}
					onclick={() => (shown = key)}>{label}</button
				>
			{/each}
		</div>
		<!-- svelte-ignore a11y_autofocus -->
		<button class="btn btn-quiet" autofocus onclick={onclose}>Close</button>
	</div>
	{#if shown === 'words'}
		<!-- what scrolls must be reached by the keyboard -->
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="min-h-0 overflow-auto" tabindex="0" role="group" aria-label="Words">
			<dl class="my-2 grid grid-cols-[130px_1fr] gap-x-3 gap-y-1.25">
				{#each words as [word, what] (word)}
					<dt class="font-semibold">{word}</dt>
					<dd>{what}</dd>
				{/each}
			</dl>
		</div>
	{:else}
		<!-- what scrolls must be reached by the keyboard -->
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="min-h-0 overflow-auto" tabindex="0" role="group" aria-label="Keys">
			<dl class="my-2 grid grid-cols-[110px_1fr] gap-x-3 gap-y-1.25">
				{#each rows as [key, what] (key)}
					<dt>
						<kbd class="kbd font-sans kbd-sm font-semibold">{key}</kbd>
					</dt>
					<dd>{what}</dd>
				{/each}
			</dl>
			<p class="note">
				Walking a room: ← ↑ → turn at the last corner, d a diagonal (or door), s a slope from this wall, x the last two
				numbers changed round, Backspace the last one again, Enter alone goes on.
			</p>
			<p class="note">
				How a value is known, typed after it: ! measured, = read, ~ told, ? inferred, * assumed. On the plan: arrows
				slide a room, j joins it, q turns it, m mirrors its walk.
			</p>
			<p class="note">
				Single keys work outside fields. Lengths take 1.2, 1200mm or 4' 2 3/8"; a comma is as good as a point.
			</p>
		</div>
	{/if}
</Dialog>
