<script lang="ts">
	import { followed } from '$lib/job/followed';
	import { amount, fig, told, unitName } from '$lib/parts/units';
	import { api, type EmitterResult, type HeatedDoc } from '$lib/api/client';
	import Floor from '$lib/charts/Floor.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	let {
		spec,
		wall,
		result,
		room_c,
		spread,
		label,
		put
	}: {
		spec: HeatedDoc;
		wall: boolean;
		result: EmitterResult | undefined;
		room_c: number;
		spread: number;
		label: string;
		put: (fields: Record<string, unknown>, what: string) => Promise<boolean>;
	} = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const flow = $derived(session.shown?.waterline.chosen_flow_c ?? 40);
	const school = $derived(followed(session.job?.practice).heated_floor);
	const builds = $derived(
		Object.values(shelf.all?.heated_builds ?? {}).filter((b) => b.element === (wall ? 'wall' : 'floor'))
	);
	const build = $derived(builds.find((b) => b.label === spec.build));
	const coverings = $derived(
		Object.values(shelf.all?.coverings ?? {}).map((c) => ({
			value: c.id,
			label: `${c.label}, ${amount(c.r_m2kw, 'm²K/W', 3)}${c.limit_c ? `, at most ${amount(c.limit_c, '°C')}` : ''}`
		}))
	);
	const looked = new Slow(() =>
		api.POST('/api/heated', {
			body: {
				heated: spec,
				wall,
				room_c,
				flow_c: flow,
				spread_k: spread,
				school,
				need_w: need === null ? null : need + (result?.heated?.down_w ?? 0)
			}
		})
	);
	$effect(() => {
		if (JSON.stringify([spec, need]) && flow && spread && room_c && school && ready) looked.ask();
	});
	const ready = $derived(
		spec.method === 'entered' ? spec.k_w_m2k != null : spec.spacing_m != null && spec.cover_m != null
	);
	const need = $derived(result?.output_w ?? null);
	const rows = $derived(ready ? (looked.found?.rows ?? []) : []);
	const here = $derived(rows.find((r) => r.chosen) ?? rows[0]);
	const put1 = (field: string, what: string) => (value: unknown) => put({ [field]: value }, what);
	function setBuild(value: string | null): void {
		const to = builds.find((b) => b.id === value);
		if (!to) return;
		void put(
			{
				build: to.label,
				method: to.method,
				cover_lambda_w_mk: to.cover_lambda_w_mk,
				pipe_m: to.pipe_m,
				pipe_wall_m: to.pipe_wall_m,
				below_r_m2kw: to.below_r_m2kw,
				...(to.cover_m ? { cover_m: to.cover_m } : {}),
				spacing_m: to.spacings_m.includes(spec.spacing_m ?? 0) ? spec.spacing_m : to.spacings_m[0],
				...(to.method === 'wet' ? { k_w_m2k: null } : {})
			},
			to.label
		);
	}
	function setCovering(value: string | null): void {
		const to = value ? shelf.all?.coverings?.[value] : null;
		void put(
			{ covering: value, covering_r_m2kw: to?.r_m2kw ?? 0, covering_limit_c: to?.limit_c ?? null },
			`covering: ${to?.label ?? 'none'}`
		);
	}
	const ZONES = [
		{ value: 'edge', label: told('edge strip, 35 °C') },
		{ value: 'bath', label: told('bathroom, room + 9 K') }
	];
</script>

