import Dexie, { type Table } from 'dexie';
import type { Answer } from './api/client';
import type { Operation } from './draft';

/** A change waiting for the line, in the order it was made. `of`: an undo of that change. */
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
};

/** A change that met somebody else's: kept here until a person decides. */
export type Aside = Waiting & { why: string; place: string; theirs?: unknown };

type KeptPhoto = { sha256: string; job: string; data: Blob };
type Snapshot = { job: string; answer: Answer };

/** What this browser keeps so that nothing is lost without a line. */
class Keep extends Dexie {
	waiting!: Table<Waiting, number>;
	aside!: Table<Aside, number>;
	photos!: Table<KeptPhoto, string>;
	snapshots!: Table<Snapshot, string>;

	constructor() {
		super('cinder');
		this.version(1).stores({ waiting: '++seq, job, id', aside: '++seq, job, id', photos: 'sha256, job', snapshots: 'job' });
	}
}

export const keep = new Keep();
