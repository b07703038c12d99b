<script lang="ts">
	import { Hand } from './hand.svelte';
	let {
		value,
		label,
		placeholder = '',
		strong = false,
		type = 'text',
		commit
	}: {
		value: string | null | undefined;
		label: string;
		placeholder?: string;
		strong?: boolean;
		type?: 'text' | 'date';
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
		if (text === (value ?? '') && !hand.underWay && meanwhile === undefined) return hand.drop();
		await hand.send(text, () => commit(text));
	}
</script>

<span class="wrap">
	<input
		class="field"
		class:strong
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
			if (event.key === 'Escape' && hand.typed !== null) {
				hand.drop();
				event.stopPropagation();
			}
		}}
	/>
	{#if meanwhile !== undefined}<span class="beside" role="status"
			>meanwhile {meanwhile ? `“${meanwhile}”` : 'emptied'} from elsewhere{hand.typed === null
				? ''
				: ': Enter keeps yours, Esc theirs'}</span
		>{/if}
</span>

<style>
	.wrap {
		position: relative;
		display: block;
	}
	.beside {
		position: absolute;
		left: 0;
		top: calc(100% + 3px);
		z-index: 30;
		padding: 3px 8px;
		border-radius: 4px;
		background: var(--doubt);
		color: var(--paper);
		font-size: var(--small);
		white-space: nowrap;
	}
	.strong {
		font-weight: 600;
	}
</style>
