<script lang="ts">
	import { amount, fig, told, unitName } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
	import type { Known } from '$lib/api/client';
	import { constructions } from '$lib/parts/choices';
	import { spaceOf } from '$lib/house/beyond';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import { copyScheme } from '$lib/job/schemes';
	import Choice from '$lib/parts/Choice.svelte';
	import Head from '$lib/parts/Head.svelte';
	import HistoryList from '$lib/job/HistoryList.svelte';
	import Mark from '$lib/parts/Mark.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import SpaceEditor from '$lib/house/SpaceEditor.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const design = $derived(session.shown);
	const practice = $derived(job.practice ?? {});
	let unfolded = $state<string | null>(null);
	const QUALITY = [
		{ value: 'poor', label: 'poorly built' },
		{ value: 'usual', label: 'as usual' },
		{ value: 'good', label: 'well built' }
	];
	const EDGE = [
		{ value: 'horizontal', label: 'lying along the edge' },
		{ value: 'vertical', label: 'standing at the edge' }
	];
	function setEdge(part: string, kind: string | null): void {
		void session.edit('Insulation along the edge', (d) => {
			if (!kind) d.remove(`/survey/parts/${part}/edge`);
			else if (d.job.survey?.parts?.[part]?.edge) d.set(`/survey/parts/${part}/edge/kind`, kind);
			else d.set(`/survey/parts/${part}/edge`, { kind, width_m: 0.6, thickness_m: 0.06 });
		});
	}
	const tables = $derived(job.library?.tables?.standard?.data);
	const junctions = $derived(Object.entries(tables?.junctions ?? {}));
	const climates = $derived(
		Object.values(shelf.all?.climates ?? {}).map((c) => ({
			value: c.id,
			label: `${c.label}, ${amount(c.design_c, '°C')}`
		}))
	);
	const ages = $derived(Object.entries(tables?.ages ?? {}).map(([value, a]) => ({ value, label: a.label })));
	const kinds = $derived(
		Object.entries(tables?.space_kinds ?? {}).map(([value, k]) => ({ value, label: `${k.label}, b ${num(k.b, 1)}` }))
	);
	const SHELTER = ['sheltered', 'normal', 'exposed'].map((value) => ({ value, label: value }));
	type Element = 'wall' | 'inner_wall' | 'party_wall' | 'roof' | 'ground' | 'floor' | 'window' | 'door';
	const ELEMENTS: [Element, string, string[]][] = [
		['wall', 'Outside walls', ['wall']],
		['roof', 'Roofs, ceilings under lofts', ['roof']],
		['ground', 'Ground floor', ['ground']],
		['window', 'Windows', ['window']],
		['door', 'Outside doors', ['door']],
		['floor', 'Upper floors', ['floor']],
		['inner_wall', 'Inner walls', ['wall']],
		['party_wall', 'Walls to neighbours', ['wall']]
	];
	const put = (path: string, what: string) => (value: unknown) => session.edit(what, (d) => d.put(path, value));
	const school = (field: string, what: string) => (value: string | null) =>
		void session.edit(`Practice: ${what}`, (d) => d.set(`/practice/${field}`, value));

	function setClimate(value: string | null): void {
		void session.edit('Climate', (d) => {
			if (value) d.freeze('climates', value);
			d.put('/climate/entry', value);
		});
	}
	function setAge(part: string, value: string | null): void {
		void session.edit('Age, with its usual constructions', (d) => {
			d.put(`/survey/parts/${part}/age`, value);
			for (const [element, key] of Object.entries(tables?.ages[value ?? '']?.constructions ?? {})) {
				d.freeze('constructions', key);
				d.set(`/survey/parts/${part}/constructions/${element}`, key);
			}
		});
	}
	const putTightness = (value: number | null, proof?: Known): Promise<boolean> =>
		session.edit('Tightness', (d) => {
			d.put('/survey/tightness/n50_per_h', value);
			if (proof) d.set('/survey/tightness/known/n50_per_h', { how: proof.how, by: proof.by, at: proof.at });
		});
	function setBuild(part: string, element: string, value: string | null): void {
		void session.edit('Usual construction', (d) => {
			if (value) d.freeze('constructions', value);
			d.put(`/survey/parts/${part}/constructions/${element}`, value);
		});
	}
	const addTo = (kind: 'parts' | 'storeys' | 'spaces' | 'neighbours', label: string): void =>
		void session.edit(`${label} added`, (d) =>
			d.set(`/survey/${kind}/${newId()}`, { label, pos: nextPos(d.job.survey?.[kind]) })
		);
	function dropScheme(id: string): void {
		void session.edit('Scheme removed', (d) => {
			if (d.job.active_scheme === id) d.set('/active_scheme', null);
			d.remove(`/schemes/${id}`);
		});
	}
