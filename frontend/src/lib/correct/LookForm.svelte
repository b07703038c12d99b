<script lang="ts">
	import type { Watched } from '$lib/api/client';
	import { newId } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import rules from '$lib/api/rules.json';
	let { live = null }: { live?: Watched | null } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const rooms = $derived(session.shown?.rooms.filter((r) => r.emitters.length) ?? []);
	type Held = Record<string, number | null>;
	let plain = $state<Held>({});
	let air = $state<Held>({});
	let tails = $state<Held>({});
	let at = $state('');
	let sun = $state<string | null>(null);
	let note = $state('');
	let said = $state('');
	const FIELDS = [
		{ key: 'outdoor_c', ask: 'Outside', unit: '°C', digits: 1, between: rules.usual.outdoor_c },
		{ key: 'flow_c', ask: 'Flow', unit: '°C', digits: 1, between: undefined },
		{ key: 'return_c', ask: 'Return', unit: '°C', digits: 1, between: undefined },
		{ key: 'flow_lph', ask: 'Water', unit: 'L/h', digits: 0, between: undefined },
		{ key: 'electric_w', ask: 'Electricity', unit: 'W', digits: 0, between: undefined }
	] as const;
	const SUN = [
		{ value: 'bright', label: 'bright' },
		{ value: 'dull', label: 'dull' }
	];
	const known = (held: Held): Record<string, number> =>
		Object.fromEntries(Object.entries(held).filter((pair): pair is [string, number] => pair[1] !== null));
	const lacks = $derived(
		plain.outdoor_c == null
			? 'the air outside'
			: plain.flow_c == null
				? 'the flow temperature'
				: Object.keys(known(air)).length === 0
					? 'one room at the least'
					: ''
	);
	function fromPlant(): void {
		const f = live?.figures ?? {};
		const tenth = (v: number): number => Math.round(v * 10) / 10;
		const take = (key: string): number | null => (f[key] == null ? null : tenth(f[key]));
		plain = {
			outdoor_c: take('outdoor_c'),
			flow_c: take('house_flow_c') ?? take('supply_c'),
			return_c: take('return_c'),
			flow_lph: take('flow_lph'),
			electric_w: take('electric_w')
		};
		air = Object.fromEntries(rooms.map((r) => [r.id, take(`room:${r.id}`)]));
		tails = Object.fromEntries(rooms.flatMap((r) => r.emitters.map((e) => [e.id, take(`tail:${e.id}:return`)])));
		if (live?.at) at = live.at;
	}
	async function save(): Promise<void> {
		const id = newId();
		const when = at ? new Date(at) : new Date();
		if (Number.isNaN(when.getTime())) return void (said = 'That is no time.');
		const look = {
			pos: Date.now() / 1e6,
			at: when.toISOString(),
			...known(plain),
			rooms: known(air),
			tails: known(tails),
			...(sun ? { bright: sun === 'bright' } : {}),
			...(note ? { note } : {}),
			by: session.person
		};
		const done = await session.edit('A look at the running house', (d) => d.set(`/fire_up/observations/${id}`, look));
		said = done ? 'Kept.' : (session.takeNotice() ?? 'Not taken.');
		if (done) [plain, air, tails, sun, note, at] = [{}, {}, {}, null, '', ''];
	}
</script>

<div class="grid gap-2">
	<div class="grid grid-cols-[repeat(auto-fill,minmax(130px,1fr))] items-end gap-x-3 gap-y-2">
		<label class="col-span-2 text-small text-muted"
			>When (empty: now)<input
				type="datetime-local"
				class="input w-full bg-sheet px-1.5"
				aria-label="When"
				value={at && at.length > 16
					? new Date(new Date(at).getTime() - new Date(at).getTimezoneOffset() * 6e4).toISOString().slice(0, 16)
					: at}
				onchange={(e) => (at = e.currentTarget.value)}
			/></label
		>
		{#each FIELDS as f (f.key)}<Asked
				ask={f.ask}
				label={f.ask}
				value={plain[f.key] ?? null}
				unit={f.unit}
				digits={f.digits}
				quantity={f.unit === '°C' ? 'temperature' : 'plain'}
				between={f.between as [number, number] | undefined}
				commit={(v) => void (plain = { ...plain, [f.key]: v })}
			/>{/each}
		<label class="text-small text-muted"
			>Sun<Choice label="Sun" value={sun} empty="nobody says" options={SUN} commit={(v) => (sun = v ?? null)} /></label
		>
	</div>
	<h3 class="font-semibold">Air of the rooms</h3>
	<div class="grid grid-cols-[repeat(auto-fill,minmax(130px,1fr))] items-end gap-x-3 gap-y-2">
		{#each rooms as r (r.id)}<Asked
				ask={r.label}
				label={`Air of ${r.label}`}
				value={air[r.id] ?? null}
				unit="°C"
				digits={1}
				quantity="temperature"
				commit={(v) => void (air = { ...air, [r.id]: v })}
			/>{/each}
	</div>
	<Fold title="Return tails, by a clip probe: they tell a shut lockshield from a small emitter">
		<div class="grid grid-cols-[repeat(auto-fill,minmax(160px,1fr))] items-end gap-x-3 gap-y-2">
			{#each rooms as r (r.id)}{#each r.emitters as e (e.id)}<Asked
						ask={`${r.label}: ${e.label}`}
						label={`Return of ${e.label}, ${r.label}`}
						value={tails[e.id] ?? null}
						unit="°C"
						digits={1}
						quantity="temperature"
						commit={(v) => void (tails = { ...tails, [e.id]: v })}
					/>{/each}{/each}
		</div>
	</Fold>
	<label class="text-small text-muted"
		>Note<TextField label="Note" value={note} commit={(v) => void (note = v)} /></label
	>
	<div class="flex flex-wrap items-center gap-3">
		<button class="btn btn-neutral" disabled={lacks !== ''} onclick={() => void save()}>Keep this look</button>
		{#if live?.watched && live.figures.outdoor_c != null}<button class="btn btn-outline" onclick={fromPlant}
				>Fill in from the plant</button
			>{/if}
		<span class="note" role="status">{said || (lacks ? `It lacks ${lacks}.` : '')}</span>
	</div>
</div>
