<script lang="ts">
	import { amount, fig } from '$lib/parts/units';
	import { takeAway } from '$lib/job/pointers';
	import type { RoomDoc, RoomResult } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { ordered } from '$lib/job/draft';
	import Choice from '$lib/parts/Choice.svelte';
	import EmitterTable from '$lib/emitters/EmitterTable.svelte';
	import FaceTable from './FaceTable.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import PhotoStrip from './PhotoStrip.svelte';
	let { room, doc }: { room: RoomResult; doc: RoomDoc } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const at = $derived(`/survey/rooms/${room.id}`);
	const scheme = $derived(session.scheme ? session.job?.schemes?.[session.scheme] : null);
	const parts = $derived(ordered(session.job?.survey?.parts).map(([value, p]) => ({ value, label: p.label || value })));
	const storeys = $derived(
		ordered(session.job?.survey?.storeys).map(([value, s]) => ({ value, label: s.label || value }))
	);
	const tightness = $derived(room.air_tightness_w);

	const count = (field: 'chimneys' | 'flues' | 'fans', what: string) => (value: number | null) =>
		session.edit(`${room.label}, ${what}`, (d) => d.set(`${at}/air/${field}`, value ?? 0));
</script>

<div class="grid gap-3.5 pt-1 pr-3.5 pb-2.5 pl-8.5">
	<FaceTable {room} {doc} />
	<EmitterTable {room} />
	<PhotoStrip about={{ room: room.id }} label={room.label} />
	<div class="grid grid-cols-4 gap-x-3 gap-y-2">
		<label class="text-small text-muted"
			>Storey<Choice
				label={`Storey of ${room.label}`}
				value={doc.storey}
				empty="not said"
				options={storeys}
				commit={(v) => void session.edit(`${room.label}, storey`, (d) => d.put(`${at}/storey`, v))}
			/></label
		>
		<label class="text-small text-muted"
			>Part of the house<Choice
				label={`Part of ${room.label}`}
				value={doc.part}
				empty="not said"
				options={parts}
				commit={(v) => void session.edit(`${room.label}, part`, (d) => d.put(`${at}/part`, v))}
			/></label
		>
		<label class="text-small text-muted"
			>Open chimneys<NumberField
				label={`Open chimneys in ${room.label}`}
				value={doc.air?.chimneys ?? 0}
				quantity="whole"
				width="100%"
				commit={count('chimneys', 'chimneys')}
			/></label
		>
		<label class="text-small text-muted"
			>Open flues<NumberField
				label={`Open flues in ${room.label}`}
				value={doc.air?.flues ?? 0}
				quantity="whole"
				width="100%"
				commit={count('flues', 'flues')}
			/></label
		>
		<label class="text-small text-muted"
			>Fans<NumberField
				label={`Fans in ${room.label}`}
				value={doc.air?.fans ?? 0}
				quantity="whole"
				width="100%"
				commit={count('fans', 'fans')}
			/></label
		>
		{#if scheme}
			<label class="text-small text-muted"
				>Wanted in “{scheme.label}”<NumberField
					label={`Wanted temperature in the scheme, ${room.label}`}
					value={scheme.targets?.[room.id]}
					placeholder={fig(room.target_c, '°C', 0)}
					quantity="temperature"
					digits={1}
					unit="°C"
					width="100%"
					commit={(v) =>
						session.edit(`${room.label}, wanted in the scheme`, (d) =>
							d.put(`/schemes/${session.scheme}/targets/${room.id}`, v)
						)}
				/></label
			>
		{/if}
	</div>
	<p class="flex flex-wrap items-center gap-1 note">
		{amount(room.area_m2, 'm²', 1)} · {amount(room.volume_m3, 'm³', 1)} · {amount(room.w_per_m2, 'W/m²')} · its part of the
		house {amount(room.room_share_of_house_w, 'W')} · air {num(room.air_per_h, 2)} per hour: {amount(tightness, 'W')} by tightness,
		{amount(room.air_table_w, 'W')} by table ·
		<button class="btn btn-quiet" onclick={() => frame.showWorking(`room-reached:${room.id}`)}
			>reaches {amount(room.reached_c, '°C', 1)}</button
		>
		<a class="btn btn-quiet" href={`/job/${session.id}/plan?room=${room.id}`}>See it on the plan</a>
		<button
			class="btn ml-auto btn-quiet"
			onclick={() => void session.edit(`${room.label} removed`, (d) => takeAway(d, 'room', room.id))}
			>Remove this room</button
		>
	</p>
</div>
