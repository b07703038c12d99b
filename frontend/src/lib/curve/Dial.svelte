<script lang="ts">
	import type { Dialled } from '$lib/api/client';
	import type { Draft } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Delta from '$lib/parts/Delta.svelte';
	import { num } from '$lib/parts/format';
	import Asked from '$lib/parts/Asked.svelte';
	import { difference, fig, unitName } from '$lib/parts/units';
	import { USUAL } from '$lib/parts/usual';
	import type { Snippet } from 'svelte';
	let {
		rows,
		label,
		moves = {},
		before,
		children
	}: {
		rows: Dialled[];
		label: string;
		/** What the last edit did to a row, by its key. */
		moves?: Record<string, { before: number | null; after: number | null } | undefined>;
		/** What else belongs to the same change, before the figure is set. */
		before?: (draft: Draft) => void;
		children?: Snippet;
	} = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const movable = $derived(session.scheme !== null);
	const shown = (row: Dialled): string =>
		row.value == null
			? '–'
			: row.quantity === '°C'
				? fig(row.value, '°C', row.digits)
				: num(row.quantity === 'K' ? difference(row.value, 'K') : row.value, row.digits);
	const unit = (row: Dialled): string => (row.quantity === '' ? '' : unitName(row.quantity));
	const set = (row: Dialled) => (value: number | null) =>
		session.edit(`${label}, ${row.label.toLowerCase()}`, (d) => {
			before?.(d);
			d.put(row.path, value);
		});
	const own = $derived(rows.filter((row) => row.path));
	const usual = (row: Dialled) => (row.quantity === '°C' && /flow_c$/.test(row.path) ? USUAL.flow_c : undefined);
</script>

<dl class="dial rounded-md border border-hairline bg-sheet px-3.5 py-2">
	{#each rows as row (row.key)}
		<div class="grid min-h-9 grid-cols-[1fr_auto_auto] items-center gap-x-2 py-0.5">
			<dt>
				{row.label}{#if row.entered && row.key !== 'limit'}<span class="note"> · by hand</span>{/if}
				{#if row.note}<span class="block text-small text-muted">{row.note}</span>{/if}
			</dt>
			<dd class="text-right">
				<b class="figure text-[22px] font-bold">{shown(row)}<span class="unit">{unit(row)}</span></b>
			</dd>
			<dd>
				{#if moves[row.key]}<Delta move={moves[row.key]} unit="°C" />{/if}
			</dd>
		</div>
	{/each}
</dl>
{#if movable && own.length}
	<h3 class="mt-1 font-semibold">Or enter your own</h3>
	<div class="grid grid-cols-[1fr_1fr] items-end gap-x-3 gap-y-2">
		{#each own as row (row.key)}
			<Asked
				ask={row.label}
				label={row.label}
				value={row.entered ? row.value : null}
				placeholder={shown(row)}
				quantity={row.quantity === '°C' ? 'temperature' : 'plain'}
				digits={row.digits}
				unit={row.quantity}
				between={usual(row)}
				commit={set(row)}
			/>
		{/each}
		{@render children?.()}
	</div>
{/if}
