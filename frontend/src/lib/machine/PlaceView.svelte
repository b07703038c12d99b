<script lang="ts">
	import rules from '$lib/api/rules.json';
	import { amount, fig } from '$lib/parts/units';
	import type { Design } from '$lib/api/client';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { takeAway } from '$lib/job/pointers';
	import { money, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import type { Dot, Kind, Look, Mark } from '$lib/charts/site';
	import SitePlan from '$lib/charts/SitePlan.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import HeardTable from './HeardTable.svelte';
	import RulesFile from './RulesFile.svelte';
	import SiteThings from './SiteThings.svelte';
	import SupplyView from './SupplyView.svelte';
	import Asked from '$lib/parts/Asked.svelte';
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
	const dots = $derived.by((): Dot[] => [
		...ordered(site.openings).map(([id, one]) => dot('openings', id, one, 'opening', 'An opening')),
		...ordered(site.marks).map(([id, one]) => dot('marks', id, one, one.kind, one.kind)),
		...ordered(site.receivers).map(([id, one]) => dot('receivers', id, one, 'ear', 'A window'))
	]);
	function dot(
		kind: Dot['kind'],
		id: string,
		one: { label?: string; x_m: number; y_m: number },
		look: Look,
		plain: string
	): Dot {
		return { kind, id, label: one.label || plain, x: one.x_m, y: one.y_m, look };
	}
	type Point = { x_m: number; y_m: number; height_m?: number | null };
	type Bend = Mark & { height?: number | null };
	const marks = (of: Point[] | undefined): Bend[] =>
		(of ?? []).map((p) => ({ x: p.x_m, y: p.y_m, height: p.height_m }));
	const boundary = $derived(marks(site.boundary));
	const bends = $derived({ route: marks(doc?.route), cable: marks(doc?.cable) });
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
			d.set(`/site/${kind}/${newId()}`, { label, pos: nextPos(d.job.site?.[kind]), ...beside(away) })
		);
	}
	const beside = (away: number): Point => ({
		x_m: Math.round((before.x + away) * 100) / 100,
		y_m: Math.round((before.y - Math.abs(away)) * 100) / 100
	});
	function addMark(kind: MarkKind): void {
		const { label, away } = MARKS[kind];
		void session.edit(`${label} added`, (d) =>
			d.set(`/site/marks/${newId()}`, { kind, label, pos: nextPos(d.job.site?.marks), ...beside(away) })
		);
	}
	/** A line of points is put anew as a whole. */
	function line(kind: 'boundary' | 'route' | 'cable', points: Bend[], label: string): void {
		const at = kind === 'boundary' ? '/site/boundary' : `/site/places/${seen?.id}/${kind}`;
		const value = points.map((p) => ({ x_m: p.x, y_m: p.y, ...(p.height == null ? {} : { height_m: p.height }) }));
		void session.edit(label, (d) => d.put(at, value.length ? value : null));
	}
	const points = (kind: 'boundary' | 'route' | 'cable'): Bend[] => (kind === 'boundary' ? boundary : bends[kind]);
	const round = (v: number): number => Math.round(v * 20) / 20;
	/** A corner more: four about everything to begin with, then one in the middle of the longest side. */
	function addEdge(): void {
		if (boundary.length < 3) {
			const all = [...places.outline.flat().map(([x, y]) => ({ x: x ?? 0, y: y ?? 0 })), ...dots, before];
			const [x0, x1] = [Math.min(...all.map((p) => p.x)) - 2, Math.max(...all.map((p) => p.x)) + 2].map(round);
			const [y0, y1] = [Math.min(...all.map((p) => p.y)) - 2, Math.max(...all.map((p) => p.y)) + 2].map(round);
			const corners = [
				[x0!, y0!],
				[x1!, y0!],
				[x1!, y1!],
				[x0!, y1!]
			];
			return line(
				'boundary',
				corners.map(([x, y]) => ({ x: x!, y: y! })),
				'The edge of the plot'
			);
		}
		const side = (n: number): number => {
			const [a, b] = [boundary[n]!, boundary[(n + 1) % boundary.length]!];
			return Math.hypot(a.x - b.x, a.y - b.y);
		};
		const longest = boundary.reduce((best, _, n) => (side(n) > side(best) ? n : best), 0);
		const [a, b] = [boundary[longest]!, boundary[(longest + 1) % boundary.length]!];
		const middle = { x: round((a.x + b.x) / 2), y: round((a.y + b.y) / 2) };
		line(
			'boundary',
			[...boundary.slice(0, longest + 1), middle, ...boundary.slice(longest + 1)],
			'A corner of the plot'
		);
	}
	function addBend(kind: 'route' | 'cable'): void {
		if (!seen) return;
		const ends = (kind === 'route' ? seen.run : seen.cable).points;
		const mine = bends[kind];
		const from = mine.at(-1) ?? { x: seen.x_m, y: seen.y_m };
		const last = ends.length > mine.length + 1 ? ends.at(-1)! : [from.x + 2, from.y];
		const middle = { x: round((from.x + (last[0] ?? 0)) / 2), y: round((from.y + (last[1] ?? 0)) / 2) };
		line(kind, [...mine, middle], kind === 'route' ? 'A bend of the pipes' : 'A bend of the cable');
	}
	function move(kind: Kind, id: string, to: Mark): void {
		if (kind === 'boundary' || kind === 'route' || kind === 'cable')
			return line(
				kind,
				points(kind).map((p, n) => (String(n) === id ? { ...p, ...to } : p)),
				'Moved on the site'
			);
		void session.edit('Moved on the site', (d) => {
			d.set(`/site/${kind}/${id}/x_m`, to.x);
			d.set(`/site/${kind}/${id}/y_m`, to.y);
		});
	}
	function remove(kind: Kind, id: string): void {
		if (kind === 'boundary' || kind === 'route' || kind === 'cable')
			return line(
				kind,
				points(kind).filter((_, n) => String(n) !== id),
				'Taken off the site'
			);
		void session.edit('Taken off the site', (d) => d.remove(`/site/${kind}/${id}`));
	}
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
	const WATER = [
		{ value: 'gully', label: 'into a gully' },
		{ value: 'soakaway', label: 'into a soakaway below the frost' },
		{ value: 'heated pipe', label: 'through a heated pipe' },
		{ value: 'onto the ground', label: 'onto the ground' }
	];
	type MarkKind = 'tree' | 'patio' | 'meter' | 'tap' | 'store' | 'unit';
	const MARKS: Record<MarkKind, { label: string; away: number }> = {
		store: { label: 'Store', away: 1 },
		meter: { label: 'Meter', away: -1 },
		tap: { label: 'Main tap', away: -2 },
		tree: { label: 'Tree', away: -4 },
		patio: { label: 'Patio', away: 3 },
		unit: { label: 'Another unit', away: 6 }
	};
	const practice = $derived(session.job?.practice ?? {});
	const currency = $derived(session.job?.currency ?? 'GBP');
	const ways = $derived.by((): string => {
		if (!seen) return '';
		const said = (what: string, way: typeof seen.run): string =>
			way.length_m == null
				? `${what}: not known, ${way.why}`
				: `${what} ${amount(way.length_m, 'm', 1)}, ${way.why}, ${money(way.cost_minor, currency)}`;
		const all = seen.cost_minor == null ? '' : `; together ${money(seen.cost_minor, currency)} with access`;
		return `${said('pipes', seen.run)}; ${said('cable', seen.cable)}${all}`;
	});
	const lines = $derived.by((): string => {
		const l = seen?.lines;
		if (!l) return '';
		const size = `Refrigerant lines ${num(l.gas_mm, 1)} and ${num(l.liquid_mm, 1)} mm`;
		if (l.length_m == null) return `${size}: their way is not known yet.`;
		const lift = l.lift_m == null ? 'lift not known' : `lift ${amount(l.lift_m, 'm', 1)}`;
		const more = l.extra_g ? `${num(l.extra_g)} g to be added` : 'no charge to be added';
		return `${size}: ${amount(l.length_m, 'm', 1)} of ${amount(l.most_length_m, 'm')}, ${lift} of ${amount(l.most_lift_m, 'm')}; ${more}${l.charge_kg == null ? '' : `, ${amount(l.charge_kg, 'kg', 2)} in all`}. Certified hands only.`;
	});
