import rules from '$lib/api/rules.json';
import type { Job } from '$lib/api/client';

type Usual = typeof rules.practice;
type Said = NonNullable<Job['practice']>;

/** What a job follows: what somebody said, over what holds where nobody did. */
export function followed(said: Said | null | undefined): Usual & Said {
	return {
		...rules.practice,
		...said,
		ground_detail: { ...rules.practice.ground_detail, ...said?.ground_detail }
	} as Usual & Said;
}
