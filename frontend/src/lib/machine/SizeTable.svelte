<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { CandidateResult } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	let {
		rows,
		seen,
		outdoor,
		flow,
		look,
		choose,
		drop
	}: {
		rows: CandidateResult[];
		seen: string | undefined;
		outdoor: number | null | undefined;
		flow: number | null | undefined;
		look: (id: string) => void;
		choose: (id: string, label: string) => void;
		drop: (id: string, label: string) => void;
	} = $props();
	const percent = (share: number | null | undefined, digits = 0): string =>
		num(share == null ? null : share * 100, digits);
</script>

<div class="mt-1.5 overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th>Machine</th><th class="text-right">Gives at {fig(outdoor, '°C')} / {amount(flow, '°C')}</th><th
					class="text-right">The day asks</th
				><th class="text-right">Cover</th><th class="text-right">COP there</th><th class="text-right"
					>On and off above</th
				><th class="text-right">Of its hours</th><th class="text-right">Backup below</th><th class="text-right"
					>Of the heat</th
				><th><span class="sr-only">Choose</span></th></tr
			></thead
		>
		<tbody>
			{#each rows as r (r.id)}
				<tr class:seen={r.id === seen}>
					<td class="h-11"
						><button class="min-h-11 text-left font-semibold whitespace-nowrap" onclick={() => look(r.id)}
							>{r.label}<span class="block note">{r.refrigerant}{r.kind === 'split' ? ', split' : ''}</span></button
						></td
					>
					<td class="h-11 text-right whitespace-nowrap"
						>{outdoor == null || flow == null ? '–' : r.inside ? fig(r.output_w / 1000, 'kW', 2) : 'outside'}<span
							class="unit">{r.inside ? unitName('kW') : 'its envelope'}</span
						></td
					>
					<td class="h-11 text-right whitespace-nowrap"
						>{fig(r.needed_w == null ? null : r.needed_w / 1000, 'kW', 2)}<span class="unit">{unitName('kW')}</span></td
					>
					<td class="h-11 text-right whitespace-nowrap"
						>{#if r.cover != null && r.cover < 1 && (r.backup === 'boiler' || r.backup === 'new boiler')}<span
								class="block note">the boiler the rest</span
							>{:else if r.cover != null && r.cover < 1}<span
								class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
								>short</span
							>{/if}
						{percent(r.cover)}<span class="unit">%</span></td
					>
					<td class="h-11 text-right whitespace-nowrap"
						>{outdoor == null || flow == null ? '–' : num(r.cop, 2)}{#if r.extrapolated}<span
								class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-doubt"
								>extrapolated</span
							>{/if}</td
					>
					<td class="h-11 text-right whitespace-nowrap"
						>{fig(r.cycles_above_c, '°C')}<span class="unit">{unitName('°C')}</span></td
					>
					<td class="h-11 text-right whitespace-nowrap">{percent(r.cycling_share)}<span class="unit">%</span></td>
					<td class="h-11 text-right whitespace-nowrap"
						>{r.cover == null ? '–' : r.bivalent_c == null ? 'never' : fig(r.bivalent_c, '°C')}<span class="unit"
							>{r.bivalent_c == null ? '' : unitName('°C')}</span
						></td
					>
					<td class="h-11 text-right whitespace-nowrap">{percent(r.backup_share, 1)}<span class="unit">%</span></td>
					<td class="h-11 text-right whitespace-nowrap">
						{#if r.chosen}<strong class="text-meets">chosen</strong>{:else}<button
								class="btn min-h-9 btn-outline px-2.5 py-0"
								onclick={() => choose(r.id, r.label)}>Choose</button
							>{/if}
						<button class="btn btn-quiet" aria-label={`Stop comparing ${r.label}`} onclick={() => drop(r.id, r.label)}
							>drop</button
						>
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
</div>

<style>
	th,
	td {
		padding-inline: 6px;
	}
	.seen td {
		background: var(--sheet);
	}
</style>
