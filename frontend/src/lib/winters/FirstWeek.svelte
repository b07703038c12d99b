<script lang="ts">
	import type { WinterFound } from '$lib/api/client';
	import { day, num } from '$lib/parts/format';
	import { difference, unitName } from '$lib/parts/units';
	/** Which of four things is not as it was thought: four comparisons, their chances, and the test that would decide. */
	let { proof }: { proof: NonNullable<WinterFound['proof']> } = $props();
	const shown = $derived(proof.chances.filter((c) => c.chance >= 0.01));
	const bar = (off: number): number => Math.max(-5, Math.min(5, off)) * 10;
</script>

<h2>
	The first cold weeks: {proof.label.toLowerCase()}
	<span class="note font-normal">{num(100 * proof.chance)} %, from {day(proof.first)}, {proof.hours} cold hours</span>
</h2>
<table class="table table-figures">
	<tbody
		>{#each proof.comparisons as c (c.key)}<tr
				><td
					>{c.label}{#if c.why}<span class="block note">{c.why}</span>{/if}</td
				><td class="text-right whitespace-nowrap"
					>{c.unit === 'K'
						? `${c.value > 0 ? '+' : ''}${num(difference(c.value, 'K'), 1)} ${unitName('K')}`
						: `${num(100 * c.value)} %`}</td
				><td class="w-[38%]"
					><svg
						viewBox="0 0 100 10"
						preserveAspectRatio="none"
						class="block h-3.5 w-full"
						role="img"
						aria-label={`${num(Math.abs(c.off), 1)} times its own doubt ${c.off > 0 ? 'above' : 'below'}`}
						><rect x="40" y="0" width="20" height="10" class="doubt" /><rect
							x={Math.min(50, 50 + bar(c.off))}
							y="3"
							width={Math.abs(bar(c.off))}
							height="4"
							class={Math.abs(c.off) > 2 && !c.why ? 'far' : 'near'}
						/><line x1="50" x2="50" y1="0" y2="10" class="even" /></svg
					></td
				></tr
			>{/each}</tbody
	>
</table>
<p class="note">
	{#each shown as c, n (c.key)}{n ? '; ' : ''}{n ? c.label.toLowerCase() : c.label} {num(100 * c.chance)} %{/each}.
	Grey: what a comparison is off by where nothing is wrong.{#if proof.lacks.length}
		Not read: {proof.lacks.join('; ')}.{/if}
</p>
<p><b>What would decide it:</b> {proof.test}</p>

<style>
	.doubt {
		fill: var(--hairline);
		opacity: 0.35;
	}
	.near {
		fill: var(--water);
	}
	.far {
		fill: var(--short);
	}
	.even {
		stroke: var(--ink);
		vector-effect: non-scaling-stroke;
	}
</style>
