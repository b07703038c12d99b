<script lang="ts">
	import { fig, unitName } from '$lib/parts/units';
	import rules from '$lib/api/rules.json';
	import { beyondOf, newBeyonds } from './beyond';
	import { proofOf, proveSide } from './evidence';
	import { takeAway } from '$lib/job/pointers';
	import type { Face, Known, RoomDoc, RoomResult } from '$lib/api/client';
	import { beyonds, beyondValue, constructions, elementsFor } from '$lib/parts/choices';
	import { type Draft, newId, nextPos } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Mark from '$lib/parts/Mark.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import TextField from '$lib/parts/TextField.svelte';
	let { room, doc }: { room: RoomResult; doc: RoomDoc } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const at = $derived(`/survey/rooms/${room.id}/faces`);
	const high = $derived(doc.height_m ?? room.height_m ?? USUAL.opening_height_m[1]);
	const scheme = $derived(session.scheme);
	const schemeLabel = $derived(scheme ? (job.schemes?.[scheme]?.label ?? scheme) : '');

	function setBeyond(face: string, value: string | null): void {
		void session.edit(`${room.label}, what lies beyond`, (d) => {
			if (value === null) d.remove(`${at}/${face}/spans/all`);
			else d.set(`${at}/${face}/spans/all`, { beyond: beyondOf(d, value) });
		});
	}

	function setBuild(path: string, value: string | null, what: string): void {
		void session.edit(`${room.label}, ${what}`, (d) => {
			if (value) d.freeze('constructions', value);
			d.put(path, value);
		});
	}

	/** What the scheme does to a face or an opening: a measure, or nothing. */
	function setMeasure(face: string, opening: string | null, value: string | null, what: string): void {
		void session.edit(`${room.label}, ${what} in ${schemeLabel}`, (d: Draft) => {
			const measures = `/schemes/${scheme}/measures`;
			const known = Object.entries(d.job.schemes?.[scheme ?? '']?.measures ?? {}).find(
				([, m]) => m.room === room.id && m.face === face && (m.opening ?? null) === opening
			)?.[0];
			if (value === null) {
				if (known) d.remove(`${measures}/${known}`);
				return;
			}
			d.freeze('constructions', value);
			if (known) d.set(`${measures}/${known}/construction`, value);
			else
				d.set(`${measures}/${newId()}`, {
					kind: opening ? 'opening' : 'face',
					room: room.id,
					face,
					...(opening ? { opening } : {}),
					construction: value
				});
		});
	}

	/** Windows and doors as they are recorded; those that wait for the line have no figures yet. */
	function openingsOf(face: Face): Face['openings'] {
		const there = doc.faces?.[face.key]?.openings ?? {};
		const known = face.openings.filter((o) => o.id in there);
		const waiting = Object.entries(there)
			.filter(([id]) => !face.openings.some((o) => o.id === id))
			.map(([id, o]) => ({
				id,
				label: o.label || (o.kind === 'door' ? 'Door' : 'Window'),
				kind: o.kind ?? 'window',
				found: o.construction ?? null,
				construction: o.construction ?? null,
				construction_label: '',
				u_w_m2k: null,
				bridge_u_w_m2k: 0,
				area_m2: null,
				difference_k: null,
				factor: null,
				loss_w: null,
				bridge_w: null,
				measure: null
			}));
		return [...known, ...waiting];
	}
	function sized(
		path: string,
		field: 'width_m' | 'height_m',
		value: number | null,
		known: Known | undefined,
		what: string
	): Promise<boolean> {
		return session.edit(`${room.label}, ${what}`, (d) => {
			d.put(`${path}/${field}`, value);
			const [, , , , , face = '', , opening = ''] = path.split('/');
			const there = d.job.survey?.rooms?.[room.id]?.faces?.[face]?.openings?.[opening];
			const other = field === 'width_m' ? 'height_m' : 'width_m';
			if (known)
				proveSide(
					d,
					`${path}/known`,
					there?.known,
					{ side: field, other, together: 'size', stands: there?.[other] != null },
					known
				);
		});
	}
	const prove = (path: string, what: string) => (known: Known) =>
		void session.edit(`${room.label}, how the ${what} is known`, (d) => d.set(`${path}/known/construction`, known));

	/** The same once more along its wall; where it stands is not known yet. */
	function again(face: string, id: string, label: string): void {
		const one = doc.faces?.[face]?.openings?.[id];
		if (!one) return;
		const { offset_m: _, ...rest } = structuredClone($state.snapshot(one)) as Record<string, unknown>;
		void session.edit(`${room.label}, ${label.toLowerCase()} once more`, (d) =>
			d.set(`${at}/${face}/openings/${newId()}`, {
				...rest,
				pos: nextPos(d.job.survey?.rooms?.[room.id]?.faces?.[face]?.openings)
			})
		);
	}
	function addOpening(face: string, kind: 'window' | 'door'): void {
		void session.edit(`${room.label}, a ${kind} added`, (d) =>
			d.set(`${at}/${face}/openings/${newId()}`, {
				kind,
				pos: nextPos(d.job.survey?.rooms?.[room.id]?.faces?.[face]?.openings),
				label: '',
				...rules.openings[kind]
			})
		);
	}
