<script lang="ts">
	import { fig, unitName } from '$lib/parts/units';
	import type { Construction, Layer, Section } from '$lib/api/client';
	import { blankLayer } from './builds';
	import { shelf } from '$lib/job/library.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	let {
		entry,
		section,
		problems,
		chosen,
		change,
		onchoose
	}: {
		entry: Construction;
		section: Section | null;
		problems: Record<string, string>;
		chosen: number | null;
		change: (entry: Construction) => void;
		onchoose: (n: number | null) => void;
	} = $props();
	const materials = $derived(
		Object.entries(shelf.all?.materials ?? {}).sort(([, a], [, b]) => a.label.localeCompare(b.label))
	);
	const layers = $derived(entry.layers ?? []);

	function put(n: number, part: Partial<Layer>): void {
		change({ ...entry, layers: layers.map((layer, k) => (k === n ? { ...layer, ...part } : layer)) });
	}
	function fill(n: number, value: string): void {
		const clear = { material: null, lambda_w_mk: null, mu: null, r_m2kw: null, air: null, emissivity: null } as const;
		if (value === 'still' || value === 'slight' || value === 'open')
			put(n, {
				...clear,
				air: value,
				label: value === 'open' ? 'ventilated space' : 'air space',
				thickness_m: layers[n]?.thickness_m ?? 0.05
			});
		else if (value === 'resistance')
			put(n, {
				...clear,
				r_m2kw: 0.18,
				label: 'layer of stated resistance',
				thickness_m: null,
				bridge_share: null,
				bridge_lambda_w_mk: null,
				bridge_label: null
			});
		else if (value === 'other')
			put(n, {
				...clear,
				lambda_w_mk: layers[n]?.lambda_w_mk ?? 0.04,
				thickness_m: layers[n]?.thickness_m ?? 0.1,
				label: 'other material'
			});
		else {
			const m = shelf.all?.materials[value];
			if (m)
				put(n, {
					...clear,
					material: value,
					lambda_w_mk: m.lambda_w_mk,
					mu: m.mu,
					label: m.label,
					thickness_m: layers[n]?.thickness_m ?? 0.1
				});
		}
	}
	function cross(n: number, value: string): void {
		const m = shelf.all?.materials[value];
		put(
			n,
			m
				? { bridge_label: m.label, bridge_lambda_w_mk: m.lambda_w_mk, bridge_share: layers[n]?.bridge_share ?? 0.14 }
				: { bridge_label: null, bridge_lambda_w_mk: null, bridge_share: null }
		);
	}
	const fillOf = (layer: Layer): string =>
		layer.air ?? (layer.r_m2kw != null ? 'resistance' : (layer.material ?? 'other'));
	const bridgeOf = (layer: Layer): string =>
		layer.bridge_share == null ? '' : (materials.find(([, m]) => m.label === layer.bridge_label)?.[0] ?? 'kept');
	function move(n: number, by: number): void {
		const next = [...layers];
		const [one] = next.splice(n, 1);
		if (one) next.splice(n + by, 0, one);
		change({ ...entry, layers: next });
		onchoose(n + by);
	}
	function add(): void {
		change({ ...entry, layers: [...layers, blankLayer(shelf.all)] });
		onchoose(layers.length);
	}
</script>

