import { amount } from '$lib/parts/units';
import { api, type Front, type FrontPoint } from '$lib/api/client';
import type { Operation } from '$lib/job/draft';
import type { JobSession } from '$lib/job/session.svelte';
import { Slow } from '$lib/job/slow.svelte';

export type Mend = { cost_minor: number; disturbance: number };

/** The cheapest set for every flow temperature, the one asked for, and what the customer says to it. */
export class CheapestDesk {
	readonly front: Slow<{ front: Front }>;
	/** The flow temperature asked for by hand; else the one cheapest over the years. */
	wanted = $state<number | null>(null);
	taking = $state(false);

	constructor(private readonly session: JobSession) {
		this.front = new Slow(() => api.GET('/api/jobs/{job_id}/front', { params: { path: { job_id: session.id } } }));
	}

	get found(): Front | null {
		return this.front.found?.front ?? null;
	}

	get points(): FrontPoint[] {
		return this.found?.points ?? [];
	}

	get best(): number | null {
		const counted = this.points.filter((p) => p.total_minor !== null);
		return counted.sort((a, b) => (a.total_minor ?? 0) - (b.total_minor ?? 0))[0]?.flow_c ?? null;
	}

	get flow(): number | null {
		return this.wanted ?? this.best;
	}

	get point(): FrontPoint | null {
		return this.points.find((p) => p.flow_c === this.flow) ?? null;
	}

	/** What the set asked for does in each room: its price and the most it disturbs. */
	get mends(): Record<string, Mend> {
		const mends: Record<string, Mend> = {};
		for (const change of this.point?.changes ?? []) {
			if (!change.room) continue;
			const before = mends[change.room] ?? { cost_minor: 0, disturbance: 0 };
			mends[change.room] = {
				cost_minor: before.cost_minor + change.cost_minor,
				disturbance: Math.max(before.disturbance, change.disturbance)
			};
		}
		return mends;
	}

	private get at(): string {
		return `/schemes/${this.session.scheme}`;
	}

	private get refusedNow(): string[] {
		return this.session.job?.schemes?.[this.session.scheme ?? '']?.refused ?? [];
	}

	choose(value: number | null): void {
		this.wanted = value === null ? null : Math.min(60, Math.max(30, Math.round(value)));
	}

	refuse(key: string, what: string): void {
		void this.session.edit(`Refused: ${what}`, (d) =>
			d.set(`${this.at}/refused`, [...this.refusedNow.filter((k) => k !== key), key])
		);
	}

	allow(key: string): void {
		void this.session.edit('Allowed again', (d) =>
			d.set(
				`${this.at}/refused`,
				this.refusedNow.filter((k) => k !== key)
			)
		);
	}

	must(key: string, what: string): void {
		void this.session.edit(`Must be: ${what}`, (d) => d.set(`${this.at}/wishes/${key}`, 'must'));
	}

	unpin(key: string): void {
		void this.session.edit('No longer pinned', (d) => d.remove(`${this.at}/wishes/${key}`));
	}

	private room(id: string | null | undefined): string {
		return this.session.job?.survey?.rooms?.[id ?? '']?.label ?? id ?? '';
	}

	/** What a pin or a refusal is about, in words. */
	words(key: string): string {
		const { job, scheme } = this.session;
		const [kind, first = '', ...rest] = key.split(':');
		const emitter = job?.survey?.emitters?.[first] ?? job?.schemes?.[scheme ?? '']?.emitters?.[first];
		if (kind === 'way') {
			const known = this.points.flatMap((p) => p.changes).find((c) => c.way === key);
			const about = /^(?:new|floor|faces|electric|accept)-(.+)$/.exec(first)?.[1];
			return known
				? `${known.room_label}: ${known.what}`
				: `${this.room(about ?? emitter?.room)}: ${rest.join(' ').toUpperCase()}`;
		}
		if (kind === 'fan') return `no fan unit in ${this.room(first)}`;
		if (kind === 'floor') return `no new floor in ${this.room(first)}`;
		if (kind === 'faces') return `walls of ${this.room(first)} stay as they are`;
		if (kind === 'emitter') return `${this.room(emitter?.room)}: ${emitter?.label || 'radiator'} stays`;
		if (kind === 'new') return `no further radiator in ${this.room(first)}`;
		return `not: ${first.replaceAll('-', ' ')}`;
	}

	/** The set asked for becomes part of the scheme, as one change. */
	async take(): Promise<void> {
		const { session, flow, point } = this;
		if (flow === null) return;
		this.taking = true;
		const { data, error } = await api
			.POST('/api/jobs/{job_id}/front/change', { params: { path: { job_id: session.id } }, body: { flow_c: flow } })
			.catch(() => ({ data: undefined, error: { message: 'No line just now.' } }));
		this.taking = false;
		if (!data) {
			session.notice = {
				message: (error as { message?: string } | undefined)?.message ?? 'Not taken.',
				kept: 'The scheme is as it was.',
				places: []
			};
			return;
		}
		const count = point?.changes.length ?? 0;
		await session.edit(`Cheapest way to ${amount(flow, '°C')}: ${count} ${count === 1 ? 'change' : 'changes'}`, (d) =>
			d.follow(data.operations as Operation[])
		);
	}
}
