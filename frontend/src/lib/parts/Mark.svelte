<script lang="ts">
	import type { Known } from '$lib/api/client';
	import { HOWS, evidence, kindOf, type How } from '$lib/house/evidence';
	import { useFrame } from '$lib/job/frame.svelte';
	let {
		known,
		label,
		set,
		wide = false,
		inField = false
	}: {
		known: Known | null | undefined;
		label: string;
		set: (known: Known) => void;
		wide?: boolean;
		inField?: boolean;
	} = $props();
	const frame = useFrame();
	let open = $state(false);
	let note = $state('');
	let spread = $state('');
	let picture = $state('');
	const pictures = $derived(Object.entries(frame.session.job?.survey?.photos ?? {}));
	let box: HTMLElement | undefined = $state();
	let menu: HTMLElement | undefined = $state();
	let at = $state({ left: 0, top: 0 });
	const WIDE = 250;
	const HIGH = 460;
	const kind = $derived(kindOf(known?.how));

	function toggle(): void {
		open = !open;
		note = known?.note ?? '';
		spread = known?.spread == null ? '' : String(Math.round(known.spread * 1000) / 10);
		picture = known?.photos?.[0] ?? '';
		// in the top layer, so that no table cuts it off
		const mark = box?.getBoundingClientRect();
		if (mark)
			at = {
				left: Math.max(8, Math.min(mark.right - WIDE, innerWidth - WIDE - 8)),
				top: Math.max(8, Math.min(mark.bottom + 4, innerHeight - HIGH))
			};
	}
	$effect(() => {
		if (open) menu?.showPopover();
	});
	function choose(how: How): void {
		open = false;
		const made = evidence(
			how,
			frame.session.person,
			how === 'measured' ? (known?.via ?? undefined) : undefined,
			note.trim() || undefined
		);
		const share = Number(spread.replace(',', '.')) / 100;
		set({
			...made,
			...(spread.trim() && share > 0 && share <= 1 ? { spread: share } : {}),
			...(picture ? { photos: [picture] } : {})
		});
	}
	function pressed(event: KeyboardEvent): void {
		const hit = HOWS.find((h) => h.key === event.key);
		if (event.key === 'Escape' && open) open = false;
		else if (hit && !(event.target instanceof HTMLInputElement)) choose(hit.how);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	function left(event: FocusEvent): void {
		if (!box?.contains(event.relatedTarget as Node | null)) open = false;
	}
</script>

<span class="wrap" bind:this={box} onfocusout={left}>
	<button
		type="button"
		class="mark"
		tabindex={inField ? -1 : 0}
		class:wide
		class:hatch-doubt={!kind.sure}
		aria-label={`${kind.how}: change how it is known`}
		aria-expanded={open}
		title={[label, kind.what, known?.via, known?.by, known?.note].filter(Boolean).join(' · ')}
		onclick={toggle}
		onkeydown={pressed}
		><i aria-hidden="true">{kind.shape}</i>{#if wide}{kind.how}{/if}</button
	>
	{#if open}
		<div
			class="choices"
			popover="manual"
			bind:this={menu}
			style:left={`${at.left}px`}
			style:top={`${at.top}px`}
			role="menu"
			tabindex="-1"
			onkeydown={pressed}
		>
			{#each HOWS as h (h.how)}
				<button type="button" role="menuitem" class:on={h.how === known?.how} onclick={() => choose(h.how)}
					><i aria-hidden="true">{h.shape}</i> {h.what} <kbd>{h.key}</kbd></button
				>
			{/each}
			<label class="note"
				>Note<input class="field" bind:value={note} maxlength="400" placeholder="by whom, from what" /></label
			>
			<label class="note"
				>May be off by, ± %<input
					class="field"
					inputmode="decimal"
					bind:value={spread}
					placeholder="usual for how it is known"
				/></label
			>
			{#if pictures.length}<label class="note"
					>Picture<select class="field" bind:value={picture}
						><option value="">none</option>{#each pictures as [id, photo] (id)}<option value={id}
								>{photo.caption || photo.at || id}</option
							>{/each}</select
					></label
				>{/if}
			<p class="note said">Choose how it is known to keep all three.</p>
		</div>
	{/if}
</span>

<style>
	.wrap {
		position: relative;
		display: inline-block;
	}
	.mark {
		min-width: 26px;
		min-height: 26px;
		border-radius: 13px;
		font-size: var(--small);
		line-height: 1;
	}
	.mark.wide {
		padding: 0 9px;
	}
	.mark:not(.hatch-doubt) {
		background: var(--ash);
	}
	i {
		font-style: normal;
	}
	.wide i {
		margin-right: 5px;
	}
	.choices {
		position: fixed;
		inset: auto;
		margin: 0;
		color: var(--ink);
		white-space: normal;
		width: 250px;
		background: var(--sheet);
		border: 1px solid var(--ink);
		border-radius: 5px;
		padding: 4px;
		display: grid;
	}
	.choices button {
		text-align: left;
		min-height: 42px;
		padding: 0 10px;
		border-radius: 4px;
		display: flex;
		gap: 8px;
		align-items: center;
	}
	.choices button:hover,
	.choices button.on {
		background: var(--ash);
	}
	kbd {
		margin-left: auto;
		border: 1px solid var(--hairline);
		border-radius: 4px;
		padding: 0 6px;
		font-size: var(--small);
	}
	label {
		display: grid;
		padding: 4px 8px;
	}
	.said {
		padding: 2px 8px 4px;
	}
	@media (pointer: coarse) {
		.mark {
			min-width: 40px;
			min-height: 40px;
			border-radius: 20px;
		}
	}
</style>