</script>

<SitePlan {places} {dots} {boundary} {bends} seen={seen?.id ?? null} look={(id) => (looked = id)} {move} {remove} />
<div class="my-2 flex flex-wrap items-end gap-2">
	<button class="btn btn-outline" onclick={addPlace}>+ a place for the unit</button>
	<button class="btn btn-outline" onclick={() => addDot('receivers', 'Neighbour’s window', 5)}
		>+ a window that hears it</button
	>
	<button class="btn btn-outline" onclick={() => addDot('openings', 'Drain', -2)}>+ an opening or drain</button>
	<div class="w-52">
		<Choice
			label="Put something else on the site"
			value={null}
			empty="+ something else"
			options={[
				...Object.entries(MARKS).map(([value, m]) => ({ value, label: m.label.toLowerCase() })),
				{ value: 'edge', label: boundary.length < 3 ? 'the edge of the plot' : 'a corner of the plot' }
			]}
			commit={(v) => (v === 'edge' ? addEdge() : v && addMark(v as MarkKind))}
		/>
	</div>
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
			<Asked
				ask="Blows towards, °"
				label="The way it blows"
				value={doc.facing_deg ?? 0}
				digits={0}
				commit={(v) => put(`/site/places/${seen.id}/facing_deg`, 'The way it blows')(v ?? 0)}
			/>
			<Asked
				ask="East–west"
				label="Place, across"
				value={doc.x_m}
				quantity="length"
				unit="m"
				commit={(v) => (v == null ? undefined : put(`/site/places/${seen.id}/x_m`, 'Place of the unit')(v))}
			/>
			<Asked
				ask="North–south"
				label="Place, up"
				value={doc.y_m}
				quantity="length"
				unit="m"
				commit={(v) => (v == null ? undefined : put(`/site/places/${seen.id}/y_m`, 'Place of the unit')(v))}
			/>
			<Asked
				ask="Its middle above ground"
				label="Height of the unit"
				value={doc.height_m ?? 0.6}
				quantity="length"
				unit="m"
				commit={(v) => (v == null ? undefined : put(`/site/places/${seen.id}/height_m`, 'Height of the unit')(v))}
			/>
			<Asked
				ask="Pipes to the store"
				label="Pipe run of the place"
				value={doc.run_m}
				placeholder={seen.run.length_m == null ? '–' : fig(seen.run.length_m, 'm', 1)}
				quantity="length"
				unit="m"
				commit={put(`/site/places/${seen.id}/run_m`, 'Pipe run')}
			/>
			<Asked
				ask="Cable to the board"
				label="Cable of the place"
				value={doc.cable_m}
				placeholder={seen.cable.length_m == null ? '–' : fig(seen.cable.length_m, 'm', 1)}
				quantity="length"
				unit="m"
				commit={put(`/site/places/${seen.id}/cable_m`, 'Cable')}
			/>
			<label
				>Its meltwater goes<Choice
					label="Where the meltwater goes"
					value={doc.meltwater ?? null}
					empty="nobody has said"
					options={WATER}
					commit={put(`/site/places/${seen.id}/meltwater`, 'Where the meltwater goes')}
				/></label
			>
			{#if (doc.on ?? 'ground') !== 'ground'}
				<Asked
					ask={`Reached for service by, ${currency}`}
					label="Cost of access"
					value={doc.access_minor}
					times={0.01}
					digits={0}
					commit={put(`/site/places/${seen.id}/access_minor`, 'Access for service')}
				/>
			{/if}
		</div>
		<div class="mt-2 flex flex-wrap items-center gap-2">
			<button class="btn btn-outline" onclick={() => addBend('route')}>+ a bend in the pipes</button>
			<button class="btn btn-outline" onclick={() => addBend('cable')}>+ a bend in the cable</button>
			<span class="note">{ways}</span>
		</div>
		{#each ['route', 'cable'] as const as kind (kind)}
			{#if bends[kind].length}
				<div class="mt-1 grid grid-cols-[repeat(auto-fill,minmax(112px,1fr))] items-end gap-x-3 gap-y-2">
					{#each bends[kind] as bend, n (n)}<Asked
							ask={`Bend ${n + 1} of the ${kind === 'route' ? 'pipes' : 'cable'}, height`}
							label={`Height of bend ${n + 1} of the ${kind === 'route' ? 'pipes' : 'cable'}`}
							value={bend.height}
							placeholder="on its way"
							quantity="length"
							unit="m"
							commit={(v) =>
								line(
									kind,
									bends[kind].map((one, k) => (k === n ? { ...one, height: v } : one)),
									'Height of a bend'
								)}
						/>{/each}
				</div>
			{/if}
		{/each}
		<div class="mt-2 grid max-w-100 grid-cols-2 gap-x-3">
			<Asked
				ask={`A metre of pipes laid, ${currency}`}
				label="A metre of pipes"
				value={practice.primary_minor_per_m ?? rules.practice.primary_minor_per_m}
				times={0.01}
				digits={0}
				commit={put('/practice/primary_minor_per_m', 'What a metre of pipes costs')}
			/>
			<Asked
				ask={`A metre of cable laid, ${currency}`}
				label="A metre of cable"
				value={practice.cable_minor_per_m ?? rules.practice.cable_minor_per_m}
				times={0.01}
				digits={0}
				commit={put('/practice/cable_minor_per_m', 'What a metre of cable costs')}
			/>
		</div>
		{#if seen.meltwater}<p class="mt-2 rounded-sm px-3 py-1 hatch-doubt">Meltwater: {seen.meltwater}</p>{/if}
		{#if seen.lines}<p class="mt-2">{lines}</p>{/if}
		{#if seen.inside}<p class="mt-2 rounded-sm px-3 py-1 hatch-short">It lies inside the house.</p>{/if}
		{#if seen.alley}<p class="mt-2 rounded-sm px-3 py-1 hatch-short">
				A blind alley: the cold air it blows out is drawn in again. Move it out, or turn it.
			</p>{/if}
		{#if seen.access}<div class="mt-2 flex flex-wrap items-center gap-2">
				<span class="note">On a wall or roof: {seen.access}.</span>
				<div class="min-w-72 flex-1">
					<TextField
						label="How it is reached for service"
						value={doc.note}
						placeholder="how it is reached: ladder, rail, hatch, who holds the key"
						commit={put(`/site/places/${seen.id}/note`, 'How it is reached')}
					/>
				</div>
			</div>{/if}
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

<RulesFile />
<HeardTable {places} {seen} />
<SiteThings />
<SupplyView electrics={places.electrics} />

<style>
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
</style>
