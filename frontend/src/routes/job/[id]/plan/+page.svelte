<script lang="ts">
	import { amount, fig, unitName, watts } from '$lib/parts/units';
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import type { RoomDoc } from '$lib/api/client';
	import Plan, { type Drawn } from '$lib/charts/Plan.svelte';
	import { corners, moved, type RunDoc, type XY } from '$lib/charts/plan';
	import { newId, nextPos, ordered, type Operation } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { sendFile, type Wrong } from '$lib/job/files';
	import BringFile from '$lib/job/BringFile.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import RoomSide from '$lib/house/RoomSide.svelte';
	import { mirrored } from '$lib/house/walking';
	import RoomWalk from '$lib/house/RoomWalk.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import WrongFile from '$lib/job/WrongFile.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown!);
	const survey = $derived(session.job?.survey);
	const storeys = $derived(ordered(survey?.storeys));
	const asked = untrack(() => page.url.searchParams);
	let selected = $state<string | null>(asked.get('room'));
	let walking = $state(asked.get('walk') === 'new');
	let walkRoom = $state<string | null>(null);
	let chosen = $state<string | null>(null);
	let wrong = $state<Wrong | null>(null);
	const doc = $derived(selected ? survey?.rooms?.[selected] : undefined);
	const storey = $derived(chosen ?? (selected ? survey?.rooms?.[selected]?.storey : null) ?? storeys[0]?.[0] ?? '');

	function drawnOf(id: string, room: RoomDoc): Drawn | null {
		const flat = corners((room.walk ?? []) as RunDoc[]);
		if (flat.length < 4) return null;
		const outline = moved(flat, room.position);
		const radiators = Object.values(survey?.emitters ?? {})
			.filter((e) => e.room === id)
			.map((e) => ({ face: e.face ?? null, length: e.spec?.length_m ?? 0.8 }));
		return { id, doc: room, result: design.rooms.find((r) => r.id === id), outline, radiators };
	}
	const here = $derived(
		ordered(survey?.rooms)
			.filter(([, room]) => (room.storey ?? '') === storey || (!room.storey && storey === storeys[0]?.[0]))
			.map(([id, room]) => drawnOf(id, room))
			.filter((one) => one !== null)
	);
	const unwalked = $derived(
		ordered(survey?.rooms).filter(([, room]) => (room.walk ?? []).length < 3 && (room.storey ?? storey) === storey)
	);
	const beneath = $derived(storeys.findIndex(([key]) => key === storey) - 1);
	const below = $derived<XY[][]>(
		beneath < 0
			? []
			: Object.values(survey?.rooms ?? {})
					.filter((room) => room.storey === storeys[beneath]?.[0] && room.position)
					.map((room) => moved(corners((room.walk ?? []) as RunDoc[]), room.position))
					.filter((outline) => outline.length > 3)
	);
	const here2 = $derived(survey?.storeys?.[storey]);

	function move(id: string, to: { x_m: number; y_m: number }): void {
		const label = survey?.rooms?.[id]?.label ?? 'Room';
		void session.edit(`${label} moved`, (d) => {
			const now = d.job.survey?.rooms?.[id]?.position;
			d.set(`/survey/rooms/${id}/position`, { rotation_deg: now?.rotation_deg ?? 0, ...to });
		});
	}
	function turn(id: string): void {
		void session.edit('Room turned', (d) => {
			const now = d.job.survey?.rooms?.[id]?.position ?? { x_m: 0, y_m: 0, rotation_deg: 0 };
			d.set(`/survey/rooms/${id}/position`, { ...now, rotation_deg: ((now.rotation_deg ?? 0) + 90) % 360 });
		});
	}
	/** Every turn of its walk was told the wrong way: the room as in a mirror. */
	function mirror(id: string): void {
		const walk = survey?.rooms?.[id]?.walk;
		if (walk?.length)
			void session.edit('Room mirrored', (d) => d.set(`/survey/rooms/${id}/walk`, mirrored(walk as RunDoc[])));
	}
	function addStorey(): void {
		const id = newId();
		void session.edit('Storey added', (d) =>
			d.set(`/survey/storeys/${id}`, { label: 'Storey', pos: nextPos(d.job.survey?.storeys) })
		);
		chosen = id;
	}
	function walkIt(room: string | null): void {
		walkRoom = room;
		walking = true;
	}

	const KINDS: Record<string, [string, string]> = {
		csv: ['sheet', 'text/csv'],
		xlsx: ['sheet', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'],
		dxf: ['drawing', 'image/vnd.dxf']
	};
	async function bring(file: File): Promise<void> {
		wrong = null;
		const kind = KINDS[file.name.split('.').at(-1)?.toLowerCase() ?? ''];
		if (!kind) {
			wrong = { message: `${file.name}: CSV, XLSX or DXF are read here.`, places: [] };
			return;
		}
		const sent = await sendFile<{ operations: Operation[] }>(`/api/jobs/${session.id}/${kind[0]}`, kind[1], file);
		wrong = sent.wrong;
		if (!sent.made) return;
		const made = sent.made;
		await session.edit(`${file.name} taken in`, (d) => {
			d.follow(made.operations);
		});
	}
</script>

<Head title="Plan" screen="plan">
	<div class="flex flex-wrap gap-1.5" role="tablist" aria-label="Storey">
		{#each storeys as [key, one] (key)}
			<button
				role="tab"
				class="btn"
				class:btn-primary={key === storey}
				class:btn-outline={!(key === storey)}
				aria-selected={key === storey}
				onclick={() => ((chosen = key), (selected = null))}>{one.label || key}</button
			>
		{/each}
	</div>
	<button class="btn btn-quiet" onclick={addStorey}>+ storey</button>
</Head>
{#if wrong}
	<WrongFile {wrong} close={() => (wrong = null)} />
{/if}

<div class="grid grid-cols-[minmax(0,1fr)_372px] gap-6 narrow:grid-cols-[1fr]">
	<div class="picture grid min-w-0 content-start gap-1.5">
		<Plan
			rooms={here.filter((r) => r.doc.position)}
			loose={here.filter((r) => !r.doc.position)}
			{below}
			{selected}
			north={session.job?.site?.north_deg ?? null}
			onselect={(id) => ((selected = id), (walking = walking && walkRoom === id))}
			onmove={move}
			onturn={turn}
			onmirror={mirror}
		/>
		<div class="flex flex-wrap items-center gap-x-4 gap-y-1 note">
			<span
				><i class="mr-1.5 inline-block w-6.5 border-t-8 border-t-heat align-middle"></i>heat out, thicker is more</span
			><span><i class="thin mr-1.5 inline-block w-6.5 border-t-2 border-t-muted align-middle"></i>another room</span
			><span><i class="mr-1.5 inline-block w-6.5 border-t-3 border-dashed border-t-doubt align-middle"></i>assumed</span
			><span><i class="mr-1.5 inline-block w-6.5 border-t-3 border-dashed border-t-heat align-middle"></i>said so</span
			><span><i class="mr-1.5 inline-block w-6.5 border-t-3 border-t-water align-middle"></i>window</span><span
				><i class="mr-1.5 inline-block w-6.5 border-t-7 border-t-water align-middle"></i>radiator</span
			>{#if below.length}<span
					><i class="mr-1.5 inline-block w-6.5 border-t border-dashed border-t-muted align-middle"></i>storey below</span
				>{/if}
		</div>
		<div class="files flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-t-hairline pt-2 note">
			{#if here2}
				<span class="inline-flex items-center gap-1.5"
					>Name <TextField
						label="Name of the storey"
						value={here2.label}
						commit={(v) => session.edit('Storey named', (d) => d.set(`/survey/storeys/${storey}/label`, v))}
					/></span
				>
				<span class="inline-flex items-center gap-1.5"
					>floor at <NumberField
						label="Level of the storey"
						value={here2.level_m}
						quantity="plain"
						digits={2}
						unit="m"
						width="7em"
						placeholder="stacked"
						known={here2.known?.level_m ?? null}
						by={session.person}
						commit={(v, k) =>
							session.edit(
								'Storey level',
								(d) => (
									d.put(`/survey/storeys/${storey}/level_m`, v),
									k && d.set(`/survey/storeys/${storey}/known/level_m`, k)
								)
							)}
					/></span
				>
			{/if}
			<span class="inline-flex items-center gap-1.5"
				>north <NumberField
					label="Compass bearing of the plan's up"
					value={session.job?.site?.north_deg}
					digits={0}
					unit="°"
					width="6em"
					placeholder="up"
					known={session.job?.site?.known?.north_deg ?? null}
					by={session.person}
					commit={(v, k) =>
						session.edit('North', (d) => (d.put('/site/north_deg', v), k && d.set('/site/known/north_deg', k)))}
				/></span
			>
			<span class="out inline-flex items-center gap-1.5"
				>Out: {#each ['csv', 'xlsx', 'dxf', 'svg'] as form (form)}<a
						href={`/api/jobs/${session.id}/survey.${form}`}
						download>{form.toUpperCase()}</a
					>
				{/each}<a href="/api/survey-sheet.xlsx" download>empty sheet</a></span
			>
			<BringFile
				label="Take rooms in from a file"
				hint="In: CSV, XLSX, DXF"
				accept=".csv,.xlsx,.dxf"
				take={(file) => void bring(file)}
			/>
		</div>
	</div>
	<aside class={['grid content-start gap-2.5', walking && 'narrow:order-first']}>
		{#if walking}
			{#key walkRoom}
				<RoomWalk room={walkRoom} {storey} onroom={(id) => (selected = id)} onclose={() => (walking = false)} />
			{/key}
		{:else if doc && selected}
			<RoomSide
				id={selected}
				{doc}
				room={design.rooms.find((r) => r.id === selected)}
				onwalk={() => walkIt(selected)}
			/>
		{:else}
			<button class="btn justify-self-start btn-primary" onclick={() => walkIt(null)}>Walk a new room</button>
			<p class="note">
				Drag a room until its walls meet its neighbours'; hold Alt to slide it freely. With the keyboard: Tab to a room,
				arrows slide it, j joins it, q turns it, m mirrors its walk. Choose one to see what its walls touch.
			</p>
			<table class="table table-figures">
				<thead
					><tr
						><th>Room</th><th class="text-right">Floor</th><th class="text-right">Outside edge</th><th
							class="text-right">Loss</th
						></tr
					></thead
				>
				<tbody>
					{#each here as one (one.id)}
						<tr
							><td
								><button
									class="min-h-7.5 font-semibold underline decoration-hairline underline-offset-3"
									onclick={() => (selected = one.id)}>{one.doc.label}</button
								>{#if !one.doc.position}<span
										class="ml-1.5 badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-doubt"
										>not in place</span
									>{/if}</td
							><td class="num text-right"
								>{fig(one.result?.area_m2, 'm²', 1)}<span class="unit">{unitName('m²')}</span></td
							><td class="num text-right"
								>{fig(one.result?.exposed_perimeter_m, 'm', 1)}<span class="unit">{unitName('m')}</span></td
							><td class="num text-right"
								>{watts(one.result?.room_emitter_load_w)}<span class="unit">{unitName('W')}</span></td
							></tr
						>
					{/each}
					{#each unwalked as [id, room] (id)}<tr
							><td
								><button
									class="min-h-7.5 font-semibold underline decoration-hairline underline-offset-3"
									onclick={() => ((selected = id), walkIt(id))}>{room.label}</button
								></td
							><td colspan="3" class="note">not walked yet</td></tr
						>{/each}
				</tbody>
			</table>
			{#each design.house.slabs as slab, n (n)}
				<p class="note">
					{slab.construction_label}{slab.part ? `, ${slab.part}` : ''}: {amount(slab.area_m2, 'm²', 1)}, outside edge P {amount(
						slab.exposed_perimeter_m,
						'm',
						1
					)}, B′ {amount(slab.characteristic_m, 'm', 2)}, U {fig(slab.u_w_m2k, 'W/m²K', 2)}
				</p>
			{/each}
		{/if}
	</aside>
</div>

<style>
	.picture > :global(svg) {
		height: min(560px, calc(100vh - 300px));
		min-height: 340px;
	}

	.files span :global(input) {
		max-width: 120px;
	}
</style>
