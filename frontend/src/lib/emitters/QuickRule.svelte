<script lang="ts">
	import { api } from '$lib/api/client';
	import { num } from '$lib/parts/format';
	import { lengthText } from '$lib/parts/units';
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

<details class="tablebox">
	<summary>Quick rule for the walk round</summary>
	<div class="rule">
		<div class="asks">
			<label
				>Load<NumberField
					label="Load of the room"
					value={load}
					digits={0}
					unit="W"
					width="100%"
					commit={(v) => void (v !== null && (load = v))}
				/></label
			>
			<label
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
			<label
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
		{#if rule.refused}<p class="hatch-short wrong" role="alert">{rule.refused}</p>
		{:else if rule.found}
			<table class="plain-table">
				<thead
					><tr
						><th>Panel</th><th class="right">Gives, W per m² of face</th><th class="right">Face needed</th><th
							class="right">Length</th
						></tr
					></thead
				>
				<tbody
					>{#each rule.found.rows as row (row.type)}<tr
							><td>{row.label}</td><td class="right">{num(row.w_per_m2)}</td><td class="right"
								>{num(row.area_m2, 2)}<span class="unit">m²</span></td
							><td class="right">{lengthText(row.length_m)}</td></tr
						>{/each}</tbody
				>
			</table>
		{/if}
		<p class="note">
			Room 20 °C, about ± 15 %, common practice. Mean water is the flow less half the spread. <a
				href="/api/quick-rule.pdf"
				download>Print it as a card</a
			>
		</p>
	</div>
</details>

<style>
	.rule {
		display: grid;
		gap: 8px;
		max-width: 620px;
	}
	.asks {
		display: grid;
		grid-template-columns: 1fr 1fr 1fr;
		gap: 10px;
	}
	label {
		font-size: var(--small);
		color: var(--muted);
	}
	.wrong {
		padding: 2px 8px;
		border-radius: 4px;
	}
</style>
