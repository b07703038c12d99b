import { api, type Answer, type Refusal } from './api/client';
import type { Waiting } from './keep';
import { sendPhoto } from './photos';

/** What came of sending gestures: the answer after the last one kept, the ids kept, a refusal of the first. */
export type Outcome = { answer?: Answer; kept: string[]; refusal?: { error: Refusal; status: number } };

/** Send one gesture, or several edits in one letter. null: no answer; try again with the same ids. */
export async function send(row: Waiting[]): Promise<Outcome | null> {
	try {
		return await (row.length > 1 ? together(row) : alone(row[0]!));
	} catch {
		return null;
	}
}

/** What is not kept goes alone afterwards, so that its refusal is told as ever. */
async function together(row: Waiting[]): Promise<Outcome | null> {
	const path = { job_id: row[0]!.job };
	const { data, response } = await api.POST('/api/jobs/{job_id}/changes/row', { params: { path }, body: { changes: row.map(letter) } });
	if (data) return { answer: data, kept: data.kept };
	return response.status >= 500 ? null : { kept: [] };
}

async function alone(gesture: Waiting): Promise<Outcome | null> {
	for (const sha256 of gesture.photos) {
		const sent = await sendPhoto(sha256);
		if (sent === null) return null;
		if (sent !== true) return { kept: [], refusal: { error: { message: sent } as Refusal, status: 400 } };
	}
	const { data, error, response } = await post(gesture);
	if (data) return { answer: data, kept: [gesture.id] };
	return response.status >= 500 ? null : { kept: [], refusal: { error: error as Refusal, status: response.status } };
}

function post(gesture: Waiting) {
	const path = { job_id: gesture.job };
	if (gesture.kind === 'undo') return api.POST('/api/jobs/{job_id}/undo', { params: { path }, body: { id: gesture.id, of: gesture.of } });
	return api.POST('/api/jobs/{job_id}/changes', { params: { path }, body: letter(gesture) });
}

function letter({ id, base, label, operations, knows }: Waiting) {
	return { id, base_version: base, schema_version: 1, label, operations, knows };
}
