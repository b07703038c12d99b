import rules from '$lib/api/rules.json';
import type { Draft } from './draft';

/**
 * Who points at whom in a job, read from the table the core makes (`cinder.model.pointers`): one function takes something
 * away with what cannot be without it.
 */
type Pointer = (typeof rules.pointers)[number];
type Tree = Record<string, unknown>;
export type Place = { pointer: Pointer; parts: string[] };

const isTree = (node: unknown): node is Tree => typeof node === 'object' && node !== null && !Array.isArray(node);
const escape = (part: string): string => part.replaceAll('~', '~0').replaceAll('/', '~1');
export const pathOf = (parts: string[]): string => '/' + parts.map(escape).join('/');

/** Every place of a path with `*` that is there, with what stands in it; keys for `=`, items for `[]`. */
function places(node: unknown, parts: string[], done: string[] = []): [string[], unknown][] {
	const [head, ...rest] = parts;
	if (head === undefined) return [[done, node]];
	if (head === '[]') return Array.isArray(node) ? node.map((item) => [done, item]) : [];
	if (!isTree(node)) return [];
	if (head === '=') return Object.keys(node).map((key) => [[...done, key], key]);
	if (head === '*') return Object.keys(node).flatMap((key) => places(node[key], rest, [...done, key]));
	return head in node ? places(node[head], rest, [...done, head]) : [];
}

function at(job: unknown, parts: string[]): unknown {
	return parts.reduce<unknown>((node, part) => (isTree(node) ? node[part] : undefined), job);
}

const split = (path: string): string[] => path.split('/').slice(1);

/** Every place that names something of a kind; `within`: what it stands in (room and face of an opening). */
export function pointing(job: unknown, to: string, name: string, within: string[] = []): Place[] {
	return rules.pointers
		.filter((pointer) => pointer.to === to)
		.flatMap((pointer) =>
			places(job, split(pointer.path))
				.filter(([parts, value]) => {
					const entry = at(job, parts.slice(0, pointer.entry)) as Tree;
					return value === name && pointer.beside.every((field, n) => entry[field] === within[n]);
				})
				.map(([parts]) => ({ pointer, parts }))
		);
}

/** Take something out of the job, with what cannot be without it. */
export function takeAway(draft: Draft, to: keyof typeof rules.homes, name: string, within: string[] = []): void {
	const homes = rules.homes[to].flatMap((home) => places(draft.job, split(home)).map(([parts]) => ({ home, parts })));
	const own = homes.filter(({ home, parts }) => {
		const stands = parts.filter((_, n) => split(home)[n] === '*').slice(0, -1);
		return parts.at(-1) === name && (!within.length || stands.join('/') === within.join('/'));
	});
	const heir = own
		.map(({ parts }) => (at(draft.job, parts) as Tree | undefined)?.[rules.heir])
		.find((one) => typeof one === 'string');
	for (const { pointer, parts } of pointing(draft.job, to, name, within)) {
		if (!isTree(at(draft.job, parts.slice(0, -1)))) continue; // gone with what it belonged to
		if (pointer.then === 'stays') throw new Error(`${pathOf(parts)} still names it`);
		if (pointer.then === 'entry') {
			const entry = parts.slice(0, pointer.entry);
			if (pointer.of && entry.at(-1) !== name) takeAway(draft, pointer.of as keyof typeof rules.homes, entry.at(-1)!);
			else draft.remove(pathOf(entry));
		} else if (pointer.then === 'item')
			draft.set(
				pathOf(parts),
				(at(draft.job, parts) as unknown[]).filter((one) => one !== name)
			);
		else if (pointer.then === 'heated') draft.set(pathOf(parts.slice(0, -1)), { kind: 'heated' });
		else if (pointer.then === 'heir') draft.put(pathOf(parts), heir ?? null);
		else draft.remove(pathOf(parts));
	}
	for (const { parts } of own) draft.remove(pathOf(parts));
}
