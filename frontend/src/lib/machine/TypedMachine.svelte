<script lang="ts">
	import { api, type MachineDoc, type MachineLook, type Refusal } from '$lib/api/client';
	import { placeOf } from '$lib/job/files';
	import { num } from '$lib/parts/format';
	import { unitName } from '$lib/parts/units';
	import MapLines from '$lib/charts/MapLines.svelte';
	import { untrack } from 'svelte';
	import { BLANK, USUAL, asSheet, fromDoc, idOf, type Point, type Said } from './typed';
	let { known, kept, close }: { known: MachineDoc | null; kept: () => void; close: () => void } = $props();
	const NOTHING: Said = {
		id: '',
		name: '',
		refrigerant: 'R290',
		kind: 'monobloc',
		coldest: '',
		hottest: '',
		sound: '',
		quiet: '',
		amps: '',
		leastFlow: '',
		leastWater: '',
		running: ''
	};
	const before = untrack(() => (known ? fromDoc(known) : { said: NOTHING, points: USUAL }));
	let said = $state<Said>({ ...before.said });
	let points = $state<Point[]>(before.points.map((p) => ({ ...p })));
	let look = $state.raw<MachineLook | null>(null);
	let made = $state.raw<MachineDoc | null>(null);
	let wrong = $state.raw<string[]>([]);
	let refused = $state('');
	let what = $state<'greatest_w' | 'cop'>('greatest_w');
	const filled = $derived(points.filter((p) => p.output.trim() && p.cop.trim()).length);
	const sheet = $derived(
		asSheet({ ...said, id: known?.id ?? (idOf(said.name) || 'new'), name: said.name || 'New machine' }, points)
	);
	let timer: ReturnType<typeof setTimeout> | undefined;
	let asked = 0;

	/** The map grows as it is typed: judged by the reader that also reads sheets. */
	$effect(() => {
		const body = sheet;
		if (filled < 3) return;
		clearTimeout(timer);
		timer = setTimeout(() => void judge(body), 250);
		return () => clearTimeout(timer);
	});
	async function judge(body: string): Promise<void> {
		const turn = ++asked;
		try {
			const answer = await fetch('/api/machines/look', {
				method: 'POST',
				headers: { 'content-type': 'text/csv' },
				body
			});
			const data = (await answer.json()) as { look: MachineLook; machine: MachineDoc } & Refusal;
			if (turn !== asked) return;
			look = answer.ok ? data.look : look;
			made = answer.ok ? data.machine : null;
			wrong = answer.ok ? [] : (data.problems ?? []).map((p) => inRow(placeOf(p, 'stands there')));
			if (!answer.ok && !wrong.length) wrong = [data.message];
		} catch {
			wrong = ['No line just now: what is typed stays here.'];
		}
	}
	/** The sheet's row two is the first point that is filled. */
	const inRow = (place: string): string =>
		place.replace(/^row (\d+), (\w+)/, (_, n: string, column: string) => `point ${Number(n) - 1}, ${column}`);

	async function keep(): Promise<void> {
		if (!made) return;
		const id = known?.id ?? idOf(said.name);
		if (!id) {
			refused = 'Give it a name first.';
			return;
		}
		// what the form does not ask for stays as it was
		const entry = known
			? {
					...known,
					...made,
					pump_flow_lph: known.pump_flow_lph,
					pump_head_kpa: known.pump_head_kpa,
					contains: known.contains,
					lines: known.lines,
					price_minor: known.price_minor,
					quiet_output_share: known.quiet_output_share,
					content_l: known.content_l,
					weight_kg: known.weight_kg,
					refrigerant_kg: known.refrigerant_kg,
					standby_w: known.standby_w
				}
			: made;
		const { error } = await api
			.PUT('/api/company/{kind}/{key}', {
				params: { path: { kind: 'machines', key: id } },
				body: { ...entry, id } as never
			})
			.catch(() => ({ error: { message: 'No line just now: nothing was kept.' } as Refusal }));
		if (error) refused = (error as Refusal).message;
		else kept();
	}
	const FIELDS: { key: keyof Said; label: string }[] = [
		{ key: 'coldest', label: 'Coldest air, °C' },
		{ key: 'hottest', label: 'Hottest water, °C' },
		{ key: 'sound', label: 'Sound power, dB(A)' },
		{ key: 'quiet', label: 'Quiet mode, dB(A)' },
		{ key: 'amps', label: 'Greatest current, A' },
		{ key: 'leastFlow', label: 'Least flow, L/h' },
		{ key: 'leastWater', label: 'Open water, L' },
		{ key: 'running', label: 'Pump and controls, W' }
	];
	const COLUMNS: { key: keyof Point; label: string }[] = [
		{ key: 'outdoor', label: 'Outside, °C' },
		{ key: 'water', label: 'Water, °C' },
		{ key: 'output', label: 'Gives, kW' },
		{ key: 'cop', label: 'COP' },
		{ key: 'least', label: 'Least, kW' }
	];
