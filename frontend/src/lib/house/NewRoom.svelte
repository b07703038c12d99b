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

<form onsubmit={add} aria-label="Add a room">
	<!-- svelte-ignore a11y_autofocus -->
	<label class="wide"
		>Name<input
			bind:this={first}
			class="field"
			bind:value={label}
			maxlength="200"
			autofocus
			autocomplete="off"
		/></label
	>
	<label
		>Storey<select class="field" bind:value={storey}
			>{#each storeys as [key, s] (key)}<option value={key}>{s.label || key}</option>{/each}</select
		></label
	>
	<label
		>Use<select class="field" bind:value={use}
			><option value="">not said</option>{#each uses as [key, u] (key)}<option value={key}
					>{u.label}, {u.target_c} °C</option
				>{/each}</select
		></label
	>
	<label
		>Height<input class="field num" inputmode="decimal" bind:value={height} placeholder="m" autocomplete="off" /></label
	>
	<label
		>Width<input class="field num" inputmode="decimal" bind:value={width} placeholder="m" autocomplete="off" /></label
	>
	<label
		>Length<input class="field num" inputmode="decimal" bind:value={length} placeholder="m" autocomplete="off" /></label
	>
	<button class="act first">Add it</button>
	<button class="quiet" type="button" onclick={onclose}>Done</button>
	<p class="note">
		{#if wrong}<strong class="wrong" role="alert">{wrong}</strong>
		{:else if area}Understood: {sizes.width?.toFixed(3)} × {sizes.length?.toFixed(3)} m, {area.toFixed(1)} m²{sizes.height
				? `, ${sizes.height.toFixed(3)} m high`
				: ''}.
		{:else}Measured inside, in the laser's order. What is not known may stay empty.{/if}
	</p>
</form>

<style>
	form {
		display: grid;
		grid-template-columns: 2fr 1.2fr 1.6fr repeat(3, 0.9fr) auto auto;
		gap: 10px;
		align-items: end;
		border-block: 1px solid var(--hairline);
		padding: 12px 0;
		margin-bottom: 8px;
	}
	label {
		font-size: var(--small);
		color: var(--muted);
		min-width: 0;
	}
	.field {
		min-height: 44px;
		font-size: var(--text);
	}
	p {
		grid-column: 1 / -1;
	}
	.wrong {
		color: var(--heat-text);
	}
	@media (max-width: 1000px) {
		form {
			grid-template-columns: repeat(3, 1fr);
		}
	}
</style>
