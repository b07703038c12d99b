<script lang="ts">
	import { constructions } from '$lib/parts/choices';
	import { spaceOf } from '$lib/house/beyond';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Mark from '$lib/parts/Mark.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
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
	const ages = $derived(Object.entries(tables?.ages ?? {}).map(([value, a]) => ({ value, label: a.label })));
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
	function setAge(part: string, value: string | null): void {
		void session.edit('Age, with its usual constructions', (d) => {
			d.put(`/survey/parts/${part}/age`, value);
			for (const [element, key] of Object.entries(tables?.ages[value ?? '']?.constructions ?? {})) {
				d.freeze('constructions', key);
				d.set(`/survey/parts/${part}/constructions/${element}`, key);
			}
		});
	}
	function setBuild(part: string, element: string, value: string | null): void {
		void session.edit('Usual construction', (d) => {
			if (value) d.freeze('constructions', value);
			d.put(`/survey/parts/${part}/constructions/${element}`, value);
		});
	}
	const addPart = (): void =>
		void session.edit('Extension added', (d) =>
			d.set(`/survey/parts/${newId()}`, { label: 'Extension', pos: nextPos(d.job.survey?.parts) })
		);
</script>

<h2 class="mt-2">Parts of the house</h2>
{#each ordered(job.survey?.parts) as [id, part] (id)}
	<fieldset class="border-t border-t-hairline px-0 py-2">
		<div class="pairs">
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
		<div class="mt-2 pairs">
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
						void session.edit('Loft', (d) => d.put(`/survey/parts/${id}/loft`, v === 'new' ? spaceOf(d, 'Loft') : v))}
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
	<button class="btn btn-quiet" onclick={addPart}>+ part with its own age</button>
</div>
