<script lang="ts">
	import Dialog from '$lib/parts/Dialog.svelte';
	import { goto } from '$app/navigation';
	import { tick } from 'svelte';
	import { useFrame } from './frame.svelte';
	import { SCREENS } from './screens';
	const frame = useFrame();
	let { onclose }: { onclose: () => void } = $props();
	let wanted = $state('');
	let at = $state(0);
	let box: HTMLInputElement | undefined = $state();

	type Target = { label: string; kind: string; go: () => void };
	const base = $derived(`/job/${frame.session.id}`);
	const targets = $derived<Target[]>([
		...(frame.session.design?.rooms ?? []).map((room) => ({
			label: room.label,
			kind: 'room',
			go: () => {
				frame.openRoom = room.id;
				void goto(`${base}/rooms`);
			}
		})),
		...SCREENS.map((s) => ({ label: s.label, kind: 'screen', go: () => void goto(`${base}/${s.key}`) })),
		...(frame.session.design?.headline ?? []).map((f) => ({
			label: f.label,
			kind: 'figure',
			go: () => void frame.showWorking(f.working)
		}))
	]);
	const found = $derived(
		targets.filter((t) => t.label.toLowerCase().includes(wanted.trim().toLowerCase())).slice(0, 9)
	);

	$effect(() => {
		void tick().then(() => box?.focus());
	});

	function take(target: Target | undefined): void {
		onclose();
		target?.go();
	}

	function keys(event: KeyboardEvent): void {
		if (event.key === 'ArrowDown') at = Math.min(at + 1, found.length - 1);
		else if (event.key === 'ArrowUp') at = Math.max(at - 1, 0);
		else if (event.key === 'Enter') take(found[at]);
		else if (event.key === 'Escape') onclose();
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<Dialog label="Jump to a room, screen or figure" {onclose}>
	<input
		bind:this={box}
		class="input min-h-12 w-full bg-sheet text-lead"
		placeholder="Room, screen or figure"
		bind:value={wanted}
		onkeydown={keys}
		oninput={() => (at = 0)}
		aria-label="Jump to"
	/>
	<ul class="mt-1.5" role="listbox" aria-label="Found">
		{#each found as target, n (target.kind + target.label + n)}
			<li role="presentation">
				<button
					class="flex min-h-11 w-full items-center justify-between rounded-sm px-2.5 py-0 hover:bg-ash [&.at]:bg-ash"
					role="option"
					aria-selected={n === at}
					class:at={n === at}
					onclick={() => take(target)}
				>
					<span>{target.label}</span><span class="note">{target.kind}</span>
				</button>
			</li>
		{:else}
			<li class="p-3 note">Nothing of that name.</li>
		{/each}
	</ul>
</Dialog>
