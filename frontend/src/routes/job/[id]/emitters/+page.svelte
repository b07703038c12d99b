<script lang="ts">
	import { amount, fig, told, unitName } from '$lib/parts/units';
	import { takeAway } from '$lib/job/pointers';
	import { page } from '$app/state';
	import { goto } from '$app/navigation';
	import type { Known, Product, RoomOption } from '$lib/api/client';
	import Wall from '$lib/charts/Wall.svelte';
	import type { Thing } from '$lib/charts/wall';
	import { emitterTypes, valves } from '$lib/parts/choices';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { emitterPath, hung, KINDS, setKind, takeProduct, wallOptions } from '$lib/emitters/emitters';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import FanSpeeds from '$lib/emitters/FanSpeeds.svelte';
	import FloorEditor from '$lib/emitters/FloorEditor.svelte';
	import Head from '$lib/parts/Head.svelte';
	import Manifolds from '$lib/emitters/Manifolds.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import { evidence, proofOf, proveSide } from '$lib/house/evidence';
	import { oneLine } from '$lib/emitters/oneLine';
	import PanelMark from '$lib/emitters/PanelMark.svelte';
	import ProductPick from '$lib/emitters/ProductPick.svelte';
	import RoomWays from '$lib/ways/RoomWays.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const design = $derived(session.shown);
	const scheme = $derived(session.scheme);
	const every = $derived(hung(job, scheme));
	const rooms = $derived(ordered(job.survey?.rooms));
	const id = $derived(
		page.url.searchParams.get('emitter') ??
			rooms.flatMap(([key]) => every.filter((e) => e.room === key))[0]?.id ??
			every[0]?.id ??
			null
	);
	const one = $derived(every.find((e) => e.id === id) ?? null);
	const doc = $derived(one ? job.survey?.emitters?.[one.id] : undefined);
	const room = $derived(one ? job.survey?.rooms?.[one.room] : undefined);
	const roomResult = $derived(design?.rooms.find((r) => r.id === one?.room));
	const result = $derived(roomResult?.emitters.find((e) => e.id === id));
	const name = $derived(one?.label || result?.label || 'Emitter');
	const spec = $derived(one?.spec ?? {});
	const kind = $derived(spec.kind ?? 'panel');
	const onWall = $derived(kind === 'panel' || kind === 'fan' || kind === 'stated');
	const factors = $derived(shelf.all?.tables?.standard?.emitter_factors ?? {});
	const types = $derived([...emitterTypes(job, shelf.all), ...KINDS]);
	const proof = $derived(one?.fate === 'keep' ? (doc?.known?.spec ?? null) : undefined);
	const things = $derived(
		every
			.filter(
				(e) =>
					one &&
					e.room === one.room &&
					e.fate !== 'remove' &&
					e.spec.length_m &&
					e.spec.height_m &&
					(e.id === id || (job.survey?.emitters?.[e.id]?.face ?? null) === (doc?.face ?? '?'))
			)
			.map((e): Thing => ({
				id: e.id,
				label: e.label,
				length_m: e.spec.length_m!,
				height_m: e.spec.height_m!,
				offset_m: job.survey?.emitters?.[e.id]?.offset_m ?? null
			}))
	);
	let looked = $state.raw<RoomOption | null>(null);
	/** A panel that may hang here, by the size at the end of its key in metres, drawn on the wall. */
	const ghost = $derived.by((): Thing | null => {
		const size = looked && one && looked.slot === `emitter:${one.id}` ? /([\d.]+)x([\d.]+)$/.exec(looked.key) : null;
		if (!looked || !size) return null;
		const [length_m, height_m] = [Number(size[1]), Number(size[2])];
		return { id: 'ghost', label: '', length_m, height_m, offset_m: null };
	});

	const show = (to: string): void =>
		void goto(`/job/${session.id}/emitters?emitter=${to}`, { keepFocus: true, noScroll: true });
	function put(fields: Record<string, unknown>, what: string, known?: Known, under = 'spec'): Promise<boolean> {
		const at = one!.id;
		return session.edit(`${roomResult?.label ?? ''}, ${name}: ${what}`, (d) => {
			const base = emitterPath(d.job, scheme, at);
			for (const [field, value] of Object.entries(fields)) d.put(`${base}/${under}/${field}`, value);
			if (under === 'spec' && kind === 'panel' && ('length_m' in fields || 'height_m' in fields))
				for (const listed of ['product', 'output_w']) d.remove(`${base}/spec/${listed}`);
			if (!known || !base.startsWith('/survey/')) return;
			const side = 'length_m' in fields ? 'length_m' : 'height_m' in fields ? 'height_m' : null;
			if (!side || Object.keys(fields).length > 1) return d.set(`${base}/known/spec`, known);
			const other = side === 'length_m' ? 'height_m' : 'length_m';
			const there = d.job.survey?.emitters?.[at];
			proveSide(
				d,
				`${base}/known`,
				there?.known,
				{ side, other, together: 'spec', stands: there?.spec?.[other] != null },
				known
			);
		});
	}
	const putOn =
		(field: string, what: string) =>
		(value: unknown): Promise<boolean> =>
			session.edit(`${name}: ${what}`, (d) => d.put(`/survey/emitters/${id}/${field}`, value));
	function obstruct(key: string): void {
		const now = spec.obstructions ?? [];
		void put(
			{ obstructions: now.includes(key) ? now.filter((k) => k !== key) : [...now, key] },
			factors[key]?.label ?? key
		);
	}
	/** What is typed in a room's line, and why it was not taken. */
	let lines = $state<Record<string, string>>({});
	let objections = $state<Record<string, string>>({});
	let last = $state('t22');
	async function hangLine(roomId: string, label: string): Promise<void> {
		const text = lines[roomId]?.trim() ?? '';
		if (!text) return;
		const meant = oneLine(text, emitterTypes(job, shelf.all), last);
		objections[roomId] = 'error' in meant ? meant.error : '';
		if ('error' in meant) return;
		const made = newId();
		const taken = await session.edit(`${label}: ${text}`, (d) => {
			d.freeze('emitter_types', meant.type);
			d.set(`/survey/emitters/${made}`, {
				room: roomId,
				label: '',
				pos: nextPos(d.job.survey?.emitters),
				spec: {
					kind: 'panel',
					type: meant.type,
					length_m: meant.length_m,
					height_m: meant.height_m,
					valve: 'lockshields'
				},
				known: { spec: evidence('measured', session.person, 'tape') }
			});
		});
		if (!taken) return void (objections[roomId] = session.takeNotice());
		last = meant.type;
		lines[roomId] = '';
	}
	function add(value: string | null): void {
		if (!value) return;
		const made = newId();
		void session
			.edit(`${job.survey?.rooms?.[value]?.label ?? 'A room'}: an emitter found`, (d) => {
				d.freeze('emitter_types', 't22');
				d.set(`/survey/emitters/${made}`, {
					room: value,
					label: '',
					pos: nextPos(d.job.survey?.emitters),
					spec: { kind: 'panel', type: 't22', valve: 'lockshields' }
				});
			})
			.then(() => show(made));
	}
	const take = (product: Product): void =>
		void session.edit(`${name}: ${product.label}`, (d) =>
			takeProduct(d, `${emitterPath(d.job, scheme, one!.id)}/spec`, product, roomResult?.area_m2 ?? null)
		);
	const FATES: Record<string, string> = {
		keep: '',
		replace: 'replaced in this scheme',
		add: 'new in this scheme',
		remove: 'taken out in this scheme'
	};
