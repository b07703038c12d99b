<script lang="ts">
	import type { Known, Pipe, RoutesFound } from '$lib/api/client';
	import { along, bent, type Spot3 } from '$lib/charts/pipesPlan';
	import type { Draft } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { takeAway } from '$lib/job/pointers';
	import Choice from '$lib/parts/Choice.svelte';
	import type { Option } from '$lib/parts/choices';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	import { USUAL } from '$lib/parts/usual';
	import rules from '$lib/api/rules.json';
	import { newId, nextPos } from '$lib/job/draft';
	import { putWay, runOf, runPath, wayOf } from './runs';
	/** One run, beside the plan: what it is, what it serves, how it lies. */
	let { pipe, sizes, plan }: { pipe: Pipe; sizes: Option[]; plan: RoutesFound | undefined } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const scheme = $derived(session.scheme);
	const work = $derived(session.shown?.pipework);
	const inScheme = $derived(pipe.action !== 'keep');
	const run = $derived(runOf(session.job, scheme, pipe.id) ?? {});
	const way = $derived(wayOf(run as Parameters<typeof wayOf>[0]));
	const size = $derived(run.family && run.size ? `${run.family} ${run.size}` : null);
	const name = $derived(pipe.label || 'a run');
	const base = (d: Draft): string => runPath(d, scheme, pipe.id);

	function below(id: string): Set<string> {
		const found = new Set([id]);
		let grew = true;
		while (grew) {
			grew = false;
			for (const other of work?.pipes ?? [])
				if (other.parent && found.has(other.parent) && !found.has(other.id)) {
					found.add(other.id);
					grew = true;
				}
		}
		return found;
	}
	const parents = $derived.by(() => {
		const own = below(pipe.id);
		return (work?.pipes ?? [])
			.filter((p) => !own.has(p.id) && (p.emitter === null || p.id === pipe.parent))
			.map((p) => ({ value: p.id, label: p.label || p.id }));
	});
	const ends = $derived.by(() => {
		const served = new Set(work?.pipes.map((p) => p.emitter));
		return (session.shown?.rooms ?? []).flatMap((r) =>
			r.emitters
				.filter((e) => e.id === pipe.emitter || !served.has(e.id))
				.map((e) => ({ value: e.id, label: r.emitters.length > 1 ? `${r.label}: ${e.label}` : r.label }))
		);
	});
	const put = (field: string, what: string) => (value: unknown, proof?: Known) =>
		session.edit(`Pipe ${name}, ${what}`, (d) => {
			d.put(`${base(d)}/${field}`, value);
			if (proof) d.set(`${base(d)}/known/${field}`, proof);
		});
	function setSize(value: string | null): void {
		void session.edit(`Pipe ${name}, size`, (d: Draft) => {
			const at = base(d);
			if (!value) return [d.remove(`${at}/family`), d.remove(`${at}/size`)];
			const [family = '', bore = ''] = value.split(' ');
			d.freeze('pipe_families', family);
			d.set(`${at}/family`, family);
			d.set(`${at}/size`, bore);
			return null;
		});
	}
	/** In a scheme the found pipe stays in the survey; what replaces it lies in the scheme. */
	function swap(): void {
		void session.edit(`Pipe ${name}, new in the scheme`, (d) =>
			d.set(`/schemes/${scheme}/pipes/${pipe.id}`, {
				action: 'replace',
				run: structuredClone(d.job.survey?.pipes?.[pipe.id] ?? {})
			})
		);
	}
	function away(): void {
		void session.edit(`Pipe ${name} removed`, (d) => {
			if (base(d).startsWith('/schemes')) return d.remove(`/schemes/${scheme}/pipes/${pipe.id}`);
			takeAway(d, 'pipe', pipe.id);
		});
	}
	const spot = (m: number[] | undefined): Spot3 | null =>
		m?.length ? { x: m[0] ?? 0, y: m[1] ?? 0, z: m[2] ?? 0 } : null;
	/** Where its parent ends, else where the tree begins. */
	const from = $derived.by((): Spot3 | null => {
		const up = pipe.parent ? wayOf(runOf(session.job, scheme, pipe.parent)) : [];
		return up.at(-1) ?? spot(plan?.start_m);
	});
	const to = $derived(spot(plan?.spots.find((s) => s.emitter === pipe.emitter)?.at_m));
	function lay(): void {
		if (!from) return;
		const end = to ?? { ...from, x: from.x + 2 };
		void session.edit(`Pipe ${name}, laid on the plan`, (d) => putWay(d, scheme, pipe.id, bent(from, end)));
	}
	/** From its last point to the storey over or under it. */
	function rise(by: 1 | -1): void {
		const last = way.at(-1);
		const levels = (plan?.storeys ?? []).map((s) => s.level_m);
		if (!last) return;
		const at = levels.findIndex((z) => Math.abs(z - last.z) < 0.5);
		const next = levels[at + by];
		if (next === undefined) return;
		void session.edit(`Pipe ${name}, ${by > 0 ? 'up' : 'down'} a storey`, (d) =>
			putWay(d, scheme, pipe.id, [...way, { ...last, z: next }])
		);
	}
	function further(): void {
		const last = way.at(-1);
		if (!last) return;
		void session.edit(`Pipe ${name}, a piece further`, (d) =>
			putWay(d, scheme, pipe.id, [...way, { ...last, x: last.x + 1 }])
		);
	}
	const REACHES = ['easy', 'lift a board', 'open a wall', 'not at all'].map((value) => ({ value, label: value }));
	const LIES = [
		{ value: 'inside', label: 'inside the house' },
		{ value: 'outdoors', label: 'outdoors' },
		{ value: 'buried', label: 'in the ground' }
	];
	const hung = $derived(Object.entries(run.by_kv ?? {}).sort(([, a], [, b]) => (a.pos ?? 0) - (b.pos ?? 0)));
	function hang(label: string | null): void {
		const usual = rules.kv_parts.find((one) => one.label === label);
		if (!usual) return;
		void session.edit(`Pipe ${name}: ${usual.label}`, (d) => {
			const held = runOf(d.job, scheme, pipe.id)?.by_kv;
			d.set(`${base(d)}/by_kv/${newId()}`, { ...usual, pos: nextPos(held) });
		});
	}
	const lost = $derived(session.shown?.outdoor_pipes.rows.find((r) => r.pipe === pipe.id));