<div class="grid gap-2.5">
	<div class="grid grid-cols-[repeat(auto-fill,minmax(112px,1fr))] gap-2">
		<label class="col-span-2"
			>How it is laid<Choice
				label={`Build of ${label}`}
				value={build?.id}
				empty={spec.build || 'not known'}
				options={builds.map((b) => ({ value: b.id, label: b.label }))}
				commit={setBuild}
			/></label
		>
		<label
			>Heated area<NumberField
				label={`Heated area of ${label}`}
				value={spec.area_m2}
				digits={1}
				unit="m²"
				width="100%"
				commit={put1('area_m2', 'heated area')}
			/></label
		>
		<label
			>Pipe spacing<NumberField
				label={`Pipe spacing of ${label}`}
				value={spec.spacing_m}
				quantity="length"
				digits={3}
				unit="m"
				width="100%"
				commit={put1('spacing_m', 'pipe spacing')}
			/></label
		>
		{#if spec.method === 'entered'}
			<label
				>Maker's K<NumberField
					label={`Characteristic of ${label}`}
					value={spec.k_w_m2k}
					digits={2}
					unit="W/m²K"
					width="100%"
					commit={put1('k_w_m2k', 'characteristic')}
				/></label
			>
		{:else}
			<label
				>{wall ? 'Plaster over the pipes' : 'Screed over the pipes'}<NumberField
					label={`Cover of ${label}`}
					value={spec.cover_m}
					quantity="length"
					digits={3}
					unit="m"
					width="100%"
					commit={put1('cover_m', 'cover')}
				/></label
			>
			<label
				>Its λ<NumberField
					label={`Conductivity over the pipes of ${label}`}
					value={spec.cover_lambda_w_mk}
					digits={2}
					unit="W/mK"
					width="100%"
					commit={put1('cover_lambda_w_mk', 'conductivity')}
				/></label
			>
		{/if}
		{#if !wall}<label class="col-span-2"
				>Covering<Choice
					label={`Covering of ${label}`}
					value={spec.covering ?? (spec.covering_r_m2kw ? null : 'none')}
					empty={`${amount(spec.covering_r_m2kw, 'm²K/W', 3)}`}
					options={coverings}
					commit={setCovering}
				/></label
			>{/if}
		<label
			>Its resistance<NumberField
				label={`Covering resistance of ${label}`}
				value={spec.covering_r_m2kw}
				digits={3}
				unit="m²K/W"
				width="100%"
				commit={(v) => put({ covering_r_m2kw: v ?? 0, covering: null }, 'covering')}
			/></label
		>
		<label
			>Warmest it bears<NumberField
				label={`Surface limit of ${label}`}
				value={spec.covering_limit_c}
				placeholder="by its zone"
				quantity="temperature"
				digits={0}
				unit="°C"
				width="100%"
				commit={put1('covering_limit_c', 'surface limit')}
			/></label
		>
		{#if !wall}<label class="col-span-2"
				>Zone<Choice
					label={`Zone of ${label}`}
					value={spec.zone === 'stay' ? null : spec.zone}
					empty={told('where people stay, 29 °C')}
					options={ZONES}
					commit={(v) => void put({ zone: v ?? 'stay' }, 'zone')}
				/></label
			>{/if}
		<label
			>Pipe, outside<NumberField
				label={`Pipe of ${label}`}
				value={spec.pipe_m == null ? null : spec.pipe_m * 1000}
				digits={0}
				unit="mm"
				width="100%"
				commit={(v) => put({ pipe_m: v === null ? 0.016 : v / 1000 }, 'pipe')}
			/></label
		>
		<label
			>Loops<NumberField
				label={`Loops of ${label}`}
				value={spec.loops}
				quantity="whole"
				unit=""
				width="100%"
				commit={(v) => put({ loops: v ?? 1 }, 'loops')}
			/></label
		>
		<label
			>To the manifold<NumberField
				label={`Supply run of ${label}`}
				value={spec.supply_m}
				digits={1}
				unit="m"
				width="100%"
				commit={(v) => put({ supply_m: v ?? 0 }, 'supply run')}
			/></label
		>
		<label
			>Insulation laid with it<NumberField
				label={`Insulation under ${label}`}
				value={spec.below_r_m2kw}
				digits={2}
				unit="m²K/W"
				width="100%"
				commit={(v) => put({ below_r_m2kw: v ?? 0 }, 'insulation')}
			/></label
		>
	</div>
	{#if looked.refused && ready}<p class="rounded-sm px-2 py-0.5 hatch-doubt" role="status">{looked.refused}</p>{/if}
	{#if here}
		<div class="two grid max-w-180 gap-2 [&.old]:opacity-65" class:old={looked.busy}>
			<div>
				<Floor row={here} {room_c} pipe_m={spec.pipe_m ?? 0.016} cover_m={spec.cover_m ?? 0.03} />
				{#if result?.heated?.most_flow_c != null && result.heated.most_flow_c < flow}<p>
						<span class="badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-short">too warm</span>
						It bears no more than
						<b>{amount(result.heated.most_flow_c, '°C', 1)}</b> straight through: until the water is that cool, a blending
						valve stays before it.
					</p>{/if}
				<p class="note">
					At {amount(flow, '°C', 1)} water straight through, spread {amount(spread, 'K', 0)}, the room at {amount(
						room_c,
						'°C',
						0
					)}. Limit {amount(here.limit_c, '°C')} over a pipe: {here.limit_why}.{#if here.outside}{' '}Outside the range
						of EN 1264 ({here.outside}): worked out by conduction.{/if}{#if here.other_k_w_m2k != null}{' '}By the other
						school K would be {fig(here.other_k_w_m2k, 'W/m²K', 2)} instead of {amount(here.k_w_m2k, 'W/m²K', 2)}.{/if}
				</p>
			</div>
			<table class="table table-figures">
				<thead
					><tr
						><th class="text-right">Spacing</th><th class="text-right">{unitName('W/m²')}</th><th class="text-right"
							>Gives</th
						><th class="text-right">Surface</th><th class="text-right">Loop</th><th class="text-right"
							>Head, as needed</th
						></tr
					></thead
				>
				<tbody>
					{#each rows as row (row.spacing_m)}
						<tr class:on={row.chosen}>
							<td class="text-right"
								><button
									class="fig"
									disabled={row.chosen}
									onclick={() =>
										void put({ spacing_m: row.spacing_m }, `pipes ${amount((row.spacing_m ?? 0) * 1000, 'mm')} apart`)}
									>{row.spacing_m ? `${amount(row.spacing_m * 1000, 'mm')}` : '–'}</button
								></td
							>
							<td class="text-right">{fig(row.flux_w_m2, 'W/m²')}</td>
							<td class="text-right" class:hatch-short={need !== null && row.output_w < need - 1}
								>{amount(row.output_w, 'W')}</td
							>
							<td class="text-right" class:hatch-short={!row.within}
								>{amount(row.surface_most_c, '°C', 1)}{row.within ? '' : ', too warm'}</td
							>
							<td class="text-right" class:hatch-short={row.loop_m !== null && row.loop_m > row.longest_m + 0.5}
								>{amount(row.loop_m, 'm')}{row.loop_m !== null && row.loop_m > row.longest_m + 0.5
									? ', too long'
									: ''}</td
							>
							<td class="text-right" class:hatch-short={row.loop_kpa !== null && row.loop_kpa > 25}
								>{amount(row.loop_kpa, 'kPa', 1)}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		{#if need !== null}<p class="note">
				The room asks it for {amount(need, 'W')}{result?.heated?.down_w
					? `, and ${amount(result.heated.down_w, 'W')} go down`
					: ''}: then its surface is {amount(result?.heated?.surface_most_c, '°C', 1)} at most. The flow meters of its {spec.loops ===
				1
					? 'loop'
					: `${spec.loops} loops`} stand at {amount(
					result?.heated?.loop_lph == null ? null : result.heated.loop_lph / 60,
					'L/min',
					1
				)} each.
			</p>{/if}
	{:else if !ready}<p class="note">
			Enter what is missing above: a thermal camera or a wetted floor shows the spacing; the builder knows the screed.
		</p>{/if}
</div>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
		display: grid;
		align-content: end;
	}

	tr.on td {
		font-weight: 700;
	}
	tr.on td:not(.hatch-short) {
		background: var(--sheet);
	}
	.two td,
	.two th {
		padding: 4px 5px;
		white-space: nowrap;
	}
</style>
