<script lang="ts">
	import { api, type ReadingsLook, type Source } from '$lib/api/client';
	import BringFile from '$lib/job/BringFile.svelte';
	import { sendFile, type Wrong } from '$lib/job/files';
	import { useFrame } from '$lib/job/frame.svelte';
	import WrongFile from '$lib/job/WrongFile.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { day, num } from '$lib/parts/format';
	let { sources, changed }: { sources: Source[]; changed: () => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	let file = $state.raw<File | null>(null);
	let look = $state.raw<ReadingsLook | null>(null);
	let mapped = $state<Record<string, string>>({});
	let wrong = $state.raw<Wrong | null>(null);
	let said = $state('');
	let busy = $state(false);
	const path = { job_id: frame.session.id };
	const options = $derived(Object.entries(look?.channels ?? {}).map(([value, label]) => ({ value, label })));
	const kindOf = (one: File): string =>
		one.name.toLowerCase().endsWith('.xlsx')
			? 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
			: 'text/csv';
	async function bring(one: File): Promise<void> {
		said = '';
		busy = true;
		const answer = await sendFile<ReadingsLook>(`/api/jobs/${session.id}/readings/look`, kindOf(one), one);
		busy = false;
		wrong = answer.wrong;
		look = answer.made;
		file = answer.made ? one : null;
		mapped = Object.fromEntries((answer.made?.columns ?? []).map((c) => [c.name, c.channel]));
	}
	async function take(): Promise<void> {
		if (!file) return;
		busy = true;
		const query = new URLSearchParams({ label: file.name, mapped: JSON.stringify(mapped) });
		const url = `/api/jobs/${session.id}/readings?${query.toString()}`;
		const answer = await sendFile<{ added: number; notes: string[] }>(url, kindOf(file), file);
		busy = false;
		wrong = answer.wrong;
		if (!answer.made) return;
		said = [`${num(answer.made.added)} moments kept.`, ...answer.made.notes].join(' ');
		[file, look] = [null, null];
		changed();
	}
	async function forget(id: string): Promise<void> {
		const { error } = await api.DELETE('/api/jobs/{job_id}/readings/{source}', {
			params: { path: { ...path, source: id } }
		});
		said = (error as { message?: string } | undefined)?.message ?? 'Gone.';
		changed();
	}
</script>

{#if sources.length}
	<ul class="grid gap-1.5">
		{#each sources as s (s.id)}<li class="border-t border-t-hairline pt-1.5">
				<div class="flex flex-wrap items-baseline gap-3">
					<b>{s.label}</b><span class="note"
						>{s.count
							? `${num(s.count)} moments, ${day(s.first ?? s.at)} to ${day(s.last ?? s.at)}`
							: 'nothing read yet'}</span
					><button class="btn ms-auto btn-quiet" onclick={() => void forget(s.id)}>let go of</button>
				</div>
				{#if s.told.length}<details class="text-small text-muted">
						<summary class="min-h-7 cursor-pointer"
							>{s.told.length === 1 ? '1 remark' : `${s.told.length} remarks`}: {s.told[0]}</summary
						>
						<ul class="ps-5">
							{#each s.told.slice(1) as one (one)}<li>{one}</li>{/each}
						</ul>
					</details>{/if}
			</li>{/each}
	</ul>
{:else}<p class="note">No readings yet.</p>{/if}
<div class="flex flex-wrap items-center gap-3">
	<BringFile
		label="Bring readings"
		hint="Bring readings (CSV, XLSX)"
		accept=".csv,.xlsx,text/csv"
		take={(one) => void bring(one)}
	/>
	{#if busy}<span class="note" role="status">Being read.</span>{/if}
	{#if said}<span class="note" role="status">{said}</span>{/if}
</div>
{#if wrong}<WrongFile {wrong} close={() => (wrong = null)} />{/if}
{#if look}
	<h3 class="font-semibold">Which column is which</h3>
	<table class="table table-figures">
		<thead><tr><th>Column</th><th>Begins with</th><th>It is</th></tr></thead>
		<tbody
			>{#each look.columns as c (c.name)}<tr
					><td>{c.name}</td><td class="text-muted">{c.sample}</td><td
						><Choice
							label={`What ${c.name} is`}
							value={mapped[c.name] || null}
							empty="left out"
							{options}
							commit={(v) => (mapped = { ...mapped, [c.name]: v ?? '' })}
						/></td
					></tr
				>{/each}</tbody
		>
	</table>
	<div class="flex gap-3">
		<button class="btn btn-neutral" onclick={() => void take()}>Take them</button>
		<button class="btn btn-quiet" onclick={() => ([file, look] = [null, null])}>leave it</button>
	</div>
{/if}
