import { api, type Library } from '$lib/api/client';

const OWN = ['constructions', 'climates', 'machines', 'place_rules'] as const;

/** The library of this edition with the company's own constructions, climates, machines and distances, fetched once. */
class LibraryShelf {
	all = $state.raw<Library | null>(null);
	/** As shipped, without what the company keeps. */
	private shipped: Library | null = null;

	async load(): Promise<void> {
		if (this.all) return;
		const { data } = await api.GET('/api/library').catch(() => ({ data: undefined }));
		if (!data) return;
		this.shipped = data;
		this.all = data;
		void this.refresh();
	}

	/** Take in what the company keeps for itself, again after it has changed. */
	async refresh(): Promise<void> {
		const kept = await Promise.all(
			OWN.map((kind) =>
				api.GET('/api/company/{kind}', { params: { path: { kind } } }).catch(() => ({ data: undefined }))
			)
		);
		const now = this.shipped;
		if (!now) return;
		const next: Library = {
			...now,
			...Object.fromEntries(OWN.map((kind) => [kind, { ...now[kind] }])),
			own: Object.fromEntries(OWN.map((kind) => [kind, {}])),
			u_values: { ...now.u_values },
			sha256: { ...now.sha256, ...Object.fromEntries(OWN.map((kind) => [kind, { ...now.sha256[kind] }])) }
		};
		for (const [n, kind] of OWN.entries())
			for (const one of kept[n]?.data?.entries ?? []) {
				next[kind][one.id] = one.entry as never;
				if (one.u_w_m2k != null) next.u_values[one.id] = one.u_w_m2k;
				next.sha256[kind]![one.id] = one.sha256;
				next.own![kind]![one.id] = String(one.edition);
			}
		this.all = next;
	}
}

export const shelf = new LibraryShelf();
