<script lang="ts">
	import { within } from '$lib/parts/within';
	import { Hand } from './hand.svelte';
	let {
		value,
		label,
		placeholder = '',
		strong = false,
		bare = false,
		type = 'text',
		commit
	}: {
		value: string | null | undefined;
		label: string;
		placeholder?: string;
		strong?: boolean;
		/** A name within a row: its field shows when it is touched. */
		bare?: boolean;
		type?: 'text' | 'date' | 'time';
		commit: (value: string) => Promise<boolean> | void;
	} = $props();
	const hand = new Hand<string | null | undefined>(
		() => value,
		(v) => v ?? ''
	);
	const meanwhile = $derived(hand.meanwhile);

	async function take(): Promise<void> {
		if (hand.typed === null || hand.gone) return;
		const text = hand.typed.trim();
		if (type === 'time' && !text) return hand.drop(); // half a time is none, and there is always one
		if (text === (value ?? '') && !hand.underWay && meanwhile === undefined) return hand.drop();
		await hand.send(text, () => commit(text));
	}
</script>

<span class="relative block">
	<input
		class="input w-full px-1.5 text-ellipsis"
		class:font-semibold={strong}
		class:bg-sheet={!bare}
		class:input-ghost={bare}
		{type}
		autocomplete="off"
		maxlength="200"
		aria-label={label}
		{placeholder}
		value={hand.shown}
		bind:this={hand.field}
		oninput={(event) => (hand.typed = event.currentTarget.value)}
		onfocus={() => hand.grasp()}
		onblur={() => {
			void take();
			hand.leave();
		}}
		onkeydown={(event) => {
			if (event.key === 'Enter') void take();
			if (event.key === 'Escape') {
				if (hand.typed !== null) hand.drop();
				else hand.field?.blur();
				event.stopPropagation();
			}
		}}
	/>
	{#if meanwhile !== undefined}<span
			use:within
			class="absolute top-[calc(100%_+_3px)] left-0 z-30 rounded-sm bg-doubt px-2 py-0.75 text-small whitespace-nowrap text-paper"
			role="status"
			>meanwhile {meanwhile ? `“${meanwhile}”` : 'emptied'} from elsewhere{hand.typed === null
				? ''
				: ': Enter keeps yours, Esc theirs'}</span
		>{/if}
</span>
