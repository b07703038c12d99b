<script lang="ts">
	import { newId, nextPos } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const lines = $derived(session.shown?.waterline.manifolds ?? []);
	const kinds = $derived(Object.values(shelf.all?.manifold_parts ?? {}).map((k) => ({ value: k.id, label: k.label })));
	const rooms = $derived(
		Object.entries(job.survey?.rooms ?? {}).map(([value, r]) => ({ value, label: r.label || value }))
	);
	const FATE: Record<string, string> = { remove: 'remove', open: 'leave open', keep: 'stays', check: 'look at' };
	const label = (kind: string): string => shelf.all?.manifold_parts?.[kind]?.label ?? kind;
	function add(kind: string | null): void {
		if (kind)
			void session.edit(`At the manifold: ${label(kind)}`, (d) =>
				d.set(`/survey/manifolds/${newId()}`, { kind, pos: nextPos(d.job.survey?.manifolds) })
			);
	}
</script>

<section class="mt-4.5 grid gap-1.5 border-t border-t-ink pt-2.5" aria-label="At the manifolds">
	<h2>At the manifolds: to remove, to open</h2>
	{#if lines.length}
		<table class="table table-figures">
			<thead
				><tr
					><th>What</th><th>Serves</th><th>One temperature for all</th><th>Why, and how</th><th
						>Keep it all the same, because</th
					><th></th></tr
				></thead
			>
			<tbody>
				{#each lines as line (line.id)}
					{@const own = line.emitter === null}
					{@const doc = job.survey?.manifolds?.[line.id]}
					<tr>
						<td class="last:whitespace-nowrap nth-[2]:min-w-35.5"
							><b>{line.label}</b>{line.count > 1 ? ` × ${line.count}` : ''}</td
						>
						<td class="last:whitespace-nowrap nth-[2]:min-w-35.5"
							>{#if own}<Choice
									label={`Room of ${line.label}`}
									value={doc?.rooms?.[0]}
									empty="not said"
									options={rooms}
									commit={(v) =>
										void session.edit(`${line.label}, room`, (d) =>
											d.set(`/survey/manifolds/${line.id}/rooms`, v ? [v] : [])
										)}
								/>{:else}{line.rooms.join(', ')}{/if}</td
						>
						<td class="last:whitespace-nowrap nth-[2]:min-w-35.5"
							><span class="fate inline-block rounded-[3px] bg-ash px-2 py-px whitespace-nowrap {line.fate}"
								>{FATE[line.fate]}</span
							></td
						>
						<td class="note last:whitespace-nowrap nth-[2]:min-w-35.5">{line.why} {line.how}</td>
						<td class="last:whitespace-nowrap nth-[2]:min-w-35.5"
							>{#if own && line.fate !== 'check'}<TextField
									label={`Why ${line.label} stays`}
									value={doc?.keep ?? ''}
									placeholder={line.fate === 'keep' && !doc?.keep ? '–' : 'a reason'}
									commit={(v) =>
										session.edit(`${line.label}: ${v ? 'stays' : 'as usual'}`, (d) =>
											d.put(`/survey/manifolds/${line.id}/keep`, v)
										)}
								/>{/if}</td
						>
						<td class="last:whitespace-nowrap nth-[2]:min-w-35.5"
							>{#if own}<button
									class="btn btn-quiet"
									aria-label={`Not there: ${line.label}`}
									onclick={() =>
										void session.edit(`${line.label}: not there`, (d) => d.remove(`/survey/manifolds/${line.id}`))}
									>not there</button
								>{/if}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	{:else}<p class="note">
			Nothing recorded. Blending valves, pumps, zone valves and actuators at floor manifolds mostly go when one
			temperature serves the whole house: look for them on the walk-round.
		</p>{/if}
	<div class="max-w-65">
		<Choice label="Found at a manifold" value={null} empty="+ found at a manifold" options={kinds} commit={add} />
	</div>
</section>

<style>
	.fate.remove,
	.fate.open {
		background: var(--ink);
		color: var(--paper);
	}
	.fate.check {
		outline: 1px solid var(--ink);
		background: transparent;
	}
</style>
