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

<span class="wrap relative inline-block" bind:this={box} onfocusout={left}>
	<button
		type="button"
		class="min-h-6.5 min-w-6.5 rounded-[13px] text-small leading-none not-[.hatch-doubt]:bg-ash pointer-coarse:min-h-10 pointer-coarse:min-w-10 pointer-coarse:rounded-[20px] [&.wide]:px-2.25 [&.wide]:py-0"
		tabindex={inField ? -1 : 0}
		class:wide
		class:hatch-doubt={!kind.sure}
		aria-label={`${kind.how}: change how it is known`}
		aria-expanded={open}
		title={[label, kind.what, known?.via, known?.by, known?.note].filter(Boolean).join(' · ')}
		onclick={toggle}
		onkeydown={pressed}
		><i class="not-italic" aria-hidden="true">{kind.shape}</i>{#if wide}{kind.how}{/if}</button
	>
	{#if open}
		<div
			class="fixed inset-auto m-0 grid w-62.5 rounded-[5px] border border-ink bg-sheet p-1 whitespace-normal text-ink"
			popover="manual"
			bind:this={menu}
			style:left={`${at.left}px`}
			style:top={`${at.top}px`}
			role="menu"
			tabindex="-1"
			onkeydown={pressed}
		>
			{#each HOWS as h (h.how)}
				<button
					class="flex min-h-10.5 items-center gap-2 rounded-sm px-2.5 py-0 text-left hover:bg-ash [&.on]:bg-ash"
					type="button"
					role="menuitem"
					class:on={h.how === known?.how}
					onclick={() => choose(h.how)}
					><i class="not-italic" aria-hidden="true">{h.shape}</i>
					{h.what} <kbd class="ml-auto rounded-sm border border-hairline px-1.5 py-0 text-small">{h.key}</kbd></button
				>
			{/each}
			<label class="grid px-2 py-1 note"
				>Note<input
					class="input w-full bg-sheet"
					bind:value={note}
					maxlength="400"
					placeholder="by whom, from what"
				/></label
			>
			<label class="grid px-2 py-1 note"
				>May be off by, ± %<input
					class="input w-full bg-sheet"
					inputmode="decimal"
					bind:value={spread}
					placeholder="usual for how it is known"
				/></label
			>
			{#if pictures.length}<label class="grid px-2 py-1 note"
					>Picture<select class="select w-full appearance-none bg-sheet ps-2 pe-7" bind:value={picture}
						><option value="">none</option>{#each pictures as [id, photo] (id)}<option value={id}
								>{photo.caption || photo.at || id}</option
							>{/each}</select
					></label
				>{/if}
			<p class="px-2 pt-0.5 pb-1 note">Choose how it is known to keep all three.</p>
		</div>
	{/if}
</span>

<style>
	.wide i {
		margin-right: 5px;
	}
</style>
