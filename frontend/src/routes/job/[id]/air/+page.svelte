<script lang="ts">
	import { followed } from '$lib/job/followed';
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { Known } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown!);
	const house = $derived(design.house);
	const job = $derived(session.job!);
	const practice = $derived(followed(job.practice));
	const tight = $derived(job.survey?.tightness ?? {});
	const fans = $derived(job.survey?.ventilation ?? {});
	const most = $derived(Math.max(1, ...house.air.map((a) => a.loss_w)));
	const WHAT: Record<string, string> = {
		tightness: 'n50 measured, read or told; the house sees the mean of the wind, a room its windward share',
		age: 'the same, with n50 as the age of the house suggests',
		room: 'every room by itself: 2 · V · n50 · e · ε; the house half of their sum',
		table: 'air changes by use and age; the house their plain sum'
	};
	const SHELTER = ['sheltered', 'normal', 'exposed'].map((value) => ({ value, label: value }));
	const KINDS = [
		{ value: 'natural', label: 'none: leaks and openings' },
		{ value: 'extract', label: 'drawing air out, all the time' },
		{ value: 'balanced', label: 'in and out, heat recovered' }
	];
	const proved =
		(path: string, field: string, label: string) =>
		(value: number | null, proof?: Known): Promise<boolean> =>
			session.edit(label, (d) => {
				d.put(`${path}/${field}`, value);
				if (proof) d.set(`${path}/known/${field}`, { how: proof.how, by: proof.by, at: proof.at });
			});
	const put = (path: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(path, value));
	const choose = (key: string, label: string): void =>
		void session.edit(`Practice: air by ${label.toLowerCase()}`, (d) => d.set('/practice/air', key));
	const doc = (room: string) => job.survey?.rooms?.[room]?.air ?? {};
	const OPENINGS = [
		['chimneys', 'Chimney'],
		['flues', 'Flue'],
		['fans', 'Fan'],
		['vents', 'Vent']
	] as const;
</script>

<Head title="Air" screen="air" />

