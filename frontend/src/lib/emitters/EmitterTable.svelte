<script lang="ts">
	import { fig, unitName } from '$lib/parts/units';
	import { takeAway } from '$lib/job/pointers';
	import rules from '$lib/api/rules.json';
	import type { Known, RoomResult } from '$lib/api/client';
	import { emitterTypes, valves } from '$lib/parts/choices';
	import { newId, nextPos, type Draft } from '$lib/job/draft';
	import { proofOf, proveSide } from '$lib/house/evidence';
	import { emitterPath, KINDS, setKind } from './emitters';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import TextField from '$lib/parts/TextField.svelte';
	let { room }: { room: RoomResult } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const scheme = $derived(session.scheme);
	const actions = $derived(scheme ? (job.schemes?.[scheme]?.emitters ?? {}) : {});
	const types = $derived([...emitterTypes(job, shelf.all), ...KINDS]);
	const valveOptions = $derived(valves(job));
	/** Radiators recorded without a line: nothing has been worked out for them yet. */
	const waiting = $derived.by(() => {
		const plain = {
			room: room.id,
			kind: 'panel',
			description: '',
			rated_w: null,
			exponent: null,
			water_l: 0,
			valve: null,
			valve_label: '',
			closes: false,
			share: null,
			output_w: null,
			at_line_w: null,
			flow_lph: null,
			spread_k: null,
			factor: 1,
			factor_words: '',
			electric_w: 0,
			heated: null
		};
		const found = Object.entries(job.survey?.emitters ?? {}).filter(
			([id, e]) => e.room === room.id && actions[id]?.action !== 'remove'
		);
		const added = Object.entries(actions).filter(([, a]) => a.action === 'add' && a.room === room.id);
		return [
			...found.map(([id, e]) => ({ ...plain, id, label: e.label || 'Radiator', action: 'keep' })),
			...added.map(([id, a]) => ({ ...plain, id, label: a.label || 'Radiator', action: 'add' }))
		].filter((one) => !room.emitters.some((e) => e.id === one.id));
	});
	const removed = $derived(
		Object.entries(job.survey?.emitters ?? {}).filter(
			([id, e]) => e.room === room.id && actions[id]?.action === 'remove'
		)
	);

	const base = (d: Draft, id: string): string => emitterPath(d.job, scheme, id);
	function spec(id: string, action: string) {
		return (action === 'keep' ? job.survey?.emitters?.[id]?.spec : actions[id]?.spec) ?? {};
	}
	function put(id: string, field: string, value: unknown, what: string, proof?: Known): Promise<boolean> {
		return session.edit(`${room.label}, ${what}`, (d) => {
			const at = base(d, id);
			const now = spec(id, at.startsWith('/schemes/') ? 'replace' : 'keep');
			d.put(`${at}/spec/${field}`, value);
			if (field === 'length_m' || field === 'height_m')
				for (const listed of ['product', 'output_w']) if (now.kind === 'panel') d.remove(`${at}/spec/${listed}`);
			if (!proof || !at.startsWith('/survey/')) return;
			if (field !== 'length_m' && field !== 'height_m') return d.set(`${at}/known/spec`, proof);
			const other = field === 'length_m' ? 'height_m' : 'length_m';
			const known = d.job.survey?.emitters?.[id]?.known;
			proveSide(d, `${at}/known`, known, { side: field, other, together: 'spec', stands: now[other] != null }, proof);
		});
	}
	/** Evidence of an emitter as found; what a scheme puts in is known from its catalogue. */
	const proof = (id: string, action: string, side = 'spec'): Known | null | undefined =>
		action === 'keep' ? proofOf(job.survey?.emitters?.[id]?.known, side, 'spec') : undefined;
	const setType = (id: string, value: string | null): void =>
		void session.edit(`${room.label}, kind of emitter`, (d) => setKind(d, `${base(d, id)}/spec`, value, room.area_m2));
	function decide(id: string, value: string | null): void {
		void session.edit(`${room.label}, radiator in the scheme`, (d: Draft) => {
			const at = `/schemes/${scheme}/emitters/${id}`;
			if (value === 'replace') {
				const found = d.job.survey?.emitters?.[id];
				d.set(at, { action: 'replace', label: found?.label ?? '', spec: structuredClone(found?.spec ?? {}) });
			} else if (value === 'remove') d.set(at, { action: 'remove' });
			else d.remove(at);
		});
	}
	function add(inScheme: boolean): void {
		void session.edit(`${room.label}, radiator added`, (d) => {
			d.freeze('emitter_types', 't22');
			const plain = rules.panel;
			const id = newId();
			if (inScheme)
				d.set(`/schemes/${scheme}/emitters/${id}`, {
					action: 'add',
					room: room.id,
					label: '',
					spec: plain,
					pos: nextPos(d.job.schemes?.[scheme ?? '']?.emitters)
				});
			else
				d.set(`/survey/emitters/${id}`, {
					room: room.id,
					label: '',
					pos: nextPos(d.job.survey?.emitters),
					spec: plain
				});
		});
	}
	const FATES = [
		{ value: 'replace', label: 'replaced by this' },
		{ value: 'remove', label: 'taken out' }
	];
</script>

