<script lang="ts">
	import { amount } from '$lib/parts/units';
	import type { Known, SpaceDoc } from '$lib/api/client';
	import { constructions } from '$lib/parts/choices';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	let { id, space }: { id: string; space: SpaceDoc } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const at = $derived(`/survey/spaces/${id}`);
	const result = $derived(session.shown?.house.spaces.find((s) => s.id === id));
	const airs = $derived(
		Object.entries(job.library?.tables?.standard?.data.space_air_per_h ?? {}).map(([value, rate]) => ({
			value,
			label: `${WORDS[value] ?? value}, ${num(rate, 1)} per hour`
		}))
	);
	const WORDS: Record<string, string> = {
		closed: 'no doors, no windows',
		tight: 'tight',
		ordinary: 'ordinary',
		leaky: 'leaky, or vents',
		vented: 'well vented'
	};
	const builds = $derived(constructions(job, shelf.all, ['wall', 'roof', 'door', 'window']));
	const grounds = $derived(constructions(job, shelf.all, ['ground']));
	const walls = $derived(constructions(job, shelf.all, ['wall']));
	const put = (field: string, what: string) => (value: unknown) =>
		session.edit(`${space.label}, ${what}`, (d) => d.put(`${at}/${field}`, value));
	const first = (options: { value: string }[]): string => options[0]?.value ?? '';

	function addFace(beyond: 'outside' | 'ground'): void {
		const build = first(beyond === 'ground' ? grounds : builds);
		void session.edit(`${space.label}, a face added`, (d) => {
			d.freeze('constructions', build);
			d.set(`${at}/faces/${newId()}`, {
				label: beyond === 'ground' ? 'Floor' : 'Outer face',
				pos: nextPos(d.job.survey?.spaces?.[id]?.faces),
				beyond,
				area_m2: 10,
				construction: build
			});
		});
	}
	function build(path: string, value: string | null): void {
		if (!value) return;
		void session.edit(`${space.label}, how it is built`, (d) => {
			d.freeze('constructions', value);
			d.set(path, value);
		});
	}
	function addCellar(): void {
		void session.edit(`${space.label} in the ground`, (d) => {
			const [wall, floor] = [first(walls), first(grounds)];
			d.freeze('constructions', wall);
			d.freeze('constructions', floor);
			d.set(`${at}/cellar`, { area_m2: 30, exposed_perimeter_m: 22, depth_m: 1.8, wall, floor });
		});
	}
	const proved =
		(path: string, field: string, what: string) =>
		(value: number | null, proof?: Known): Promise<boolean> =>
			session.edit(`${space.label}, ${what}`, (d) => {
				if (value !== null) d.set(`${path}/${field}`, value);
				if (proof) d.set(`${path}/known/${field}`, { how: proof.how, by: proof.by, at: proof.at });
			});
</script>