</script>

<section class="grid content-start gap-2" aria-label={`Run ${name}`}>
	<TextField
		label={`Name of ${name}`}
		value={pipe.label}
		commit={(v) => session.edit('Pipe named', (d) => d.set(`${base(d)}/label`, v))}
	/>
	{#if run.proposed}<p class="rounded-sm px-2 py-1 hatch-doubt">
			Laid by rule: nobody has seen it.
			<button class="btn btn-quiet" onclick={() => void put('proposed', 'confirmed')(null)}>It lies so</button>
		</p>{/if}
	<div class="grid grid-cols-2 gap-2">
		<label class="text-small text-muted"
			>From<Choice
				label={`Where ${name} comes from`}
				value={pipe.parent}
				empty="machine"
				options={parents}
				commit={(v) => void put('parent', 'from')(v)}
			/></label
		>
		<label class="text-small text-muted"
			>Serves<Choice
				label={`What ${name} serves`}
				value={pipe.emitter}
				empty="runs on"
				options={ends}
				commit={(v) => void put('emitter', 'serves')(v)}
			/></label
		>
		<label class="col-span-2 text-small text-muted"
			>Pipe<Choice label={`Size of ${name}`} value={size} empty="not known" options={sizes} commit={setSize} /></label
		>
		<label class="text-small text-muted"
			>One way, {unitName('m')}{run.length_m == null && way.length > 1 ? ' (as drawn)' : ''}<NumberField
				label={`Length of ${name}`}
				between={USUAL.pipe_m}
				value={run.length_m}
				placeholder={way.length > 1 ? fig(along(way), 'm', 1) : undefined}
				quantity="length"
				digits={1}
				width="100%"
				usual="inferred"
				known={run.known?.length_m ?? null}
				by={session.person}
				commit={put('length_m', 'length')}
			/></label
		>
		<label class="text-small text-muted"
			>Elbows<NumberField
				label={`Elbows of ${name}`}
				value={run.fittings?.elbow ?? 0}
				quantity="whole"
				width="100%"
				commit={(v) => put('fittings/elbow', 'elbows')(v ?? 0)}
			/></label
		>
		<label class="text-small text-muted"
			>Reached<Choice
				label={`How ${name} is reached`}
				value={run.reach ?? null}
				empty="nobody said"
				options={REACHES}
				commit={(v) => void put('reach', 'how it is reached')(v)}
			/></label
		>
		<label class="text-small text-muted"
			>Lies<Choice
				label={`Where ${name} lies`}
				value={run.lies ?? null}
				empty="inside the house"
				options={LIES}
				commit={(v) => void put('lies', 'where it lies')(v === 'inside' ? null : v)}
			/></label
		>
		{#if run.lies === 'outdoors' || run.lies === 'buried'}<label class="text-small text-muted"
				>Insulation, {unitName('mm')}<NumberField
					label={`Insulation of ${name}`}
					value={run.insulation_m}
					times={1000}
					placeholder={lost ? fig(1000 * lost.insulation_m, 'mm') : undefined}
					digits={0}
					width="100%"
					commit={put('insulation_m', 'insulation')}
				/></label
			>{/if}
	</div>
	{#each hung as [id, one] (id)}<div class="grid grid-cols-[1fr_5.5em_auto] items-center gap-1.5">
			<span class="text-small">{one.label}</span><NumberField
				label={`kv of ${one.label} in ${name}`}
				value={one.kv_m3h}
				digits={1}
				unit="kv"
				width="100%"
				commit={(v) => put(`by_kv/${id}/kv_m3h`, one.label ?? 'kv')(v ?? one.kv_m3h)}
			/><button
				class="btn btn-quiet"
				aria-label={`Take ${one.label} out of ${name}`}
				onclick={() =>
					void session.edit(`Pipe ${name}, without ${one.label}`, (d) => d.remove(`${base(d)}/by_kv/${id}`))}
				>out</button
			>
		</div>{/each}
	<label class="text-small text-muted"
		>Hangs in it, by kv<Choice
			label={`What hangs in ${name}`}
			value={null}
			empty="add …"
			options={rules.kv_parts.map((one) => ({ value: one.label, label: `${one.label} (kv ${one.kv_m3h})` }))}
			commit={hang}
		/></label
	>
	{#if run.length_m != null && way.length > 1 && Math.abs(along(way) - run.length_m) > 0.15 * run.length_m}<p
			class="note"
		>
			On the plan it is {amount(along(way), 'm', 1)}: the length typed counts. Take it away, and the plan's does.
		</p>{/if}
	{#if lost?.loss_w != null}<p class="note">
			Loses <strong>{amount(lost.loss_w, 'W')}</strong> on its way on the design day: the machine makes it.
		</p>{/if}
	<p class="note">
		{amount(pipe.flow_lph, 'L/h')} · {amount(pipe.velocity_m_s, 'm/s', 2)}{#if pipe.fast}
			<span class="badge h-auto min-h-5 border-0 px-1.75 badge-sm hatch-short">fast</span>{/if} · {amount(
			pipe.pa_per_m,
			'Pa/m'
		)} ·
		<button
			class="underline decoration-dotted underline-offset-4"
			onclick={() => void frame.showWorking(`pipe:${pipe.id}`)}
			aria-label={`Loss of ${name}: show the working`}>{amount(pipe.total_kpa, 'kPa', 1)}</button
		>
	</p>
	<div class="flex flex-wrap gap-x-1">
		{#if plan && !plan.lacks}
			{#if way.length < 2}<button class="btn btn-quiet" onclick={lay}>Lay it on the plan</button>
			{:else}
				<button class="btn btn-quiet" onclick={further}>A piece further</button>
				<button class="btn btn-quiet" onclick={() => rise(1)}>Up a storey</button>
				<button class="btn btn-quiet" onclick={() => rise(-1)}>Down a storey</button>
				<button
					class="btn btn-quiet"
					onclick={() => void session.edit(`Pipe ${name}, off the plan`, (d) => putWay(d, scheme, pipe.id, []))}
					>Off the plan</button
				>
			{/if}
		{/if}
		{#if scheme && !inScheme}<button class="btn btn-quiet" onclick={swap} aria-label={`Renew ${name} in the scheme`}
				>Renew it</button
			>{/if}
		<button class="btn btn-quiet" onclick={away} aria-label={`Remove ${name}`}
			>{pipe.action === 'replace' ? 'As found' : 'Remove it'}</button
		>
	</div>
</section>
