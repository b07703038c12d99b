/** Geometry the browser may compute: corners of a walk for the picture, the snap while sliding, what then touches. */
export type XY = [number, number];
export type RunDoc = { id: string; length_m?: number | null; turn_deg?: number; diagonal_m?: number | null };
export type PlaceDoc = { x_m: number; y_m: number; rotation_deg?: number } | null | undefined;

const THICKEST_M = 0.6;
const SNAP_M = 0.3;
const WALL_M = 0.1;
const PARALLEL = Math.cos((5 * Math.PI) / 180);

const turnTo = (angle: number): number => Math.atan2(Math.sin(angle), Math.cos(angle));

function toward(here: XY, length: number, diagonal: number, heading: number): number {
	const reach = Math.hypot(here[0], here[1]);
	if (reach < 1e-9 || length <= 0) return heading;
	const cosine = (reach ** 2 + length ** 2 - diagonal ** 2) / (2 * reach * length);
	if (Math.abs(cosine) > 1) return heading;
	const back = Math.atan2(here[1], -here[0]);
	const swing = Math.acos(cosine);
	return [back + swing, back - swing].reduce((best, h) =>
		Math.abs(turnTo(h - heading)) < Math.abs(turnTo(best - heading)) ? h : best
	);
}

/** Corners of a walk as far as it is measured, the start first; clockwise turns are positive, y points up. */
export function corners(walk: RunDoc[]): XY[] {
	const points: XY[] = [[0, 0]];
	const shaped = walk.some((run) => run.diagonal_m != null);
	let [x, y, heading] = [0, 0, 0];
	for (const [n, run] of walk.entries()) {
		if (run.length_m == null) break;
		let diagonal = run.diagonal_m ?? null;
		if (diagonal === null && shaped && n === walk.length - 2 && n >= 2) diagonal = walk.at(-1)?.length_m ?? null;
		if (diagonal !== null && n >= 1) heading = toward([x, y], run.length_m, diagonal, heading);
		else if (shaped && n === walk.length - 1 && walk.length > 3 && Math.hypot(x, y) > 1e-9) heading = Math.atan2(y, -x);
		x += run.length_m * Math.cos(heading);
		y -= run.length_m * Math.sin(heading);
		heading += ((run.turn_deg ?? 90) * Math.PI) / 180;
		points.push([x, y]);
	}
	return points;
}

/** Distance from the end of the walk to its start. */
export function gap(points: XY[]): number {
	const last = points.at(-1) ?? [0, 0];
	return Math.hypot(last[0], last[1]);
}

export function moved(points: XY[], place: PlaceDoc): XY[] {
	if (!place) return points;
	const angle = (-(place.rotation_deg ?? 0) * Math.PI) / 180;
	const [c, s] = [Math.cos(angle), Math.sin(angle)];
	return points.map(([x, y]) => [x * c - y * s + place.x_m, x * s + y * c + place.y_m]);
}

export function area(points: XY[]): number {
	let twice = 0;
	for (const [n, [ax, ay]] of points.entries()) {
		const [bx, by] = points[(n + 1) % points.length] ?? [0, 0];
		twice += ax * by - bx * ay;
	}
	return twice / 2;
}

export function middle(points: XY[]): XY {
	const total = area(points);
	if (Math.abs(total) < 1e-9) return points[0] ?? [0, 0];
	let [x, y] = [0, 0];
	for (const [n, [ax, ay]] of points.entries()) {
		const [bx, by] = points[(n + 1) % points.length] ?? [0, 0];
		const cross = ax * by - bx * ay;
		x += (ax + bx) * cross;
		y += (ay + by) * cross;
	}
	return [x / (6 * total), y / (6 * total)];
}

export type Side = { a: XY; b: XY; length: number; u: XY; out: XY };

/** Sides of an outline with the outside on `out`. */
export function sides(points: XY[]): Side[] {
	const clockwise = area(points) <= 0;
	return points.slice(0, -1).map((a, n) => {
		const b = points[n + 1] ?? a;
		const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
		const u: XY = length ? [(b[0] - a[0]) / length, (b[1] - a[1]) / length] : [1, 0];
		return { a, b, length, u, out: clockwise ? [-u[1], u[0]] : [u[1], -u[0]] };
	});
}

type Meeting = { gap: number; from: number; to: number; mine: Side; theirs: Side };

