<script lang="ts">
	import { amount, unitName } from '$lib/parts/units';
	import type { Design } from '$lib/api/client';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { takeAway } from '$lib/job/pointers';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import type { Mark } from '$lib/charts/site';
	import SitePlan from '$lib/charts/SitePlan.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	let { places, candidate, machine }: { places: Design['places']; candidate: string | undefined; machine: string } =
		$props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const site = $derived(session.job?.site ?? {});
	let looked = $state<string | null>(null);
	const seen = $derived(
		places.places.find((p) => p.id === looked) ?? places.places.find((p) => p.chosen) ?? places.places[0] ?? null
	);
	const doc = $derived(seen ? site.places?.[seen.id] : undefined);
	const dots = (of: Record<string, { label?: string; x_m: number; y_m: number }> | undefined, plain: string) =>
		Object.entries(of ?? {}).map(([id, one]) => ({ id, label: one.label || plain, x: one.x_m, y: one.y_m }));
	const receivers = $derived(dots(site.receivers, 'A window'));
	const openings = $derived(dots(site.openings, 'An opening'));
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));

	/** Where something new is put: before the house, so that it is seen and can be dragged. */
	const before = $derived.by((): Mark => {
		const points = places.outline.flat();
		const xs = points.map(([x]) => x ?? 0);
		const ys = points.map(([, y]) => y ?? 0);
		return xs.length ? { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: Math.min(...ys) - 1 } : { x: 0, y: 0 };
	});
	function addPlace(): void {
		const id = newId();
		const n = places.places.length + 1;
		void session.edit('A place for the unit added', (d) =>
			d.set(`/site/places/${id}`, {
				label: `Place ${n}`,
				pos: nextPos(d.job.site?.places),
				x_m: Math.round((before.x + 1.5 * (n - 1)) * 100) / 100,
				y_m: Math.round(before.y * 100) / 100,
				facing_deg: 180
			})
		);
		looked = id;
	}
	function addDot(kind: 'receivers' | 'openings', label: string, away: number): void {
		void session.edit(`${label} added`, (d) =>
			d.set(`/site/${kind}/${newId()}`, {
				label,
				pos: nextPos(d.job.site?.[kind]),
				x_m: Math.round((before.x + away) * 100) / 100,
				y_m: Math.round((before.y - Math.abs(away)) * 100) / 100
			})
		);
	}
	const move = (kind: 'places' | 'receivers' | 'openings', id: string, to: Mark): void =>
		void session.edit('Moved on the site', (d) => {
			d.set(`/site/${kind}/${id}/x_m`, to.x);
			d.set(`/site/${kind}/${id}/y_m`, to.y);
		});
	const remove = (kind: 'receivers' | 'openings', id: string): void =>
		void session.edit('Taken off the site', (d) => d.remove(`/site/${kind}/${id}`));
	function removePlace(id: string): void {
		looked = null;
		void session.edit('A place taken off the site', (d) => {
			takeAway(d, 'unit place', id);
		});
	}
	const take = (id: string): void =>
		void session.edit('Place of the unit', (d) =>
			d.set(`/schemes/${session.scheme}/candidates/${candidate}/place`, id)
		);
	const ON = [
		{ value: 'ground', label: 'on the ground' },
		{ value: 'wall', label: 'on a wall' },
		{ value: 'roof', label: 'on a flat roof' }
	];
	const SCREENED = [
		{ value: 'none', label: 'sees the unit' },
		{ value: 'partly', label: 'sees part of it' },
		{ value: 'hidden', label: 'does not see it' }
	];
	const supply = $derived(site.supply ?? {});
	const electrics = $derived(places.electrics);
	const practice = $derived(session.job?.practice ?? {});
</script>

<SitePlan {places} {receivers} {openings} seen={seen?.id ?? null} look={(id) => (looked = id)} {move} />
<div class="my-2 flex flex-wrap gap-2">
	<button class="btn btn-outline" onclick={addPlace}>+ a place for the unit</button>
	<button class="btn btn-outline" onclick={() => addDot('receivers', 'Neighbour’s window', 5)}
		>+ a window that hears it</button
	>
	<button class="btn btn-outline" onclick={() => addDot('openings', 'Drain', -2)}>+ an opening or drain</button>
