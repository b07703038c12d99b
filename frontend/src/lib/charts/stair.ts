import type { Pipe } from '$lib/api/client';

export const WIDTH = 900;
export const HEIGHT = 150;
const LEFT = 4;
const TOP = 26;
const STEP_TOP = 40;

export type Tread = { id: string; label: string; kpa: number; x: number; width: number; y: number; share: number };
export type StairShape = {
	treads: Tread[];
	scale: number;
	headX: number | null;
	limitX: number | null;
	endX: number;
	base: number;
};

/** Where the head of the index circuit goes, piece by piece, along one axis of kPa, against what the pump has. */
export function shape(pipes: Pipe[], path: string[], head: number | null, limit: number): StairShape {
	const total = path.reduce((sum, id) => sum + (pipes.find((p) => p.id === id)?.total_kpa ?? 0), 0);
	const full = Math.max(total, head ?? 0) * 1.04 || 1;
	const k = (WIDTH - LEFT * 2) / full;
	const base = HEIGHT - 24;
	let x = LEFT;
	let done = 0;
	const treads = path.map((id) => {
		const pipe = pipes.find((p) => p.id === id);
		const kpa = pipe?.total_kpa ?? 0;
		const y = STEP_TOP + (done / full) * (base - STEP_TOP - 16);
		const tread = { id, label: pipe?.label ?? id, kpa, x, width: kpa * k, y, share: total ? kpa / total : 0 };
		x += kpa * k;
		done += kpa;
		return tread;
	});
	return {
		treads,
		scale: k,
		headX: head === null ? null : LEFT + head * k,
		limitX: head === null ? null : LEFT + head * limit * k,
		endX: x,
		base
	};
}
export const LABEL_TOP = TOP;
