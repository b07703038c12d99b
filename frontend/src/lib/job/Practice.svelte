<script lang="ts">
	import { amount, fig, told, unitName } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import rules from '$lib/api/rules.json';
	import { followed } from '$lib/job/followed';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const design = $derived(session.shown);
	const practice = $derived(followed(job.practice));
	const SCHOOLS = rules.schools;
	const QUALITY = SCHOOLS.bridge_quality as { value: keyof typeof rules.bridges_w_m2k; label: string }[];
	const built = $derived(QUALITY.find((one) => rules.bridges_w_m2k[one.value] === practice.thermal_bridge_w_m2k));
	const tables = $derived(job.library?.tables?.standard?.data);
	const junctions = $derived(Object.entries(tables?.junctions ?? {}));
	const put = (path: string, what: string) => (value: unknown) => session.edit(what, (d) => d.put(path, value));
	const school = (field: string, what: string) => (value: string | null) =>
		void session.edit(`Practice: ${what}`, (d) => d.set(`/practice/${field}`, value));
</script>

<h2 class="mt-2">Practice</h2>
<p class="note">Where practitioners differ. Every report says which school it followed.</p>
<label
	>Air<Choice label="School of air" value={practice.air} options={SCHOOLS.air} commit={school('air', 'air')} /></label
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
		value={practice.hygienic_minimum}
		options={SCHOOLS.hygienic_minimum}
		commit={school('hygienic_minimum', 'least air')}
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
<label
	>Thin air<Choice
		label="School of thin air"
		value={practice.thin_air}
		options={SCHOOLS.thin_air.map((one) => ({ ...one, label: told(one.label) }))}
		commit={school('thin_air', 'thin air')}
	/></label
>
{#if design?.schools['Thin air']}<p class="note">Here: {told(design.schools['Thin air'])}.</p>{/if}
<label
	>Ground<Choice
		label="School of ground"
		value={practice.ground}
		options={SCHOOLS.ground}
		commit={school('ground', 'ground')}
	/></label
>
<label
	>Neighbour's home<Choice
		label="School of neighbours"
		value={practice.neighbour}
		options={SCHOOLS.neighbour}
		commit={school('neighbour', 'neighbours')}
	/></label
>
<label
	>Room temperatures<Choice
		label="School of room temperatures"
		value={practice.room_temperature}
		options={SCHOOLS.room_temperature}
		commit={school('room_temperature', 'room temperatures')}
	/></label
>
{#if practice.room_temperature === 'one'}<label
		>One temperature<NumberField
			label="One temperature"
			value={practice.one_temperature_c}
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
		value={practice.heated_floor}
		options={SCHOOLS.heated_floor}
		commit={school('heated_floor', 'heated floors')}
	/></label
>
<label
	>Excess temperature<Choice
		label="School of excess temperature"
		value={practice.excess}
		options={SCHOOLS.excess.map((one) => ({ ...one, label: told(one.label) }))}
		commit={school('excess', 'excess temperature')}
	/></label
>
<label
	>Thermal bridges<Choice
		label="School of thermal bridges"
		value={practice.bridges}
		options={SCHOOLS.bridges}
		commit={school('bridges', 'thermal bridges')}
	/></label
>
{#if practice.bridges === 'list'}
	<label
		>Built<Choice
			label="Quality of the junctions"
			value={practice.bridge_quality}
			options={QUALITY}
			commit={school('bridge_quality', 'junctions')}
		/></label
	>
	<Fold title={`Ψ of every junction, ${unitName('W/mK')}`}>
		<div class="pairs">
			{#each junctions as [key, junction] (key)}<label
					>{junction.label}<NumberField
						label={`Ψ of ${junction.label}`}
						value={practice.psi_w_mk?.[key]}
						unit="W/mK"
						inHead
						placeholder={fig(junction[practice.bridge_quality], 'W/mK', 2)}
						digits={2}
						width="100%"
						commit={put(`/practice/psi_w_mk/${key}`, 'Practice: Ψ')}
					/></label
				>{/each}
		</div>
	</Fold>
{:else}
	<div class="pairs">
		<label
			>Built<Choice
				label="Quality of the bridges"
				value={built?.value ?? null}
				empty="as entered"
				options={QUALITY.map((one) => ({
					value: one.value,
					label: `${one.label}: ${fig(rules.bridges_w_m2k[one.value], 'W/m²K', 2)}`
				}))}
				commit={(v) =>
					v &&
					void put(
						'/practice/thermal_bridge_w_m2k',
						'Practice: thermal bridges'
					)(rules.bridges_w_m2k[v as keyof typeof rules.bridges_w_m2k])}
			/></label
		>
		<label
			>Added to U<NumberField
				label="Thermal bridges"
				value={practice.thermal_bridge_w_m2k}
				digits={2}
				unit="W/m²K"
				width="100%"
				commit={put('/practice/thermal_bridge_w_m2k', 'Practice: thermal bridges')}
			/></label
		>
	</div>
{/if}
<Fold title="Additions some make">
	<div class="pairs">
		<label
			>Rooms above 4 m<NumberField
				label="Addition for high rooms"
				value={practice.high_room_share}
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
				value={practice.exposed_share}
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
				value={practice.reheat_w_per_m2}
				digits={0}
				unit="W/m²"
				width="100%"
				commit={(v) => put('/practice/reheat_w_per_m2', 'Practice: heating up')(v ?? 0)}
			/></label
		>
		<label
			>Ground conducts<NumberField
				label="Conductivity of the ground"
				value={practice.ground_detail.lambda_w_mk}
				digits={1}
				unit="W/mK"
				width="100%"
				commit={put('/practice/ground_detail/lambda_w_mk', 'Practice: ground')}
			/></label
		>
		<label
			>Groundwater<Choice
				label="Groundwater"
				value={practice.ground_detail.water_near ? 'near' : 'far'}
				options={[
					{ value: 'far', label: 'far below' },
					{ value: 'near', label: `near: × ${num(rules.ground_water_factor, 2)}` }
				]}
				commit={(v) => void put('/practice/ground_detail/water_near', 'Practice: groundwater')(v === 'near')}
			/></label
		>
	</div>
</Fold>
<div class="pairs">
	<label
		>Emitter spread<NumberField
			label="Emitter spread"
			value={practice.spread_k}
			digits={1}
			unit="K"
			width="100%"
			commit={put('/practice/spread_k', 'Practice: spread')}
		/></label
	>
	<label
		>Cold end of the curve<Choice
			label="School of the curve's cold end"
			value={practice.cold_end}
			options={SCHOOLS.cold_end}
			commit={school('cold_end', 'cold end of the curve')}
		/></label
	>
	<label
		>Gains for the curve<NumberField
			label="Gains counted in the curve"
			value={practice.curve_gains_w_per_m2}
			digits={1}
			unit="W/m²"
			width="100%"
			commit={(v) => put('/practice/curve_gains_w_per_m2', 'Practice: gains in the curve')(v ?? 0)}
		/></label
	>
	<label
		>Gains in the season<NumberField
			label="Gains in the season"
			value={practice.gains_w_per_m2}
			digits={1}
			unit="W/m²"
			width="100%"
			commit={put('/practice/gains_w_per_m2', 'Practice: gains')}
		/></label
	>
	<label
		>Pump flagged above<NumberField
			label="Pump flagged above"
			value={practice.pump_limit}
			times={100}
			digits={0}
			unit="%"
			width="100%"
			commit={put('/practice/pump_limit', 'Practice: pump')}
		/></label
	>
</div>
