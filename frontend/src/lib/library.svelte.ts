import { api, type Library } from './api/client';

/** The library of this edition, fetched once. */
class LibraryShelf {
	all = $state.raw<Library | null>(null);

	async load(): Promise<void> {
		if (this.all) return;
		const { data } = await api.GET('/api/library').catch(() => ({ data: undefined }));
		if (data) this.all = data;
	}
}

export const shelf = new LibraryShelf();
