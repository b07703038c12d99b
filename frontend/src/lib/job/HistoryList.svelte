<script lang="ts">
	import { api, type History } from '$lib/api/client';
	import { clock, num } from '$lib/parts/format';
	import { decimals, difference, unitName } from '$lib/parts/units';
	import { useFrame } from './frame.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	let entries = $state.raw<History['entries']>([]);

	$effect(() => {
		void session.version;
		const later = setTimeout(async () => {
			const { data } = await api.GET('/api/jobs/{job_id}/history', { params: { path: { job_id: session.id } } });
			if (data) entries = data.entries.slice(0, 40);
		}, 250);
		return () => clearTimeout(later);
	});
	const UNITS: Record<string, [string, number]> = {
		loss: ['kW', 2],
		flow: ['°C', 1],
		cover: ['% cover', 0],
		season: ['season', 2],
		head: ['% head', 0],
		open: ['L', 0]
	};
	const together = (edits: number | undefined): string =>
		(edits ?? 1) > 1 ? `, with the ${edits === 2 ? 'edit' : `${(edits ?? 1) - 1} edits`} before it` : '';
	function did(effect: History['entries'][number]['effect']): string {
		return Object.entries(effect?.headline ?? {})
			.filter(([, m]) => m.before !== null && m.after !== null)
			.map(([key, m]) => ({ key, change: m.after! - m.before!, unit: UNITS[key] ?? (['', 1] as [string, number]) }))
			.map(({ key, change, unit: [unit, digits] }) => ({
				key,
				change: difference(change, unit),
				unit: unitName(unit),
				digits: decimals(unit, digits)
			}))
			.filter(({ change, digits }) => Math.abs(change) >= 0.5 * 10 ** -digits)
			.map(
				({ key, change, unit, digits }) =>
					`${change > 0 ? '+' : ''}${num(change, digits)} ${unit}${key === 'open' ? ' open' : ''}`
			)
			.join(', ');
	}
</script>

<ol class="max-h-52.5 overflow-auto">
	{#each entries as entry (entry.version)}
		<li class="grid grid-cols-[82px_1fr] gap-1.5 border-t border-t-hairline px-0 py-0.75 text-small">
			<span class="note">{entry.version} · {clock(entry.at)}</span>
			<span
				>{entry.kind === 'undo' ? 'Undone: ' : entry.kind === 'redo' ? 'Redone: ' : ''}{entry.label}<span class="note">
					{did(entry.effect)}{did(entry.effect) && together(entry.effect?.edits)}</span
				></span
			>
		</li>
	{/each}
</ol>
