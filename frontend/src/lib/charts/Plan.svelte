<script lang="ts">
	import type { RoomDoc, RoomResult } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { amount, lengthText, system } from '$lib/parts/units';
	import { bounds, middle, onto, shared, sides, snap, type XY } from './plan';

	export type Drawn = {
		id: string;
		doc: RoomDoc;
		result: RoomResult | undefined;
		outline: XY[];
		radiators: { face: string | null; length: number }[];
	};
	let {
		rooms,
		loose,
		below,
		selected,
		north = null,
		onselect,
		onmove,
		onturn,
		onmirror
	}: {
		rooms: Drawn[];
		loose: Drawn[];
		below: XY[][];
		selected: string | null;
		north?: number | null;
		onselect: (id: string) => void;
		onmove: (id: string, to: { x_m: number; y_m: number }) => void;
		onturn: (id: string) => void;
		onmirror: (id: string) => void;
	} = $props();

	const WIDE = 690;
	const HIGH = 560;
	const PAD = 46;
	let drag = $state<{ id: string; from: XY; by: XY; fresh: boolean } | null>(null);
	let svg: SVGSVGElement | undefined = $state();

	/** Rooms without a place stand in a row to the right, to scale, until they are slid in. */
	const tray = $derived.by(() => {
		const [, , right, top] = bounds(rooms.map((r) => r.outline));
		let y = rooms.length ? top : 0;
		const x = rooms.length ? right + 1.4 : 0;
		return loose.map((room) => {
			const [x0, , , y1] = bounds([room.outline]);
			const [, y0] = bounds([room.outline]);
			const at: XY = [x - x0, y - y1];
			y -= y1 - y0 + 0.7;
			return { room, at, outline: room.outline.map(([px, py]): XY => [px + at[0], py + at[1]]) };
		});
	});
	const frameOf = $derived(bounds([...rooms.map((r) => r.outline), ...tray.map((t) => t.outline), ...below]));
	let held = $state.raw<[number, number, number, number] | null>(null);
	const view = $derived(held ?? frameOf);
	const per = $derived(
		Math.min((WIDE - 2 * PAD) / Math.max(view[2] - view[0], 1), (HIGH - 2 * PAD) / Math.max(view[3] - view[1], 1), 110)
	);
	const left = $derived((WIDE - (view[2] - view[0]) * per) / 2);
	const X = (x: number): number => left + (x - view[0]) * per;
	const Y = (y: number): number => PAD + (view[3] - y) * per;
	const points = (outline: XY[]): string =>
		outline
			.slice(0, -1)
			.map(([x, y]) => `${X(x).toFixed(1)},${Y(y).toFixed(1)}`)
			.join(' ');
	const hottest = $derived(
		Math.max(
			60,
			...rooms
				.flatMap((r) => r.result?.faces ?? [])
				.filter((f) => f.kind === 'wall')
				.flatMap((f) => f.pieces.map((p) => p.loss_w ?? 0))
		)
	);
	const warmest = $derived(Math.max(40, ...rooms.map((r) => r.result?.w_per_m2 ?? 0)));

	type Placed = { room: Drawn; outline: XY[]; loose: boolean };
	const standing = $derived<Placed[]>([
		...rooms.map((room) => ({ room, outline: room.outline, loose: false })),
		...tray.map((t) => ({ room: t.room, outline: t.outline, loose: true }))
	]);
	const drawn = $derived(
		standing.map((one) =>
			drag?.id === one.room.id
				? { ...one, outline: one.outline.map(([x, y]): XY => [x + drag!.by[0], y + drag!.by[1]]) }
				: one
		)
	);
	const dragged = $derived(drag ? drawn.find((d) => d.room.id === drag!.id) : undefined);
	const others = $derived(rooms.filter((r) => r.id !== drag?.id).map((r) => r.outline));
	const party = $derived(dragged ? shared(dragged.outline, others) : []);
	const lines = $derived(Array.from({ length: 60 }, (_, n) => n - 20));

	/** Against its neighbours; where it has none, flush on the rooms below. */
	function resting(outline: XY[], beside: XY[][], reach?: number): XY {
		const by = snap(outline, beside, reach);
		return by[0] === 0 && by[1] === 0 ? onto(outline, below, reach) : by;
	}
	function metres(event: PointerEvent): XY {
		const box = svg!.getBoundingClientRect();
		const scale = Math.max(WIDE / box.width, HIGH / box.height);
		return [(event.clientX * scale) / per, (-event.clientY * scale) / per];
	}
	function grab(event: PointerEvent, one: Placed): void {
		onselect(one.room.id);
		held = frameOf;
		drag = { id: one.room.id, from: metres(event), by: [0, 0], fresh: one.loose };
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
	}
	function slide(event: PointerEvent): void {
		if (!drag) return;
		const now = metres(event);
		const by: XY = [now[0] - drag.from[0], now[1] - drag.from[1]];
		const one = standing.find((s) => s.room.id === drag!.id);
		if (!one) return;
		const free = one.outline.map(([x, y]): XY => [x + by[0], y + by[1]]);
		const [sx, sy] = event.altKey ? [0, 0] : resting(free, others);
		drag = { ...drag, by: [by[0] + sx, by[1] + sy] };
	}
	function drop(): void {
		const one = drag ? standing.find((s) => s.room.id === drag!.id) : undefined;
		if (drag && one && Math.hypot(drag.by[0], drag.by[1]) > 0.02) place(one, drag.by);
		drag = null;
		held = null;
	}
	function place(one: Placed, by: XY): void {
		const old = one.room.doc.position;
		const start: XY = old ? [old.x_m, old.y_m] : (one.outline[0] ?? [0, 0]);
		onmove(one.room.id, {
			x_m: Math.round((start[0] + by[0]) * 1000) / 1000,
			y_m: Math.round((start[1] + by[1]) * 1000) / 1000
		});
	}
	function key(event: KeyboardEvent, one: Placed): void {
		const step = event.shiftKey ? 0.01 : 0.1;
		const by: Record<string, XY> = {
			ArrowLeft: [-step, 0],
			ArrowRight: [step, 0],
			ArrowUp: [0, step],
			ArrowDown: [0, -step]
		};
		if (event.key === 'Enter' || event.key === ' ') onselect(one.room.id);
		else if (by[event.key]) place(one, by[event.key]!);
		else if (event.key === 'j') {
			const near = rooms.filter((r) => r.id !== one.room.id).map((r) => r.outline);
			place(one, resting(one.outline, near, 3));
		} else if (event.key === 'q') onturn(one.room.id);
		else if (event.key === 'm') onmirror(one.room.id);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}

	/** The lines of a room's walls: thick where heat goes out, thin where another room stands. */
	function walls(one: Placed) {
		const edge = sides(one.outline);
		return edge.flatMap((side, n) => {
			const face = one.room.result?.faces.find((f) => f.kind === 'wall' && f.key === one.room.doc.walk?.[n]?.id);
			const pieces = face?.pieces.length
				? face.pieces
				: [{ from_m: 0, to_m: side.length, beyond: 'outside', how: 'assumed', loss_w: null, low_m: 0 }];
			return pieces.map((piece) => {
				const out = ['outside', 'space', 'neighbour', 'ground'].includes(piece.beyond);
				const wide = out ? (piece.loss_w === null ? 5 : 1.5 + 11 * Math.min(piece.loss_w / hottest, 1)) : 1.2;
				const along = (s: number): XY => [side.a[0] + side.u[0] * s, side.a[1] + side.u[1] * s];
				const shift = out ? wide / 2 : 0;
				const [p, q] = [along(piece.from_m ?? 0), along(piece.to_m ?? side.length)].map(([x, y]): XY => [
					X(x) + side.out[0] * shift,
					Y(y) - side.out[1] * shift
				]) as [XY, XY];
				return {
					key: `${n}-${piece.from_m}-${piece.low_m}-${piece.beyond}`,
					p,
					q,
					wide,
					out,
					how: piece.how,
					kind: piece.beyond,
					loss: piece.loss_w
				};
			});
		});
	}
	/** Windows and doors where they are, or in the middle of their wall while nobody has said. */
	function openings(one: Placed) {
		return sides(one.outline).flatMap((side, n) => {
			const face = one.room.doc.faces?.[one.room.doc.walk?.[n]?.id ?? ''];
			const all = Object.values(face?.openings ?? {});
			return all.map((o, k) => {
				const width = Math.min(o.width_m ?? 0.6, side.length);
				const from = o.offset_m ?? Math.max(0, (side.length * (k + 1)) / (all.length + 1) - width / 2);
				const along = (s: number): XY => [side.a[0] + side.u[0] * s, side.a[1] + side.u[1] * s];
				const [p, q] = [along(from), along(from + width)].map(([x, y]): XY => [
					X(x) + side.out[0] * 4,
					Y(y) - side.out[1] * 4
				]) as [XY, XY];
				return { p, q, door: o.kind === 'door' };
			});
		});
	}
	function radiators(one: Placed) {
		const edge = sides(one.outline);
		const free = one.room.radiators;
		return free.flatMap((r, k) => {
			const n = Math.max(
				(one.room.doc.walk ?? []).findIndex((run) => run.id === r.face),
				0
			);
			const side = edge[n];
			if (!side) return [];
			const from = Math.max(0, (side.length * (k + 1)) / (free.length + 1) - r.length / 2);
			const along = (s: number): XY => [
				side.a[0] + side.u[0] * s - side.out[0] * 0.13,
				side.a[1] + side.u[1] * s - side.out[1] * 0.13
			];
			const [p, q] = [along(from), along(Math.min(from + r.length, side.length))].map(([x, y]): XY => [X(x), Y(y)]) as [
				XY,
				XY
			];
			return [{ p, q }];
		});
	}
	const fill = (one: Placed): string =>
		`color-mix(in srgb, var(--heat) ${Math.round(5 + 34 * Math.min((one.room.result?.w_per_m2 ?? 0) / warmest, 1))}%, var(--sheet))`;
	const spoken = (one: Placed): string =>
		[
			one.room.doc.label,
			one.loose ? 'not in its place' : 'in its place',
			...(one.room.result?.room_emitter_load_w != null
				? [`${amount(one.room.result.room_emitter_load_w, 'W', -1)}`]
				: [])
		].join(', ') + '. Arrows slide it, j joins it to the nearest, q turns it, m mirrors its walk.';
	/** What the scale bar is long, m. */
	const bar = system.feet ? 0.9144 : 1;
