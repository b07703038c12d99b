import type { Refusal } from './client';

/** What the server said against something: a refusal, or that it has a fault. */
export type Said = { refusal?: { error: Refusal; status: number }; fault?: Refusal };

/** No answer of ours: the line is gone, something between us and the server speaks, or it is busy for the moment. */
export const NO_ANSWER = [502, 503, 504];
const FAULT: Refusal = {
	code: 'fault',
	message: 'A fault of ours, without a number.',
	kept: 'Nothing was changed.',
	problems: [],
	detail: {}
};

/** Its own fault, or a refusal, from the status and the words of an answer. */
export function said(status: number, error: unknown): Said {
	const words = error && typeof error === 'object' && 'message' in error ? (error as Refusal) : null;
	return status >= 500
		? { fault: words ?? FAULT }
		: { refusal: { error: words ?? { ...FAULT, code: 'http', message: 'The change was not taken.' }, status } };
}
