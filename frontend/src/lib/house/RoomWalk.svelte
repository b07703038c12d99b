<script lang="ts">
	import rules from '$lib/api/rules.json';
	import { tick, untrack } from 'svelte';
	import { emitterTypes } from '$lib/parts/choices';
	import { corners, bounds, type RunDoc, type XY } from '$lib/charts/plan';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { evidence } from './evidence';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import { heard } from './sound';
	import { amount, fig, lengthText, understand, unitName } from '$lib/parts/units';
	import {
		closed,
		closing,
		isBack,
		isMirrored,
		mirrored,
		slopeAngle,
		stageOf,
		useOf,
		wantedNow,
		type Hung,
		type Opening,
		type Sloping,
		type Stage
	} from './walking';
	import { likelier, unusual, USUAL, type Range } from '$lib/parts/usual';
	import { oneLine } from '$lib/emitters/oneLine';
	import LaserPlayer from './LaserPlayer.svelte';
	let {
		room: start,
		storey,
		onroom,
		onclose
	}: { room: string | null; storey: string; onroom: (id: string) => void; onclose: () => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const rooms = $derived(session.job?.survey?.rooms ?? {});

	const FARTHEST_M = 40;
	const STEPS: [Stage, string][] = [
		['name', 'name'],
		['height', 'height'],
		['walls', 'walls'],
		['openings', 'openings'],
		['emitters', 'radiators']
	];
	type Taken = { what: string; shown: string; value: number; path: string | null };
	let id = $state<string | null>(untrack(() => start));
	const doc = $derived(id ? rooms[id] : undefined);
	let stage = $state<Stage>(untrack(() => stageOf(start ? frame.session.job?.survey?.rooms?.[start] : undefined)));
	let opening = $state<Opening>({ wall: 0, kind: 'window', width: null });
	let hung = $state<Hung>({ type: 't22', length: null, height: null });
	let cutLast = $state<{ kind: Opening['kind']; width: number; height: number } | null>(null);
	let hangs = $state<string | null>(null);
	let diagonal = $state(false);
	let sloping = $state<Sloping>(null);
	let typed = $state('');
	let taken = $state<Taken[]>([]);
	let input: HTMLInputElement | undefined = $state();
	let inputs = $state(0);
	/** Said aloud and shown where a reading was not taken, or is asked about. */
	let objection = $state('');
	let asked = $state<{ typed: string; meant: number | null } | null>(null);
	const usual = $derived<Range | undefined>(
		stage === 'height'
			? USUAL.room_height_m
			: stage === 'walls'
				? USUAL.wall_m
				: stage === 'openings' && !sloping
					? opening.width === null
						? USUAL.opening_width_m
						: [USUAL.opening_height_m[0], doc?.height_m ?? USUAL.opening_height_m[1]]
					: stage === 'emitters' && hung.length === null
						? USUAL.panel_length_m
						: stage === 'emitters' && hung.height === null
							? USUAL.panel_height_m
							: undefined
	);

	const walk = $derived((doc?.walk ?? []) as RunDoc[]);
	const types = $derived(session.job ? emitterTypes(session.job, shelf.all) : []);
	const typeLabel = $derived((types.find((t) => t.value === hung.type)?.label ?? hung.type).split(',')[0] ?? '');
	const wanted = $derived(wantedNow(stage, walk, opening, hung, diagonal, typeLabel, sloping));
	/** A radiator in one line, understood as it is typed. */
	const whole = $derived.by(() => {
		if (stage !== 'emitters' || hung.length !== null) return null;
		const meant = oneLine(typed, types, hung.type);
		return 'type' in meant ? meant : null;
	});
	const understood = $derived(
		typed.trim() && wanted.number && !whole ? understand(typed.replace(/\s*[rl]\s*\d*$/i, ''), 'length') : null
	);
	const far = $derived(understood !== null && 'value' in understood && understood.value > FARTHEST_M);
	const echo = $derived(
		whole
			? `= ${types.find((t) => t.value === whole.type)?.label ?? whole.type}, ${lengthText(whole.length_m)} × ${lengthText(whole.height_m)}`
			: understood
				? 'echo' in understood
					? far
						? `${understood.echo}: farther than any room`
						: understood.echo
					: understood.error
				: ''
	);
	const points = $derived(corners(walk));
	const close = $derived(closing(walk));
	const wrongHanded = $derived(isMirrored(walk));
	const box = $derived(bounds([points]));
	const size = $derived(Math.max(box[2] - box[0], box[3] - box[1], 1));
	const draw = (p: XY): string =>
		`${(((p[0] - box[0]) / size) * 150 + 14).toFixed(1)},${(((box[3] - p[1]) / size) * 150 + 14).toFixed(1)}`;
	const at = $derived(`/survey/rooms/${id}`);
	const proof = () => evidence('measured', session.person, 'laser');

	$effect(() => {
		void stage;
		void tick().then(() => input?.focus({ preventScroll: true }));
	});

	function note(what: string, value: number, path: string | null): void {
		taken = [...taken, { what, shown: lengthText(value), value, path }].slice(-40);
	}

	function named(name: string): void {
		const key = newId();
		const use = useOf(name);
		void session.edit(`${name} added`, (d) => {
			const part = ordered(d.job.survey?.parts)[0]?.[0];
			d.set(`/survey/rooms/${key}`, {
				label: name,
				pos: nextPos(d.job.survey?.rooms),
				walk: [],
				faces: {},
				air: {},
				known: {},
				...(storey ? { storey } : {}),
				...(part ? { part } : {}),
				...(use ? { use } : {})
			});
		});
		id = key;
		taken = [];
		onroom(key);
		stage = 'height';
	}

	function setWalk(next: RunDoc[], what: string): void {
		void session.edit(`${doc?.label ?? 'Room'}, ${what}`, (d) => {
			d.set(`${at}/walk`, next);
			d.set(`${at}/known/walk`, proof());
		});
	}

	function takeNumber(value: number, turn: number | null): void {
		const what = wanted.what;
		if (stage === 'height') {
			void session.edit(`${doc?.label}, height`, (d) => {
				d.set(`${at}/height_m`, value);
				d.set(`${at}/known/height_m`, proof());
			});
			note(what, value, `${at}/height_m`);
			stage = walk.length >= 3 ? 'openings' : 'walls';
		} else if (stage === 'walls' && diagonal) {
			setWalk(
				walk.map((run, n) => (n === walk.length - 1 ? { ...run, diagonal_m: value } : run)),
				'diagonal'
			);
			note(what, value, null);
			diagonal = false;
		} else if (stage === 'walls') {
			const next = [...walk, { id: `w${walk.length + 1}`, length_m: value, turn_deg: turn ?? 90 }];
			setWalk(next, `wall ${next.length}`);
			note(what, value, `wall:${next.length - 1}`);
			if (isBack(next)) finish(next);
		} else if (stage === 'openings') takeOpening(value, what);
		else if (stage === 'emitters') takeEmitter(value, what);
	}

	function takeSlope(value: number): void {
		if (sloping?.knee === null) {
			sloping = { knee: value };
			return;
		}
		const knee = sloping?.knee ?? 0;
		const run = walk[opening.wall]?.id ?? 'w1';
		void session.edit(`${doc?.label}, a sloping ceiling`, (d) => {
			const high = d.job.survey?.rooms?.[id ?? '']?.height_m ?? rules.room_height_m;
			d.set(`${at}/slopes/${newId()}`, {
				run,
				knee_m: knee,
				angle_deg: slopeAngle(high, knee, value),
				known: { knee_m: proof(), angle_deg: proof() }
			});
		});
		sloping = null;
	}

	function takeOpening(value: number, what: string): void {
		note(what, value, null);
		if (sloping) return takeSlope(value);
		if (opening.width === null) {
			opening.width = value;
			return;
		}
		cut(opening.kind, opening.width, value);
		opening.width = null;
	}

	/** The opening taken last, once more along the wall that is asked for. */
	function again(): void {
		if (!cutLast) return heard(false);
		cut(cutLast.kind, cutLast.width, cutLast.height);
		note(`${cutLast.kind} in wall ${opening.wall + 1}, as before`, cutLast.width, null);
		heard(true);
	}

	function cut(kind: Opening['kind'], width: number, value: number): void {
		cutLast = { kind, width, height: value };
		const run = walk[opening.wall]?.id ?? 'w1';
		void session.edit(`${doc?.label}, a ${kind}`, (d) => {
			const there = d.job.survey?.rooms?.[id ?? '']?.faces?.[run]?.openings;
			d.set(`${at}/faces/${run}/openings/${newId()}`, {
				kind,
				pos: nextPos(there),
				label: '',
				width_m: width,
				height_m: value,
				known: { size: proof() }
			});
		});
	}

	function takeEmitter(value: number, what: string): void {
		note(what, value, null);
		if (hung.length === null) hung.length = value;
		else if (hung.height === null) {
			const key = newId();
			const { type, length } = hung;
			void session.edit(`${doc?.label}, a radiator`, (d) => {
				d.freeze('emitter_types', type);
				d.set(`/survey/emitters/${key}`, {
					room: id,
					label: '',
					pos: nextPos(d.job.survey?.emitters),
					spec: { kind: 'panel', type, length_m: length, height_m: value, valve: 'lockshields' },
					known: { spec: proof() }
				});
			});
			hangs = key;
			hung.height = value;
		} else {
			const key = hangs;
			void session.edit(`${doc?.label}, free wall`, (d) =>
				d.set(`/survey/emitters/${key}/free_wall`, { length_m: value })
			);
			hung = { ...hung, length: null, height: null };
		}
	}

	function finish(next = walk): void {
		const whole = closed(next);
		if (whole !== next) setWalk(whole, 'a rectangle');
		opening = { wall: 0, kind: 'window', width: null };
		stage = 'openings';
	}

	/** Enter alone: this is done, what comes next? */
	function onward(): void {
		if (stage === 'walls' && walk.length >= 2) finish();
		else if (stage === 'openings' && opening.width === null && !sloping) stage = 'emitters';
		else if (stage === 'emitters' && hung.length === null) stage = 'done';
		else if (stage === 'emitters' && hung.height !== null) hung = { ...hung, length: null, height: null };
		else if (stage === 'done') nextRoom();
		else return heard(false);
		heard(true);
	}

	function nextRoom(): void {
		id = null;
		taken = [];
		opening = { wall: 0, kind: 'window', width: null };
		hung = { ...hung, length: null, height: null };
		stage = 'name';
	}

	function refuse(text: string, why: string): void {
		typed = text;
		objection = why;
		heard(false);
	}

	/** Whether a name stands where a number was wanted: two letters that are no unit and no turn. */
	function isName(text: string): boolean {
		return /\p{L}{2}/u.test(text) && !/^[\d.,\s]/.test(text);
	}

	/** Nothing half entered: the room may be left for the next one. */
	const restful = $derived(
		stage === 'done' ||
			(stage === 'openings' && opening.width === null && !sloping) ||
			(stage === 'emitters' && (hung.length === null || hung.height !== null))
	);

	function enter(really = false): void {
		inputs += 1;
		const text = typed.trim();
		const question = asked?.typed === text ? asked : null;
		typed = '';
		objection = '';
		asked = null;
		if (text === '') return onward();
		if (stage === 'name') {
			if (/^[\d.,\s]+$/.test(text))
				return refuse(text, 'A name is wanted here. The number was not taken: name the room first.');
			named(text);
			return heard(true);
		}
		if (stage === 'emitters' && hung.length === null) {
			const whole = oneLine(text, types, hung.type);
			if ('type' in whole) {
				hung.type = whole.type;
				takeEmitter(whole.length_m, `radiator ${typeLabel}, length`);
				takeEmitter(whole.height_m, `radiator ${typeLabel}, height`);
				return heard(true);
			}
		}
		if (restful && isName(text)) {
			nextRoom();
			named(text);
			return heard(true);
		}
		if (stage === 'done')
			return refuse(
				text,
				'This room is done. The number was not taken: type the next room’s name, or go back with Backspace.'
			);
		const turned = /\s*([rl])\s*(\d+(?:[.,]\d+)?)?$/i.exec(text);
		const plain = stage === 'walls' && turned ? text.slice(0, turned.index) : text;
		const meant = understand(plain, 'length');
		if (!wanted.number || 'error' in meant)
			return refuse(text, `Not taken: ${'error' in meant ? meant.error : 'no number is wanted here'}.`);
		if (!(meant.value > 0)) return refuse(text, 'Not taken: a length must be more than 0 m.');
		if (meant.value > FARTHEST_M)
			return refuse(text, `Not taken: ${amount(meant.value, 'm', 2)} is farther than any room.`);
		if (!question && !really && unusual(meant.value, usual)) {
			asked = { typed: text, meant: likelier(meant.value, usual, true) };
			typed = text;
			return heard(false);
		}
		if (question?.meant != null && !really) meant.value = question.meant;
		const angle =
			turned && stage === 'walls'
				? Number((turned[2] ?? '90').replace(',', '.')) * (turned[1]?.toLowerCase() === 'l' ? -1 : 1)
				: null;
		takeNumber(meant.value, angle);
		heard(true);
	}

	/** Every turn the wrong way: the walk as in a mirror, its openings where they were along their walls. */
	function mirror(): void {
		if (!walk.length) return heard(false);
		setWalk(mirrored(walk), 'mirrored');
		heard(true);
	}

	function turnLast(degrees: number): void {
		if (!walk.length) return heard(false);
		setWalk(
			walk.map((run, n) => (n === walk.length - 1 ? { ...run, turn_deg: degrees } : run)),
			'turn'
		);
		heard(true);
	}

	/** One key mends two numbers that came in the wrong order. */
	function swap(): void {
		const [one, two] = taken.slice(-2);
		const known = (t: Taken | undefined): t is Taken & { path: string } => t?.path != null;
		if (!known(one) || !known(two)) return heard(false);
		const value = (path: string): number => (path === one.path ? two.value : one.value);
		void session.edit(`${doc?.label}, two numbers changed round`, (d) => {
			const room = d.job.survey?.rooms?.[id ?? ''];
			let runs = (room?.walk ?? []) as RunDoc[];
			for (const path of [one.path, two.path]) {
				if (path.startsWith('wall:'))
					runs = runs.map((run, n) => (n === Number(path.slice(5)) ? { ...run, length_m: value(path) } : run));
				else d.set(path, value(path));
			}
			d.set(`${at}/walk`, runs);
		});
		taken = [
			...taken.slice(0, -2),
			{ ...one, value: two.value, shown: two.shown },
			{ ...two, value: one.value, shown: one.shown }
		];
		heard(true);
	}

	function back(): void {
		if (sloping) sloping = sloping.knee === null ? null : { knee: null };
		else if (stage === 'openings' && opening.width !== null) opening.width = null;
		else if (stage === 'emitters' && hung.height === null && hung.length !== null) hung.length = null;
		else if (stage === 'done') stage = 'emitters';
		else if (stage === 'emitters') stage = 'openings';
		else if (stage === 'openings') stage = 'walls';
		else if (stage === 'walls' && diagonal) diagonal = false;
		else if (stage === 'walls' && walk.length) setWalk(walk.slice(0, -1), 'a wall taken back');
		else if (stage === 'walls') stage = 'height';
		else return heard(false);
		taken = taken.slice(0, -1);
	}

	function step(by: number): void {
		if (stage === 'openings') opening.wall = (opening.wall + by + walk.length) % Math.max(walk.length, 1);
		else if (stage === 'emitters' && hung.length === null) {
			const now = types.findIndex((t) => t.value === hung.type);
			hung.type = types[(now + by + types.length) % types.length]?.value ?? hung.type;
		}
	}

	const TURNS: Record<string, number> = { ArrowLeft: -90, ArrowRight: 90, ArrowUp: 0 };
	function turned(by: number): void {
		turnLast(by);
		inputs += 1;
	}
	function stepped(by: number): void {
		step(by);
		inputs += 1;
	}
	function pressed(event: KeyboardEvent): void {
		const empty = typed === '';
		const { key } = event;
		if (event.ctrlKey || event.metaKey || event.altKey) return;
		if (key === 'Enter') enter(event.shiftKey);
		else if (key === 'Backspace' && empty) back();
		else if (stage === 'walls' && empty && key in TURNS) turned(TURNS[key] ?? 0);
		else if (stage === 'walls' && empty && key === 'd') diagonal = walk.length >= 2 && !diagonal;
		else if (stage === 'openings' && empty && key === 's' && opening.width === null)
			sloping = sloping ? null : { knee: null };
		else if (stage === 'openings' && empty && key === '+' && opening.width === null && !sloping) again();
		else if (stage === 'openings' && empty && key === 'd') opening.kind = opening.kind === 'window' ? 'door' : 'window';
		else if (empty && key === 'm' && wrongHanded) mirror();
		else if (empty && key === 'x' && stage !== 'name' && stage !== 'done') swap();
		else if (empty && (key === 'ArrowDown' || key === 'ArrowUp')) stepped(key === 'ArrowDown' ? 1 : -1);
		else if (key === 'Escape' && empty) onclose();
		else return;
		event.preventDefault();
		event.stopPropagation();
	}

	/** The laser is a keyboard: what it types while nothing else has the focus goes into the wanted number. */
	function elsewhere(event: KeyboardEvent): void {
		const target = event.target as HTMLElement;
		if (['INPUT', 'SELECT', 'TEXTAREA', 'BUTTON', 'A'].includes(target.tagName) || event.ctrlKey || event.metaKey)
			return;
		if (!/^[\d.,]$/.test(event.key) && event.key !== 'Enter') return;
		input?.focus();
		if (event.key === 'Enter') pressed(event);
	}
</script>

<svelte:window onkeydown={elsewhere} />

<section class="grid gap-2.25" aria-label="Walk the room">
	<header class="flex items-center justify-between">
		<h2>{doc?.label ?? 'A new room'}</h2>
		<button class="btn btn-quiet" onclick={onclose}>Stop walking</button>
	</header>
	<ol class="steps w-full text-small" aria-label="Steps of the walk">
		{#each STEPS as [key, word], n (key)}
			<li
				class="step"
				class:step-primary={n <= STEPS.findIndex(([one]) => one === stage) || stage === 'done'}
				aria-current={key === stage ? 'step' : undefined}
			>
				{word}
			</li>
		{/each}
	</ol>
	<div
		class="grid grid-cols-[minmax(0,1fr)_150px] items-center gap-x-3 gap-y-0.5 rounded-md border-2 border-heat bg-sheet px-3.5 py-2.5"
	>
		<label class="grid" for="wanted">
			<span class="note">{stage === 'done' ? 'This room is' : 'Wanted now'}</span>
			<strong class="text-[19px] leading-[1.2]" data-wanted={stage}>{wanted.what}</strong>
		</label>
		<input
			id="wanted"
			bind:this={input}
			bind:value={typed}
			oninput={() => ((objection = ''), (asked = null))}
			onkeydown={pressed}
			autocomplete="off"
			inputmode={wanted.number ? 'decimal' : 'text'}
			class="figure num min-h-14 w-full border-b-2 border-b-hairline bg-transparent text-right text-[40px] font-bold text-heat-text focus:border-b-heat focus:[outline:none]"
			placeholder={wanted.number ? unitName('m') : ''}
			aria-describedby="understood"
		/>
		<p
			id="understood"
			class="echo col-span-full min-h-5 text-right font-semibold whitespace-pre-wrap [&.bad]:text-heat-text"
			class:bad={objection !== '' || asked !== null || far || (understood !== null && 'error' in understood)}
			role="status"
		>
			{objection
				? objection
				: asked
					? `${lengthText(Number(understood && 'value' in understood ? understood.value : 0))} is unusual. ${asked.meant === null ? 'Enter again takes it.' : `Enter takes ${lengthText(asked.meant)}, Shift Enter what you typed.`}`
					: echo
						? understood && 'value' in understood
							? `= ${echo}`
							: echo
						: taken.at(-1)
							? `taken: ${taken.at(-1)!.what} ${taken.at(-1)!.shown}`
							: ' '}
		</p>
	</div>
	<p class="note">{wanted.hint}</p>
	{#if stage === 'walls' || walk.length}
		<div class="grid grid-cols-[150px_1fr] items-center gap-3.5">
			<svg viewBox="0 0 178 178" role="img" aria-label={`Walk so far, ${walk.length} walls`}>
				{#if points.length > 1}<polyline points={points.map(draw).join(' ')} />{/if}
				{#if points.length > 2}<polyline class="gap" points={[points.at(-1)!, points[0]!].map(draw).join(' ')} />{/if}
				{#each points as p, n (n)}{@const [cx, cy] = draw(p).split(',')}<circle
						{cx}
						{cy}
						r={n === 0 ? 4 : 2.5}
						class:start={n === 0}
					/>{/each}
				{#if stage === 'openings' && points[opening.wall + 1]}<polyline
						class="here"
						points={[points[opening.wall]!, points[opening.wall + 1]!].map(draw).join(' ')}
					/>{/if}
			</svg>
			<div>
				{#if close}
					<p class="figure text-[23px] font-bold">
						{fig(close.gap * 1000, 'mm')}<span class="unit">{unitName('mm')}</span>
					</p>
					<p class="note">
						from the start, {num(close.share * 100, 1)} % of the way:
						<strong class:hatch-short={close.share > 0.01}>{close.share <= 0.01 ? 'good' : 'not closed'}</strong>
					</p>
				{:else}
					<p class="note">{walk.length} {walk.length === 1 ? 'wall' : 'walls'} so far.</p>
				{/if}
				{#if wrongHanded}
					<p class="mt-1 text-small" role="status">
						It runs anticlockwise. Walked so, or every turn the wrong way?
						<button class="btn btn-xs touch:btn-md" onclick={() => (mirror(), input?.focus())}>Mirror it (m)</button>
					</p>
				{/if}
				{#if stage === 'walls' && walk.length}
					<div class="mt-1.5 flex flex-wrap gap-1.25" role="group" aria-label="Turn at the last corner">
						{#each [[-90, '←', 'left'], [0, '↑', 'straight on'], [90, '→', 'right']] as [degrees, arrow, word] (degrees)}
							<button
								class="btn min-h-12 min-w-12"
								class:btn-primary={(walk.at(-1)?.turn_deg ?? 90) === degrees}
								class:btn-outline={!((walk.at(-1)?.turn_deg ?? 90) === degrees)}
								aria-label={`Turn ${word}`}
								onclick={() => (turnLast(degrees as number), input?.focus())}>{arrow}</button
							>
						{/each}
						<button
							class="btn min-h-12 min-w-12"
							class:btn-primary={diagonal}
							class:btn-outline={!diagonal}
							disabled={walk.length < 2}
							onclick={() => ((diagonal = !diagonal), input?.focus())}>diagonal</button
						>
					</div>
				{/if}
			</div>
		</div>
	{/if}
	{#if taken.length}
		<ol>
			{#each taken.slice(-6).reverse() as one, n (taken.length - n)}<li
					class="flex justify-between border-b border-b-hairline px-0.5 py-1 first:font-semibold"
				>
					<span>{one.what}</span><span class="num">{one.shown}</span>
				</li>{/each}
		</ol>
		<p class="note">Backspace: the last one again. x: the last two came the wrong way round. {inputs} inputs.</p>
	{/if}
	{#if session.sample}<LaserPlayer target={input} />{/if}
</section>

<style>
	svg {
		width: 150px;
		background: var(--sheet);
		border: 1px solid var(--hairline);
	}
	polyline {
		fill: none;
		stroke: var(--ink);
		stroke-width: 2.5;
	}
	polyline.gap {
		stroke: var(--doubt);
		stroke-dasharray: 4 3;
	}
	polyline.here {
		stroke: var(--heat);
		stroke-width: 5;
	}
	circle {
		fill: var(--ink);
	}
	circle.start {
		fill: var(--heat);
	}
</style>
