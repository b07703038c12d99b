import { api, type Climate, type Construction, type Library, type MachineDoc } from '$lib/api/client';

const OWN = ['constructions', 'climates', 'machines'] as const;

/** The library of this edition with the company's own constructions, climates and machines, fetched once. */
class LibraryShelf {
	all = $state.raw<Library | null>(null);

	async load(): Promise<void> {
		if (this.all) return;
		const { data } = await api.GET('/api/library').catch(() => ({ data: undefined }));
		if (!data) return;
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
		const now = this.all;
		if (!now) return;
		const plain = <T>(entries: Record<string, T>, kind: string): Record<string, T> =>
			Object.fromEntries(Object.entries(entries).filter(([key]) => !now.own?.[kind]?.[key]));
		const next: Library = {
			...now,
			constructions: plain(now.constructions, 'constructions'),
			climates: plain(now.climates, 'climates'),
			machines: plain(now.machines, 'machines'),
			own: { constructions: {}, climates: {}, machines: {} },
			u_values: { ...now.u_values },
			sha256: { ...now.sha256, ...Object.fromEntries(OWN.map((kind) => [kind, { ...now.sha256[kind] }])) }
		};
		for (const [n, kind] of OWN.entries())
			for (const one of kept[n]?.data?.entries ?? []) {
				if (kind === 'constructions') next.constructions[one.id] = one.entry as Construction;
				else if (kind === 'climates') next.climates[one.id] = one.entry as Climate;
				else next.machines[one.id] = one.entry as unknown as MachineDoc;
				if (one.u_w_m2k != null) next.u_values[one.id] = one.u_w_m2k;
				next.sha256[kind]![one.id] = one.sha256;
				next.own![kind]![one.id] = String(one.edition);
			}
		this.all = next;
	}
}

export const shelf = new LibraryShelf();
