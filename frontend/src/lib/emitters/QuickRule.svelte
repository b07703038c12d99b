<script lang="ts">
	import Fold from '$lib/parts/Fold.svelte';
	import { api } from '$lib/api/client';
	import { amount, fig, lengthText, system, unitName } from '$lib/parts/units';
	import { Slow } from '$lib/job/slow.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	let load = $state(1000);
	let mean = $state(40);
	let height = $state(0.6);
	const rule = new Slow(() =>
		api.GET('/api/quick-rule', { params: { query: { mean_c: mean, load_w: load, height_m: height } } })
	);
	$effect(() => {
		if (load && mean && height) rule.ask();
	});
</script>

<Fold title="Quick rule for the walk round">
	<div class="grid max-w-155 gap-2">
		<div class="grid grid-cols-[1fr_1fr_1fr] gap-2.5">
			<label class="text-small text-muted"
				>Load<NumberField
					label="Load of the room"
					value={load}
					digits={0}
					unit="W"
					width="100%"
					commit={(v) => void (v !== null && (load = v))}
				/></label
			>
			<label class="text-small text-muted"
				>Mean water<NumberField
					label="Mean water"
					value={mean}
					quantity="temperature"
					digits={0}
					unit="°C"
					width="100%"
					commit={(v) => void (v !== null && (mean = v))}
				/></label
			>
			<label class="text-small text-muted"
				>Height<NumberField
					label="Height of the panel"
					value={height}
					quantity="length"
					digits={3}
					width="100%"
					commit={(v) => void (v !== null && (height = v))}
				/></label
			>
		</div>
		{#if rule.refused}<p class="rounded-sm px-2 py-0.5 hatch-short" role="alert">{rule.refused}</p>
		{:else if rule.found}
			<table class="table table-figures">
				<thead
					><tr
						><th>Panel</th><th class="text-right">Gives, {unitName('W/m²')} of face</th><th class="text-right"
							>Face needed</th
						><th class="text-right">Length</th></tr
					></thead
				>
				<tbody
					>{#each rule.found.rows as row (row.type)}<tr
							><td>{row.label}</td><td class="text-right">{fig(row.w_per_m2, 'W/m²')}</td><td class="text-right"
								>{fig(row.area_m2, 'm²', 2)}<span class="unit">{unitName('m²')}</span></td
							><td class="text-right">{lengthText(row.length_m)}</td></tr
						>{/each}</tbody
				>
			</table>
		{/if}
		<p class="note">
			Room {amount(20, '°C')}, about ± 15 %, common practice. Mean water is the flow less half the spread.
			<a href={`/api/quick-rule.pdf?feet=${system.feet}`} download>Print it as a card</a>
		</p>
	</div>
</Fold>
