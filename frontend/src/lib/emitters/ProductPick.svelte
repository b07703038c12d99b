<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import Fold from '$lib/parts/Fold.svelte';
	import { api, type Product } from '$lib/api/client';
	import { sendFile, type Wrong } from '$lib/job/files';
	import { money } from '$lib/parts/format';
	import { Slow } from '$lib/job/slow.svelte';
	import BringFile from '$lib/job/BringFile.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import WrongFile from '$lib/job/WrongFile.svelte';
	let { currency, target, take }: { currency: string; target: string | null; take: (one: Product) => void } = $props();
	const lists = new Slow(() => api.GET('/api/catalogues'));
	let wanted = $state('');
	let kind = $state<string | null>(null);
	let list = $state<string | null>(null);
	let wrong = $state.raw<Wrong | null>(null);
	let said = $state('');
	const own = $derived((lists.found?.lists ?? []).filter((l) => l.own));
	const every = $derived(
		(lists.found?.lists ?? [])
			.filter((l) => !list || l.list.id === list)
			.flatMap((l) => l.list.products.map((p) => ({ ...p, from: l.list.label, mark: `${l.list.id}/${p.id}` })))
	);
	const found = $derived(
		every.filter(
			(p) =>
				(!kind || p.kind === kind) &&
				(!wanted || `${p.label} ${p.type ?? ''}`.toLowerCase().includes(wanted.toLowerCase()))
		)
	);
	const MOST = 60;
	const KINDS = [
		{ value: 'panel', label: 'panels' },
		{ value: 'fan', label: 'fan units' },
		{ value: 'skirting', label: 'skirting' },
		{ value: 'loop', label: 'floor boards and loops' }
	];

	async function bring(file: File): Promise<void> {
		const label = file.name.replace(/\.[^.]+$/, '');
		const { made, wrong: bad } = await sendFile<{ label: string; products: number; edition: number }>(
			`/api/catalogues?label=${encodeURIComponent(label)}`,
			'text/csv',
			file
		);
		wrong = bad;
		said = made
			? `“${made.label}” is kept, edition ${made.edition}: ${made.products} ${made.products === 1 ? 'product' : 'products'}.`
			: '';
		if (made) lists.ask();
	}
	async function forget(id: string): Promise<void> {
		await api
			.DELETE('/api/company/{kind}/{key}', { params: { path: { kind: 'catalogues', key: id } } })
			.catch(() => undefined);
		if (list === id) list = null;
		said = '';
		lists.ask();
	}
</script>

<Fold title="Sizes and products" opened={() => void lists.ask()}>
	<div class="mb-1.5 grid grid-cols-[1.2fr_1fr_1fr_auto_auto] items-center gap-2 narrow:grid-cols-[1fr_1fr]">
		<input
			class="input w-full bg-sheet"
			placeholder="Word in its name"
			aria-label="Search the products"
			bind:value={wanted}
		/>
		<Choice label="Kind of product" value={kind} empty="every kind" options={KINDS} commit={(v) => (kind = v)} />
		<Choice
			label="List"
			value={list}
			empty="every list"
			options={(lists.found?.lists ?? []).map((l) => ({
				value: l.list.id,
				label: `${l.list.label}${l.own ? `, edition ${l.edition}` : ''}`
			}))}
			commit={(v) => (list = v)}
		/>
		<BringFile
			label="Bring in a list of products"
			hint="Bring in a maker's list (CSV)"
			accept=".csv,text/csv"
			take={(file) => void bring(file)}
		/>
		<a class="btn btn-quiet" download href="/api/catalogue.csv">the form it has to have</a>
	</div>
	{#if said}<p role="status">{said}</p>{/if}
	{#if wrong}<WrongFile {wrong} close={() => (wrong = null)} />{/if}
	{#each own as one (one.list.id)}<p class="note">
			{one.list.label}: {one.list.products.length} products, edition {one.edition}.
			<button class="btn btn-quiet" onclick={() => void forget(one.list.id)}>forget this list</button>
		</p>{/each}
	<div class="max-h-75 overflow-auto border-t border-t-hairline">
		<table class="table table-figures">
			<thead
				><tr
					><th>Product</th><th class="text-right">Length × height</th><th class="text-right"
						>Gives at {amount(50, 'K')}</th
					><th class="text-right">Water</th><th class="text-right">Weight</th><th class="text-right">About</th><th
					></th></tr
				></thead
			>
			<tbody>
				{#each found.slice(0, MOST) as one (one.mark)}
					<tr>
						<td>{one.label}<span class="block note">{one.from}</span></td>
						<td class="text-right"
							>{one.length_m
								? `${fig(one.length_m * 1000, 'mm')} × ${fig((one.height_m ?? 0) * 1000, 'mm')}`
								: one.spacing_m
									? `${amount(one.spacing_m * 1000, 'mm')} apart`
									: '–'}</td
						>
						<td class="text-right"
							>{one.k_w_m2k
								? `${amount(one.k_w_m2k, 'W/m²K', 2)}`
								: `${amount(one.speeds?.length ? one.speeds[0]!.output_w : one.output_w, 'W')}`}{#if (one.speeds?.length ?? 0) > 1}<span
									class="note"
								>
									to {fig(one.speeds!.at(-1)!.output_w, 'W')}</span
								>{/if}</td
						>
						<td class="text-right">{fig(one.water_l, 'L', 1)}<span class="unit">{unitName('L')}</span></td>
						<td class="text-right">{fig(one.weight_kg, 'kg')}<span class="unit">{unitName('kg')}</span></td>
						<td class="text-right">{money(one.price_minor, currency)}</td>
						<td
							>{#if target}<button class="btn btn-quiet" aria-label={`Put ${one.label} here`} onclick={() => take(one)}
									>put here</button
								>{/if}</td
						>
					</tr>
				{:else}<tr><td colspan="7" class="note">Nothing of that kind: loosen the choice.</td></tr>{/each}
			</tbody>
		</table>
	</div>
	{#if found.length > MOST}<p class="note">{MOST} of {found.length} shown.</p>{/if}
</Fold>