</script>

<section class="mt-2 border-l-6 border-l-water bg-sheet px-3.5 py-3" aria-label="A machine that is typed">
	<div class="flex items-baseline justify-between gap-3">
		<h2>{known ? known.label : 'A machine from its data sheet'}</h2>
		<button class="btn btn-quiet" onclick={close}>Close</button>
	</div>
	<p class="note">
		As the maker's sheet says it, in {unitName('kW') === 'kW' ? 'kW and °C' : 'kW and °C (sheets are metric)'}. Three
		test points draw the map; what is left empty is not judged.
	</p>
	<div class="mt-2 grid grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-5 narrow:grid-cols-[1fr]">
		<div>
			<div class="grid grid-cols-[1.4fr_1fr_1fr] gap-2">
				<label
					>Name<input
						class="input w-full bg-paper"
						aria-label="Name of the machine"
						bind:value={said.name}
						maxlength="100"
					/></label
				>
				<label
					>Refrigerant<input
						class="input w-full bg-paper"
						aria-label="Refrigerant"
						bind:value={said.refrigerant}
						maxlength="20"
					/></label
				>
				<label
					>Kind<select class="select w-full bg-paper ps-2 pe-7" aria-label="Kind of machine" bind:value={said.kind}
						><option value="monobloc">monobloc</option><option value="split">split</option></select
					></label
				>
			</div>
			<table class="table mt-2 table-figures">
				<thead
					><tr
						>{#each COLUMNS as column (column.key)}<th>{column.label}</th>{/each}<th
							><span class="sr-only">Leave out</span></th
						></tr
					></thead
				>
				<tbody>
					{#each points as point, n (point)}
						<tr
							>{#each COLUMNS as column (column.key)}<td
									><input
										class="input w-full min-w-0 bg-paper px-1.5 text-right"
										inputmode="decimal"
										aria-label={`Point ${n + 1}, ${column.label}`}
										bind:value={point[column.key]}
									/></td
								>{/each}<td
								><button
									class="btn btn-quiet"
									aria-label={`Leave out point ${n + 1}`}
									onclick={() => points.splice(n, 1)}>×</button
								></td
							></tr
						>
					{/each}
				</tbody>
			</table>
			<button class="btn btn-quiet" onclick={() => points.push({ ...BLANK })}>one more point</button>
		</div>
		<div>
			{#if look}
				<div class="mb-1 flex gap-2">
					<button
						class="btn btn-quiet aria-pressed:font-bold"
						aria-pressed={what === 'greatest_w'}
						onclick={() => (what = 'greatest_w')}>output</button
					><button
						class="btn btn-quiet aria-pressed:font-bold"
						aria-pressed={what === 'cop'}
						onclick={() => (what = 'cop')}>COP</button
					>
				</div>
				<MapLines {look} {what} />
				<p class="note">
					{look.points} points tested, {look.worked_out} worked out. {num(look.carnot_low * 100)} to {num(
						look.carnot_high * 100
					)} % of Carnot; honest machines lie between 38 and 50 at their test points. On the test bench {num(
						look.scop_35,
						2
					)}
					at 35 °C, {num(look.scop_55, 2)} at 55 °C.
				</p>
				{#if look.odd}<p class="rounded-sm px-3 py-1.5 hatch-doubt">{look.odd}</p>{/if}
				{#if look.lacks.length}<p class="note">Nobody says {look.lacks.join('; ')}.</p>{/if}
			{:else}<p class="py-6 text-muted">Its map appears here with the third test point.</p>{/if}
			{#each wrong as place (place)}<p class="rounded-sm px-3 py-1 hatch-short" role="alert">{place}</p>{/each}
			{#if refused}<p role="alert" class="rounded-sm px-3 py-1 hatch-short">{refused}</p>{/if}
		</div>
	</div>
	<div class="mt-2 grid grid-cols-4 gap-2 narrow:grid-cols-2">
		{#each FIELDS as field (field.key)}<label
				>{field.label}<input
					class="input w-full bg-paper px-1.5"
					inputmode="decimal"
					aria-label={field.label}
					bind:value={said[field.key]}
				/></label
			>{/each}
	</div>
	<button class="btn mt-3 btn-primary" disabled={!made || wrong.length > 0} onclick={() => void keep()}
		>Keep it for the company</button
	>
</section>

<style>
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
	td,
	th {
		padding: 2px 3px;
	}
</style>