<div class="overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th></th><th>Inside first</th><th class="text-right">Thick</th><th class="text-right">λ, {unitName('W/mK')}</th
				><th class="text-right">R, {unitName('m²K/W')}</th><th>Crossed by</th><th class="text-right">over</th><th
				></th></tr
			></thead
		>
		<tbody>
			{#each layers as layer, n (n)}
				{@const shown = section?.layers[n]}
				{@const wrong =
					problems[`/layers/${n}`] ??
					problems[`/layers/${n}/thickness_m`] ??
					problems[`/layers/${n}/lambda_w_mk`] ??
					problems[`/layers/${n}/r_m2kw`] ??
					problems[`/layers/${n}/bridge_share`]}
				<tr class="[&.faint]:opacity-60" class:chosen={chosen === n} class:faint={shown && !shown.counted}>
					<td class="w-5.5 font-bold">{n + 1}</td>
					<td>
						<select
							class="select min-h-8 w-full min-w-32.5 appearance-none bg-sheet ps-2 pe-7"
							aria-label={`Layer ${n + 1}`}
							value={fillOf(layer)}
							onfocus={() => onchoose(n)}
							onchange={(e) => fill(n, e.currentTarget.value)}
						>
							<optgroup label="Air"
								><option value="still">air, still</option><option value="slight">air, slightly ventilated</option
								><option value="open">air, open to the outside</option></optgroup
							>
							<optgroup label="By its figures"
								><option value="other"
									>{layer.material === null && layer.air == null && layer.r_m2kw == null
										? layer.label
										: 'other material'}</option
								><option value="resistance">stated resistance</option></optgroup
							>
							<optgroup label="Materials"
								>{#each materials as [key, m] (key)}<option value={key}
										>{m.label} · λ {fig(m.lambda_w_mk, 'W/mK', 3)}</option
									>{/each}</optgroup
							>
						</select>
					</td>
					<td class="text-right"
						>{#if layer.r_m2kw == null}<NumberField
								label={`Thickness of layer ${n + 1}`}
								value={layer.thickness_m == null ? null : layer.thickness_m * 1000}
								digits={layer.thickness_m && layer.thickness_m < 0.02 ? 1 : 0}
								unit="mm"
								width="6.2em"
								commit={(v) => put(n, { thickness_m: v === null ? null : v / 1000 })}
							/>{/if}</td
					>
					<td class="text-right"
						>{#if layer.air == null && layer.r_m2kw == null}<NumberField
								label={`Conductivity of layer ${n + 1}`}
								value={layer.lambda_w_mk}
								unit="W/mK"
								inHead
								digits={3}
								width="5em"
								commit={(v) => put(n, { lambda_w_mk: v, material: null, label: layer.label })}
							/>{/if}</td
					>
					<td class="text-right"
						>{#if layer.r_m2kw != null}<NumberField
								label={`Resistance of layer ${n + 1}`}
								value={layer.r_m2kw}
								unit="m²K/W"
								inHead
								digits={3}
								width="5em"
								commit={(v) => put(n, { r_m2kw: v })}
							/>{:else}{fig(shown?.r_m2kw, 'm²K/W', 3)}{/if}</td
					>
					<td>
						{#if layer.r_m2kw == null && layer.air !== 'open'}
							<select
								class="select min-h-8 w-full min-w-32.5 appearance-none bg-sheet ps-2 pe-7"
								aria-label={`What crosses layer ${n + 1}`}
								value={bridgeOf(layer)}
								onchange={(e) => cross(n, e.currentTarget.value)}
							>
								<option value="">nothing</option>{#if bridgeOf(layer) === 'kept'}<option value="kept"
										>{layer.bridge_label}</option
									>{/if}
								{#each materials as [key, m] (key)}<option value={key}
										>{m.label} · λ {fig(m.lambda_w_mk, 'W/mK', 3)}</option
									>{/each}
							</select>
						{/if}
					</td>
					<td class="text-right"
						>{#if layer.bridge_share != null}<NumberField
								label={`Share crossed in layer ${n + 1}`}
								value={layer.bridge_share * 100}
								digits={0}
								unit="%"
								width="4.6em"
								commit={(v) =>
									put(n, {
										bridge_share: v === null ? null : v / 100,
										...(v === null ? { bridge_label: null, bridge_lambda_w_mk: null } : {})
									})}
							/>{/if}</td
					>
					<td class="whitespace-nowrap">
						<button
							class="btn btn-quiet px-1.25 py-0"
							disabled={n === 0}
							aria-label={`Layer ${n + 1} further inside`}
							onclick={() => move(n, -1)}>↑</button
						><button
							class="btn btn-quiet px-1.25 py-0"
							disabled={n === layers.length - 1}
							aria-label={`Layer ${n + 1} further outside`}
							onclick={() => move(n, 1)}>↓</button
						><button
							class="btn btn-quiet px-1.25 py-0"
							aria-label={`Remove layer ${n + 1}`}
							onclick={() => change({ ...entry, layers: layers.filter((_, k) => k !== n) })}>✕</button
						>
					</td>
				</tr>
				{#if wrong}<tr
						><td></td><td colspan="7"
							><span class="badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-short" role="alert"
								>{wrong}</span
							></td
						></tr
					>{/if}
			{/each}
		</tbody>
	</table>
</div>
<button class="btn mt-1.5 btn-outline" onclick={add}>Add a layer</button>

<style>
	td,
	th {
		padding: 2px 4px;
	}

	.chosen td {
		background: var(--sheet);
	}
</style>
