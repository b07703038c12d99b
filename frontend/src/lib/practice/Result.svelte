<script lang="ts">
	import type { PracticeFound } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	let { score }: { score: NonNullable<PracticeFound['score']> } = $props();
	const parts = $derived([
		{ label: 'Comfort in the month after', got: score.comfort, of: 40 },
		{ label: 'Efficiency, as far as it was warm', got: score.efficiency, of: 20 },
		{ label: `Faults found, ${score.found} of ${score.of}`, got: score.faults, of: 30 },
		{ label: 'Nothing turned without need', got: score.moves, of: 10 }
	]);
</script>

<div class="grid grid-cols-[auto_1fr] gap-8 narrow:grid-cols-[1fr]">
	<p class="figure text-[64px] leading-none font-bold" aria-label={`${score.total} of 100`}>
		{score.total}<span class="unit text-lead"> of 100</span>
	</p>
	<dl class="grid max-w-[620px] gap-1">
		{#each parts as p (p.label)}<div class="grid grid-cols-[1fr_160px_5em] items-center gap-3">
				<dt>{p.label}</dt>
				<dd class="h-3 bg-ash"><i class="block h-full bg-ink" style={`width:${(p.got / p.of) * 100}%`}></i></dd>
				<dd class="text-right tabular-nums">{p.got} of {p.of}</dd>
			</div>{/each}
	</dl>
</div>
<ul class="grid gap-1 py-2">
	{#each score.says as one (one)}<li>{one}</li>{/each}
</ul>
<h2>What was wrong</h2>
<table class="table table-figures">
	<thead><tr><th>Fault</th><th>Where</th><th>Found</th><th>Shows first</th><th>From day</th></tr></thead>
	<tbody
		>{#each score.told as t (t.key + t.where)}<tr
				><td>{t.label}</td><td>{t.where || '–'}</td><td
					><span class="rounded-sm px-1" class:hatch-short={!t.found}>{t.found ? 'found' : 'not found'}</span></td
				><td>{t.clue}</td><td
					>{t.first_day === null
						? 'only by looking at the thing itself'
						: t.first_day === 1
							? 'the first'
							: num(t.first_day)}</td
				></tr
			>{/each}</tbody
	>
</table>
