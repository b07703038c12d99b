<script lang="ts">
	import type { CorrectionFound } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { difference, fig, unitName } from '$lib/parts/units';
	let { found }: { found: CorrectionFound } = $props();
	const signed = (k: number | null): string =>
		k === null ? '–' : Math.abs(k) < 0.05 ? '0.0' : `${k > 0 ? '+' : ''}${num(difference(k, 'K'), 1)}`;
</script>

<table class="table table-figures">
	<thead
		><tr
			><th>Room</th><th class="text-right">Asks for, {unitName('°C')}</th><th class="text-right"
				>Was, {unitName('°C')}</th
			><th class="text-right">Beside what it asks for, {unitName('K')}</th><th class="text-right"
				>Beside what is expected at this water, {unitName('K')}</th
			><th class="text-right">Spread, of expected</th><th class="text-right">By the sun, {unitName('K')}</th><th
				class="text-right">Looks</th
			></tr
		></thead
	>
	<tbody
		>{#each found.rooms as r (r.id)}<tr
				><td>{r.label}</td><td class="text-right">{fig(r.target_c, '°C')}</td><td class="text-right"
					>{fig(r.seen_c, '°C', 1)}</td
				><td class="text-right"
					><span class:hatch-short={(r.off_target_k ?? 0) < -0.8} class="rounded-sm px-1">{signed(r.off_target_k)}</span
					></td
				><td class="text-right">{signed(r.off_expected_k)}</td><td class="text-right"
					>{r.spread_ratio == null ? '–' : `${num(r.spread_ratio, 1)} ×`}</td
				><td class="text-right">{r.swing_k == null ? '–' : signed(r.swing_k)}</td><td class="text-right">{r.looks}</td
				></tr
			>{/each}</tbody
	>
</table>
<p class="note">
	The middle of all looks. An open emitter may float above what its room asks for: that is expected, and stands in the
	second difference alone.
</p>
