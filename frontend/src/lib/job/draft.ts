import type { Frozen, Job, Kind, Library } from '$lib/api/client';

export type Operation = { op: 'add' | 'replace' | 'remove' | 'test'; path: string; value?: unknown };
type Tree = Record<string, unknown>;

function parts(path: string): string[] {
	return path
		.split('/')
		.slice(1)
		.map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'));
}

function escape(part: string): string {
	return part.replaceAll('~', '~0').replaceAll('/', '~1');
}

/** One gesture on a copy of the job: what is set and removed becomes the operations of one change. */
export class Draft {
	readonly operations: Operation[] = [];
	readonly job: Job;

	constructor(
		job: Job,
		private library: Library | null
	) {
		this.job = structuredClone(job);
	}

	/** Set a value; missing objects on the way are made with it. */
	set(path: string, value: unknown): void {
		const steps = parts(path);
		let here = this.job as unknown as Tree;
		for (const [n, step] of steps.entries()) {
			const last = n === steps.length - 1;
			if (last) {
				const known = Object.hasOwn(here, step);
				if (known && JSON.stringify(here[step]) === JSON.stringify(value)) return;
				this.operations.push({ op: known ? 'replace' : 'add', path, value });
				here[step] = structuredClone(value);
			} else if (here[step] === undefined || here[step] === null) {
				const rest = steps.slice(n + 1);
				const nested = rest.reduceRight<unknown>((inner, key) => ({ [key]: inner }), value);
				const at =
					'/' +
					steps
						.slice(0, n + 1)
						.map(escape)
						.join('/');
				this.operations.push({ op: here[step] === null ? 'replace' : 'add', path: at, value: nested });
				here[step] = structuredClone(nested);
				return;
			} else {
				here = here[step] as Tree;
			}
		}
	}

	/** Remove what is there; nothing happens where nothing is. */
	remove(path: string): void {
		const steps = parts(path);
		let here = this.job as unknown as Tree;
		for (const step of steps.slice(0, -1)) {
			if (here[step] === undefined) return;
			here = here[step] as Tree;
		}
		const last = steps.at(-1) ?? '';
		if (!Object.hasOwn(here, last)) return;
		this.operations.push({ op: 'remove', path });
		delete here[last];
	}

	/** Set, or remove where the value is null: an unknown value is left out of a job. */
	put(path: string, value: unknown): void {
		if (value === null || value === '') this.remove(path);
		else this.set(path, value);
	}

	/** Take over operations the server worked out. */
	follow(operations: Operation[]): void {
		for (const one of operations) {
			if (one.op === 'remove') this.remove(one.path);
			else this.set(one.path, one.value);
		}
	}

	/** Take a library entry into the job as a frozen copy, unless it has one. */
	freeze(kind: Kind, key: string): void {
		if (this.job.library?.[kind]?.[key] || !this.library) return;
		const own = this.library.own?.[kind]?.[key];
		const copy: Frozen = {
			origin: own ? 'company' : 'library',
			edition: own ?? this.library.edition,
			sha256: this.library.sha256[kind]?.[key] ?? '',
			data: this.library[kind][key]
		};
		this.set(`/library/${kind}/${key}`, copy);
	}
}

/** A fresh id of 66 random bits. */
export function newId(): string {
	const bytes = crypto.getRandomValues(new Uint8Array(11));
	const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
	return Array.from(bytes, (byte) => letters[byte & 63]).join('');
}

/** Entries of a map in the order people gave them. */
export function ordered<T extends { pos?: number }>(map: Record<string, T> | undefined): [string, T][] {
	return Object.entries(map ?? {}).sort(([a, x], [b, y]) => (x.pos ?? 0) - (y.pos ?? 0) || a.localeCompare(b));
}

/** A position after the last. */
export function nextPos(map: Record<string, { pos?: number }> | undefined): number {
	return Math.max(-1, ...Object.values(map ?? {}).map((item) => item.pos ?? 0)) + 1;
}
