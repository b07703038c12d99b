<script lang="ts">
	import { amount, fig } from '$lib/parts/units';
	import type { Known } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const design = $derived(session.shown);
	const climates = $derived(
		Object.values(shelf.all?.climates ?? {}).map((c) => ({
			value: c.id,
			label: `${c.label}, ${amount(c.design_c, '°C')}`
		}))
	);
	const SHELTER = ['sheltered', 'normal', 'exposed'].map((value) => ({ value, label: value }));
	const put = (path: string, what: string) => (value: unknown) => session.edit(what, (d) => d.put(path, value));
	function setClimate(value: string | null): void {
		void session.edit('Climate', (d) => {
			if (value) d.freeze('climates', value);
			d.put('/climate/entry', value);
		});
	}
	const putTightness = (value: number | null, proof?: Known): Promise<boolean> =>
		session.edit('Tightness', (d) => {
			d.put('/survey/tightness/n50_per_h', value);
			if (proof) d.set('/survey/tightness/known/n50_per_h', { how: proof.how, by: proof.by, at: proof.at });
		});
</script>

<h2 class="mt-2">The job</h2>
<label
	>House<TextField
		label="Title of the job"
		value={job.title}
		commit={(v) => session.edit('Job renamed', (d) => d.set('/title', v))}
	/></label
>
<div class="pairs">
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
<div class="pairs">
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
<div class="pairs">
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