function meeting(mine: Side, theirs: Side): Meeting | null {
	if (mine.out[0] * theirs.out[0] + mine.out[1] * theirs.out[1] > -PARALLEL) return null;
	const along = (p: XY): number => (p[0] - mine.a[0]) * mine.u[0] + (p[1] - mine.a[1]) * mine.u[1];
	const ends = [along(theirs.a), along(theirs.b)].sort((p, q) => p - q);
	const [from, to] = [Math.max(0, ends[0] ?? 0), Math.min(mine.length, ends[1] ?? 0)];
	if (to - from < 0.1) return null;
	const mid: XY = [(theirs.a[0] + theirs.b[0]) / 2, (theirs.a[1] + theirs.b[1]) / 2];
	const distance = (mid[0] - mine.a[0]) * mine.out[0] + (mid[1] - mine.a[1]) * mine.out[1];
	return { gap: distance, from, to, mine, theirs };
}

type Join = { side: Side; off: number; flush: number; cost: number };

/** Every wall of another room that this outline nearly touches: how far off, and how far its corners are from flush. */
function joins(outline: XY[], others: XY[][], reach: number): Join[] {
	const out: Join[] = [];
	for (const mine of sides(outline))
		for (const theirs of others.flatMap(sides)) {
			const met = meeting(mine, theirs);
			if (!met) continue;
			const off = met.gap - WALL_M;
			if (Math.abs(off) > reach) continue;
			const slide = (p: XY, q: XY): number => (q[0] - p[0]) * mine.u[0] + (q[1] - p[1]) * mine.u[1];
			const flush =
				[slide(mine.a, theirs.b), slide(mine.b, theirs.a)].sort((p, q) => Math.abs(p) - Math.abs(q))[0] ?? 0;
			out.push({ side: mine, off, flush, cost: Math.abs(off) - 0.05 * (met.to - met.from) });
		}
	return out.sort((one, other) => one.cost - other.cost);
}

/** Where a room that is being slid comes to rest: a wall's thickness from what it nearly touches, along the wall a
 * wall's thickness from the next it nearly touches, else with its corner flush. */
export function snap(outline: XY[], others: XY[][], reach = SNAP_M): XY {
	const first = joins(outline, others, reach)[0];
	if (!first) return [0, 0];
	const { side, off } = first;
	const shift: XY = [side.out[0] * off, side.out[1] * off];
	const there = outline.map(([x, y]): XY => [x + shift[0], y + shift[1]]);
	const across = joins(there, others, SNAP_M).find(
		(j) => Math.abs(j.side.out[0] * side.out[0] + j.side.out[1] * side.out[1]) < 0.1
	);
	if (across) return [shift[0] + across.side.out[0] * across.off, shift[1] + across.side.out[1] * across.off];
	if (Math.abs(first.flush) < SNAP_M) return [shift[0] + side.u[0] * first.flush, shift[1] + side.u[1] * first.flush];
	return shift;
}

/** How far a room is from standing flush on the rooms of the storey below: the nearest edge across and along, each by
 * itself. */
export function onto(outline: XY[], below: XY[][], reach = SNAP_M): XY {
	const near = (axis: 0 | 1): number => {
		const mine = outline.map((p) => p[axis]);
		const ends = [Math.min(...mine), Math.max(...mine)];
		const theirs = below.flatMap((other) => {
			const all = other.map((p) => p[axis]);
			return [Math.min(...all), Math.max(...all)];
		});
		const gaps = ends.flatMap((end) => theirs.map((edge) => edge - end)).filter((gap) => Math.abs(gap) <= reach);
		return gaps.sort((a, b) => Math.abs(a) - Math.abs(b))[0] ?? 0;
	};
	return below.length ? [near(0), near(1)] : [0, 0];
}

/** Stretches of wall that would be shared: the lines to draw between two rooms while one is slid. */
export function shared(outline: XY[], others: XY[][]): [XY, XY][] {
	const out: [XY, XY][] = [];
	for (const mine of sides(outline))
		for (const other of others)
			for (const theirs of sides(other)) {
				const met = meeting(mine, theirs);
				if (!met || met.gap < -0.05 || met.gap > THICKEST_M) continue;
				const at = (s: number): XY => [
					mine.a[0] + mine.u[0] * s + (mine.out[0] * met.gap) / 2,
					mine.a[1] + mine.u[1] * s + (mine.out[1] * met.gap) / 2
				];
				out.push([at(met.from), at(met.to)]);
			}
	return out;
}

export function bounds(outlines: XY[][]): [number, number, number, number] {
	const all = outlines.flat();
	if (!all.length) return [0, 0, 6, 4];
	const xs = all.map((p) => p[0]);
	const ys = all.map((p) => p[1]);
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}
