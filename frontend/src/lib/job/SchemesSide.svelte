<script lang="ts">
	import { api } from '$lib/api/client';
	import { money, num } from '$lib/parts/format';
	import { useFrame } from './frame.svelte';
	import { copyScheme } from './schemes';
	import { Slow } from './slow.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const side = new Slow(() =>
		api.GET('/api/jobs/{job_id}/schemes', { params: { path: { job_id: frame.session.id } } })
	);
	$effect(() => {
		if (session.settled) side.ask();
	});
	const rows = $derived(side.found?.side.rows ?? []);
	const heads = $derived(rows[0]?.figures ?? []);
</script>

<section aria-label="Schemes side by side" class:old={side.busy && rows.length > 0}>
	<div class="head">
		<h2>Schemes side by side</h2>
		{#if session.scheme}<button class="act" onclick={() => copyScheme(session)}>Keep this one, go on with a copy</button
			>{/if}
	</div>
	{#if rows.length}
		<div class="scroll">
			<table class="plain-table">
				<thead
					><tr
						><th>Scheme</th>{#each heads as figure (figure.key)}<th class="right">{figure.label}</th>{/each}<th
							class="right">Electricity a year</th
						><th class="right">Costs a year</th><th class="right">Changes cost</th><th></th></tr
					></thead
				>
				<tbody>
					{#each rows as row (row.id ?? '')}
						<tr class:on={row.shown}>
							<td
								><b>{row.label}</b>{#if row.changes}<span class="note block"
										>{row.changes}
										{row.changes === 1 ? 'change' : 'changes'}{#if row.short}, <span class="hatch-short tag"
												>{row.short} short</span
											>{/if}</span
									>{/if}</td
							>
							{#each row.figures as figure (figure.key)}<td class="right"
									>{#if figure.value === null}<span class="note">{figure.lacks || '–'}</span>{:else}{num(
											figure.value,
											figure.digits
										)}<span class="unit">{figure.unit}</span>{/if}</td
								>{/each}
							<td class="right">{num(row.electricity_kwh)}<span class="unit">kWh</span></td>
							<td class="right">{money(row.bill_minor, currency)}</td>
							<td class="right">{row.cost_minor ? money(row.cost_minor, currency) : '–'}</td>
							<td class="right"
								>{#if row.shown}<span class="shown">shown</span>{:else}<button
										class="quiet"
										aria-label={`Show ${row.label}`}
										onclick={() =>
											void session.edit(row.id ? 'Other scheme' : 'As found', (d) => d.set('/active_scheme', row.id))}
										>show</button
									>{/if}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		<p class="note">
			The same chain for each. Changes cost what was written into the scheme when they were taken; what was entered by
			hand has no price.
		</p>
	{/if}
</section>

<style>
	section {
		margin-top: 16px;
		border-top: 1px solid var(--ink);
		padding-top: 10px;
	}
	.old {
		opacity: 0.65;
	}
	.head {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 16px;
	}
	h2 {
		font-size: 20px;
	}
	.scroll {
		overflow-x: auto;
	}
	.on td {
		background: var(--sheet);
	}
	.block {
		display: block;
	}
	.tag {
		padding: 0 6px;
		border-radius: 4px;
	}
	.shown {
		color: var(--meets);
		font-weight: 600;
	}
	td {
		white-space: nowrap;
	}
</style>
