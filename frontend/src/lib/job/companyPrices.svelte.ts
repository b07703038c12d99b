import { api } from '$lib/api/client';
import type { JobSession } from './session.svelte';

/** What a table of prices says for the company: its own rows in place of the shipped ones, kept for all its jobs. */
export class CompanyPrices<Row extends { id: string }> {
	rows = $state.raw<Record<string, Row>>({});
	/** The edition of every row that is the company's own. */
	own = $state.raw<Record<string, number>>({});

	constructor(
		private readonly kind: string,
		private readonly shipped: () => Record<string, Row> | undefined,
		private readonly session: () => JobSession,
		/** Asked once a price has changed. */
		private readonly changed: () => void
	) {}

	async load(): Promise<void> {
		const { data } = await api
			.GET('/api/company/{kind}', { params: { path: { kind: this.kind } } })
			.catch(() => ({ data: undefined }));
		const entries = data?.entries ?? [];
		this.own = Object.fromEntries(entries.map((e) => [e.id, e.edition]));
		this.rows = { ...this.shipped(), ...Object.fromEntries(entries.map((e) => [e.id, e.entry as unknown as Row])) };
	}

	/** A figure of a row: a price in whole units of the currency, or `times` as many as is kept; `more`: what is said beside it. */
	async put(
		key: string,
		field: keyof Row & string,
		value: number | null,
		more: object = {},
		times = 100
	): Promise<boolean> {
		const row = this.rows[key];
		if (!row || value === null) return false;
		const { error } = await api
			.PUT('/api/company/{kind}/{key}', {
				params: { path: { kind: this.kind, key } },
				body: {
					...row,
					[field]: times === 100 ? Math.round(value * 100) : value * times,
					...more
				} as unknown as Record<string, never>
			})
			.catch(() => ({ error: { message: 'No line just now.' } }));
		if (error)
			this.session().notice = {
				message: (error as { message?: string }).message ?? 'Not kept.',
				kept: 'The old price stands.',
				places: []
			};
		await this.load();
		this.changed();
		return !error;
	}

	async back(key: string): Promise<void> {
		await api
			.DELETE('/api/company/{kind}/{key}', { params: { path: { kind: this.kind, key } } })
			.catch(() => undefined);
		await this.load();
		this.changed();
	}
}
