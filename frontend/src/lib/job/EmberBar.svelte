<script lang="ts">
	import { clock, num } from '$lib/parts/format';
	import { useFrame } from './frame.svelte';
	import Delta from '$lib/parts/Delta.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const range = $derived(frame.doubts.found?.doubts.house ?? null);
	const oldRange = $derived((frame.doubts.found?.version ?? 0) !== session.version || session.preview !== null);
</script>

<footer class="ember" class:stale={session.stale} aria-label="The chain in six figures">
	<div class="saved">
		{#if session.saving === 'waiting'}
			<span class="warn" role="status"
				>No line. {session.pending
					? `${session.pending} edit${session.pending > 1 ? 's' : ''} kept here, sent when it is back.`
					: 'Edits are kept here.'}</span
			>
		{:else if session.saving === 'sending'}
			<span role="status">The line is back: {session.pending} edit{session.pending === 1 ? '' : 's'} to send</span>
		{:else}
			<span
				>{session.saving === 'saving' ? 'Saving' : `Saved ${session.savedAt ? clock(session.savedAt) : ''}`} · version {session.version}</span
			>
		{/if}
		{#if session.aside.length}<button class="warn aside" onclick={() => frame.showAside()}
				>{session.aside.length} edit{session.aside.length > 1 ? 's' : ''} set aside</button
			>{/if}
		<span class="history">
			<button disabled={!session.canUndo} onclick={() => session.takeBack('undo')} title="Ctrl+Z">
				Undo{session.undoLabel ? `: ${session.undoLabel}` : ''}
			</button>
			{#if session.canRedo}
				<button onclick={() => session.takeBack('redo')} title="Ctrl+Shift+Z">Redo</button>
			{/if}
		</span>
	</div>
	{#each design?.headline ?? [] as figure (figure.key)}
		<button
			class="figurebox"
			class:on={frame.workingKey === figure.working}
			aria-label={`${figure.label}: ${figure.value === null ? figure.lacks : `${num(figure.value, figure.digits)} ${figure.unit}`}. Show the working.`}
			onclick={() => frame.showWorking(figure.working)}
			data-figure={figure.key}
		>
			<span class="name">{figure.label}</span>
			<span class="line">
				{#if figure.value === null}
					<span class="lacks">{figure.lacks || 'not yet'}</span>
				{:else}
					<span class="figure">{num(figure.value, figure.digits)}<span class="u">{figure.unit}</span></span>
				{/if}
				{#if figure.key === 'loss' && range}<span
						class="range num"
						class:old={oldRange}
						title={oldRange ? 'for the previous edit' : 'P10 to P90'}
						>{num(range.p10_w / 1000, 1)}–{num(range.p90_w / 1000, 1)}</span
					>{/if}
				<Delta
					move={session.effect?.headline[figure.key]}
					digits={figure.key === 'loss' ? 2 : figure.digits}
					better={figure.better}
					onBar
				/>
			</span>
		</button>
	{/each}
</footer>

<style>
	.ember {
		background: var(--bar);
		color: var(--bar-text);
		display: grid;
		grid-template-columns: 196px minmax(0, 1.42fr) repeat(5, minmax(0, 1fr));
		min-height: 68px;
	}
	.saved {
		padding: 9px 10px 8px 16px;
		font-size: var(--small);
		color: var(--bar-muted);
		display: flex;
		flex-direction: column;
		justify-content: space-between;
		min-width: 0;
	}
	.warn {
		color: var(--bar-bad);
	}
	.history {
		display: flex;
		gap: 10px;
		min-width: 0;
	}
	.history button {
		min-height: 28px;
		color: var(--bar-text);
		text-decoration: underline;
		text-underline-offset: 3px;
		text-decoration-color: var(--bar-muted);
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.history button:disabled {
		text-decoration: none;
	}
	.figurebox {
		text-align: left;
		padding: 9px 12px 7px;
		border-left: 1px solid var(--bar-line);
		min-width: 0;
		outline-offset: -4px;
	}
	.figurebox:focus-visible {
		outline-color: var(--bar-text);
	}
	.figurebox:hover,
	.figurebox.on {
		background: var(--bar-chip);
	}
	.name {
		display: block;
		font-size: var(--small);
		color: var(--bar-muted);
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.line {
		display: flex;
		align-items: center;
		gap: 7px;
		min-height: 28px;
		flex-wrap: wrap;
	}
	.figure {
		font-size: 23px;
		font-weight: 700;
		line-height: 1.15;
		white-space: nowrap;
	}
	.u {
		font:
			400 var(--small) 'Atkinson Hyperlegible Next Variable',
			sans-serif;
		color: var(--bar-muted);
		margin-left: 3px;
	}
	.range {
		border: 1px solid var(--bar-muted);
		border-radius: 9px;
		padding: 0 7px;
		font-size: var(--small);
		white-space: nowrap;
	}
	.range.old,
	.stale .figure {
		opacity: 0.5;
	}
	.aside {
		text-align: left;
		text-decoration: underline;
		min-height: 24px;
	}
	.lacks {
		color: var(--bar-bad);
		font-size: var(--text);
	}
	@media (max-width: 1000px) {
		.ember {
			grid-template-columns: repeat(3, minmax(0, 1fr));
		}
		.saved {
			grid-column: 1 / -1;
			flex-direction: row;
			border-bottom: 1px solid var(--bar-line);
		}
	}
</style>