</script>

<Head title="Site and practice" screen="site" />

<div class="grid grid-cols-[1fr_1.15fr_1fr] gap-7.5 narrow:grid-cols-[1fr]">
	<section class="grid content-start gap-2">
		<h2 class="mt-2">The job</h2>
		<label
			>House<TextField
				label="Title of the job"
				value={job.title}
				commit={(v) => session.edit('Job renamed', (d) => d.set('/title', v))}
			/></label
		>
		<div class="two">
			<label
				>Place<TextField
					label="Place"
					value={job.site?.place}
					commit={(v) => session.edit('Place', (d) => d.set('/site/place', v))}
				/></label
			>
			<label
				>Units<Choice
					label="Units"
					value={job.site?.units ?? 'metric'}
					options={[
						{ value: 'metric', label: 'metres, °C, watts' },
						{ value: 'feet', label: 'feet, °F, Btu/h' }
					]}
					commit={(v) => void session.edit('Units', (d) => d.set('/site/units', v))}
				/></label
			>
		</div>
		<div class="two">
			<label
				>Climate<Choice
					label="Climate"
					value={job.climate?.entry}
					empty="not chosen"
					options={climates}
					commit={setClimate}
				/></label
			>
			<label
				>Design temperature<NumberField
					label="Design temperature"
					between={USUAL.outdoor_c}
					value={job.climate?.design_c}
					placeholder={fig(design?.house.outdoor_c, '°C')}
					quantity="temperature"
					digits={1}
					unit="°C"
					width="100%"
					commit={put('/climate/design_c', 'Design temperature')}
				/></label
			>
		</div>
		<div class="two">
			<label
				>Tightness n50<NumberField
					label="Tightness n50"
					between={USUAL.n50_per_h}
					value={job.survey?.tightness?.n50_per_h}
					placeholder={num(design?.house.n50_per_h, 1)}
					digits={1}
					unit="1/h"
					width="100%"
					usual="told"
					known={job.survey?.tightness?.known?.n50_per_h ?? null}
					by={session.person}
					commit={putTightness}
				/></label
			>
			<label
				>Wind<Choice
					label="Shelter"
					value={job.survey?.tightness?.shelter}
					empty="normal (default)"
					options={SHELTER}
					commit={(v) => void put('/survey/tightness/shelter', 'Shelter')(v)}
				/></label
			>
		</div>
		<p class="note">n50 {num(design?.house.n50_per_h, 1)}: {design?.house.n50_why}.</p>
		{#each Object.values(job.survey?.sources ?? {}) as source (source.label)}
			<p class="note">
				Found: {source.label}{source.fuel ? `, ${source.fuel}` : ''}{source.output_w
					? `, ${amount(source.output_w / 1000, 'kW')}`
					: ''}. {source.note ?? ''}
			</p>
		{/each}

		<h2 class="mt-2">Schemes</h2>
		<p class="note">As found never changes with a scheme; each scheme lies over it.</p>
		{#each ordered(job.schemes) as [id, scheme] (id)}
			<div class="flex items-center gap-2">
				<TextField
					label={`Name of scheme ${scheme.label}`}
					value={scheme.label}
					commit={(v) => session.edit('Scheme renamed', (d) => d.set(`/schemes/${id}/label`, v))}
				/>
				<button class="btn btn-quiet" onclick={() => dropScheme(id)} aria-label={`Remove scheme ${scheme.label}`}
					>remove</button
				>
			</div>
		{/each}
		<div>
			<button class="btn btn-outline" onclick={() => copyScheme(session)}
				>{session.scheme ? 'Copy this scheme' : 'New scheme'}</button
			>
		</div>

		<h2 class="mt-2" id="spaces">Storeys, unheated spaces, neighbours</h2>
		{#each ordered(job.survey?.storeys) as [id, storey] (id)}
			<div class="flex items-center gap-2">
				<TextField
					label="Storey"
					value={storey.label}
					commit={(v) => session.edit('Storey named', (d) => d.set(`/survey/storeys/${id}/label`, v))}
				/>
			</div>
		{/each}
		{#each ordered(job.survey?.spaces) as [id, space] (id)}
			<div class="flex items-center gap-2">
				<TextField
					label="Unheated space"
					value={space.label}
					commit={(v) => session.edit('Space named', (d) => d.set(`/survey/spaces/${id}/label`, v))}
				/>
				<Choice
					label={`Kind of ${space.label}`}
					value={space.kind}
					empty="not said"
					options={kinds}
					commit={(v) => void put(`/survey/spaces/${id}/kind`, 'Kind of space')(v)}
				/>
				<Mark
					known={space.known?.kind}
					label={`Kind of ${space.label}`}
					set={(k) =>
						void session.edit(`How ${space.label} is known`, (d) => d.set(`/survey/spaces/${id}/known/kind`, k))}
				/>
				<button
					class="btn btn-quiet"
					aria-expanded={unfolded === id}
					aria-label={`Faces of ${space.label}`}
					onclick={() => (unfolded = unfolded === id ? null : id)}>{unfolded === id ? 'close' : 'faces'}</button
				>
			</div>
			{#if unfolded === id}<SpaceEditor {id} {space} />{/if}
		{/each}
		{#each ordered(job.survey?.neighbours) as [id, neighbour] (id)}
			<div class="flex items-center gap-2">
				<TextField
					label="Neighbour"
					value={neighbour.label}
					commit={(v) => session.edit('Neighbour named', (d) => d.set(`/survey/neighbours/${id}/label`, v))}
				/>
				<NumberField
					label={`Temperature at ${neighbour.label}`}
					value={neighbour.temperature_c}
					placeholder={fig(practice.neighbour_c ?? 10, '°C')}
					quantity="temperature"
					digits={0}
					unit="°C"
					commit={put(`/survey/neighbours/${id}/temperature_c`, 'Neighbour')}
				/>
			</div>
		{/each}
		<div class="acts">
			<button class="btn btn-quiet" onclick={() => addTo('storeys', 'Storey')}>+ storey</button>
			<button class="btn btn-quiet" onclick={() => addTo('spaces', 'Garage')}>+ unheated space</button>
			<button class="btn btn-quiet" onclick={() => addTo('neighbours', 'Neighbour')}>+ neighbour</button>
		</div>
	</section>

	<section class="grid content-start gap-2">
		<h2 class="mt-2">Parts of the house</h2>
		{#each ordered(job.survey?.parts) as [id, part] (id)}
			<fieldset class="border-t border-t-hairline px-0 py-2">
				<div class="two">
					<label
						>Part<TextField
							label="Part of the house"
							value={part.label}
							commit={(v) => session.edit('Part named', (d) => d.set(`/survey/parts/${id}/label`, v))}
						/></label
					>
					<label
						>Age<Choice
							label={`Age of ${part.label}`}
							value={part.age}
							empty="not known"
							options={ages}
							commit={(v) => setAge(id, v)}
						/></label
					>
				</div>
				<div class="two mt-2">
					{#each ELEMENTS.filter(([element]) => element !== 'party_wall' || Object.keys(job.survey?.neighbours ?? {}).length > 0) as [element, label, of] (element)}
						<label
							>{label}<span class="flex items-center gap-1.25"
								><Choice
									label={`${label} of ${part.label}`}
									value={part.constructions?.[element]}
									empty={element === 'party_wall' ? 'by its age' : 'not known'}
									options={constructions(job, shelf.all, of)}
									commit={(v) => setBuild(id, element, v)}
								/><Mark
									known={part.known?.[element]}
									label={`${label} of ${part.label}`}
									set={(k) =>
										void session.edit(`How the ${label.toLowerCase()} is known`, (d) =>
											d.set(`/survey/parts/${id}/known/${element}`, k)
										)}
								/></span
							></label
						>
					{/each}
					<label
						>Over its top ceilings<Choice
							label={`Over the ceilings of ${part.label}`}
							value={part.loft}
							empty="the roof itself"
							options={[
								...ordered(job.survey?.spaces).map(([value, s]) => ({ value, label: s.label || value })),
								{ value: 'new', label: 'a loft, new' }
							]}
							commit={(v) =>
								void session.edit('Loft', (d) =>
									d.put(`/survey/parts/${id}/loft`, v === 'new' ? spaceOf(d, 'Loft') : v)
								)}
						/></label
					>
					<label
						>Slab edge insulation<Choice
							label={`Edge insulation of ${part.label}`}
							value={part.edge?.kind}
							empty="none known"
							options={EDGE}
							commit={(v) => setEdge(id, v)}
						/></label
					>
					{#if part.edge}
						<label
							>Reaches, thick<span class="flex items-center gap-1.25"
								><NumberField
									label={`Width of the edge insulation of ${part.label}`}
									value={part.edge.width_m}
									digits={2}
									unit="m"
									width="50%"
									commit={(v) => void (v && put(`/survey/parts/${id}/edge/width_m`, 'Edge insulation')(v))}
								/><NumberField
									label={`Thickness of the edge insulation of ${part.label}`}
									value={part.edge.thickness_m * 1000}
									digits={0}
									unit="mm"
									width="50%"
									commit={(v) => void (v && put(`/survey/parts/${id}/edge/thickness_m`, 'Edge insulation')(v / 1000))}
								/></span
							></label
						>
					{/if}
				</div>
			</fieldset>
		{/each}
		<div>
			<button class="btn btn-quiet" onclick={() => addTo('parts', 'Extension')}>+ part with its own age</button>
		</div>
	</section>

	<section class="grid content-start gap-2">
		<h2 class="mt-2">Practice</h2>
		<p class="note">Where practitioners differ. Every report says which school it followed.</p>
		<label
			>Air<Choice
				label="School of air"
				value={practice.air ?? 'tightness'}
				options={(design?.house.air ?? []).length
					? design!.house.air.map((a) => ({ value: a.key, label: a.label }))
					: [
							{ value: 'tightness', label: 'Tightness as known, n50/20' },
							{ value: 'age', label: 'Tightness by age, n50/20' },
							{ value: 'room', label: 'Room formula of EN 12831:2003' },
							{ value: 'table', label: 'Table by room use and age' }
						]}
				commit={school('air', 'air')}
			/></label
		>
		<p class="note">
			House by tightness {amount(design?.house.loss_air_tightness_w, 'W')}, by table {amount(
				design?.house.loss_air_table_w,
				'W'
			)}.
			<a href={`/job/${session.id}/air`}>All four</a>
		</p>
		<label
			>Least air<Choice
				label="School of least air"
				value={practice.hygienic_minimum ?? 'habitable'}
				options={[
					{ value: 'habitable', label: '0.5 per hour, habitable rooms' },
					{ value: 'off', label: 'none' }
				]}
				commit={school('hygienic_minimum', 'least air')}
			/></label
		>
		<label
			>Windward room, times its share<NumberField
				label="Windward factor"
				value={practice.windward_factor ?? 1.5}
				digits={1}
				width="100%"
				commit={put('/practice/windward_factor', 'Practice: windward room')}
			/></label
		>
		<label
			>Ground<Choice
				label="School of ground"
				value={practice.ground ?? 'annual_mean'}
				options={[
					{ value: 'annual_mean', label: 'annual mean (EN 12831-1 simplified)' },
					{ value: 'full_difference', label: 'full outside difference' }
				]}
				commit={school('ground', 'ground')}
			/></label
		>
		<label
			>Neighbour's home<Choice
				label="School of neighbours"
				value={practice.neighbour ?? 'cold_for_emitter'}
				options={[
					{ value: 'cold_for_emitter', label: 'cold for the emitter, adiabatic for the machine' },
					{ value: 'adiabatic', label: 'adiabatic' },
					{ value: 'cold', label: 'cold for both' }
				]}
				commit={school('neighbour', 'neighbours')}
			/></label
		>
		<label
			>Room temperatures<Choice
				label="School of room temperatures"
				value={practice.room_temperature ?? 'by_use'}
				options={[
					{ value: 'by_use', label: 'by use' },
					{ value: 'one', label: 'one everywhere' }
				]}
				commit={school('room_temperature', 'room temperatures')}
			/></label
		>
		{#if practice.room_temperature === 'one'}<label
				>One temperature<NumberField
					label="One temperature"
					value={practice.one_temperature_c ?? 20}
					quantity="temperature"
					digits={1}
					unit="°C"
					width="100%"
					commit={put('/practice/one_temperature_c', 'Practice: one temperature')}
				/></label
			>{/if}
		<label
			>Heated floors<Choice
				label="School of heated floors"
				value={practice.heated_floor ?? 'standard'}
				options={[
					{ value: 'standard', label: 'EN 1264-2, as makers do' },
					{ value: 'conduction', label: 'conduction in the plate' }
				]}
				commit={school('heated_floor', 'heated floors')}
			/></label
		>
		<label
			>Excess temperature<Choice
				label="School of excess temperature"
				value={practice.excess ?? 'logarithmic'}
				options={[
					{ value: 'logarithmic', label: told('logarithmic, 49.83 K') },
					{ value: 'arithmetic', label: told('arithmetic, 50 K') }
				]}
				commit={school('excess', 'excess temperature')}
			/></label
		>
		<label
			>Thermal bridges<Choice
				label="School of thermal bridges"
				value={practice.bridges ?? 'default'}
				options={[
					{ value: 'default', label: 'an addition to every outer U' },
					{ value: 'list', label: 'line by line, Ψ · L from the plan' }
				]}
				commit={school('bridges', 'thermal bridges')}
			/></label
		>
		{#if practice.bridges === 'list'}
			<label
				>Built<Choice
					label="Quality of the junctions"
					value={practice.bridge_quality ?? 'usual'}
					options={QUALITY}
					commit={school('bridge_quality', 'junctions')}
				/></label
			>
			<Fold title={`Ψ of every junction, ${unitName('W/mK')}`}>
				<div class="two">
					{#each junctions as [key, junction] (key)}<label
							>{junction.label}<NumberField
								label={`Ψ of ${junction.label}`}
								value={practice.psi_w_mk?.[key]}
								unit="W/mK"
								inHead
								placeholder={fig(junction[practice.bridge_quality ?? 'usual'], 'W/mK', 2)}
								digits={2}
								width="100%"
								commit={put(`/practice/psi_w_mk/${key}`, 'Practice: Ψ')}
							/></label
						>{/each}
				</div>
			</Fold>
		{:else}
			<div class="two">
				<label
					>Built<Choice
						label="Quality of the bridges"
						value={practice.thermal_bridge_w_m2k === 0.15
							? 'poor'
							: practice.thermal_bridge_w_m2k === 0.05
								? 'good'
								: (practice.thermal_bridge_w_m2k ?? 0.1) === 0.1
									? 'usual'
									: null}
						empty="as entered"
						options={[
							{ value: 'poor', label: 'poorly: 0.15' },
							{ value: 'usual', label: 'as usual: 0.10' },
							{ value: 'good', label: 'well: 0.05' }
						]}
						commit={(v) =>
							v &&
							void put(
								'/practice/thermal_bridge_w_m2k',
								'Practice: thermal bridges'
							)({ poor: 0.15, usual: 0.1, good: 0.05 }[v])}
					/></label
				>
				<label
					>Added to U<NumberField
						label="Thermal bridges"
						value={practice.thermal_bridge_w_m2k ?? 0.1}
						digits={2}
						unit="W/m²K"
						width="100%"
						commit={put('/practice/thermal_bridge_w_m2k', 'Practice: thermal bridges')}
					/></label
				>
			</div>
		{/if}
		<Fold title="Additions some make">
			<div class="two">
				<label
					>Rooms above 4 m<NumberField
						label="Addition for high rooms"
						value={practice.high_room_share ?? 0}
						times={100}
						digits={0}
						unit="%"
						width="100%"
						commit={(v) => put('/practice/high_room_share', 'Practice: high rooms')(v ?? 0)}
					/></label
				>
				<label
					>Exposed site<NumberField
						label="Addition for an exposed site"
						value={practice.exposed_share ?? 0}
						times={100}
						digits={0}
						unit="%"
						width="100%"
						commit={(v) => put('/practice/exposed_share', 'Practice: exposed site')(v ?? 0)}
					/></label
				>
				<label
					>To heat up again<NumberField
						label="Addition to heat up again"
						value={practice.reheat_w_per_m2 ?? 0}
						digits={0}
						unit="W/m²"
						width="100%"
						commit={(v) => put('/practice/reheat_w_per_m2', 'Practice: heating up')(v ?? 0)}
					/></label
				>
				<label
					>Ground conducts<NumberField
						label="Conductivity of the ground"
						value={practice.ground_detail?.lambda_w_mk ?? 2}
						digits={1}
						unit="W/mK"
						width="100%"
						commit={put('/practice/ground_detail/lambda_w_mk', 'Practice: ground')}
					/></label
				>
				<label
					>Groundwater<Choice
						label="Groundwater"
						value={practice.ground_detail?.water_near ? 'near' : 'far'}
						options={[
							{ value: 'far', label: 'far below' },
							{ value: 'near', label: 'near: × 1.15' }
						]}
						commit={(v) => void put('/practice/ground_detail/water_near', 'Practice: groundwater')(v === 'near')}
					/></label
				>
			</div>
		</Fold>
		<div class="two">
			<label
				>Emitter spread<NumberField
					label="Emitter spread"
					value={practice.spread_k ?? 5}
					digits={1}
					unit="K"
					width="100%"
					commit={put('/practice/spread_k', 'Practice: spread')}
				/></label
			>
			<label
				>Cold end of the curve<Choice
					label="School of the curve's cold end"
					value={practice.cold_end ?? 'settled'}
					options={[
						{ value: 'settled', label: 'the settled house' },
						{ value: 'waterline', label: "the waterline's" }
					]}
					commit={school('cold_end', 'cold end of the curve')}
				/></label
			>
			<label
				>Gains for the curve<NumberField
					label="Gains counted in the curve"
					value={practice.curve_gains_w_per_m2 ?? 0}
					digits={1}
					unit="W/m²"
					width="100%"
					commit={(v) => put('/practice/curve_gains_w_per_m2', 'Practice: gains in the curve')(v ?? 0)}
				/></label
			>
			<label
				>Gains in the season<NumberField
					label="Gains in the season"
					value={practice.gains_w_per_m2 ?? 8}
					digits={1}
					unit="W/m²"
					width="100%"
					commit={put('/practice/gains_w_per_m2', 'Practice: gains')}
				/></label
			>
			<label
				>Pump flagged above<NumberField
					label="Pump flagged above"
					value={practice.pump_limit ?? 0.85}
					times={100}
					digits={0}
					unit="%"
					width="100%"
					commit={put('/practice/pump_limit', 'Practice: pump')}
				/></label
			>
		</div>
		<h2 class="mt-2">What was done</h2>
		<HistoryList />
	</section>
</div>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
		min-width: 0;
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px 12px;
		align-items: end;
	}
</style>
