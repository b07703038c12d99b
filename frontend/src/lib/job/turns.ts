/**
 * Several pages of one browser share what waits and the line it goes over. Each page has a name it holds as long as it
 * lives; what a page left behind is taken over by another. Where the browser has no locks there is one page at a time.
 */
import { newId } from './draft';

const PAGE = 'cinder-page-';
export const here = newId();
const rows = new Map<string, Promise<unknown>>();

function locks(): LockManager | undefined {
	return typeof navigator === 'undefined' ? undefined : (navigator.locks as LockManager | undefined);
}

/** Hold this page's name until it closes. */
export function live(): void {
	void locks()?.request(PAGE + here, () => new Promise(() => undefined));
}

/** Names of the pages that live now; null where nobody can tell. */
export async function alive(): Promise<Set<string> | null> {
	const held = (await locks()?.query())?.held;
	return held
		? new Set(held.flatMap((lock) => (lock.name?.startsWith(PAGE) ? [lock.name.slice(PAGE.length)] : [])))
		: null;
}

/** One after the other over all pages of this browser: what is sent of one job, and what was heard of it. */
export async function inTurn<T>(job: string, act: () => Promise<T>): Promise<T> {
	const all = locks();
	if (all) return all.request(`cinder-send-${job}`, act) as Promise<T>;
	const mine = (rows.get(job) ?? Promise.resolve()).then(act, act);
	rows.set(
		job,
		mine.catch(() => undefined)
	);
	return mine;
}
