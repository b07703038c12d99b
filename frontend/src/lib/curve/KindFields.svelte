<script lang="ts">
	import type { Control, KnownCurve } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	import type { Quantity } from '$lib/parts/units';
	let { control }: { control: Control } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const base = $derived(`/schemes/${session.scheme}/control`);
	type Field = {
		at: string;
		label: string;
		value: number | null | undefined;
		usual?: string;
		unit?: string;
		digits?: number;
	};
	const put = (at: string, what: string) => (value: unknown) =>
		session.edit(`Controller, ${what.toLowerCase()}`, (d) => d.put(`${base}/${at}`, value === false ? null : value));
	const points = (at: string, of: KnownCurve): Field[] => [
		{ at: `${at}/cold_out_c`, label: 'Cold point of it, outside', value: of.cold_out_c, unit: '°C' },
		{ at: `${at}/cold_flow_c`, label: 'Cold point of it, water', value: of.cold_flow_c, unit: '°C' },
		{ at: `${at}/mild_out_c`, label: 'Mild point of it, outside', value: of.mild_out_c, unit: '°C' },
		{ at: `${at}/mild_flow_c`, label: 'Mild point of it, water', value: of.mild_flow_c, unit: '°C' }
	];
	type Group = { title: string; note?: string; fields: Field[] };
	const step: Field = $derived({
		at: 'step_k',
		label: 'Steps of temperature',
		value: control.step_k,
		usual: '1',
		unit: 'K',
		digits: 2
	});
	const groups = $derived.by((): Group[] => {
		const { slope = {}, numbered = {}, offset = {}, fixed = {} } = control;
		if (control.kind === 'slope')
			return [
				{
					title: 'As this controller is built',
					fields: [
						{
							at: 'slope/pivot_c',
							label: 'Pivot, air and water',
							value: slope.pivot_c,
							usual: '20',
							unit: '°C',
							digits: 1
						},
						{ at: 'slope/slope_step', label: 'Steps of slope', value: slope.slope_step, usual: '0.1', digits: 2 },
						{ at: 'slope/exponent', label: 'Bent by exponent', value: slope.exponent, usual: '1', digits: 2 },
						step
					]
				}
			];
		if (control.kind === 'numbered')
			return [
				{
					title: 'One line, off the manual',
					note: 'Any number of it, at two outdoor temperatures: the others follow from it.',
					fields: [
						{ at: 'numbered/known/number', label: 'Its number', value: numbered.known?.number, digits: 2 },
						...points('numbered/known', numbered.known ?? {})
					]
				},
				{
					title: 'A second line, if the manual shows one',
					note: 'Then nothing is taken for granted about where the lines meet.',
					fields: [
						{ at: 'numbered/other/number', label: 'Its number, second line', value: numbered.other?.number, digits: 2 },
						...points('numbered/other', numbered.other ?? {}).map((f) => ({ ...f, label: `${f.label}, second line` }))
					]
				},
				{
					title: 'As this controller is built',
					fields: [
						{ at: 'numbered/least', label: 'Least number', value: numbered.least, usual: '0.1', digits: 2 },
						{ at: 'numbered/greatest', label: 'Greatest number', value: numbered.greatest, usual: '4', digits: 2 },
						{ at: 'numbered/step', label: 'Steps of number', value: numbered.step, usual: '0.1', digits: 2 },
						step
					]
				}
			];
		if (control.kind === 'offset')
			return [
				{
					title: 'The line that is built in',
					note: 'Off the manual or the display.',
					fields: points('offset/built_in', offset.built_in ?? {})
				},
				{
					title: 'As this controller is built',
					fields: [
						{
							at: 'offset/most_k',
							label: 'The button moves it by at most',
							value: offset.most_k,
							usual: '5',
							unit: 'K',
							digits: 1
						},
						step
					]
				}
			];
		if (control.kind === 'fixed')
			return [
				{
					title: 'As it is used',
					note: 'A second temperature for milder weather, where somebody really changes it.',
					fields: [
						{
							at: 'fixed/change_out_c',
							label: 'Changed by hand at, outside',
							value: fixed.change_out_c,
							usual: 'never',
							unit: '°C'
						},
						step
					]
				}
			];
		return [{ title: 'As this controller is built', fields: [step] }];
	});
	const quantity = (field: Field): Quantity => (field.unit === '°C' ? 'temperature' : 'plain');
</script>

{#each groups as group (group.title)}
	<h3 class="mt-2 font-semibold">{group.title}</h3>
	{#if group.note}<p class="note">{group.note}</p>{/if}
	<div class="grid grid-cols-[1fr_1fr] items-end gap-x-3 gap-y-2">
		{#each group.fields as field (field.at)}
			<Asked
				ask={field.label}
				label={field.label}
				value={field.value}
				placeholder={field.usual ?? '–'}
				quantity={quantity(field)}
				digits={field.digits ?? 0}
				unit={field.unit ?? ''}
				commit={put(field.at, field.label)}
			/>
		{/each}
	</div>
{/each}
{#if control.kind === 'slope'}
	<Tick
		ask="The wanted room moves the line"
		value={control.slope?.room_shifts ?? false}
		commit={put('slope/room_shifts', 'whether the wanted room moves the line')}
	/>
{:else if control.kind === 'numbered'}
	<Tick
		ask="The line can be moved up and down as well"
		value={control.numbered?.shifts ?? true}
		commit={(on) => void session.edit('Controller, whether lines move', (d) => d.set(`${base}/numbered/shifts`, on))}
	/>
{/if}
