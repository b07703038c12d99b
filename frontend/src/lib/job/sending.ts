import { api, type Answer, type Onward } from '$lib/api/client';
import { keep, type Waiting } from './keep';
import { sendPhoto } from '$lib/house/photos';
import { NO_ANSWER, said, type Said } from '$lib/api/said';

/** What came of sending gestures: the answer after the last one kept, the ids kept; what was said against the first. */
export type Outcome = { answer?: Answer | Onward; kept: string[] } & Said;

/** Send one gesture, or several edits in one letter. null: no answer; try again with the same ids. */
export async function send(row: Waiting[], holds: number | undefined): Promise<Outcome | null> {
	try {
		return await (row.length > 1 ? together(row, holds) : alone(row[0]!, holds));
	} catch {
		return null;
	}
}

/** What is not kept goes alone afterwards, so that its refusal or its fault is told as ever. */
async function together(row: Waiting[], holds: number | undefined): Promise<Outcome | null> {
	const path = { job_id: row[0]!.job };
	const changes = await Promise.all(row.map(letter));
	const { data, response } = await api.POST('/api/jobs/{job_id}/changes/row', {
		params: { path, query: { holds } },
		body: { changes }
	});
	if (data) return { answer: data, kept: data.kept };
	return NO_ANSWER.includes(response.status) ? null : { kept: [] };
}

async function alone(gesture: Waiting, holds: number | undefined): Promise<Outcome | null> {
	for (const sha256 of gesture.photos) {
		const sent = await sendPhoto(sha256);
		if (sent === null) return null;
		if (sent !== true) return { kept: [], ...sent };
	}
	const { data, error, response } = await post(gesture, holds);
	if (data) return { answer: data, kept: [gesture.id] };
	return NO_ANSWER.includes(response.status) ? null : { kept: [], ...said(response.status, error) };
}

async function post(gesture: Waiting, holds: number | undefined) {
	const params = { path: { job_id: gesture.job }, query: { holds } };
	if (gesture.kind === 'undo')
		return api.POST('/api/jobs/{job_id}/undo', { params, body: { id: gesture.id, of: gesture.of } });
	return api.POST('/api/jobs/{job_id}/changes', { params, body: await letter(gesture) });
}

/** With what this browser is known to have sent since, from whichever page: one's own changes do not meet each other. */
async function letter({ id, job, base, label, operations, knows, schema }: Waiting) {
	const all = [...new Set([...knows, ...(await keep.sentSince(job, base))])].slice(-2000);
	return { id, base_version: base, schema_version: schema ?? 1, label, operations, knows: all };
}
