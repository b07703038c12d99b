import Dexie, { type Table } from 'dexie';
import type { Answer } from '$lib/api/client';
import type { Operation } from './draft';

/**
 * A change waiting for the line, in the order it was made. `of`: an undo of that change. `tab`: the page that made it
 * and sends it while it lives; `tries`: how often a fault of the server met it.
 */
export type Waiting = {
	seq?: number;
	id: string;
	job: string;
	kind: 'edit' | 'undo';
	base: number;
	label: string;
	operations: Operation[];
	knows: string[];
	photos: string[];
	of?: string;
	at: string;
	waited: boolean;
	tab?: string;
	/** The schema of the job it was made on; a newer server brings it up to its own. */
	schema?: number;
	tries?: number;
};

/** A change that met somebody else's, or that the server cannot take: kept here until a person decides. */
export type Aside = Waiting & { why: string; place: string; theirs?: unknown };

/** A change of this browser that the server has kept, in whichever of its pages it was made. */
type Sent = { id: string; job: string; version: number };
type KeptPhoto = { sha256: string; job: string; data: Blob };
type Snapshot = { job: string; answer: Answer };

const REMEMBERED = 1000;

/** What this browser keeps so that nothing is lost without a line. */
class Keep extends Dexie {
	waiting!: Table<Waiting, number>;
	aside!: Table<Aside, number>;
	photos!: Table<KeptPhoto, string>;
	snapshots!: Table<Snapshot, string>;
	sent!: Table<Sent, string>;

	constructor() {
		super('cinder');
		this.version(1).stores({
			waiting: '++seq, job, id',
			aside: '++seq, job, id',
			photos: 'sha256, job',
			snapshots: 'job'
		});
		this.version(2).stores({ sent: 'id, [job+version]' });
	}

	/** Remember what the server kept, so that a change made in another page before that was heard is no stranger to it. */
	async remember(job: string, ids: string[], version: number): Promise<void> {
		await this.transaction('rw', this.sent, async () => {
			await this.sent.bulkPut(ids.map((id) => ({ id, job, version })));
			await this.sent
				.where('[job+version]')
				.between([job, Dexie.minKey], [job, version - REMEMBERED])
				.delete();
		}).catch(() => undefined);
	}

	/** Changes of this browser that the server kept after a version. */
	async sentSince(job: string, version: number): Promise<string[]> {
		try {
			return (
				await this.sent.where('[job+version]').between([job, version], [job, Dexie.maxKey], false, true).toArray()
			).map((one) => one.id);
		} catch {
			return [];
		}
	}

	/** Out of what waits and into what stands aside, in one step, and each only once. */
	async putAside(asides: Aside[]): Promise<void> {
		await this.transaction('rw', this.waiting, this.aside, async () => {
			for (const one of asides) {
				await this.waiting.where('id').equals(one.id).delete();
				if (!(await this.aside.where('id').equals(one.id).count())) await this.aside.add(one);
			}
		});
	}
}

export const keep = new Keep();
