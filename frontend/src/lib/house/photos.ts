import { type Job } from '$lib/api/client';
import { newId, nextPos, type Draft } from '$lib/job/draft';
import { NO_ANSWER, said, type Said } from '$lib/api/said';
import { keep } from '$lib/job/keep';
import type { JobSession } from '$lib/job/session.svelte';

export const MOST_BYTES = 25 * 1024 * 1024;
export type About = { room?: string; face?: string; emitter?: string; item?: string };
export type PhotoDoc = NonNullable<NonNullable<Job['survey']>['photos']>[string];

async function fingerprint(data: Blob): Promise<string> {
	const hash = await crypto.subtle.digest('SHA-256', await data.arrayBuffer());
	return Array.from(new Uint8Array(hash), (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Take in a picture: kept in this browser at once, sent before the change that refers to it. Gives what was wrong. */
export async function addPhoto(session: JobSession, file: File, about: About): Promise<string | null> {
	if (file.size > MOST_BYTES) return `${file.name} has ${Math.round(file.size / 1e6)} MB; at most 25 are taken.`;
	const sha256 = await fingerprint(file);
	await keep.photos.put({ sha256, job: session.id, data: file });
	const photo = { sha256, caption: '', ...about, by: session.person, at: new Date().toISOString() };
	void session.edit(
		'Picture added',
		(d: Draft) => d.set(`/survey/photos/${newId()}`, { ...photo, pos: nextPos(d.job.survey?.photos) }),
		[sha256]
	);
	return null;
}

/** Send a picture that waits here; true when the server has it, what it says against it, null without a line. */
export async function sendPhoto(sha256: string): Promise<true | Said | null> {
	const waiting = await keep.photos.get(sha256);
	if (!waiting) return true;
	try {
		const answer = await fetch(`/api/photos/${sha256}`, {
			method: 'PUT',
			headers: {
				'content-type': waiting.data.type.startsWith('image/') ? waiting.data.type : 'application/octet-stream'
			},
			body: waiting.data
		});
		if (answer.ok) {
			await keep.photos.delete(sha256);
			return true;
		}
		if (NO_ANSWER.includes(answer.status)) return null;
		return said(answer.status, await answer.json().catch(() => null));
	} catch {
		return null;
	}
}

/** Where a picture can be seen: here while it waits, else on the server. */
export async function photoSource(sha256: string, size: 'thumb' | 'view'): Promise<string> {
	const waiting = await keep.photos.get(sha256);
	return waiting ? URL.createObjectURL(waiting.data) : `/api/photos/${sha256}?size=${size}`;
}

export function photosAbout(job: Job | null, about: About): [string, PhotoDoc][] {
	return Object.entries(job?.survey?.photos ?? {})
		.filter(([, photo]) => (Object.keys(about) as (keyof About)[]).every((key) => photo[key] === about[key]))
		.sort(([, a], [, b]) => (a.pos ?? 0) - (b.pos ?? 0));
}
