import rules from '$lib/api/rules.json';

/** What a value usually lies between, both ends included. */
export type Range = readonly [number, number];
export const USUAL = rules.usual as unknown as Record<keyof typeof rules.usual, Range>;

/** Slips of the hand: a comma in the wrong place, feet or inches taken for metres. */
const DECIMAL = [10, 0.1, 100, 0.01, 1000, 0.001];
const FOREIGN = [0.3048, 0.0254];

/** Whether a value lies outside what is usual; nought says that there is none of it. */
export function unusual(value: number, between: Range | undefined): between is Range {
	return between !== undefined && value !== 0 && !inside(value, between);
}

/** The figure that was likelier meant where a value lies outside what is usual, or null where no slip explains it. */
export function likelier(value: number, between: Range, length = false): number | null {
	const slips = length ? [...DECIMAL, ...FOREIGN] : DECIMAL;
	const meant = slips.map((factor) => Math.round(value * factor * 1e4) / 1e4).find((one) => inside(one, between));
	return meant ?? null;
}

function inside(value: number, [least, most]: Range): boolean {
	return value >= least && value <= most;
}