{#if !house.air.length}
	<p class="px-0 py-5 text-lead">
		<a href={`/job/${session.id}/plan?walk=new`}>Walk the first room</a> or
		<a href={`/job/${session.id}/climate`}>choose a climate</a>.
	</p>
{:else}
	<section
		aria-label="Ways to count"
		class="grid grid-cols-4 gap-0 border-t border-b border-t-ink border-b-hairline narrow:grid-cols-[1fr_1fr]"
	>
		{#each house.air as way (way.key)}
			<div
				class="grid content-start gap-1.5 border-r border-r-hairline px-3.5 pt-2 pb-2.5 last:border-r-0 [&.on]:bg-sheet [&.on]:shadow-[inset_0_3px_0_var(--ink)]"
				class:on={way.chosen}
				data-air={way.key}
			>
				<div class="flex min-h-11 items-start justify-between gap-2">
					<h2 class="text-[15px] leading-[1.25]">{way.label}</h2>
					{#if way.chosen}<strong class="text-meets">followed</strong>{:else}<button
							class="btn min-h-8.5 btn-outline px-2.25 py-0 text-small"
							onclick={() => choose(way.key, way.label)}>Follow this</button
						>{/if}
				</div>
				<p class="min-h-17 note">{WHAT[way.key]}</p>
				<div
					class="flex h-3.75 bg-ash"
					role="img"
					aria-label={`${amount(way.air_w, 'W')} of air in ${amount(way.loss_w, 'W')}`}
				>
					<i class="bg-fill-air" style={`width: ${(way.air_w / most) * 100}%`}></i><i
						class="bg-[color-mix(in_srgb,_var(--fill-trade)_50%,_var(--ash))]"
						style={`width: ${((way.loss_w - way.air_w) / most) * 100}%`}
					></i>
				</div>
				<dl class="grid grid-cols-[1fr_auto] gap-x-2 gap-y-px">
					<dt class="text-muted">Air, house</dt>
					<dd class="text-right tabular-nums">{fig(way.air_w, 'W')}<span class="unit">{unitName('W')}</span></dd>
					<dt class="text-muted">House</dt>
					<dd class="strong text-right font-bold tabular-nums">
						{fig(way.loss_w / 1000, 'kW', 2)}<span class="unit">{unitName('kW')}</span>
					</dd>
					<dt class="text-muted">Air changes</dt>
					<dd class="text-right tabular-nums">{num(way.air_per_h, 2)}<span class="unit">1/h</span></dd>
					<dt class="text-muted">Air, emitters</dt>
					<dd class="text-right tabular-nums">{fig(way.emitters_w, 'W')}<span class="unit">{unitName('W')}</span></dd>
				</dl>
			</div>
		{/each}
	</section>
	<p class="note">
		<i class="mt-0 mr-1 mb-0 ml-1.5 inline-block h-2.5 w-3 bg-fill-air first:ml-0"></i>air
		<i
			class="mt-0 mr-1 mb-0 ml-1.5 inline-block h-2.5 w-3 bg-[color-mix(in_srgb,_var(--fill-trade)_50%,_var(--ash))] first:ml-0"
		></i>everything else. All four beside each other on this house; one is followed everywhere. By the standard the
		house takes less air than the sum of its rooms: the wind blows in on one side at a time. The table mostly overstates
		(common practice).
	</p>
{/if}

<div class="my-3.5 grid grid-cols-[1fr_1fr] gap-7.5 narrow:grid-cols-[1fr]">
	<section>
		<h2>How tight it is</h2>
		<div class="my-1 grid grid-cols-[1fr_1fr] items-end gap-x-3 gap-y-2">
			<label
				>n50, changes at 50 Pa<NumberField
					label="Tightness n50"
					between={USUAL.n50_per_h}
					value={tight.n50_per_h}
					placeholder={num(house.n50_per_h, 1)}
					digits={1}
					unit="1/h"
					width="100%"
					usual="told"
					known={tight.known?.n50_per_h ?? null}
					by={session.person}
					commit={proved('/survey/tightness', 'n50_per_h', 'Tightness')}
				/></label
			>
			<label
				>or q50, per {unitName('m²')} of envelope<NumberField
					label="Tightness q50"
					value={tight.q50_m3h_m2}
					placeholder="–"
					digits={1}
					unit="m³/hm²"
					width="100%"
					usual="read"
					known={tight.known?.q50_m3h_m2 ?? null}
					by={session.person}
					commit={proved('/survey/tightness', 'q50_m3h_m2', 'Tightness q50')}
				/></label
			>
			<label
				>Wind at the house<Choice
					label="Shelter"
					value={tight.shelter}
					empty="normal (default)"
					options={SHELTER}
					commit={(v) => void put('/survey/tightness/shelter', 'Shelter')(v)}
				/></label
			>
			<label
				>Windward room, times its share<NumberField
					label="Windward factor"
					value={practice.windward_factor}
					digits={1}
					width="100%"
					commit={put('/practice/windward_factor', 'Practice: windward room')}
				/></label
			>
		</div>
		<p class="note">
			n50 {num(house.n50_per_h, 1)}: {house.n50_why}. Envelope {amount(house.envelope_m2, 'm²')}, volume {amount(
				house.volume_m3,
				'm³'
			)}.
		</p>
	</section>
	<section>
		<h2>What moves it</h2>
		<div class="my-1 grid grid-cols-[1fr_1fr] items-end gap-x-3 gap-y-2">
			<label
				>Fans<Choice
					label="Ventilation"
					value={fans.kind ?? 'natural'}
					options={KINDS}
					commit={(v) => void session.edit('Ventilation', (d) => d.set('/survey/ventilation/kind', v ?? 'natural'))}
				/></label
			>
			{#if (fans.kind ?? 'natural') !== 'natural'}
				<label
					>Flow of the house<NumberField
						label="Flow of the house"
						value={fans.flow_m3h}
						placeholder="½ per hour where people live"
						digits={0}
						unit="m³/h"
						width="100%"
						usual="read"
						known={fans.known?.flow_m3h ?? null}
						by={session.person}
						commit={proved('/survey/ventilation', 'flow_m3h', 'Flow of the fans')}
					/></label
				>
			{/if}
			{#if fans.kind === 'balanced'}
				<label
					>Heat recovered<NumberField
						label="Heat recovered"
						value={fans.recovery}
						times={100}
						digits={0}
						unit="%"
						width="100%"
						usual="read"
						known={fans.known?.recovery ?? null}
						by={session.person}
						commit={(v, k) => proved('/survey/ventilation', 'recovery', 'Heat recovered')(v, k)}
					/></label
				>
			{/if}
			<label
				>Least air<Choice
					label="School of least air"
					value={practice.hygienic_minimum}
					options={[
						{ value: 'habitable', label: '0.5 per hour, habitable rooms' },
						{ value: 'off', label: 'none' }
					]}
					commit={(v) => void session.edit('Practice: least air', (d) => d.set('/practice/hygienic_minimum', v))}
				/></label
			>
		</div>
		<p class="note">
			Air drawn out comes in through leaks and vents of the rooms people live in. A recovery read off a plate is of a
			test; ducts in a cold loft take some of it.
		</p>
	</section>
</div>

{#if house.air.length}
	<h2>Room by room</h2>
	<div class="overflow-x-auto">
		<table class="rooms table table-figures">
			<thead>
				<tr
					><th>Room</th>{#each OPENINGS as [key, label] (key)}<th class="text-right">{label}s</th>{/each}<th
						class="text-right">Supply</th
					><th class="text-right">Extract</th><th class="text-right">Stated</th><th class="text-right">Changes</th
					>{#each house.air as way (way.key)}<th
							class="text-right [&.on]:bg-sheet [&.on]:font-semibold"
							class:on={way.chosen}
							>{way.key === 'tightness'
								? 'n50'
								: way.key === 'age'
									? 'by age'
									: way.key === 'room'
										? 'formula'
										: 'table'}, {unitName('W')}</th
						>{/each}</tr
				>
			</thead>
			<tbody>
				{#each design.rooms.filter((r) => r.volume_m3 !== null) as room (room.id)}
					{@const air = doc(room.id)}
					{@const at = `/survey/rooms/${room.id}/air`}
					<tr>
						<td><button class="name fig" onclick={() => frame.showWorking(`room:${room.id}`)}>{room.label}</button></td>
						{#each OPENINGS as [key, label] (key)}
							<td class="text-right"
								><NumberField
									label={`${label}s in ${room.label}`}
									value={air[key] || null}
									placeholder="–"
									quantity="whole"
									width="3.6em"
									commit={(v) =>
										session.edit(`${room.label}, ${label.toLowerCase()}s`, (d) => d.set(`${at}/${key}`, v ?? 0))}
								/></td
							>
						{/each}
						<td class="text-right"
							><NumberField
								label={`Supply air of ${room.label}`}
								value={air.supply_m3h}
								digits={0}
								unit="m³/h"
								width="6.2em"
								commit={put(`${at}/supply_m3h`, `${room.label}, supply air`)}
							/></td
						>
						<td class="text-right"
							><NumberField
								label={`Extract air of ${room.label}`}
								value={air.extract_m3h}
								digits={0}
								unit="m³/h"
								width="6.2em"
								commit={put(`${at}/extract_m3h`, `${room.label}, extract air`)}
							/></td
						>
						<td class="text-right"
							><NumberField
								label={`Air changes stated for ${room.label}`}
								value={air.per_h}
								digits={2}
								unit="1/h"
								width="5.6em"
								known={air.known?.per_h ?? null}
								by={session.person}
								usual="measured"
								commit={proved(at, 'per_h', `${room.label}, air changes`)}
							/></td
						>
						<td class="text-right">{num(room.air_per_h, 2)}</td>
						{#each house.air as way (way.key)}<td
								class="text-right [&.on]:bg-sheet [&.on]:font-semibold"
								class:on={way.chosen}>{fig(way.rooms_w[room.id], 'W')}</td
							>{/each}
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	<p class="note">
		Openings count {amount(job.library?.tables?.standard?.data.chimney_m3h, 'm³/h')} an open chimney, {fig(
			job.library?.tables?.standard?.data.flue_m3h,
			'm³/h'
		)} an open flue, {fig(job.library?.tables?.standard?.data.fan_m3h, 'm³/h')} a fan that runs at times, {fig(
			job.library?.tables?.standard?.data.vent_m3h,
			'm³/h'
		)} a passive vent. A room's stated air stands in place of its leak.
	</p>
{/if}
<div class="mt-3.5"><Cautions cautions={design.cautions.air ?? []} /></div>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
	}

	.rooms td,
	.rooms th {
		padding: 2px 4px;
		white-space: nowrap;
	}
</style>
