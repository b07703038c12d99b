<script lang="ts">
	import { sendFile, type Wrong } from '$lib/job/files';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import BringFile from '$lib/job/BringFile.svelte';
	import WrongFile from '$lib/job/WrongFile.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	let wrong = $state.raw<Wrong | null>(null);
	let said = $state('');
	const own = $derived(Object.keys(shelf.all?.own?.place_rules ?? {}));
	const copies = $derived(session.job?.library?.place_rules ?? {});
	/** The company's rules this job does not follow in their present edition. */
	const fresh = $derived(own.filter((id) => copies[id]?.sha256 !== shelf.all?.sha256.place_rules?.[id]));
	const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
	async function bring(file: File): Promise<void> {
		const kind = /\.xlsx$/i.test(file.name) ? XLSX : 'text/csv';
		const { made, wrong: bad } = await sendFile<{ rules: { label: string }[] }>('/api/place-rules', kind, file);
		wrong = bad;
		said = !made
			? ''
			: made.rules.length
				? `Kept for the company: ${made.rules.map((one) => one.label).join('; ')}.`
				: 'Nothing in it differs from the general distances.';
		if (made) await shelf.refresh();
	}
	const follow = (): void =>
		void session.edit('The company’s distances followed', (d) => {
			for (const id of fresh) {
				d.remove(`/library/place_rules/${id}`);
				d.freeze('place_rules', id);
			}
		});
	const general = (): void =>
		void session.edit('The general distances followed', (d) => {
			for (const id of Object.keys(copies)) d.remove(`/library/place_rules/${id}`);
		});
</script>

<div class="mt-2 flex flex-wrap items-center gap-2.5">
	<span class="note"
		>Distances: {Object.keys(copies).length ? 'the company’s, beside the general ones' : 'the general ones'}</span
	>
	{#if fresh.length}<button class="btn btn-outline" onclick={follow}>Follow the company’s ({fresh.length})</button>{/if}
	{#if Object.keys(copies).length}<button class="btn btn-quiet" onclick={general}>back to the general ones</button>{/if}
	<BringFile
		label="Bring in distances"
		hint="Bring in distances (CSV, XLSX)"
		accept=".csv,.xlsx,text/csv"
		take={(file) => void bring(file)}
	/>
	<a class="note" download href="/api/place-rules.csv">the file to edit</a>
</div>
{#if said}<p class="note" role="status">{said}</p>{/if}
{#if wrong}<WrongFile {wrong} close={() => (wrong = null)} />{/if}