<div class="grid gap-1.5 border-l-3 border-l-hairline pt-1 pr-0 pb-1.5 pl-2.5">
	<p class="note">
		{result
			? `${result.how === 'solved' ? 'From its own faces' : result.how === 'stated' ? 'By the factor entered' : 'By its kind'}: b ${num(result.b, 2)}, ${amount(result.temperature_c, '°C', 1)} on the design day.`
			: ''}
		{result && result.how !== 'solved' ? 'Give it its outer faces and it is worked out.' : ''}
		<button class="btn btn-quiet" onclick={() => void frame.showWorking(`space:${id}`)}>its working</button>
	</p>
	<div class="grid grid-cols-[1fr_1fr_1fr] items-end gap-x-2.5 gap-y-1.5">
		<label
			>Factor b, overrides<NumberField
				label={`Factor b of ${space.label}`}
				value={space.b}
				digits={2}
				width="100%"
				commit={put('b', 'factor b')}
			/></label
		>
		<label
			>Volume<NumberField
				label={`Volume of ${space.label}`}
				value={space.volume_m3}
				digits={0}
				unit="m³"
				width="100%"
				commit={put('volume_m3', 'volume')}
			/></label
		>
		<label
			>Air through it<Choice
				label={`Air through ${space.label}`}
				value={space.air}
				empty="ordinary (default)"
				options={airs}
				commit={(v) => void put('air', 'air')(v)}
			/></label
		>
	</div>
	{#each ordered(space.faces) as [key, face] (key)}
		<div class="grid grid-cols-[1fr_auto_1.2fr_auto] items-center gap-1.25">
			<TextField
				label={`Name of a face of ${space.label}`}
				value={face.label}
				commit={(v) => session.edit(`${space.label}, face named`, (d) => d.set(`${at}/faces/${key}/label`, v))}
			/>
			<NumberField
				label={`Area of ${face.label} of ${space.label}`}
				value={face.area_m2}
				digits={1}
				unit="m²"
				width="6.6em"
				known={face.known?.area_m2 ?? null}
				by={session.person}
				commit={proved(`${at}/faces/${key}`, 'area_m2', 'area')}
			/>
			<Choice
				label={`Construction of ${face.label} of ${space.label}`}
				value={face.construction}
				options={face.beyond === 'ground' ? grounds : builds}
				commit={(v) => build(`${at}/faces/${key}/construction`, v)}
			/>
			<button
				class="btn btn-quiet"
				aria-label={`Remove ${face.label} of ${space.label}`}
				onclick={() => void session.edit(`${space.label}, a face removed`, (d) => d.remove(`${at}/faces/${key}`))}
				>✕</button
			>
		</div>
	{/each}
	{#if space.cellar}
		<div class="grid grid-cols-[1fr_1fr_1fr] items-end gap-x-2.5 gap-y-1.5">
			<label
				>Floor in the ground<NumberField
					label={`Floor area of ${space.label}`}
					value={space.cellar.area_m2}
					digits={1}
					unit="m²"
					width="100%"
					commit={proved(`${at}/cellar`, 'area_m2', 'floor area')}
				/></label
			>
			<label
				>Its outer edge<NumberField
					label={`Edge of ${space.label}`}
					value={space.cellar.exposed_perimeter_m}
					digits={1}
					unit="m"
					width="100%"
					commit={proved(`${at}/cellar`, 'exposed_perimeter_m', 'edge')}
				/></label
			>
			<label
				>Deep<NumberField
					label={`Depth of ${space.label}`}
					value={space.cellar.depth_m}
					digits={2}
					unit="m"
					width="100%"
					commit={proved(`${at}/cellar`, 'depth_m', 'depth')}
				/></label
			>
			<label
				>Walls in the ground<Choice
					label={`Walls in the ground of ${space.label}`}
					value={space.cellar.wall}
					options={walls}
					commit={(v) => build(`${at}/cellar/wall`, v)}
				/></label
			>
			<label
				>Floor<Choice
					label={`Floor of ${space.label}`}
					value={space.cellar.floor}
					options={grounds}
					commit={(v) => build(`${at}/cellar/floor`, v)}
				/></label
			>
			<button
				class="btn btn-quiet"
				onclick={() => void session.edit(`${space.label} no longer in the ground`, (d) => d.remove(`${at}/cellar`))}
				>not in the ground</button
			>
		</div>
	{/if}
	<div class="flex flex-wrap">
		<button class="btn btn-quiet" onclick={() => addFace('outside')}>+ face to the outside</button><button
			class="btn btn-quiet"
			onclick={() => addFace('ground')}>+ floor on the ground</button
		>{#if !space.cellar}<button class="btn btn-quiet" onclick={addCellar}>it is a cellar</button>{/if}<button
			class="btn btn-quiet"
			onclick={() => void session.edit(`${space.label} removed`, (d) => d.remove(at))}>remove the space</button
		>
	</div>
</div>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
		min-width: 0;
	}
</style>
