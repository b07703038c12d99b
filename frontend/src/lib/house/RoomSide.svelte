<script lang="ts">
	import { beyondOf, newBeyonds } from './beyond';
	import { takeAway } from '$lib/job/pointers';
	import type { Face, FacePiece, Known, RoomDoc, RoomResult } from '$lib/api/client';
	import { beyonds, beyondValue } from '$lib/parts/choices';
	import type { RunDoc } from '$lib/charts/plan';
	import { newId, ordered } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { amount, fig, lengthText, unitName, watts } from '$lib/parts/units';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import PhotoStrip from './PhotoStrip.svelte';
	let { id, doc, room, onwalk }: { id: string; doc: RoomDoc; room: RoomResult | undefined; onwalk: () => void } =
		$props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const at = $derived(`/survey/rooms/${id}`);
	const walk = $derived((doc.walk ?? []) as RunDoc[]);
	const range = $derived(frame.doubts.found?.doubts.rooms[id]);
	let open = $state<string | null>(null);

	const put = (field: string, what: string) => (value: unknown, proof?: Known) =>
		session.edit(`${doc.label}, ${what}`, (d) => {
			d.put(`${at}/${field}`, value);
			if (proof) d.set(`${at}/known/${field}`, proof);
		});
	const proven = (where: string, field: string, what: string) => (value: unknown, proof?: Known) =>
		session.edit(`${doc.label}, ${what}`, (d) => {
			d.put(`${at}/${where}/${field}`, value);
			if (proof) d.set(`${at}/${where}/known/${field}`, proof);
		});
	const hung = $derived(ordered(session.job?.survey?.emitters).filter(([, e]) => e.room === id));
	const faceOptions = $derived(
		(room?.faces ?? []).filter((f) => f.kind === 'wall').map((f) => ({ value: f.key, label: f.label }))
	);
	function setRun(n: number, change: Partial<RunDoc>, proof?: Known): Promise<boolean> {
		return session.edit(`${doc.label}, wall ${n + 1}`, (d) => {
			const runs = (d.job.survey?.rooms?.[id]?.walk ?? []) as RunDoc[];
			const next = runs.map((run, k) => {
				if (k !== n) return run;
				const merged = { ...run, ...change };
				return Object.fromEntries(Object.entries(merged).filter(([, v]) => v !== null)) as RunDoc;
			});
			d.set(`${at}/walk`, next);
			if (proof) d.set(`${at}/known/walk`, proof);
		});
	}
	function setBeyond(face: string, value: string | null): void {
		void session.edit(`${doc.label}, what lies beyond`, (d) => {
			if (value === null) d.remove(`${at}/faces/${face}/spans`);
			else d.set(`${at}/faces/${face}/spans`, { all: { beyond: beyondOf(d, value) } });
		});
	}
	/** What somebody said of just this stretch of a wall, if anybody has. */
	function spanOver(
		face: string,
		piece: FacePiece
	): [string, { beyond?: Parameters<typeof beyondValue>[0] }] | undefined {
		return Object.entries(doc.faces?.[face]?.spans ?? {}).find(
			([, span]) =>
				span.from_m != null &&
				Math.abs(span.from_m - (piece.from_m ?? 0)) < 0.002 &&
				Math.abs((span.to_m ?? 0) - (piece.to_m ?? 0)) < 0.002
		);
	}
	const statedOver = (face: string, piece: FacePiece): string | null => beyondValue(spanOver(face, piece)?.[1].beyond);
	function overrideSpan(face: string, piece: FacePiece, value: string | null): void {
		const known = spanOver(face, piece)?.[0];
		void session.edit(`${doc.label}, beyond a stretch of wall`, (d) => {
			if (known) d.remove(`${at}/faces/${face}/spans/${known}`);
			if (value !== null)
				d.set(`${at}/faces/${face}/spans/${newId()}`, {
					from_m: piece.from_m,
					to_m: piece.to_m,
					beyond: beyondOf(d, value)
				});
		});
	}
	function addSlope(run: string): void {
		void session.edit(`${doc.label}, a sloping ceiling`, (d) =>
			d.set(`${at}/slopes/${newId()}`, { run, knee_m: 1.0, angle_deg: 45, label: '' })
		);
	}
	function addVoid(face: string): void {
		void session.edit(`${doc.label}, a stairwell`, (d) =>
			d.set(`${at}/voids/${newId()}`, { face, x_m: 0, y_m: 0, width_m: 1.0, length_m: 2.5 })
		);
	}
	function putPlace(field: 'x_m' | 'y_m' | 'rotation_deg', value: number | null): Promise<boolean> {
		return session.edit(`${doc.label}, its place`, (d) => {
			const now = d.job.survey?.rooms?.[id]?.position ?? { x_m: 0, y_m: 0, rotation_deg: 0 };
			d.set(`${at}/position`, { ...now, [field]: value ?? 0 });
		});
	}
	const index = (face: Face): number => walk.findIndex((run) => run.id === face.key);
	const WORD: Record<string, string> = { stated: 'said so', derived: 'by the plan', assumed: 'assumed' };