</div>
{#if !places.outline.length}<p class="note">
		No room has its place on the plan yet: distances to the house are not known.
	</p>{/if}

{#if seen && doc}
	<section class="mt-2 bg-sheet px-3.5 py-3" aria-label={`${seen.label}: what is free about it and who hears it`}>
		<div class="flex flex-wrap items-center gap-2.5">
			<div class="w-44">
				<TextField
					label="Name of the place"
					value={doc.label}
					strong
					commit={put(`/site/places/${seen.id}/label`, 'Name of a place')}
				/>
			</div>
			{#if seen.chosen}<strong class="text-meets">{machine} stands here</strong>{:else if candidate}<button
					class="btn btn-outline"
					onclick={() => take(seen.id)}>Put {machine} here</button
				>{/if}
			<span class="note"
				>{seen.unmet === 0
					? seen.unseen
						? `${seen.unseen} not looked at yet, the rest is kept`
						: 'everything below is kept'
					: `${seen.unmet} ${seen.unmet === 1 ? 'thing' : 'things'} below ${seen.unmet === 1 ? 'is' : 'are'} not kept`}</span
			>
			<button class="btn ml-auto btn-quiet" onclick={() => removePlace(seen.id)}>take it off</button>
		</div>
		<div class="mt-2 grid grid-cols-[repeat(auto-fill,minmax(112px,1fr))] items-end gap-x-3 gap-y-2">
			<label
				>Stands<Choice
					label="How the unit stands"
					value={doc.on ?? 'ground'}
					options={ON}
					commit={put(`/site/places/${seen.id}/on`, 'How the unit stands')}
				/></label
			>
			<label
				>Blows towards, °<NumberField
					label="The way it blows"
					value={doc.facing_deg ?? 0}
					digits={0}
					width="100%"
					commit={(v) => put(`/site/places/${seen.id}/facing_deg`, 'The way it blows')(v ?? 0)}
				/></label
			>
			<label
				>East–west<NumberField
					label="Place, across"
					value={doc.x_m}
					quantity="length"
					unit="m"
					width="100%"
					commit={(v) => (v == null ? undefined : put(`/site/places/${seen.id}/x_m`, 'Place of the unit')(v))}
				/></label
			>
			<label
				>North–south<NumberField
					label="Place, up"
					value={doc.y_m}
					quantity="length"
					unit="m"
					width="100%"
					commit={(v) => (v == null ? undefined : put(`/site/places/${seen.id}/y_m`, 'Place of the unit')(v))}
				/></label
			>
			<label
				>Its middle above ground<NumberField
					label="Height of the unit"
					value={doc.height_m ?? 0.6}
					quantity="length"
					unit="m"
					width="100%"
					commit={(v) => (v == null ? undefined : put(`/site/places/${seen.id}/height_m`, 'Height of the unit')(v))}
				/></label
			>
			<label
				>Pipes to the store<NumberField
					label="Pipe run of the place"
					value={doc.run_m}
					quantity="length"
					unit="m"
					width="100%"
					commit={put(`/site/places/${seen.id}/run_m`, 'Pipe run')}
				/></label
			>
			<label
				>Cable to the board<NumberField
					label="Cable of the place"
					value={doc.cable_m}
					quantity="length"
					unit="m"
					width="100%"
					commit={put(`/site/places/${seen.id}/cable_m`, 'Cable')}
				/></label
			>
		</div>
		{#if seen.inside}<p class="mt-2 rounded-sm px-3 py-1 hatch-short">It lies inside the house.</p>{/if}
		{#if seen.alley}<p class="mt-2 rounded-sm px-3 py-1 hatch-short">
				A blind alley: the cold air it blows out is drawn in again. Move it out, or turn it.
			</p>{/if}
		{#if seen.access}<p class="mt-2 note">On a wall or roof: {seen.access}.</p>{/if}
		<table class="table mt-2 table-figures">
			<thead
				><tr
					><th>Kept free</th><th class="text-right">Is</th><th class="text-right">Asked</th><th></th><th
						class="text-right">The manual says</th
					></tr
				></thead
			>
			<tbody>
				{#each seen.rules as rule (rule.key)}<tr
						><td>{rule.label}<span class="block note">{rule.why} ({rule.source})</span></td><td
							class="text-right whitespace-nowrap"
							>{rule.met == null
								? '–'
								: rule.measure_m == null
									? 'nothing near'
									: amount(rule.measure_m, 'm', 2)}{#if rule.measure_m != null && rule.what}<span class="block note"
									>{rule.what}</span
								>{/if}</td
						><td class="text-right whitespace-nowrap">{amount(rule.least_m, 'm', 2)}</td><td
							>{#if rule.met == null}<span class="note whitespace-nowrap">not looked at</span>{:else if rule.met}<strong
									class="text-meets">met</strong
								>{:else}<span
									class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
									>not met</span
								>{/if}</td
						><td class="text-right"
							><NumberField
								label={`${rule.label}, by the manual`}
								value={site.place_rules?.[rule.key]}
								quantity="length"
								unit="m"
								width="5.5em"
								commit={put(`/site/place_rules/${rule.key}`, 'What the manual says')}
							/></td
						></tr
					>{/each}
			</tbody>
		</table>
	</section>
{:else}
	<p class="py-3 text-lead">
		Put one or two places where the unit might stand, and the neighbours' windows that would hear it.
	</p>
{/if}

<h2 class="mt-4 mb-1">Who hears it</h2>
{#if places.noise_lacks}<p class="note">{places.noise_lacks}</p>{/if}
<label class="flex max-w-140 items-center gap-2 note"
	><span class="whitespace-nowrap">Judged</span><Choice
		label="Way of judging noise"
		value={practice.noise ?? 'together'}
		options={[
			{ value: 'together', label: 'with an assumed background, both together' },
			{ value: 'alone', label: 'the unit alone' }
		]}
		commit={put('/practice/noise', 'Way of judging noise')}
	/></label
>
<p class="note">{places.noise_school}; local rules decide which counts.</p>
{#if receivers.length}
	<table class="table table-figures">
		<thead
			><tr
				><th>Window</th><th>It</th><th class="text-right">Distance</th><th class="text-right">By day</th><th
					class="text-right">Quiet</th
				><th class="text-right">Limit for the unit</th><th>What would pass</th><th></th></tr
			></thead
		>
		<tbody>
			{#each ordered(site.receivers) as [id, one] (id)}
				{@const heard = seen?.heard.find((h) => h.id === id)}
				<tr
					><td
						><TextField
							label={`Name of ${one.label || 'a window'}`}
							value={one.label}
							bare
							commit={put(`/site/receivers/${id}/label`, 'Name of a window')}
						/></td
					><td class="min-w-40"
						><Choice
							label={`What ${one.label || 'a window'} sees`}
							value={one.screened ?? 'none'}
							options={SCREENED}
							commit={put(`/site/receivers/${id}/screened`, 'What a window sees')}
						/></td
					><td class="text-right whitespace-nowrap">{heard ? amount(heard.distance_m, 'm', 1) : '–'}</td><td
						class="text-right whitespace-nowrap">{num(heard?.level_db, 1)}<span class="unit">dB(A)</span></td
					><td class="text-right">{num(heard?.quiet_db, 1)}</td><td class="text-right">{num(heard?.limit_db, 1)}</td><td
						>{#if heard?.met}<strong class="text-meets">under it</strong>{:else}{heard?.passes ?? ''}{/if}</td
					><td
						><button
							class="btn btn-quiet"
							aria-label={`Take ${one.label || 'the window'} off`}
							onclick={() => remove('receivers', id)}>×</button
						></td
					></tr
				>
			{/each}
		</tbody>
	</table>
{:else}<p class="note">No window stands on the site yet.</p>{/if}
{#if openings.length}
	<p class="mt-2 flex flex-wrap items-center gap-2">
		{#each ordered(site.openings) as [id, one] (id)}<span class="flex items-center gap-1"
				><span class="w-36"
					><TextField
						label={`Name of ${one.label || 'an opening'}`}
						value={one.label}
						bare
						commit={put(`/site/openings/${id}/label`, 'Name of an opening')}
					/></span
				><button
					class="btn btn-quiet"
					aria-label={`Take ${one.label || 'the opening'} off`}
					onclick={() => remove('openings', id)}>×</button
				></span
			>{/each}
	</p>
{/if}

<h2 class="mt-4 mb-1">What the supply is asked for</h2>
<div class="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-x-3 gap-y-2">
	<label
		>Main fuse, A<NumberField
			label="Main fuse"
			value={supply.fuse_a}
			digits={0}
			width="100%"
			commit={put('/site/supply/fuse_a', 'Main fuse')}
		/></label
	>
	<label
		>House after diversity, A<NumberField
			label="What the house draws"
			value={supply.present_a}
			digits={0}
			width="100%"
			commit={put('/site/supply/present_a', 'What the house draws')}
		/></label
	>
	<label
		>Spare way in the board<Choice
			label="Spare way in the board"
			value={supply.spare_way == null ? null : supply.spare_way ? 'yes' : 'no'}
			empty="not looked at"
			options={[
				{ value: 'yes', label: 'there is one' },
				{ value: 'no', label: 'there is none' }
			]}
			commit={(v) => put('/site/supply/spare_way', 'Spare way')(v == null ? null : v === 'yes')}
		/></label
	>
	<label class="flex min-h-9 items-center gap-2"
		><input
			type="checkbox"
			class="checkbox"
			checked={supply.interlocked ?? false}
			onchange={(event) => void put('/site/supply/interlocked', 'Interlock')(event.currentTarget.checked)}
		/>Heater never with the machine</label
	>
</div>
<p class="mt-1">
	{electrics.labels
		.map((label, n) => `${num(electrics.amperes[n])} A ${label}`)
		.join(' + ')}{#if electrics.labels.length}{' = '}<strong>{num(electrics.sum_a)} A</strong
		>{/if}{#if electrics.left_a != null}, {electrics.left_a < 0
			? `${num(-electrics.left_a)} A more than the main fuse`
			: `${num(electrics.left_a)} A left under the main fuse`}{/if}.
	{electrics.lacks}
</p>
<p class="note">
	A sum, no verdict: a licensed electrician states the demand, decides and notifies the network operator. Distances in {unitName(
		'm'
	)}; the maker's manual wins over every general figure here.
</p>

<style>
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
</style>
