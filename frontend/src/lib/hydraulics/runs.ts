import type { Job } from '$lib/api/client';
import type { Spot3 } from '$lib/charts/pipesPlan';
import type { Draft } from '$lib/job/draft';

type Run = NonNullable<NonNullable<NonNullable<Job['survey']>['pipes']>[string]>;

/** Where a run lies in the job a gesture will be applied to: in the scheme where that has its own, else in the survey. */
export function runPath(d: Draft, scheme: string | null, id: string): string {
	const own = scheme && d.job.schemes?.[scheme]?.pipes?.[id]?.run;
	return own ? `/schemes/${scheme}/pipes/${id}/run` : `/survey/pipes/${id}`;
}

/** A run as the scheme shown leaves it. */
export function runOf(job: Job | null, scheme: string | null, id: string): Run | null {
	const action = scheme ? job?.schemes?.[scheme]?.pipes?.[id] : undefined;
	return (action?.run as Run | undefined) ?? job?.survey?.pipes?.[id] ?? null;
}

export function wayOf(run: Run | null): Spot3[] {
	return (run?.way ?? []).map((p) => ({ x: p.x_m, y: p.y_m, z: p.z_m ?? 0 }));
}

const cm = (m: number): number => Math.round(m * 100) / 100;

/** A run's way; its length is the way's from now on. */
export function putWay(d: Draft, scheme: string | null, id: string, way: Spot3[]): void {
	const at = runPath(d, scheme, id);
	if (way.length < 2) d.remove(`${at}/way`);
	else
		d.set(
			`${at}/way`,
			way.map((p) => ({ x_m: cm(p.x), y_m: cm(p.y), z_m: cm(p.z) }))
		);
	if (way.length >= 2) {
		d.remove(`${at}/length_m`);
		d.remove(`${at}/known/length_m`);
	}
}
