<script lang="ts">
	import { clock } from '$lib/parts/format';
	import { amount, fig, unitName } from '$lib/parts/units';
	import { useFrame } from './frame.svelte';
	import Delta from '$lib/parts/Delta.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const range = $derived(frame.doubts.found?.doubts.house ?? null);
	const oldRange = $derived((frame.doubts.found?.version ?? 0) !== session.version || session.preview !== null);
</script>

<footer
	class="col-span-full grid min-h-17 grid-cols-[196px_minmax(0,1.42fr)_repeat(5,minmax(0,1fr))] bg-bar text-bar-text small:grid-cols-3"
	class:stale={session.stale}
	aria-label="The chain in six figures"
>
	<div
		class="flex min-w-0 flex-col justify-between pt-2.25 pr-2.5 pb-2 pl-4 text-small text-bar-muted small:col-span-full small:flex-row small:border-b small:border-b-bar-line phone:py-0.5 phone:pl-2"
	>
		{#if session.saving === 'waiting'}
			<span class="text-bar-bad" role="status"
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
		{#if session.aside.length}<button
				class="aside min-h-6 text-left text-bar-bad underline"
				onclick={() => frame.showAside()}
				>{session.aside.length} edit{session.aside.length > 1 ? 's' : ''} set aside</button
			>{/if}
		<span class="flex min-w-0 gap-2.5">
			<button
				class="min-h-7 overflow-hidden text-ellipsis whitespace-nowrap text-bar-text underline decoration-bar-muted underline-offset-3 disabled:no-underline"
				disabled={!session.canUndo}
				onclick={() => session.takeBack('undo')}
				title="Ctrl+Z"
			>
				Undo{session.undoLabel ? `: ${session.undoLabel}` : ''}
			</button>
			{#if session.canRedo}
				<button
					class="min-h-7 overflow-hidden text-ellipsis whitespace-nowrap text-bar-text underline decoration-bar-muted underline-offset-3 disabled:no-underline"
					onclick={() => session.takeBack('redo')}
					title="Ctrl+Shift+Z">Redo</button
				>
			{/if}
		</span>
	</div>
	{#each design?.headline ?? [] as figure (figure.key)}
		<button
			class="min-w-0 border-l border-l-bar-line px-3 pt-2.25 pb-1.75 text-left -outline-offset-4 hover:bg-bar-chip focus-visible:[outline-color:var(--bar-text)] phone:px-2 phone:pt-1 phone:pb-0.5 [&.on]:bg-bar-chip"
			class:on={frame.workingKey === figure.working}
			aria-label={`${figure.label}: ${figure.value === null ? figure.lacks : amount(figure.value, figure.unit, figure.digits)}. Show the working.`}
			onclick={() => frame.showWorking(figure.working)}
			data-figure={figure.key}
		>
			<span class="block overflow-hidden text-small text-ellipsis whitespace-nowrap text-bar-muted">{figure.label}</span
			>
			<span class="flex min-h-7 flex-wrap items-center gap-1.75 phone:min-h-6 phone:gap-1">
				{#if figure.value === null}
					<span class="text-body text-bar-bad">{figure.lacks || 'not yet'}</span>
				{:else}
					<span class="figure text-[23px] leading-[1.15] font-bold whitespace-nowrap phone:text-[17px]"
						>{fig(figure.value, figure.unit, figure.digits)}<span
							class="u ml-0.75 text-bar-muted [font:400_var(--small)_'Atkinson_Hyperlegible_Next_Variable',_sans-serif]"
							>{unitName(figure.unit)}</span
						></span
					>
				{/if}
				{#if figure.key === 'loss' && range}<span
						class="between num rounded-[9px] border border-bar-muted px-1.75 py-0 text-small whitespace-nowrap phone:border-0 phone:px-0"
						class:old={oldRange}
						title={oldRange ? 'for the previous edit' : 'P10 to P90'}
						>{fig(range.p10_w / 1000, 'kW', 1)}–{fig(range.p90_w / 1000, 'kW', 1)}</span
					>{/if}
				{#if figure.mark}<span class="badge border-bar-bad bg-transparent px-1.5 badge-sm text-small text-bar-bad"
						>{figure.mark}</span
					>{/if}
				<Delta
					move={session.effect?.headline[figure.key]}
					digits={figure.key === 'loss' ? 2 : figure.digits}
					unit={figure.unit}
					better={figure.better}
					onBar
				/>
			</span>
		</button>
	{/each}
</footer>

<style>
	.between.old,
	.stale .figure {
		opacity: 0.5;
	}
</style>
