import type { Known } from '$lib/api/client';
import type { Draft } from '$lib/job/draft';

export type How = 'measured' | 'read' | 'told' | 'inferred' | 'assumed';
type Kind = { how: How; key: string; shape: string; what: string; sure: boolean };

/** How a value is known: its key while typing, its mark, what it means. */
export const HOWS: Kind[] = [
	{ how: 'measured', key: '!', shape: '●', what: 'measured here', sure: true },
	{ how: 'read', key: '=', shape: '■', what: 'read off a label or paper', sure: true },
	{ how: 'told', key: '~', shape: '◖', what: 'told by somebody', sure: false },
	{ how: 'inferred', key: '?', shape: '◇', what: 'inferred from signs', sure: false },
	{ how: 'assumed', key: '*', shape: '○', what: 'assumed, nobody knows', sure: false }
];

export function kindOf(how: string | undefined): Kind {
	return HOWS.find((h) => h.how === how) ?? HOWS[4]!;
}

/** What was typed, parted into the value and the key that says how it is known. */
export function withoutKey(text: string): { text: string; how: How | null } {
	const clean = text.trim();
	const kind = HOWS.find((h) => clean.endsWith(h.key));
	return kind ? { text: clean.slice(0, -1).trim(), how: kind.how } : { text: clean, how: null };
}

/** Evidence to be written beside a value. */
export function evidence(how: How, by: string, via?: string, note?: string): Known {
	return { how, ...(via ? { via } : {}), by, at: new Date().toISOString(), ...(note ? { note } : {}) } as Known;
}

type Proofs = Record<string, Known> | null | undefined;

/** How one of two sides is known: by itself, else as the two together. */
export function proofOf(known: Proofs, side: string, together: string): Known | null {
	return known?.[side] ?? known?.[together] ?? null;
}

/** Write how one of two sides is known. The two together are known no better than the worse of them: measuring a length
 * proves nothing of the height beside it. `stands`: whether the other side has a value at all. */
export function proveSide(
	d: Draft,
	at: string,
	known: Proofs,
	{ side, other, together, stands }: { side: string; other: string; together: string; stands: boolean },
	proof: Known
): void {
	const rest = stands ? proofOf(known, other, together) : null;
	const worse = (one: Known, two: Known | null): Known =>
		two && HOWS.findIndex((h) => h.how === two.how) > HOWS.findIndex((h) => h.how === one.how) ? two : one;
	d.set(`${at}/${side}`, proof);
	if (rest) d.set(`${at}/${other}`, rest);
	d.set(`${at}/${together}`, stands && !rest ? { ...proof, how: 'assumed' } : worse(proof, rest));
}
