<script lang="ts">
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import BringFile from '$lib/job/BringFile.svelte';
	import type { Wrong } from '$lib/job/files';
	import WrongFile from '$lib/job/WrongFile.svelte';
	import type { Refusal } from '$lib/api/client';
	import rules from '$lib/api/rules.json';
	import Choice from '$lib/parts/Choice.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	/** Papers of others: certificates, permissions, manuals, the invoice; a PDF or a picture each. */
	const session = $derived(useFrame().session);
	const papers = $derived(ordered(session.job?.handover?.papers));
	const base = '/handover/papers';
	const put = (path: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`${base}/${path}`, value));
	const kinds = rules.paper_kinds.map((value) => ({ value, label: value }));
	let wrong = $state.raw<Wrong | null>(null);
	let busy = $state('');
	async function bring(id: string | null, file: File): Promise<void> {
		busy = file.name;
		wrong = null;
		try {
			const media = file.type === 'application/pdf' || file.type.startsWith('image/') ? file.type : 'application/pdf';
			const answer = await fetch('/api/files', { method: 'PUT', headers: { 'content-type': media }, body: file });
			const said = (await answer.json()) as { sha256: string } & Refusal;
			if (!answer.ok) wrong = { message: `${file.name}: ${said.message} ${said.kept}`, places: [] };
			else
				await session.edit(`${file.name} brought in`, (d) => {
					const at = id ?? newId();
					if (id === null)
						d.set(`${base}/${at}`, { label: file.name.replace(/\.[^.]+$/, ''), pos: nextPos(d.job.handover?.papers) });
					d.set(`${base}/${at}/sha256`, said.sha256);
					d.set(`${base}/${at}/file_name`, file.name.slice(0, 200));
				});
		} catch {
			wrong = { message: `${file.name} was not sent: no line just now.`, places: [] };
		}
		busy = '';
	}
</script>

<div class="overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr><th>Kind</th><th>What</th><th>Who gave it</th><th>Number</th><th>Day</th><th>File</th><th></th></tr></thead
		>
		<tbody
			>{#each papers as [id, p] (id)}<tr
					><td class="w-44"
						><Choice
							label={`Kind of ${p.label}`}
							value={p.kind ?? 'other'}
							options={kinds}
							commit={put(`${id}/kind`, 'Kind of a paper')}
						/></td
					><td class="min-w-44"
						><TextField label={`What, ${p.label}`} value={p.label} commit={put(`${id}/label`, 'A paper')} /></td
					><td class="w-40"
						><TextField label={`Who gave ${p.label}`} value={p.by} commit={put(`${id}/by`, p.label ?? '')} /></td
					><td class="w-32"
						><TextField
							label={`Number of ${p.label}`}
							value={p.number}
							commit={put(`${id}/number`, p.label ?? '')}
						/></td
					><td class="w-38"
						><TextField
							type="date"
							label={`Day of ${p.label}`}
							value={p.day}
							commit={put(`${id}/day`, p.label ?? '')}
						/></td
					><td
						>{#if p.sha256}<a class="link" href={`/api/files/${p.sha256}`} download>{p.file_name || 'the file'}</a
							>{:else}<BringFile
								label={`Bring the file of ${p.label}`}
								hint="Bring its file"
								accept=".pdf,application/pdf,image/*"
								take={(file) => void bring(id, file)}
							/>{/if}</td
					><td
						><button
							class="btn btn-quiet"
							onclick={() => void session.edit(`${p.label} taken out`, (d) => d.remove(`${base}/${id}`))}
							>×<span class="sr-only">take {p.label} out</span></button
						></td
					></tr
				>{:else}<tr
					><td colspan="7" class="note"
						>None yet: certificates of the electrician, of the store, of the removed appliance; the network's answer;
						manuals; the invoice.</td
					></tr
				>{/each}</tbody
		>
	</table>
</div>
<div class="mt-2 flex flex-wrap items-center gap-3">
	<BringFile
		label="Bring a paper"
		hint="Bring a paper (PDF, picture)"
		accept=".pdf,application/pdf,image/*"
		take={(file) => void bring(null, file)}
	/>
	<button
		class="btn btn-outline"
		onclick={() =>
			void session.edit('A paper', (d) =>
				d.set(`${base}/${newId()}`, { label: 'A paper', pos: nextPos(d.job.handover?.papers) })
			)}>+ one whose file comes later</button
	>
	{#if busy}<span class="note" role="status">{busy} is brought in.</span>{/if}
</div>
{#if wrong}<WrongFile {wrong} close={() => (wrong = null)} />{/if}
