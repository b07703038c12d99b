<script lang="ts">
	import { onDestroy } from 'svelte';
	import { ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { evidence, withoutKey, type How } from './evidence';
	import rules from '$lib/api/rules.json';
	import { emitterTypes } from '$lib/parts/choices';
	import { shelf } from '$lib/job/library.svelte';
	import { addLine, storeyOf } from './addLine';
	import { inJobsUnits, oddIn, roomLine, type LineRoom } from './roomLine';
	import { useOf } from './walking';
	import { addRoom } from './rooms';
	import { likelier, unusual, USUAL } from '$lib/parts/usual';
	import { amount, lengthText, system, understand, unitName } from '$lib/parts/units';
	let { onclose }: { onclose: () => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const storeys = $derived(ordered(session.job?.survey?.storeys));
	const uses = $derived(Object.entries(session.job?.library?.tables?.standard?.data.room_uses ?? {}));

	let line = $state('');
	let storey = $state('');
	let use = $state('');
	const WORDS = {
		over: 'over',
		under: 'under',
		behind: 'behind',
		before: 'in front of',
		left: 'left of',
		right: 'right of'
	};
	const SIZES = ['height', 'width', 'length'] as const;
	let size = $state({ height: '', width: '', length: '' });
	let wrong = $state('');
	let typical: HTMLDetailsElement | undefined = $state();
	const rooms = $derived(ordered(session.job?.survey?.rooms).map(([id, room]) => ({ id, label: room.label ?? '' })));
	const types = $derived(session.job ? emitterTypes(session.job, shelf.all) : []);
	/** The kind of radiator recorded last: the next one is mostly of it too. */
	const lastType = $derived(
		ordered(session.job?.survey?.emitters)
			.map(([, e]) => e.spec?.type)
			.filter((type) => type != null)
			.at(-1) ?? rules.panel.type
	);
	const meantBy = $derived(roomLine(line, { rooms, types, lastType }));
	/** More than a name stands in the line: the sizes beside it are not asked for. */
	const whole = $derived(meantBy.room !== null && (meantBy.parts.length > 1 || meantBy.room.size !== null));
	const name = $derived(meantBy.room?.name ?? line.trim());
	/** What the line says that is possible and unusual: asked once, the same line again takes it. */
	const oddLine = $derived(whole && meantBy.room ? oddIn(meantBy.room) : null);
	let asked = $state('');
	const told = $derived(meantBy.room ? spokenOf(meantBy.room) : []);
	const unclear = $derived(line.trim() === '' ? [] : meantBy.parts.filter((part) => part.error));
	const placed = $derived(meantBy.room?.where ? storeyOf(session.job!, meantBy.room.where, storey) : storey);
	const there = $derived(placed ?? storey);

	/** What a line was understood as, piece by piece. */
	function spokenOf(room: LineRoom): string[] {
		const called = (id: string | null): string => rooms.find((one) => one.id === id)?.label ?? '';
		const kind = (type: string): string => (types.find((t) => t.value === type)?.label ?? type).split(',')[0] ?? '';
		const size = (w: number, h: number): string => `${lengthText(w)} × ${lengthText(h)}`;
		return [
			room.size
				? `${size(room.size.width, room.size.length)}, ${amount(room.size.width * room.size.length, 'm²', 1)}`
				: '',
			room.height ? `${lengthText(room.height.value)} high` : '',
			room.where
				? `${WORDS[room.where.how]} ${called(room.where.room)}${room.where.flush ? `, flush at the ${room.where.flush}` : ''}`
				: '',
			room.like ? `like ${called(room.like)}` : '',
			...room.neighbours.map((one) => `party wall ${one.side}: ${one.label}`),
			...room.openings.map(
				(one) =>
					`${one.count > 1 ? `${one.count} × ` : ''}${(one.label || one.kind).toLowerCase()} ${size(one.width_m, one.height_m)}${one.side ? `, ${one.side}` : ''}${one.to ? `, to ${one.to}` : ''}`
			),
			...room.emitters.map(
				(one) =>
					`${kind(one.type)} ${size(one.length_m, one.height_m)}${one.output_w ? `, ${amount(one.output_w, 'W')}` : ''}`
			)
		].filter((text) => text !== '');
	}
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
		size[odd.key] = lengthText(odd.meant);
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

	/** The room that is on its way: the same key pressed again is not another. */
	let sending = '';
	async function add(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const entry = JSON.stringify([line, size, storey]);
		if (entry === sending) return;
		if (unclear.length) {
			wrong = `“${unclear[0]!.text}”: ${unclear[0]!.error}. The line is kept as it is.`;
			return;
		}
		if (placed === null) {
			wrong = `There is no storey ${meantBy.room?.where?.how} that room: add one on the plan. The line is kept as it is.`;
			return;
		}
		if (oddLine && asked !== line) {
			asked = line;
			return;
		}
		const bad = whole ? undefined : Object.entries(sizes).find(([, value]) => value === undefined);
		wrong = bad ? `The ${bad[0]} is not a length: try 3.6, 3600mm or 11' 10".` : '';
		if (bad) return;
		const taken = { height: sizes.height ?? null, width: sizes.width ?? null, length: sizes.length ?? null };
		let id = '';
		const called = name || 'New room';
		const meant = meantBy.room;
		const proofs = known();
		sending = entry;
		const kept = await session.edit(`${called} added`, (d) => {
			id =
				whole && meant
					? addLine(d, meant, storey, use || useOf(meant.name), session.person)
					: addRoom(d, storey, taken, called, use || null, proofs);
		});
		sending = '';
		if (!kept) return;
		if (!whole) frame.openRoom = id;
		tell(id, called);
		line = '';
		size = { height: '', width: '', length: '' };
		first?.focus();
	}
	/** What came of the line, for a moment: the next one may be typed meanwhile. */
	let news = $state('');
	let quiet: ReturnType<typeof setTimeout> | undefined;
	function tell(id: string, called: string): void {
		const room = session.design?.rooms.find((one) => one.id === id);
		const load = room?.room_emitter_load_w == null ? '' : `, asks ${amount(room.room_emitter_load_w, 'W', -1)}`;
		news = `${called} added${room?.area_m2 ? `: ${amount(room.area_m2, 'm²', 1)}` : ''}${load}. ${room?.placed ? 'It stands on the plan.' : 'It waits for its place on the plan.'}`;
		clearTimeout(quiet);
		quiet = setTimeout(() => (news = ''), 5000);
	}
	onDestroy(() => clearTimeout(quiet));
	function begin(text: string): void {
		line = inJobsUnits(text);
		if (typical) typical.open = false;
		first?.focus();
	}
</script>

<form
	class="mb-2 grid grid-cols-[1.2fr_1.6fr_repeat(3,0.9fr)_auto] items-end gap-2.5 border-y border-y-hairline px-0 py-3 narrow:grid-cols-[repeat(3,1fr)]"
	onsubmit={add}
	aria-label="Add a room"
>
	<div
		class="col-span-full grid grid-cols-[minmax(0,1fr)_auto_auto_auto] items-end gap-2.5 narrow:grid-cols-[auto_1fr_auto]"
	>
		<!-- svelte-ignore a11y_autofocus -->
		<label class="narrow:col-span-full"
			>Name, or all of it in a line<input
				bind:this={first}
				class="input min-h-12 w-full bg-sheet text-lead"
				bind:value={line}
				oninput={() => (wrong = '')}
				maxlength="400"
				placeholder={system.feet
					? `Kitchen 9' 10" x 8', right of Dining room, window 4' x 3' 6" back, t22 47in x 24in`
					: 'Kitchen 3.0x2.4, right of Dining room, window 1.2x1.05 back, t22 1200x600'}
				aria-describedby="line-understood"
				autofocus
				autocomplete="off"
				spellcheck="false"
			/></label
		>
		<details class="dropdown dropdown-end" bind:this={typical}>
			<summary class="btn min-h-11 btn-outline">Typical rooms</summary>
			<ul class="dropdown-content menu z-40 w-56 border border-hairline bg-sheet p-1">
				{#each Object.entries(rules.typical_rooms) as [label, text] (label)}
					<li><button type="button" onclick={() => begin(text)}>{label}</button></li>
				{/each}
			</ul>
		</details>
		<button class="btn min-h-11 btn-primary">Add it</button>
		<button class="btn btn-quiet min-h-11" type="button" onclick={onclose}>Done</button>
	</div>
	<label
		>Storey<select
			class="select min-h-11 w-full appearance-none bg-sheet ps-2 pe-7 text-body"
			value={there}
			onchange={(event) => (storey = event.currentTarget.value)}
			disabled={there !== storey}
			>{#each storeys as [key, s] (key)}<option value={key}>{s.label || key}</option>{/each}</select
		></label
	>
	<label
		>Use<select class="select min-h-11 w-full appearance-none bg-sheet ps-2 pe-7 text-body" bind:value={use}
			><option value="">by its name</option>{#each uses as [key, u] (key)}<option value={key}
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
				placeholder={unitName('m')}
				disabled={whole}
				autocomplete="off"
			/></label
		>
	{/each}
	<p class="col-span-full note" id="line-understood" role="status">
		{#if wrong}<strong class="text-heat-text" role="alert">{wrong}</strong>
		{:else if oddLine}<strong class="text-short-text"
				>{lengthText(oddLine.value)} is unusual for a {oddLine.what}.</strong
			>
			{#if oddLine.likelier}Did you mean {lengthText(oddLine.likelier)}?{/if}
			{asked === line ? 'Enter once more takes it as it stands.' : ''}
		{:else if whole && told.length}<strong class="text-ink">{name}</strong>: {told.join(' · ')}.
		{:else if unclear.length && meantBy.parts.length > 1}<strong class="text-short-text"
				>“{unclear[0]!.text}”: {unclear[0]!.error}.</strong
			>
		{:else if odd}<strong class="text-short-text">{lengthText(odd.value)} is unusual for a {odd.key}.</strong>
			{#if odd.meant}<button type="button" class="btn btn-xs touch:btn-md" onclick={meant}
					>Did you mean {lengthText(odd.meant)}?</button
				>{/if}
		{:else if area}Understood: {lengthText(sizes.width)} × {lengthText(sizes.length)}, {amount(
				area,
				'm²',
				1
			)}{sizes.height ? `, ${lengthText(sizes.height)} high` : ''}.
		{:else}Width x length; then, between commas: behind, before, left of, right of, over or like another room; windows,
			doors (to a lean-to); radiators; party left; 2.45 high. Measured inside, else ~ told, ? inferred, * assumed behind
			a figure. What is not known may stay empty.{/if}
	</p>
</form>
<div class="toast toast-end bottom-20 z-40" role="status">
	{#if news}<div class="alert border-hairline bg-ink px-3.5 py-2 text-paper">{news}</div>{/if}
</div>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
		min-width: 0;
	}
</style>
