<script lang="ts">
	import { api, type MachineDoc } from '$lib/api/client';
	import { sendFile, type Wrong } from '$lib/job/files';
	import { shelf } from '$lib/job/library.svelte';
	import BringFile from '$lib/job/BringFile.svelte';
	import WrongFile from '$lib/job/WrongFile.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import TypedMachine from './TypedMachine.svelte';
	type Taken = { machines: { id: string; label: string; edition: number; worked_out: number; lacks: string[] }[] };
	let wrong = $state.raw<Wrong | null>(null);
	let taken = $state.raw<Taken['machines']>([]);
	/** The machine that is typed: one of our own looked at again, or a new one. */
	let typed = $state.raw<MachineDoc | 'new' | null>(null);
	const own = $derived(Object.keys(shelf.all?.own?.machines ?? {}).flatMap((id) => shelf.all?.machines[id] ?? []));
	const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

	async function bring(file: File): Promise<void> {
		const kind = /\.xlsx$/i.test(file.name) ? XLSX : 'text/csv';
		const { made, wrong: bad } = await sendFile<Taken>('/api/machines', kind, file);
		wrong = bad;
		taken = made?.machines ?? [];
		if (made) await shelf.refresh();
	}
	async function forget(id: string): Promise<void> {
		await api
			.DELETE('/api/company/{kind}/{key}', { params: { path: { kind: 'machines', key: id } } })
			.catch(() => undefined);
		await shelf.refresh();
	}
</script>

<div class="min-w-0">
	<Fold title={`The company's own machines${own.length ? ` (${own.length})` : ''}`}>
		<div class="flex flex-wrap items-center gap-2.5">
			<BringFile
				label="Bring in machines"
				hint="Bring in machines (CSV, XLSX)"
				accept=".csv,.xlsx,text/csv"
				take={(file) => void bring(file)}
			/>
			<button class="btn btn-outline" onclick={() => (typed = 'new')}>Type one</button>
			<span class="note"
				>the form to fill: <a download href="/api/machines.xlsx">workbook</a>,
				<a download href="/api/machines.csv">CSV</a></span
			>
		</div>
		{#if wrong}<WrongFile {wrong} close={() => (wrong = null)} />{/if}
		{#each taken as one (one.id)}<p role="status">
				{one.label} is kept, edition {one.edition}{one.worked_out
					? `; ${one.worked_out} of its points are worked out from their neighbours`
					: ''}.{#if one.lacks.length}<span class="block note">Nobody says {one.lacks.join('; ')}.</span>{/if}
			</p>{/each}
		{#each own as one (one.id)}<p class="flex flex-wrap items-center gap-2">
				<strong>{one.label}</strong><span class="note"
					>{one.refrigerant}, edition {shelf.all?.own?.machines?.[one.id]}</span
				><button class="btn btn-quiet" onclick={() => (typed = one)}>look at its map</button><button
					class="btn btn-quiet"
					onclick={() => void forget(one.id)}>forget it</button
				>
			</p>{/each}
	</Fold>
	{#if typed}<TypedMachine
			known={typed === 'new' ? null : typed}
			kept={() => {
				typed = null;
				void shelf.refresh();
			}}
			close={() => (typed = null)}
		/>{/if}
</div>