</script>

<section class="grid content-start gap-2.5" aria-label={doc.label}>
	<header class="flex flex-wrap items-baseline justify-between gap-2.5">
		<h2>{doc.label}</h2>
		<span class="note"
			>{amount(room?.area_m2, 'm²', 1)} · {amount(room?.volume_m3, 'm³', 1)} · {amount(
				room?.room_emitter_load_w,
				'W',
				-1
			)}{range ? ` (${watts(range.p10_w)}–${watts(range.p90_w)})` : ''}</span
		>
	</header>
	<div class="flex items-center gap-2">
		<button class="btn btn-primary" onclick={onwalk}>{walk.length ? 'Go on walking it' : 'Walk it'}</button>
		<a
			class="btn inline-flex btn-quiet items-center"
			href={`/job/${session.id}/rooms`}
			onclick={() => (frame.openRoom = id)}>In the ledger</a
		>
		<button
			class="btn btn-quiet"
			onclick={() => void session.edit(`${doc.label} removed`, (d) => takeAway(d, 'room', id))}>Remove</button
		>
	</div>
	{#if room?.closing_error_m && room.closing_error_m > 0.001}
		<p class:hatch-short={(room.closing_share ?? 0) > 0.01} class="rounded-sm bg-ash px-2.5 py-1.5 text-small">
			The walk misses its start by <strong>{amount(room.closing_error_m * 1000, 'mm')}</strong>, {num(
				(room.closing_share ?? 0) * 100,
				1
			)} % of the way{(room.closing_share ?? 0) <= 0.01 ? ': good' : ''}.
			{#if (room.closing_share ?? 0) > 0.01 && room.closing_suspects.length}
				Most likely {room.closing_suspects
					.slice(0, 2)
					.map((run) => `wall ${walk.findIndex((r) => r.id === run) + 1}`)
					.join(' or ')}, by {amount((room.closing_correction_m ?? 0) * 1000, 'mm')}. Nothing is spread.
			{/if}
		</p>
	{/if}
	<div class="grid grid-cols-[1fr_1fr] gap-2.5">
		<label
			>Ceiling height<NumberField
				label={`Height of ${doc.label}`}
				between={USUAL.room_height_m}
				value={doc.height_m}
				quantity="length"
				digits={3}
				unit="m"
				width="100%"
				known={doc.known?.height_m ?? null}
				by={session.person}
				commit={put('height_m', 'height')}
			/></label
		>
		<label
			>Floor level<NumberField
				label={`Floor level of ${doc.label}`}
				value={doc.floor_level_m}
				placeholder={room?.bottom_m == null ? 'storey' : fig(room.bottom_m, 'm', 2)}
				quantity="length"
				digits={3}
				unit="m"
				width="100%"
				known={doc.known?.floor_level_m ?? null}
				by={session.person}
				commit={put('floor_level_m', 'floor level')}
			/></label
		>
	</div>
	<ul class="faces">
		{#each room?.faces ?? [] as face (face.key)}
			{@const n = index(face)}
			<li class:open={open === face.key}>
				<button
					class="grid min-h-9 w-full grid-cols-[1.25fr_1fr_62px_86px] items-center gap-1.5 border-b border-b-hairline text-left hover:bg-ash"
					aria-expanded={open === face.key}
					onclick={() => (open = open === face.key ? null : face.key)}
				>
					<span class="overflow-hidden text-ellipsis whitespace-nowrap"
						>{face.label}{#if n >= 0}<span class="num ml-1.75 note nth-[3]:text-right"
								>{lengthText(walk[n]?.length_m)}</span
							>{/if}</span
					>
					<span class="overflow-hidden note text-ellipsis whitespace-nowrap">{face.beyond_label}</span>
					<span class="num overflow-hidden text-ellipsis whitespace-nowrap nth-[3]:text-right"
						>{face.loss_w == null ? '–' : watts(face.loss_w)}<span class="unit">{unitName('W')}</span></span
					>
					<span
						class="overflow-hidden rounded-[9px] px-1.5 py-0 text-center text-small text-ellipsis whitespace-nowrap not-[.hatch-doubt]:bg-ash"
						class:hatch-doubt={face.pieces[0]?.how === 'assumed'}>{WORD[face.pieces[0]?.how ?? 'assumed']}</span
					>
				</button>
				{#if open === face.key}
					<div class="grid justify-items-start gap-2 border-b border-b-ink bg-sheet p-2.5">
						{#if n >= 0}
							<div class="grid w-full grid-cols-[repeat(3,1fr)] items-end gap-2">
								<label
									>Length<NumberField
										label={`Length of ${face.label}`}
										between={USUAL.wall_m}
										value={walk[n]?.length_m}
										quantity="length"
										digits={3}
										width="100%"
										known={doc.known?.walk ?? null}
										by={session.person}
										commit={(v, k) => setRun(n, { length_m: v }, k)}
									/></label
								>
								<label
									>Then turn<NumberField
										label={`Turn after ${face.label}`}
										value={walk[n]?.turn_deg ?? 90}
										digits={1}
										unit="°"
										width="100%"
										commit={(v) => setRun(n, { turn_deg: v ?? 90 })}
									/></label
								>
								<label
									>Diagonal<NumberField
										label={`Diagonal to the end of ${face.label}`}
										value={walk[n]?.diagonal_m}
										quantity="length"
										digits={3}
										width="100%"
										placeholder="square"
										commit={(v) => setRun(n, { diagonal_m: v })}
									/></label
								>
							</div>
						{/if}
						<label class="w-full"
							>Beyond it<Choice
								label={`Beyond ${face.label}, on the plan`}
								value={beyondValue(doc.faces?.[face.key]?.spans?.all?.beyond)}
								empty={room?.placed ? 'by the plan' : 'not said'}
								options={[
									...beyonds(session.job!, id, face.kind === 'slope' ? 'ceiling' : face.kind),
									...newBeyonds(face.kind)
								]}
								commit={(v) => setBeyond(face.key, v)}
							/></label
						>
						{#each face.pieces as piece, k (k)}
							{#if n >= 0 && face.pieces.length > 1 && piece.from_m != null}
								<Choice
									label={`Beyond ${face.label}, ${fig(piece.from_m, 'm', 2)} to ${amount(piece.to_m, 'm', 2)}`}
									value={statedOver(face.key, piece)}
									empty={`${fig(piece.from_m, 'm', 2)}–${amount(piece.to_m, 'm', 2)}: ${piece.beyond_label}, ${WORD[piece.how]}`}
									options={[...beyonds(session.job!, id, 'wall'), ...newBeyonds('wall')]}
									commit={(v) => overrideSpan(face.key, piece, v)}
								/>
							{/if}
							<p class="grid w-full grid-cols-[1fr_70px_64px] text-small">
								<span
									>{piece.hole ? 'open' : piece.beyond_label}{#if piece.from_m != null && face.pieces.length > 1}<span
											class="num ml-1.75 text-right note">{fig(piece.from_m, 'm', 2)}–{amount(piece.to_m, 'm', 2)}</span
										>{/if}</span
								><span class="num text-right">{amount(piece.area_m2, 'm²', 2)}</span><span class="num text-right"
									>{amount(piece.loss_w, 'W', -1)}</span
								>
							</p>
						{/each}
						{#if n >= 0}<button class="btn btn-quiet w-auto text-left text-small" onclick={() => addSlope(face.key)}
								>+ ceiling slopes up from this wall</button
							>{/if}
						{#if face.kind === 'floor' || face.kind === 'ceiling'}<button
								class="btn btn-quiet w-auto text-left text-small"
								onclick={() => addVoid(face.key)}>+ stairwell through it</button
							>{/if}
						<button
							class="btn btn-quiet w-auto text-left text-small"
							onclick={() => frame.showWorking(`face:${id}:${face.key}`)}>its working</button
						>
						<PhotoStrip about={{ room: id, face: face.key }} label={face.label} />
					</div>
				{/if}
			</li>
		{/each}
	</ul>
	{#each Object.entries(doc.slopes ?? {}) as [key, slope] (key)}
		<div class="grid grid-cols-[repeat(3,1fr)] items-end gap-2">
			<label
				>Slope from wall {walk.findIndex((r) => r.id === slope.run) + 1}: knee<NumberField
					label="Height of the knee wall"
					value={slope.knee_m}
					quantity="length"
					digits={3}
					width="100%"
					known={slope.known?.knee_m ?? null}
					by={session.person}
					commit={proven(`slopes/${key}`, 'knee_m', 'knee wall')}
				/></label
			>
			<label
				>Angle<NumberField
					label="Angle of the slope"
					value={slope.angle_deg}
					digits={1}
					unit="°"
					width="100%"
					known={slope.known?.angle_deg ?? null}
					by={session.person}
					commit={proven(`slopes/${key}`, 'angle_deg', 'slope')}
				/></label
			>
			<button
				class="btn btn-quiet"
				onclick={() =>
					void session.edit(
						`${doc.label}, slope removed`,
						(d) => (d.remove(`${at}/faces/${key}`), d.remove(`${at}/slopes/${key}`))
					)}>remove</button
			>
		</div>
	{/each}
	{#each Object.entries(doc.voids ?? {}) as [key, hole] (key)}
		<div class="grid grid-cols-[repeat(3,1fr)] items-end gap-2">
			<label
				>Hole in the {hole.face}: width<NumberField
					label="Width of the stairwell"
					value={hole.width_m}
					quantity="length"
					digits={3}
					width="100%"
					commit={put(`voids/${key}/width_m`, 'stairwell')}
				/></label
			>
			<label
				>Length<NumberField
					label="Length of the stairwell"
					value={hole.length_m}
					quantity="length"
					digits={3}
					width="100%"
					commit={put(`voids/${key}/length_m`, 'stairwell')}
				/></label
			>
			<button
				class="btn btn-quiet"
				onclick={() => void session.edit(`${doc.label}, stairwell removed`, (d) => d.remove(`${at}/voids/${key}`))}
				>remove</button
			>
		</div>
	{/each}
	<div class="grid grid-cols-[repeat(3,1fr)] items-end gap-2">
		<label
			>Place, across<NumberField
				label={`Place of ${doc.label}, across`}
				value={doc.position?.x_m}
				digits={3}
				unit="m"
				width="100%"
				placeholder="not placed"
				commit={(v) => putPlace('x_m', v)}
			/></label
		>
		<label
			>up<NumberField
				label={`Place of ${doc.label}, up`}
				value={doc.position?.y_m}
				digits={3}
				unit="m"
				width="100%"
				commit={(v) => putPlace('y_m', v)}
			/></label
		>
		<label
			>turned<NumberField
				label={`${doc.label} is turned`}
				value={doc.position?.rotation_deg}
				digits={1}
				unit="°"
				width="100%"
				commit={(v) => putPlace('rotation_deg', v)}
			/></label
		>
	</div>
	{#each hung as [key, emitter] (key)}
		<div class="grid gap-1.5 border-t border-t-hairline pt-2">
			<p>
				<strong>{emitter.label || 'Radiator'}</strong>
				<span class="note">{room?.emitters.find((e) => e.id === key)?.description ?? ''}</span>
			</p>
			<div class="grid grid-cols-[1fr_1fr] gap-2.5">
				<label
					>On<Choice
						label={`Wall of ${emitter.label || 'radiator'}`}
						value={emitter.face}
						empty="wall not said"
						options={faceOptions}
						commit={(v) =>
							void session.edit(`${doc.label}, where it hangs`, (d) => d.put(`/survey/emitters/${key}/face`, v))}
					/></label
				>
				<label
					>Free wall<NumberField
						label={`Free wall at ${emitter.label || 'radiator'}`}
						value={emitter.free_wall?.length_m}
						quantity="length"
						digits={3}
						unit="m"
						width="100%"
						known={emitter.known?.free_wall ?? null}
						by={session.person}
						commit={(v, k) =>
							session.edit(
								`${doc.label}, free wall`,
								(d) => (
									d.put(`/survey/emitters/${key}/free_wall/length_m`, v),
									k && d.set(`/survey/emitters/${key}/known/free_wall`, k)
								)
							)}
					/></label
				>
			</div>
			<PhotoStrip about={{ emitter: key, room: id }} label={emitter.label || 'the radiator'} />
		</div>
	{/each}
	<PhotoStrip about={{ room: id }} label={doc.label ?? ''} />
</section>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
	}
</style>
