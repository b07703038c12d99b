<script lang="ts">
	import type { FireStep } from '$lib/api/client';
	let { steps, shown, take }: { steps: FireStep[]; shown: string; take: (key: string) => void } = $props();
	const groups = $derived([...new Set(steps.map((s) => s.group))]);
	const mark = (s: FireStep): string =>
		s.needs_reason
			? '!'
			: s.state === 'done'
				? '✓'
				: s.state === 'not needed'
					? '–'
					: s.state === 'waits' || s.waits
						? '…'
						: '';
	const words = (s: FireStep): string =>
		s.needs_reason
			? 'off, no reason yet'
			: s.state === 'done'
				? s.off
					? 'done, off with a reason'
					: 'done'
				: s.state === 'waits'
					? 'waits for its day'
					: s.waits || s.state;
</script>

<nav aria-label="Steps" class="grid content-start gap-2">
	{#each groups as group (group)}
		<div>
			<h3 class="text-small text-muted">{group}</h3>
			<ul>
				{#each steps.filter((s) => s.group === group) as s (s.key)}<li>
						<button
							class="grid min-h-8 w-full grid-cols-[1.6em_1fr] items-center gap-1 rounded-sm px-1.5 text-left aria-[current=step]:bg-ink aria-[current=step]:text-paper touch:min-h-12"
							aria-current={s.key === shown ? 'step' : undefined}
							onclick={() => take(s.key)}
							><span
								class="grid size-5 place-items-center rounded-full border border-current text-small font-bold"
								class:bg-meets={s.state === 'done' && !s.needs_reason}
								class:text-paper={s.state === 'done' && !s.needs_reason}
								class:hatch-short={s.needs_reason}
								aria-hidden="true">{mark(s)}</span
							><span>{s.label}<span class="sr-only">, {words(s)}</span></span></button
						>
					</li>{/each}
			</ul>
		</div>
	{/each}
</nav>