</script>

<Head title="Emitters" screen="emitters">
	<a class="btn btn-outline" download href={`/api/jobs/${session.id}/emitters.csv`}>Schedule, CSV</a>
	<a class="btn btn-outline" download href={`/api/jobs/${session.id}/emitters.xlsx`}>Schedule, XLSX</a>
</Head>

<div class="[container-type:inline-size]">
	<div class="desk mb-3 grid grid-cols-[248px_minmax(0,1fr)] items-start gap-6">
		<nav class="byroom" aria-label="Emitters by room">
			<div class="mb-1.5 max-h-[calc(100vh_-_250px)] min-h-65 overflow-auto">
				{#each rooms as [roomId, r] (roomId)}
					{@const mine = every.filter((e) => e.room === roomId)}
					{@const res = design?.rooms.find((x) => x.id === roomId)}
					<p class="flex justify-between px-1.5 pt-2 pb-0.5 font-bold">
						{r.label || 'Room'}<span class="note font-normal"
							>{res?.needed_flow_c == null ? '' : `${amount(res.needed_flow_c, '°C', 1)}`}</span
						>
					</p>
					{#each mine as e (e.id)}
						{@const er = res?.emitters.find((x) => x.id === e.id)}
						<button
							class="pickrow [&.gone]:[text-decoration:line-through]"
							class:on={e.id === id}
							class:gone={e.fate === 'remove'}
							onclick={() => show(e.id)}
							><span
								>{e.label || er?.label || 'Emitter'}<span class="block note"
									>{er?.description ?? (e.fate === 'remove' ? 'taken out' : 'no figures yet')}</span
								></span
							><span class="u">{fig(er?.output_w, 'W')}<span class="unit">{unitName('W')}</span></span></button
						>
					{:else}<p class="px-1.5 py-0.5 note">no emitter</p>{/each}
					<input
						class="input h-8 w-full input-ghost px-1.5 text-small touch:h-12"
						class:input-error={objections[roomId]}
						aria-label={`A radiator of ${r.label || 'this room'} in one line`}
						placeholder={`+ ${last} 1200x600`}
						autocomplete="off"
						bind:value={lines[roomId]}
						oninput={() => (objections[roomId] = '')}
						onkeydown={(event) => event.key === 'Enter' && void hangLine(roomId, r.label || 'Room')}
						onblur={() => void hangLine(roomId, r.label || 'Room')}
					/>
					{#if objections[roomId]}<p class="px-1.5 text-small text-heat-text" role="alert">{objections[roomId]}</p>{/if}
				{/each}
			</div>
			<Choice
				label="Add an emitter in a room"
				value={null}
				empty="+ emitter found in …"
				options={rooms.map(([value, r]) => ({ value, label: r.label || value }))}
				commit={add}
			/>
		</nav>

		{#if one}
			<section class="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-2.5" aria-label={name}>
				<header>
					<h2>{roomResult?.label}: {name}</h2>
					<p>
						{#if kind === 'electric'}{amount(result?.output_w, 'W')} of its own, whatever the water is.
						{:else}Gives <b>{amount(result?.output_w, 'W')}</b> where its room is just served,
							<b>{amount(result?.at_line_w, 'W')}</b>
							at {amount(design?.waterline.chosen_flow_c, '°C', 1)} water; {amount(result?.rated_w, 'W')} at {amount(
								job.practice?.excess === 'arithmetic' ? 50 : 49.8,
								'K',
								1
							)}.{/if}
						<button class="fig" onclick={() => void frame.showWorking(`room-flow:${one!.room}`)}>working</button>
						{#if FATES[one.fate]}<span class="rounded-[3px] bg-ash px-1.75 py-px text-small">{FATES[one.fate]}</span
							>{/if}
					</p>
				</header>
				<div class="grid grid-cols-[repeat(auto-fill,minmax(112px,1fr))] gap-2">
					<label class="col-span-2"
						><span class="flex items-center justify-between gap-2">What it is <PanelMark type={spec.type} /></span
						><Choice
							label={`Kind of ${name}`}
							value={kind === 'panel' ? spec.type : kind}
							empty="not known"
							options={types}
							commit={(v) =>
								void session.edit(`${name}: kind`, (d) =>
									setKind(d, `${emitterPath(d.job, scheme, one!.id)}/spec`, v, roomResult?.area_m2 ?? null)
								)}
						/></label
					>
					<label
						>Name<TextField
							label={`Name of ${name}`}
							value={one.label}
							placeholder="where it hangs"
							commit={(v) =>
								session.edit(`${name}: named`, (d) => d.set(`${emitterPath(d.job, scheme, one!.id)}/label`, v))}
						/></label
					>
					{#if onWall}
						<label
							>Length<NumberField
								label={`Length of ${name}`}
								between={USUAL.panel_length_m}
								value={spec.length_m}
								quantity="length"
								digits={3}
								unit="m"
								width="100%"
								known={proof === undefined ? undefined : proofOf(doc?.known, 'length_m', 'spec')}
								by={session.person}
								commit={(v, k) => put({ length_m: v }, 'length', k)}
							/></label
						>
						<label
							>Height<NumberField
								label={`Height of ${name}`}
								between={USUAL.panel_height_m}
								value={spec.height_m}
								quantity="length"
								digits={3}
								unit="m"
								width="100%"
								known={proof === undefined ? undefined : proofOf(doc?.known, 'height_m', 'spec')}
								by={session.person}
								commit={(v, k) => put({ height_m: v }, 'height', k)}
							/></label
						>
					{/if}
					{#if kind === 'stated' || kind === 'electric'}<label
							>Output<NumberField
								label={`Output of ${name}`}
								value={spec.output_w}
								digits={0}
								unit="W"
								width="100%"
								commit={(v) => put({ output_w: v }, 'output')}
							/></label
						>{/if}
					{#if kind === 'stated' || kind === 'fan'}
						<label
							>At an excess of<NumberField
								label={`Excess of ${name}`}
								value={spec.excess_k}
								placeholder="50"
								digits={1}
								unit="K"
								width="100%"
								commit={(v) => put({ excess_k: v }, 'excess')}
							/></label
						>
					{/if}
					{#if onWall || kind === 'wall'}
						<label
							>Hangs on<Choice
								label={`Wall of ${name}`}
								value={doc?.face}
								empty="not said"
								options={wallOptions(room)}
								commit={(v) => void putOn('face', 'its wall')(v)}
							/></label
						>
					{/if}
					{#if onWall && doc}
						<label
							>From the wall's start<NumberField
								label={`Place of ${name}`}
								value={doc.offset_m}
								quantity="length"
								digits={3}
								unit="m"
								width="100%"
								commit={putOn('offset_m', 'its place')}
							/></label
						>
						<label
							>Free wall, long<NumberField
								label={`Free length at ${name}`}
								value={doc.free_wall?.length_m}
								quantity="length"
								digits={3}
								unit="m"
								width="100%"
								commit={putOn('free_wall/length_m', 'free wall')}
							/></label
						>
						<label
							>Free wall, high<NumberField
								label={`Free height at ${name}`}
								value={doc.free_wall?.height_m}
								quantity="length"
								digits={3}
								unit="m"
								width="100%"
								commit={putOn('free_wall/height_m', 'free wall')}
							/></label
						>
					{/if}
					{#if kind !== 'electric' && kind !== 'floor' && kind !== 'wall'}
						<label
							>Exponent<NumberField
								label={`Exponent of ${name}`}
								value={spec.exponent}
								placeholder={num(result?.exponent, 2)}
								digits={2}
								unit="n"
								width="100%"
								commit={(v) => put({ exponent: v }, 'exponent')}
							/></label
						>
					{/if}
					{#if kind !== 'electric'}
						<label
							>Spread<NumberField
								label={`Spread of ${name}`}
								value={spec.spread_k}
								placeholder={fig(design?.waterline.spread_k, 'K', 0)}
								digits={1}
								unit="K"
								width="100%"
								commit={(v) => put({ spread_k: v }, 'spread')}
							/></label
						>
						<label class="col-span-2"
							>Valve<Choice
								label={`Valve of ${name}`}
								value={spec.valve}
								empty="two lockshields"
								options={valves(job)}
								commit={(v) => void put({ valve: v }, 'valve')}
							/></label
						>
					{/if}
					{#if kind === 'panel' || kind === 'stated'}<label class="col-span-2"
							>Connection<Choice
								label={`Connection of ${name}`}
								value={spec.connection}
								empty="piped as usual"
								options={Object.entries(factors)
									.filter(([, f]) => f.kind === 'connection')
									.map(([value, f]) => ({ value, label: f.label }))}
								commit={(v) => void put({ connection: v }, 'connection')}
							/></label
						>{/if}
				</div>
				{#if kind === 'panel' || kind === 'stated'}
					<div class="flex flex-wrap items-center gap-1.5" role="group" aria-label="What stands before it">
						{#each Object.entries(factors).filter(([, f]) => f.kind === 'obstruction') as [key, f] (key)}
							<button
								class="min-h-8.5 rounded-[16px] border border-hairline px-2.75 py-0 text-small aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-paper pointer-coarse:min-h-12"
								aria-pressed={(spec.obstructions ?? []).includes(key)}
								onclick={() => obstruct(key)}
								title={f.mend}>{f.label} −{num((1 - (f.low + f.high) / 2) * 100)} %</button
							>
						{/each}
						{#if result && result.factor < 1}<span
								>leaves <b>{num(result.factor * 100)} %</b>: {told(result.factor_words)}</span
							>{/if}
					</div>
				{/if}
				{#if kind === 'fan'}<FanSpeeds {spec} label={name} put={(fields, what) => put(fields, what)} />{/if}
				{#if (kind === 'floor' || kind === 'wall') && spec.heated}
					<FloorEditor
						spec={spec.heated}
						wall={kind === 'wall'}
						{result}
						room_c={roomResult?.target_c ?? 20}
						spread={spec.spread_k ?? design?.waterline.spread_k ?? 5}
						label={name}
						put={(fields, what) => put(fields, what, undefined, 'spec/heated')}
					/>
				{/if}
				{#if onWall}
					<div class="wall sticky top-0 z-1 bg-paper">
						<Wall
							{room}
							face={doc?.face ?? null}
							{things}
							on={one.id}
							free={doc?.free_wall ?? null}
							{ghost}
							title={`The wall of ${name}, to scale`}
						/>
					</div>
					{#if scheme && one.fate !== 'remove'}
						<h3 class="font-bold">What fits in its place</h3>
						<RoomWays room={one.room} slot={`emitter:${one.id}`} onlook={(o) => (looked = o)} />
					{/if}
				{/if}
				<p>
					<button
						class="btn btn-quiet"
						onclick={() =>
							void session.edit(`${name} removed`, (d) =>
								one!.fate === 'replace' || one!.fate === 'remove'
									? d.remove(`/schemes/${scheme}/emitters/${one!.id}`)
									: takeAway(d, 'emitter', one!.id)
							)}
						>{one.fate === 'replace'
							? 'undo the swap: back to what was found'
							: one.fate === 'remove'
								? 'keep it after all'
								: one.fate === 'add'
									? 'take it out of the scheme'
									: 'it is not there: remove it from the survey'}</button
					>
				</p>
			</section>
		{:else}
			<section class="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-2.5">
				<p class="max-w-[46ch] px-0 py-15 text-lead">
					Choose a room below the list and say what hangs or lies there; its wall is drawn as you type.
				</p>
			</section>
		{/if}
	</div>
</div>

<ProductPick currency={job.currency ?? 'GBP'} target={one?.id ?? null} {take} />
<Manifolds />
<div class="mt-4"><Cautions cautions={design?.cautions.emitters ?? []} /></div>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
		display: grid;
		align-content: end;
	}

	/* stays in sight while what may hang there is looked through */

	@container (max-width: 620px) {
		.desk {
			grid-template-columns: 1fr;
		}
	}
</style>