</script>

<table class="faces table [table-layout:auto] table-figures">
	<thead>
		<tr
			><th>Face</th><th>Beyond</th><th class="w-[20%]">As found</th><th class="w-[20%]"
				>{scheme ? `In “${schemeLabel}”` : ''}</th
			><th class="text-right whitespace-nowrap">Area</th><th class="text-right whitespace-nowrap">U</th><th
				class="text-right whitespace-nowrap">Loss</th
			><th></th></tr
		>
	</thead>
	<tbody>
		{#each room.faces as face (face.key)}
			{@const faceDoc = doc.faces?.[face.key]}
			{@const elements = elementsFor(face.kind, face.beyond)}
			<tr>
				<td class="font-semibold whitespace-nowrap">{face.label}</td>
				<td
					><Choice
						label={`Beyond ${face.label} of ${room.label}`}
						value={beyondValue(faceDoc?.spans?.all?.beyond)}
						empty={`${face.beyond_label}${face.pieces[0]?.how === 'derived' ? ', by the plan' : '?'}`}
						options={[...beyonds(job, room.id, face.kind), ...newBeyonds(face.kind)]}
						commit={(v) => setBeyond(face.key, v)}
					/></td
				>
				{#if face.beyond === 'heated'}
					<td colspan="5" class="note">as warm on the other side: no loss</td>
				{:else}
					<td
						><Choice
							label={`Construction of ${face.label} of ${room.label}`}
							value={faceDoc?.construction}
							empty={face.found
								? `${shelf.all?.constructions[face.found]?.label ?? face.found} (default)`
								: 'not known'}
							options={constructions(job, shelf.all, elements)}
							commit={(v) => setBuild(`${at}/${face.key}/construction`, v, face.label.toLowerCase())}
						/>{#if faceDoc?.construction}<Mark
								known={faceDoc.known?.construction}
								label={`Construction of ${face.label}`}
								set={prove(`${at}/${face.key}`, face.label.toLowerCase())}
							/>{/if}</td
					>
					<td
						>{#if scheme}<Choice
								label={`${face.label} of ${room.label} in the scheme`}
								value={face.measure ? face.construction : null}
								empty="kept"
								options={constructions(job, shelf.all, elements)}
								commit={(v) => setMeasure(face.key, null, v, face.label.toLowerCase())}
							/>{/if}</td
					>
					<td class="text-right whitespace-nowrap"
						>{fig(face.net_m2, 'm²', 2)}<span class="unit">{unitName('m²')}</span></td
					>
					<td class="text-right whitespace-nowrap">{fig(face.u_w_m2k, 'W/m²K', 2)}</td>
					<td class="text-right whitespace-nowrap"
						><button
							class="fig"
							onclick={() => frame.showWorking(`face:${room.id}:${face.key}`)}
							aria-label={`Loss of ${face.label}: show the working`}
							>{fig(face.loss_w, 'W')}<span class="unit">{unitName('W')}</span></button
						></td
					>
				{/if}
				<td class="whitespace-nowrap">
					{#if face.kind === 'wall'}
						<button
							class="btn btn-quiet px-1 py-0 text-small"
							onclick={() => addOpening(face.key, 'window')}
							aria-label={`Add a window to ${face.label}`}>+ window</button
						>
						<button
							class="btn btn-quiet px-1 py-0 text-small"
							onclick={() => addOpening(face.key, 'door')}
							aria-label={`Add a door to ${face.label}`}>+ door</button
						>
					{/if}
				</td>
			</tr>
			{#each openingsOf(face) as opening (opening.id)}
				{@const path = `${at}/${face.key}/openings/${opening.id}`}
				{@const openingDoc = faceDoc?.openings?.[opening.id]}
				<tr class="opening">
					<td
						><TextField
							label={`Name of ${opening.label}`}
							value={openingDoc?.label}
							placeholder={opening.label}
							commit={(v) => session.edit(`${room.label}, window named`, (d) => d.set(`${path}/label`, v))}
						/></td
					>
					<td class="whitespace-nowrap">
						<NumberField
							label={`Width of ${opening.label}`}
							between={USUAL.opening_width_m}
							value={openingDoc?.width_m}
							quantity="length"
							digits={3}
							width="5.9em"
							placeholder="width"
							known={proofOf(openingDoc?.known, 'width_m', 'size')}
							by={session.person}
							commit={(v, k) => sized(path, 'width_m', v, k, `${opening.label.toLowerCase()} width`)}
						/>
						<span class="note">×</span>
						<NumberField
							label={`Height of ${opening.label}`}
							between={[USUAL.opening_height_m[0], high]}
							beyond="is taller than its wall"
							value={openingDoc?.height_m}
							quantity="length"
							digits={3}
							width="5.9em"
							placeholder="height"
							known={proofOf(openingDoc?.known, 'height_m', 'size')}
							by={session.person}
							commit={(v, k) => sized(path, 'height_m', v, k, `${opening.label.toLowerCase()} height`)}
						/>
						{#if face.pieces.some((p) => p.beyond === 'ground')}<span class="note">sill</span><NumberField
								label={`Sill of ${opening.label} above the floor`}
								value={openingDoc?.sill_m}
								quantity="length"
								digits={3}
								width="5.9em"
								placeholder="above the earth"
								commit={(v) =>
									void session.edit(`${room.label}, ${opening.label.toLowerCase()} sill`, (d) =>
										d.put(`${path}/sill_m`, v)
									)}
							/>{/if}
					</td>
					<td
						><Choice
							label={`Type of ${opening.label} of ${room.label}`}
							value={openingDoc?.construction}
							empty={opening.found
								? `${shelf.all?.constructions[opening.found]?.label ?? opening.found} (default)`
								: 'not known'}
							options={constructions(job, shelf.all, [opening.kind])}
							commit={(v) => setBuild(`${path}/construction`, v, opening.label.toLowerCase())}
						/>{#if openingDoc?.construction}<Mark
								known={openingDoc.known?.construction}
								label={`Type of ${opening.label}`}
								set={prove(path, opening.label.toLowerCase())}
							/>{/if}</td
					>
					<td
						>{#if scheme}<Choice
								label={`${opening.label} of ${room.label} in the scheme`}
								value={opening.measure ? opening.construction : null}
								empty="kept"
								options={constructions(job, shelf.all, [opening.kind])}
								commit={(v) => setMeasure(face.key, opening.id, v, opening.label.toLowerCase())}
							/>{/if}</td
					>
					<td class="text-right whitespace-nowrap"
						>{fig(opening.area_m2, 'm²', 2)}<span class="unit">{unitName('m²')}</span></td
					>
					<td class="text-right whitespace-nowrap">{fig(opening.u_w_m2k, 'W/m²K', 2)}</td>
					<td class="text-right whitespace-nowrap"
						><button
							class="fig"
							onclick={() => frame.showWorking(`opening:${room.id}:${face.key}:${opening.id}`)}
							aria-label={`Loss of ${opening.label}: show the working`}
							>{fig(opening.loss_w, 'W')}<span class="unit">{unitName('W')}</span></button
						></td
					>
					<td class="whitespace-nowrap"
						><button
							class="btn btn-quiet px-1 py-0 text-small"
							aria-label={`${opening.label} once more`}
							onclick={() => again(face.key, opening.id, opening.label)}>again</button
						>
						<button
							class="btn btn-quiet px-1 py-0 text-small"
							aria-label={`Remove ${opening.label}`}
							onclick={() =>
								void session.edit(`${room.label}, ${opening.label.toLowerCase()} removed`, (d) =>
									takeAway(d, 'opening', opening.id, [room.id, face.key])
								)}>remove</button
						></td
					>
				</tr>
			{/each}
		{/each}
	</tbody>
</table>

<style>
	.faces td,
	.faces th {
		padding: 2px 4px;
	}

	td:has(> :global(.wrap)) {
		white-space: nowrap;
	}
	td:has(> :global(.wrap)) > :global(select) {
		width: calc(100% - 32px);
	}

	.opening td:first-child {
		padding-left: 14px;
		min-width: 118px;
	}
</style>