<table class="emitters table table-figures [&_.text-right]:whitespace-nowrap">
	<thead>
		<tr
			><th>Emitter</th><th>Type</th><th class="text-right">Length / output</th><th class="text-right"
				>Height / at excess</th
			><th>Valve</th><th>{scheme ? 'In this scheme' : ''}</th><th class="text-right">Rated</th><th class="text-right"
				>Gives</th
			><th></th></tr
		>
	</thead>
	<tbody>
		{#each [...room.emitters, ...waiting] as emitter (emitter.id)}
			{@const now = spec(emitter.id, emitter.action)}
			<tr data-emitter={emitter.id}>
				<td
					><TextField
						label={`Name of ${emitter.label}`}
						value={emitter.label === 'Radiator' ? '' : emitter.label}
						placeholder="where it hangs"
						commit={(v) =>
							session.edit(`${room.label}, radiator named`, (d) => d.set(`${base(d, emitter.id)}/label`, v))}
					/></td
				>
				<td
					><Choice
						label={`Type of ${emitter.label}`}
						value={now.kind && now.kind !== 'panel' ? now.kind : now.type}
						empty="not known"
						options={types}
						commit={(v) => setType(emitter.id, v)}
					/></td
				>
				{#if now.kind === 'stated'}
					<td class="text-right"
						><NumberField
							label={`Output of ${emitter.label}`}
							value={now.output_w}
							digits={0}
							unit="W"
							width="6.8em"
							known={proof(emitter.id, emitter.action)}
							by={session.person}
							commit={(v, k) => put(emitter.id, 'output_w', v, 'output', k)}
						/></td
					>
					<td class="text-right whitespace-nowrap">
						<NumberField
							label={`Excess of ${emitter.label}`}
							value={now.excess_k}
							digits={1}
							unit="K"
							width="4.6em"
							placeholder="49.8"
							commit={(v) => put(emitter.id, 'excess_k', v, 'excess')}
						/>
						<NumberField
							label={`Exponent of ${emitter.label}`}
							value={now.exponent}
							digits={2}
							unit="n"
							width="4.6em"
							placeholder="1.30"
							commit={(v) => put(emitter.id, 'exponent', v, 'exponent')}
						/>
					</td>
				{:else if now.kind === 'electric'}
					<td class="text-right"
						><NumberField
							label={`Output of ${emitter.label}`}
							value={now.output_w}
							digits={0}
							unit="W"
							width="6.8em"
							commit={(v) => put(emitter.id, 'output_w', v, 'output')}
						/></td
					>
					<td class="note">no water</td>
				{:else if now.kind && now.kind !== 'panel'}
					<td colspan="2"
						><a href={`/job/${session.id}/emitters?emitter=${emitter.id}`}>{emitter.description || 'to its editor'}</a
						></td
					>
				{:else}
					<td class="text-right"
						><NumberField
							label={`Length of ${emitter.label}`}
							between={USUAL.panel_length_m}
							value={now.length_m}
							quantity="length"
							digits={3}
							width="6.2em"
							known={proof(emitter.id, emitter.action, 'length_m')}
							by={session.person}
							commit={(v, k) => put(emitter.id, 'length_m', v, 'radiator length', k)}
						/></td
					>
					<td class="text-right"
						><NumberField
							label={`Height of ${emitter.label}`}
							between={USUAL.panel_height_m}
							value={now.height_m}
							quantity="length"
							digits={3}
							width="6.2em"
							known={proof(emitter.id, emitter.action, 'height_m')}
							by={session.person}
							commit={(v, k) => put(emitter.id, 'height_m', v, 'radiator height', k)}
						/></td
					>
				{/if}
				<td
					><Choice
						label={`Valve of ${emitter.label}`}
						value={now.valve}
						empty="two lockshields (default)"
						options={valveOptions}
						commit={(v) => void put(emitter.id, 'valve', v, 'valve')}
					/></td
				>
				<td>
					{#if emitter.action === 'add'}<span class="note">added here</span>
					{:else if scheme}<Choice
							label={`${emitter.label} in this scheme`}
							value={emitter.action === 'replace' ? 'replace' : null}
							empty="kept"
							options={FATES}
							commit={(v) => decide(emitter.id, v)}
						/>{/if}
				</td>
				<td class="text-right">{fig(emitter.rated_w, 'W')}<span class="unit">{unitName('W')}</span></td>
				<td class="text-right">{fig(emitter.output_w, 'W')}<span class="unit">{unitName('W')}</span></td>
				<td
					><a
						class="btn btn-quiet px-1 py-0 text-small"
						href={`/job/${session.id}/emitters?emitter=${emitter.id}`}
						aria-label={`More about ${emitter.label}`}>more</a
					><button
						class="btn btn-quiet px-1 py-0 text-small"
						aria-label={`Remove ${emitter.label}`}
						onclick={() =>
							void session.edit(`${room.label}, radiator removed`, (d) =>
								emitter.action === 'keep' || emitter.action === 'add'
									? takeAway(d, 'emitter', emitter.id)
									: d.remove(`/schemes/${scheme}/emitters/${emitter.id}`)
							)}>{emitter.action === 'replace' ? 'undo swap' : 'remove'}</button
					></td
				>
			</tr>
		{/each}
		{#each removed as [id, emitter] (id)}
			<tr
				><td class="decoration-muted [text-decoration:line-through]">{emitter.label || 'Radiator'}</td><td
					colspan="4"
					class="note decoration-muted [text-decoration:line-through]">taken out in this scheme</td
				><td class="decoration-muted [text-decoration:line-through]" colspan="4"
					><button class="btn btn-quiet px-1 py-0 text-small" onclick={() => decide(id, null)}>keep it after all</button
					></td
				></tr
			>
		{/each}
	</tbody>
</table>
<div class="-mt-2.5">
	<button class="btn btn-quiet px-1 py-0 text-small" onclick={() => add(false)}>+ radiator found here</button>
	{#if scheme}<button class="btn btn-quiet px-1 py-0 text-small" onclick={() => add(true)}
			>+ radiator in this scheme</button
		>{/if}
</div>

<style>
	.emitters td,
	.emitters th {
		padding: 2px 4px;
	}
</style>
