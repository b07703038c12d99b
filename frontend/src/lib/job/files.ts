import type { Refusal } from '$lib/api/client';
import { bounds } from '$lib/parts/units';

type Problem = Refusal['problems'][number];

/** One thing wrong in words: where it is, what is wrong there, and what was found there; a field with a unit is told in
 * the job's own. */
export function placeOf({ path, where, message, value }: Problem, found = 'was sent'): string {
	const told = value === null || value === undefined || message.includes(String(value));
	const inJob = bounds(where || path, message, value);
	return `${inJob.where}: ${inJob.message}${told ? '' : `; ${inJob.value} ${found}`}`;
}

export type Wrong = { message: string; places: string[] };

/** Send a file; what the server made of it, or why it was not taken. */
export async function sendFile<T>(
	url: string,
	media: string,
	file: File
): Promise<{ made: T | null; wrong: Wrong | null }> {
	try {
		const answer = await fetch(url, { method: 'POST', headers: { 'content-type': media }, body: file });
		const said = (await answer.json()) as T & Refusal;
		if (answer.ok) return { made: said, wrong: null };
		const places = (said.problems ?? []).map((p) => placeOf(p, 'stands there'));
		return {
			made: null,
			wrong: { message: `${file.name}: ${said.message ?? 'not taken'} ${said.kept ?? ''}`, places }
		};
	} catch {
		return { made: null, wrong: { message: `${file.name} was not sent: no line just now.`, places: [] } };
	}
}
