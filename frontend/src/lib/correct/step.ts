import type { CorrectionFound } from '$lib/api/client';
import { newId, type Draft } from '$lib/job/draft';

type Move = NonNullable<CorrectionFound['step']>;
type On = { dial: { entered: boolean; path: string }[]; base: string; by: string };

/** The line through two points, with who and why; what was dialled in by itself gives way to it. */
export function writeStep(d: Draft, on: On, move: Move, verdict: string, reason: string): void {
	for (const row of on.dial) if (row.entered && row.path.split('/').length > 5) d.remove(row.path);
	d.set(`${on.base}/cold_flow_c`, move.cold_after_c);
	d.set(`${on.base}/mild_flow_c`, move.mild_after_c);
	d.set(`/fire_up/corrections/${newId()}`, {
		pos: Date.now() / 1e6,
		at: new Date().toISOString(),
		by: on.by,
		verdict,
		why: reason,
		cold_out_c: move.cold_out_c,
		mild_out_c: move.mild_out_c,
		cold_before_c: move.cold_before_c,
		mild_before_c: move.mild_before_c,
		cold_after_c: move.cold_after_c,
		mild_after_c: move.mild_after_c
	});
}
