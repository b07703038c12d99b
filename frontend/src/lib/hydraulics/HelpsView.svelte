<script lang="ts">
	import type { FlowsFound, Help } from '$lib/api/client';
	import PumpCurve from '$lib/charts/PumpCurve.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { num } from '$lib/parts/format';
	import { amount, fig, unitName } from '$lib/parts/units';
	let { found }: { found: FlowsFound } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const scheme = $derived(session.scheme);
	/** Taken up as one change of the scheme: a wider pipe in the place of one, or another spread. */
	function take(help: Help): void {
		if (help.kind === 'spread') {
			const spread = Number(help.key.split(':')[1]);
			void session.edit(`${num(spread)} K between flow and return`, (d) =>
				d.set(`/schemes/${scheme}/spread_k`, spread)
			);
		} else if (help.kind === 'pipe' && help.pipe && help.family && help.size) {
			const at = `/schemes/${scheme}/pipes/${help.pipe}`;
			void session.edit(`Renewed: ${help.label}`, (d) => {
				d.freeze('pipe_families', help.family!);
				if (!d.job.schemes?.[scheme ?? '']?.pipes?.[help.pipe!]?.run)
					d.set(at, {
						action: 'replace',
						run: structuredClone(d.job.survey?.pipes?.[help.pipe!] ?? {})
					});
				d.set(`${at}/run/family`, help.family);
				d.set(`${at}/run/size`, help.size);
			});
		}
	}
	const able = (help: Help): boolean => scheme !== null && (help.kind === 'pipe' || help.kind === 'spread');
</script>

<PumpCurve {found} />
<dl class="mt-1 mb-3 grid grid-cols-[repeat(auto-fill,minmax(160px,1fr))] gap-x-4 gap-y-1">
	<div>
		<dt>The house takes</dt>
		<dd>{amount(found.index_kpa, 'kPa', 1)}</dd>
	</div>
	<div>
		<dt>by what is known of its pipes</dt>
		<dd>{fig(found.p10_kpa, 'kPa', 0)} to {amount(found.p90_kpa, 'kPa', 0)}</dd>
	</div>
	<div>
		<dt>The pump has there</dt>
		<dd>{amount(found.head_kpa, 'kPa', 1)}</dd>
	</div>
	<div>
		<dt>and draws about</dt>
		<dd>{found.power_w == null ? '–' : `${num(found.power_w)} watts`}</dd>
	</div>
</dl>
<h2 class="mb-1">What would leave it more room</h2>
<table class="table table-figures">
	<thead
		><tr
			><th>Step</th><th class="text-right">Flow, {unitName('L/h')}</th><th class="text-right"
				>The house takes, {unitName('kPa')}</th
			><th class="text-right">Of the head</th><th>What it asks</th><th><span class="sr-only">Take it up</span></th></tr
		></thead
	>
	<tbody
		>{#each found.helps as help (help.key)}<tr
				><td class="font-semibold">{help.label}</td><td class="text-right">{fig(help.flow_lph, 'L/h')}</td><td
					class="text-right">{fig(help.index_kpa, 'kPa', 1)}</td
				><td class="text-right"
					>{help.used == null ? '–' : help.used > 1 ? 'too little' : `${num(100 * help.used)} %`}</td
				><td>{help.effort}<span class="block note">{help.drawback}</span></td><td class="text-right"
					>{#if able(help)}<button
							class="btn btn-quiet whitespace-nowrap"
							aria-label={`Take up: ${help.label}`}
							onclick={() => take(help)}>Take it up</button
						>{/if}</td
				></tr
			>{/each}</tbody
	>
</table>

<style>
	dt {
		font-size: var(--small);
		color: var(--muted);
	}
	dd {
		font-weight: 600;
		font-variant-numeric: tabular-nums;
	}
</style>
