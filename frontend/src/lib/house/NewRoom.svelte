<script lang="ts">
	import { ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { addRoom } from './rooms';
	import { understand } from '$lib/parts/units';
	let { onclose }: { onclose: () => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const storeys = $derived(ordered(session.job?.survey?.storeys));
	const uses = $derived(Object.entries(session.job?.library?.tables?.standard?.data.room_uses ?? {}));

	let label = $state('');
	let storey = $state('');
	let use = $state('');
	let width = $state('');
	let length = $state('');
	let height = $state('');
	let wrong = $state('');
	let first: HTMLInputElement | undefined = $state();
	$effect(() => {
		if (!storey && storeys[0]) storey = storeys[0][0];
	});

	function metres(text: string): number | null | undefined {
		if (!text.trim()) return null;
		const meant = understand(text, 'length');
		return 'value' in meant && meant.value > 0 ? meant.value : undefined;
	}
	const sizes = $derived({ height: metres(height), width: metres(width), length: metres(length) });
	const area = $derived(sizes.width && sizes.length ? sizes.width * sizes.length : null);

	async function add(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const bad = Object.entries(sizes).find(([, value]) => value === undefined);
		wrong = bad ? `The ${bad[0]} is not a length: try 3.6, 3600mm or 11' 10".` : '';
		if (bad) return;
		const size = { height: sizes.height ?? null, width: sizes.width ?? null, length: sizes.length ?? null };
		let id = '';
		const name = label.trim() || 'New room';
		const kept = await session.edit(`${name} added`, (d) => void (id = addRoom(d, storey, size, name, use || null)));
		if (!kept) return;
		frame.openRoom = id;
		label = width = length = height = '';
		first?.focus();
	}
</script>

<form
	class="mb-2 grid grid-cols-[2fr_1.2fr_1.6fr_repeat(3,0.9fr)_auto_auto] items-end gap-2.5 border-y border-y-hairline px-0 py-3 narrow:grid-cols-[repeat(3,1fr)]"
	onsubmit={add}
	aria-label="Add a room"
>
	<!-- svelte-ignore a11y_autofocus -->
	<label class="wide"
		>Name<input
			bind:this={first}
			class="input min-h-11 w-full bg-sheet text-body"
			bind:value={label}
			maxlength="200"
			autofocus
			autocomplete="off"
		/></label
	>
	<label
		>Storey<select class="select min-h-11 w-full appearance-none bg-sheet ps-2 pe-7 text-body" bind:value={storey}
			>{#each storeys as [key, s] (key)}<option value={key}>{s.label || key}</option>{/each}</select
		></label
	>
	<label
		>Use<select class="select min-h-11 w-full appearance-none bg-sheet ps-2 pe-7 text-body" bind:value={use}
			><option value="">not said</option>{#each uses as [key, u] (key)}<option value={key}
					>{u.label}, {u.target_c} °C</option
				>{/each}</select
		></label
	>
	<label
		>Height<input
			class="num input min-h-11 w-full bg-sheet text-body"
			inputmode="decimal"
			bind:value={height}
			placeholder="m"
			autocomplete="off"
		/></label
	>
	<label
		>Width<input
			class="num input min-h-11 w-full bg-sheet text-body"
			inputmode="decimal"
			bind:value={width}
			placeholder="m"
			autocomplete="off"
		/></label
	>
	<label
		>Length<input
			class="num input min-h-11 w-full bg-sheet text-body"
			inputmode="decimal"
			bind:value={length}
			placeholder="m"
			autocomplete="off"
		/></label
	>
	<button class="btn btn-primary">Add it</button>
	<button class="btn btn-quiet" type="button" onclick={onclose}>Done</button>
	<p class="col-span-full note">
		{#if wrong}<strong class="text-heat-text" role="alert">{wrong}</strong>
		{:else if area}Understood: {sizes.width?.toFixed(3)} × {sizes.length?.toFixed(3)} m, {area.toFixed(1)} m²{sizes.height
				? `, ${sizes.height.toFixed(3)} m high`
				: ''}.
		{:else}Measured inside, in the laser's order. What is not known may stay empty.{/if}
	</p>
</form>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
		min-width: 0;
	}
</style>
