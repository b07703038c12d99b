<script lang="ts">
	import type { PackFound, RecordLine } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	/** Every record of the pack as it stands: ready, what it lacks, why it is not needed. */
	let { found, turn }: { found: PackFound; turn: (view: 'papers' | 'plates' | 'review' | 'upkeep') => void } = $props();
	const session = $derived(useFrame().session);
	const groups = $derived([...new Set(found.records.map((r) => r.group))]);
	const WORDS: Record<RecordLine['state'], string> = { ready: 'ready', lacks: 'lacks', 'not needed': 'not needed' };
	const put = (key: string, label: string) => (value: string) =>
		session.edit(`${label} not needed`, (d) => d.put(`/handover/not_needed/${key}`, value));
	let saying = $state('');
	const HERE: Record<string, 'papers' | 'plates' | 'review' | 'upkeep'> = {
		review: 'review',
		warranties: 'plates',
		upkeep: 'upkeep'
	};
	const view = (r: RecordLine) => HERE[r.key] ?? (r.own.length && !r.paper ? 'papers' : null);
</script>

{#each groups as group (group)}
	{@const held = found.records.filter((r) => r.group === group)}
	<section class="mb-4">
		<h2 class="flex items-baseline gap-3">
			{group}<span class="note">{held.filter((r) => r.state === 'ready').length} of {held.length} ready</span>
		</h2>
		{#each held as r (r.key)}
			{@const at = view(r)}
			<div
				class="grid grid-cols-[92px_minmax(0,1fr)_auto] items-baseline gap-x-3 border-t border-t-hairline py-1.5"
				data-record={r.state}
			>
				<span
					class={[
						'rounded-sm px-1.5 text-small',
						r.state === 'ready' && 'bg-meets-pale',
						r.state === 'lacks' && 'hatch-short',
						r.state === 'not needed' && 'text-muted'
					]}>{WORDS[r.state]}</span
				>
				<div class="min-w-0">
					<p>
						<b>{r.label}</b> <span class="note">{r.what}</span>
					</p>
					{#if r.state === 'lacks'}<p class="text-small">
							{r.lacks.join('; ')}.
							{#if at}<button class="btn btn-quiet" onclick={() => turn(at)}
									>bring it here<span class="sr-only">, {r.label}</span></button
								>{:else if r.screen !== 'pack'}<a class="link" href={`/job/${session.id}/${r.screen}`}
									>there it is entered</a
								>{/if}
						</p>{/if}
					{#if r.state === 'not needed'}<p class="text-small text-muted">because {r.why}</p>{/if}
					{#if saying === r.key || r.said}<div class="mt-1 max-w-120">
							<TextField
								label={`Why ${r.label} is not needed`}
								placeholder="not needed here, because …"
								value={session.job?.handover?.not_needed?.[r.key] ?? ''}
								commit={put(r.key, r.label)}
							/>
						</div>{/if}
				</div>
				<div class="flex flex-wrap justify-end gap-2">
					{#if r.paper && r.state !== 'not needed'}<a
							class="btn btn-quiet"
							href={`/api/jobs/${session.id}/report?kind=${r.paper}`}
							target="_blank"
							rel="noopener">open<span class="sr-only"> {r.label}</span></a
						>{/if}
					{#if r.table && r.state === 'ready'}<a
							class="btn btn-quiet"
							href={`/api/jobs/${session.id}/${r.table}`}
							download>{r.table.split('.').at(-1)!.toUpperCase()}<span class="sr-only"> of {r.label}</span></a
						>{/if}
					{#if r.state === 'lacks' && saying !== r.key}<button class="btn btn-quiet" onclick={() => (saying = r.key)}
							>not needed<span class="sr-only">: {r.label}</span></button
						>{/if}
				</div>
			</div>
		{/each}
	</section>
{/each}
