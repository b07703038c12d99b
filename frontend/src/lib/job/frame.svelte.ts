import { inUnits } from '$lib/parts/units';
import { getContext, setContext } from 'svelte';
import { api, type Refusal, type Working } from '$lib/api/client';
import { DoubtDesk } from '$lib/house/doubts.svelte';
import type { JobSession } from './session.svelte';

/** The frame's shared state: the open job, the working drawer, which row is open, the theme. */
export class Frame {
	working = $state.raw<Working | null>(null);
	workingKey = $state<string | null>(null);
	workingError = $state<string | null>(null);
	findings = $state(false);
	openRoom = $state<string | null>(null);
	aside = $state(false);
	readonly doubts: DoubtDesk;

	constructor(readonly session: JobSession) {
		this.doubts = new DoubtDesk(session.id);
	}

	/** Whether something lies in the drawer. */
	get drawn(): boolean {
		return this.workingKey !== null || this.findings || this.aside;
	}

	/** Open the working behind a figure; asked again, it closes. */
	async showWorking(key: string): Promise<void> {
		if (this.workingKey === key) return this.closeDrawer();
		this.findings = false;
		this.aside = false;
		this.workingKey = key;
		await this.refreshWorking();
	}

	async refreshWorking(): Promise<void> {
		const key = this.workingKey;
		if (!key) return;
		const { data, error } = await api.GET('/api/jobs/{job_id}/working/{key}', {
			params: { path: { job_id: this.session.id, key } }
		});
		if (this.workingKey !== key) return;
		this.working = data ? inUnits(data) : null;
		this.workingError = data ? null : ((error as Refusal | undefined)?.message ?? 'No working here yet.');
	}

	showFindings(): void {
		this.workingKey = null;
		this.working = null;
		this.findings = !this.findings;
		this.aside = false;
	}

	/** The changes that met somebody else's. */
	showAside(): void {
		this.closeDrawer();
		this.aside = true;
	}

	closeDrawer(): void {
		this.workingKey = null;
		this.working = null;
		this.findings = false;
		this.aside = false;
	}
}

const KEY = Symbol('frame');

export function provideFrame(session: JobSession): Frame {
	return setContext(KEY, new Frame(session));
}

export function useFrame(): Frame {
	return getContext<Frame>(KEY);
}

/** Day and dusk, remembered on this machine. */
export class Theme {
	name = $state<'day' | 'dusk'>('day');

	start(): void {
		const kept = localStorage.getItem('cinder-theme');
		this.set(kept === 'dusk' || kept === 'day' ? kept : 'day');
	}

	set(name: 'day' | 'dusk'): void {
		this.name = name;
		document.documentElement.dataset.theme = name;
		localStorage.setItem('cinder-theme', name);
	}

	flip(): void {
		this.set(this.name === 'day' ? 'dusk' : 'day');
	}
}

export const theme = new Theme();
