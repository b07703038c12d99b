import { liveQuery } from 'dexie';
import { Courier } from './courier.svelte';
import { keep } from './keep';
import { live } from './turns';

const LOOK_MS = 4000;
/** What of one job is in this browser and not on the server. */
export type Held = { waiting: number; aside: number };

/** The post room of this page: a courier for every job with something to send, on whatever page one is. */
class Post {
	/** By job, over all pages of this browser. */
	held = $state.raw<Record<string, Held>>({});
	private readonly couriers = new Map<string, Courier>();
	private begun = false;

	courier(job: string): Courier {
		const one = this.couriers.get(job) ?? new Courier(job);
		this.couriers.set(job, one);
		return one;
	}

	/** Once a page: hold its name, ask that what is kept here stays, and look after what waits. */
	start(): void {
		if (this.begun) return;
		this.begun = true;
		live();
		void navigator.storage?.persist?.().catch(() => false);
		addEventListener('online', () => this.ring());
		setInterval(() => void this.look(), LOOK_MS);
		void this.look();
		liveQuery(() => Promise.all([keep.waiting.toArray(), keep.aside.toArray()])).subscribe({
			next: ([waiting, aside]) => {
				const held: Record<string, Held> = {};
				const of = (job: string): Held => (held[job] ??= { waiting: 0, aside: 0 });
				for (const one of waiting) of(one.job).waiting++;
				for (const one of aside) of(one.job).aside++;
				this.held = held;
			},
			error: () => undefined // no storage: what is in memory is sent all the same
		});
	}

	ring(): void {
		for (const courier of this.couriers.values()) courier.ring();
	}

	/** Take over what pages that are gone left behind. */
	private async look(): Promise<void> {
		const jobs = new Set((await keep.waiting.toArray().catch(() => [])).map((one) => one.job));
		for (const job of jobs) await this.courier(job).adopt();
	}
}

export const post = new Post();
