<script lang="ts">
	import { followed } from '$lib/job/followed';
	import { fig } from '$lib/parts/units';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Mark from '$lib/parts/Mark.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import SpaceEditor from '$lib/house/SpaceEditor.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const practice = $derived(followed(job.practice));
	let unfolded = $state<string | null>(null);
	const tables = $derived(job.library?.tables?.standard?.data);
	const kinds = $derived(
		Object.entries(tables?.space_kinds ?? {}).map(([value, k]) => ({ value, label: `${k.label}, b ${num(k.b, 1)}` }))
	);
	const put = (path: string, what: string) => (value: unknown) => session.edit(what, (d) => d.put(path, value));
	const addTo = (kind: 'storeys' | 'spaces' | 'neighbours', label: string): void =>
		void session.edit(`${label} added`, (d) =>
			d.set(`/survey/${kind}/${newId()}`, { label, pos: nextPos(d.job.survey?.[kind]) })
		);
</script>

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
			set={(k) => void session.edit(`How ${space.label} is known`, (d) => d.set(`/survey/spaces/${id}/known/kind`, k))}
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
			placeholder={fig(practice.neighbour_c, '°C')}
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
