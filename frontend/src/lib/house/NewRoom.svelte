<script lang="ts">
	import { ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { evidence, withoutKey, type How } from './evidence';
	import { addRoom } from './rooms';
	import { likelier, unusual, USUAL } from '$lib/parts/usual';
	import { amount, lengthText, understand } from '$lib/parts/units';
	let { onclose }: { onclose: () => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const storeys = $derived(ordered(session.job?.survey?.storeys));
	const uses = $derived(Object.entries(session.job?.library?.tables?.standard?.data.room_uses ?? {}));

	let label = $state('');
	let storey = $state('');
	let use = $state('');
	const SIZES = ['height', 'width', 'length'] as const;
	let size = $state({ height: '', width: '', length: '' });
	let wrong = $state('');
	let first: HTMLInputElement | undefined = $state();
	$effect(() => {
		if (!storey && storeys[0]) storey = storeys[0][0];
	});

	/** A length as typed, with the key of how it is known behind it; null: nothing typed, undefined: no length. */
	function metres(text: string): { value: number | null | undefined; how: How } {
		const { text: bare, how } = withoutKey(text);
		if (!bare) return { value: null, how: how ?? 'measured' };
		const meant = understand(bare, 'length');
		return { value: 'value' in meant && meant.value > 0 ? meant.value : undefined, how: how ?? 'measured' };
	}
	const typed = $derived({ height: metres(size.height), width: metres(size.width), length: metres(size.length) });
	const sizes = $derived({ height: typed.height.value, width: typed.width.value, length: typed.length.value });
	/** The first size that is possible and unusual. */
	const odd = $derived(
		SIZES.map((key) => {
			const [value, usual] = [sizes[key], key === 'height' ? USUAL.room_height_m : USUAL.wall_m];
			return value && unusual(value, usual) ? { key, value, meant: likelier(value, usual, true) } : null;
		}).find((one) => one !== null)
	);
	function meant(): void {
		if (!odd?.meant) return;
		size[odd.key] = `${odd.meant}`;
	}
	/** Width and length are one walk: known no better than the worse of the two. */
	function known(): Record<string, ReturnType<typeof evidence>> {
		const order: How[] = ['measured', 'read', 'told', 'inferred', 'assumed'];
		const worse = order[Math.max(order.indexOf(typed.width.how), order.indexOf(typed.length.how))]!;
		const proof = (how: How): ReturnType<typeof evidence> =>
			evidence(how, session.person, how === 'measured' ? 'tape' : undefined);
		return {
			...(sizes.width && sizes.length ? { walk: proof(worse) } : {}),
			...(sizes.height ? { height_m: proof(typed.height.how) } : {})
		};
	}
	const area = $derived(sizes.width && sizes.length ? sizes.width * sizes.length : null);

	async function add(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const bad = Object.entries(sizes).find(([, value]) => value === undefined);
		wrong = bad ? `The ${bad[0]} is not a length: try 3.6, 3600mm or 11' 10".` : '';
		if (bad) return;
		const taken = { height: sizes.height ?? null, width: sizes.width ?? null, length: sizes.length ?? null };
		let id = '';
		const name = label.trim() || 'New room';
		const kept = await session.edit(
			`${name} added`,
			(d) => void (id = addRoom(d, storey, taken, name, use || null, known()))
		);
		if (!kept) return;
		frame.openRoom = id;
		label = '';
		size = { height: '', width: '', length: '' };
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
					>{u.label}, {amount(u.target_c, '°C', u.target_c % 1 ? 1 : 0)}</option
				>{/each}</select
		></label
	>
	{#each SIZES as key (key)}
		<label
			><span class="capitalize">{key}</span><input
				class="num input min-h-11 w-full bg-sheet text-body"
				inputmode="decimal"
				bind:value={size[key]}
				placeholder="m"
				autocomplete="off"
			/></label
		>
	{/each}
	<button class="btn btn-primary">Add it</button>
	<button class="btn btn-quiet" type="button" onclick={onclose}>Done</button>
	<p class="col-span-full note">
		{#if wrong}<strong class="text-heat-text" role="alert">{wrong}</strong>
		{:else if odd}<strong class="text-short-text">{lengthText(odd.value)} is unusual for a {odd.key}.</strong>
			{#if odd.meant}<button type="button" class="btn btn-xs touch:btn-md" onclick={meant}
					>Did you mean {lengthText(odd.meant)}?</button
				>{/if}
		{:else if area}Understood: {lengthText(sizes.width)} × {lengthText(sizes.length)}, {amount(
				area,
				'm²',
				1
			)}{sizes.height ? `, ${lengthText(sizes.height)} high` : ''}.
		{:else}Measured inside, in the laser's order; otherwise say so behind the figure: ~ told, ? inferred, * assumed.
			What is not known may stay empty.{/if}
	</p>
</form>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
		min-width: 0;
	}
</style>