</script>

<svg
	class="chart"
	bind:this={svg}
	viewBox={`0 0 ${WIDE} ${HIGH}`}
	role="group"
	aria-label="Plan of this storey"
	class:sliding={drag !== null}
>
	{#each per > 14 ? lines : [] as n (n)}
		<line x1={X(n)} x2={X(n)} y1="0" y2={HIGH} class="ruled" />
		<line x1="0" x2={WIDE} y1={Y(n)} y2={Y(n)} class="ruled" />
	{/each}
	{#each below as ghost, n (n)}<polygon points={points(ghost)} class="ghost" />{/each}
	{#if tray.length}<text
			x={X(bounds(tray.map((t) => t.outline))[0])}
			y={Y(bounds(tray.map((t) => t.outline))[3]) - 12}
			class="traylabel">slide these into place</text
		>{/if}
	{#each drawn as one (one.room.id)}
		{@const centre = middle(one.outline.slice(0, -1))}
		{@const [x0, , x1] = bounds([one.outline])}
		{@const room = (x1 - x0) * per}
		<g
			class="room"
			class:loose={one.loose}
			class:selected={selected === one.room.id}
			role="button"
			tabindex="0"
			aria-label={spoken(one)}
			data-plan-room={one.room.doc.label}
			onpointerdown={(e) => grab(e, one)}
			onpointermove={slide}
			onpointerup={drop}
			onpointercancel={drop}
			onkeydown={(e) => key(e, one)}
		>
			<polygon points={points(one.outline)} style:fill={one.loose ? 'var(--sheet)' : fill(one)} class="floor" />
			{#each walls(one) as w (w.key)}
				<line
					x1={w.p[0]}
					y1={w.p[1]}
					x2={w.q[0]}
					y2={w.q[1]}
					stroke-width={w.wide}
					class={w.out ? `out ${w.kind}` : 'in'}
					class:stated={w.how === 'stated'}
					class:assumed={w.how === 'assumed'}
					><title>{w.kind}, {w.how}{w.loss == null ? '' : `, ${amount(w.loss, 'W', -1)}`}</title></line
				>
			{/each}
			{#each openings(one) as o, n (n)}
				<line x1={o.p[0]} y1={o.p[1]} x2={o.q[0]} y2={o.q[1]} class="slit" />
				<line x1={o.p[0]} y1={o.p[1]} x2={o.q[0]} y2={o.q[1]} class={o.door ? 'door' : 'glass'} />
			{/each}
			{#each radiators(one) as r, n (n)}<line x1={r.p[0]} y1={r.p[1]} x2={r.q[0]} y2={r.q[1]} class="radiator" />{/each}
			<text
				x={X(centre[0])}
				y={Y(centre[1]) - (room > 70 ? 2 : -4)}
				class="roomname"
				style:font-size={room > 90 ? '14px' : '11.5px'}>{one.room.doc.label}</text
			>
			{#if room > 70 && one.room.result?.room_emitter_load_w != null}
				<text x={X(centre[0])} y={Y(centre[1]) + 15} class="sub num"
					>{amount(one.room.result.room_emitter_load_w, 'W', -1)}{room > 130
						? ` · ${amount(one.room.result.w_per_m2, 'W/m²')}`
						: ''}</text
				>
			{/if}
		</g>
		{#if selected === one.room.id && !drag}
			{#each sides(one.outline) as side, n (n)}
				{#if side.length * per > 50}
					<text
						x={X((side.a[0] + side.b[0]) / 2) + side.out[0] * 22}
						y={Y((side.a[1] + side.b[1]) / 2) - side.out[1] * 20 + 4}
						class="size num">{lengthText(side.length).replace(' m', '')}</text
					>
				{/if}
			{/each}
		{/if}
	{/each}
	{#each party as [p, q], n (n)}<line x1={X(p[0])} y1={Y(p[1])} x2={X(q[0])} y2={Y(q[1])} class="party" />{/each}
	{#if dragged}{@const [x0, y0] = dragged.outline[0] ?? [0, 0]}<text x={X(x0)} y={Y(y0) - 10} class="size num"
			>{num(x0, 2)}, {num(y0, 2)}</text
		>{/if}
	<g
		transform={`translate(${WIDE - 34} ${HIGH - 52}) rotate(${-(north ?? 0)})`}
		class="north"
		aria-label={north === null
			? 'North is not set: up is taken for north'
			: `Up points ${num(north)} degrees from north`}
		role="img"
	>
		<path d="M0 -20 L6 12 L0 6 L-6 12 Z" /><text y="28" text-anchor="middle">N</text>
	</g>
	<g transform={`translate(14 ${HIGH - 16})`} class="scale"
		><line x1="0" x2={per * bar} y1="0" y2="0" /><text x={per * bar + 7} y="4">{system.feet ? '3 ft' : '1 m'}</text></g
	>
</svg>

<style>
	svg {
		height: 100%;
		touch-action: none;
		user-select: none;
	}
	.ruled {
		stroke: var(--hairline);
		stroke-width: 0.6;
		opacity: 0.7;
	}
	.ghost {
		fill: none;
		stroke: var(--muted);
		stroke-width: 1;
		stroke-dasharray: 5 4;
		opacity: 0.6;
	}
	.room {
		cursor: grab;
	}
	.sliding .room {
		cursor: grabbing;
	}
	.room:focus-visible {
		outline: none;
	}
	.room:focus-visible .floor,
	.selected .floor {
		stroke: var(--ink);
		stroke-width: 2;
		stroke-dasharray: 2 3;
	}
	.floor {
		stroke: none;
	}
	.loose .floor {
		stroke: var(--doubt);
		stroke-dasharray: 6 4;
		stroke-width: 1.5;
	}
	.out {
		stroke: var(--heat);
	}
	.out.space {
		stroke: var(--fill-bridges);
	}
	.out.neighbour {
		stroke: var(--fill-trade);
	}
	.out.ground {
		stroke: var(--fill-ground);
	}
	.out.assumed {
		stroke: var(--doubt);
		stroke-dasharray: 6 3;
	}
	.out.stated {
		stroke-dasharray: 14 2;
	}
	.in {
		stroke: var(--muted);
	}
	.slit {
		stroke: var(--paper);
		stroke-width: 9;
	}
	.glass {
		stroke: var(--water);
		stroke-width: 3;
	}
	.door {
		stroke: var(--fill-ground);
		stroke-width: 3;
	}
	.radiator {
		stroke: var(--water);
		stroke-width: 6;
	}
	.roomname {
		text-anchor: middle;
		font-weight: 700;
		fill: var(--ink);
		pointer-events: none;
	}
	.sub {
		text-anchor: middle;
		font-size: 12.5px;
		fill: var(--muted);
		pointer-events: none;
	}
	.size {
		text-anchor: middle;
		font-size: 13px;
		font-weight: 700;
		fill: var(--ink);
		paint-order: stroke;
		stroke: var(--paper);
		stroke-width: 4px;
	}
	.traylabel {
		font-size: 12.5px;
		fill: var(--doubt);
	}
	.party {
		stroke: var(--meets);
		stroke-width: 6;
	}
	.north path {
		fill: var(--ink);
	}
	.north text,
	.scale text {
		font-size: 12px;
		fill: var(--muted);
	}
	.scale line {
		stroke: var(--ink);
		stroke-width: 3;
	}
</style>
