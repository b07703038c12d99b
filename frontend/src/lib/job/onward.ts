import { applyPatch, deepClone, type Operation as PatchStep } from 'fast-json-patch';
import canonicalize from 'canonicalize';
import type { Answer, Design, Job, Onward } from '$lib/api/client';

/** `[value]` where something is another, an object of what lies in it (by name, or by place in a list), null where nothing is. */
export type Difference = unknown[] | { [name: string]: Difference } | null | undefined;

/** What a difference makes of what is held. What did not change is the same object as before; nothing held is changed. */
export function merged<T>(held: T, difference: Difference): T {
	if (difference === null || difference === undefined) return held;
	if (Array.isArray(difference)) return difference[0] as T;
	const out = (Array.isArray(held) ? [...held] : { ...held }) as Record<string, unknown>;
	for (const name in difference) out[name] = merged(out[name], difference[name]);
	return out as T;
}

/** The whole answer, put together from the one that is held and what changed since; null when the two do not fit. */
export function onward(held: Answer | null, news: Answer | Onward): Answer | null {
	if ('design' in news) return news;
	if (!held || held.version !== news.since) return null;
	const { since: _, operations, difference, ...head } = news;
	try {
		const job = applyPatch(deepClone(held.job) as Job, operations as PatchStep[], false, true).newDocument;
		return { ...head, job, design: merged<Design>(held.design, difference as Difference) };
	} catch {
		return null; // its job is not the server's: the whole is asked for
	}
}

/** SHA-256 of job and Design in the canonical form of RFC 8785, as the server writes it; null where this browser cannot. */
export async function fingerprint({ job, design }: Answer): Promise<string | null> {
	const text = canonicalize({ job, design });
	if (text === undefined || !globalThis.crypto?.subtle) return null;
	const hash = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text));
	return [...new Uint8Array(hash)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}
