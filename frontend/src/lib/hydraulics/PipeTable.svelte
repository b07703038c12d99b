<script lang="ts">
	import type { Known, Pipe } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { fig, unitName } from '$lib/parts/units';
	import { USUAL } from '$lib/parts/usual';
	import { along } from '$lib/charts/pipesPlan';
	import { runOf, runPath, wayOf } from './runs';
	/** Every run, a line each: pressing one opens it beside the plan. */
	let { pipes, looked, look }: { pipes: Pipe[]; looked: string | null; look: (id: string) => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const setLength = (pipe: Pipe) => (value: number | null, proof?: Known) =>
		session.edit(`Pipe ${pipe.label || 'a run'}, length`, (d) => {
			const at = runPath(d, session.scheme, pipe.id);
			d.put(`${at}/length_m`, value);
			if (proof) d.set(`${at}/known/length_m`, proof);
		});
</script>

<div class="overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th>Run</th><th class="narrow:hidden">Pipe</th><th class="text-right">One way</th><th
					class="text-right narrow:hidden">Flow, {unitName('L/h')}</th
				><th class="text-right">Speed, {unitName('m/s')}</th><th class="text-right narrow:hidden"
					>Friction, {unitName('Pa/m')}</th
				><th class="text-right">Takes, {unitName('kPa')}</th></tr
			></thead
		>
		<tbody
			>{#each pipes as pipe (pipe.id)}
				{@const run = runOf(session.job, session.scheme, pipe.id)}
				{@const way = wayOf(run)}
				<tr class:index={pipe.on_index} class:on={pipe.id === looked} data-pipe={pipe.id}>
					<td style={`padding-left:${8 + pipe.depth * 12}px`}
						><button
							class="min-h-8 text-left underline decoration-muted decoration-dotted underline-offset-4 touch:min-h-12"
							class:font-semibold={pipe.id === looked}
							aria-pressed={pipe.id === looked}
							aria-label={`Open ${pipe.label || 'the run'}`}
							onclick={() => look(pipe.id)}>{pipe.label || 'a run'}</button
						>{#if pipe.on_index}<span
								class="ms-1.5 rounded-[3px] bg-water px-1.5 py-0 text-small font-bold text-on-water">index</span
							>{/if}{#if run?.proposed}<span class="ms-1.5 rounded-[3px] px-1.5 text-small hatch-doubt">by rule</span
							>{/if}</td
					><td class="narrow:hidden">{pipe.size_label}</td><td class="text-right"
						><NumberField
							label={`Length of ${pipe.label || 'a run'}`}
							between={USUAL.pipe_m}
							value={run?.length_m}
							placeholder={way.length > 1 ? fig(along(way), 'm', 1) : undefined}
							quantity="length"
							digits={1}
							width="5.2em"
							usual="inferred"
							known={run?.known?.length_m ?? null}
							by={session.person}
							commit={setLength(pipe)}
						/></td
					><td class="text-right narrow:hidden">{fig(pipe.flow_lph, 'L/h')}</td><td class="text-right whitespace-nowrap"
						>{#if pipe.fast}<span class="badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-short"
								>fast</span
							>{/if}
						{fig(pipe.velocity_m_s, 'm/s', 2)}</td
					><td class="text-right narrow:hidden">{fig(pipe.pa_per_m, 'Pa/m')}</td><td class="text-right font-semibold"
						>{fig(pipe.total_kpa, 'kPa', 1)}</td
					></tr
				>{/each}</tbody
		>
	</table>
</div>

<style>
	.index td {
		background: var(--water-pale);
	}
	.on td {
		box-shadow: inset 0 -2px 0 var(--heat);
	}
</style>
