<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import { takeAway } from '$lib/job/pointers';
	import type { Known, Pipe } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import type { Draft } from '$lib/job/draft';
	import type { Option } from '$lib/parts/choices';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import TextField from '$lib/parts/TextField.svelte';
	let { pipe, sizes }: { pipe: Pipe; sizes: Option[] } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const scheme = $derived(session.scheme);
	const work = $derived(session.shown?.pipework);
	const inScheme = $derived(pipe.action !== 'keep');
	/** Where the run lies in the job a gesture will be applied to. */
	function base(d: Draft): string {
		const own = scheme && d.job.schemes?.[scheme]?.pipes?.[pipe.id]?.run;
		return own ? `/schemes/${scheme}/pipes/${pipe.id}/run` : `/survey/pipes/${pipe.id}`;
	}
	const run = $derived(
		(inScheme ? session.job?.schemes?.[scheme ?? '']?.pipes?.[pipe.id]?.run : session.job?.survey?.pipes?.[pipe.id]) ??
			{}
	);
	const size = $derived(run.family && run.size ? `${run.family} ${run.size}` : null);
	const name = $derived(pipe.label || 'a run');

	function below(id: string): Set<string> {
		const found = new Set([id]);
		let grew = true;
		while (grew) {
			grew = false;
			for (const other of work?.pipes ?? [])
				if (other.parent && found.has(other.parent) && !found.has(other.id)) {
					found.add(other.id);
					grew = true;
				}
		}
		return found;
	}
	const parents = $derived.by(() => {
		const own = below(pipe.id);
		return (work?.pipes ?? [])
			.filter((p) => !own.has(p.id) && (p.emitter === null || p.id === pipe.parent))
			.map((p) => ({ value: p.id, label: p.label || p.id }));
	});
	const ends = $derived.by(() => {
		const served = new Set(work?.pipes.map((p) => p.emitter));
		return (session.shown?.rooms ?? []).flatMap((r) =>
			r.emitters
				.filter((e) => e.id === pipe.emitter || !served.has(e.id))
				.map((e) => ({ value: e.id, label: r.emitters.length > 1 ? `${r.label}: ${e.label}` : r.label }))
		);
	});

	const put = (field: string, what: string) => (value: unknown, proof?: Known) =>
		session.edit(`Pipe ${name}, ${what}`, (d) => {
			d.put(`${base(d)}/${field}`, value);
			if (proof) d.set(`${base(d)}/known/${field}`, proof);
		});
	function setSize(value: string | null): void {
		void session.edit(`Pipe ${name}, size`, (d: Draft) => {
			const at = base(d);
			if (!value) return [d.remove(`${at}/family`), d.remove(`${at}/size`)];
			const [family = '', bore = ''] = value.split(' ');
			d.freeze('pipe_families', family);
			d.set(`${at}/family`, family);
			d.set(`${at}/size`, bore);
			return null;
		});
	}
	/** In a scheme the found pipe stays in the survey; what replaces it lies in the scheme. */
	function swap(): void {
		void session.edit(`Pipe ${name}, new in the scheme`, (d) =>
			d.set(`/schemes/${scheme}/pipes/${pipe.id}`, {
				action: 'replace',
				run: structuredClone(d.job.survey?.pipes?.[pipe.id] ?? {})
			})
		);
	}
	function away(): void {
		void session.edit(`Pipe ${name} removed`, (d) => {
			if (base(d).startsWith('/schemes')) return d.remove(`/schemes/${scheme}/pipes/${pipe.id}`);
			takeAway(d, 'pipe', pipe.id);
		});
	}
</script>

<tr class:index={pipe.on_index} data-pipe={pipe.id}>
	<td>
		<div class="name flex min-w-44.5 items-center gap-1.5 narrow:min-w-34" style={`padding-left: ${pipe.depth * 10}px`}>
			<TextField
				label={`Name of ${name}`}
				value={pipe.label}
				bare
				commit={(v) => session.edit('Pipe named', (d) => d.set(`${base(d)}/label`, v))}
			/>
			{#if pipe.on_index}<span class="rounded-[3px] bg-water px-1.5 py-0 text-small font-bold text-on-water">index</span
				>{/if}
		</div>
	</td>
	<td class="w-31 max-w-33 min-w-25 narrow:hidden"
		><Choice
			label={`Where ${name} comes from`}
			value={pipe.parent}
			empty="machine"
			options={parents}
			commit={(v) => void put('parent', 'from')(v)}
		/></td
	>
	<td class="w-31 max-w-33 min-w-25"
		><Choice
			label={`What ${name} serves`}
			value={pipe.emitter}
			empty="runs on"
			options={ends}
			commit={(v) => void put('emitter', 'serves')(v)}
		/></td
	>
	<td class="min-w-42"
		><Choice label={`Size of ${name}`} value={size} empty="not known" options={sizes} commit={setSize} /></td
	>
	<td class="text-right"
		><NumberField
			label={`Length of ${name}`}
			between={USUAL.pipe_m}
			value={run.length_m}
			quantity="length"
			digits={1}
			width="5.2em"
			usual="inferred"
			known={run.known?.length_m ?? null}
			by={session.person}
			commit={put('length_m', 'length')}
		/></td
	>
	<td class="text-right narrow:hidden"
		><NumberField
			label={`Elbows of ${name}`}
			value={run.fittings?.elbow ?? 0}
			quantity="whole"
			width="3.6em"
			commit={(v) => put('fittings/elbow', 'elbows')(v ?? 0)}
		/></td
	>
	<td class="text-right whitespace-nowrap narrow:hidden"
		>{fig(pipe.flow_lph, 'L/h')}<span class="unit">{unitName('L/h')}</span></td
	>
	<td class="text-right whitespace-nowrap"
		>{#if pipe.fast}<span class="badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-short"
				>fast</span
			>{/if}
		{fig(pipe.velocity_m_s, 'm/s', 2)}<span class="unit">{unitName('m/s')}</span><br /><span class="note"
			>{amount(pipe.pa_per_m, 'Pa/m')}</span
		></td
	>
	<td class="text-right whitespace-nowrap"
		><button
			class="fig min-h-8 font-semibold underline decoration-muted decoration-dotted underline-offset-4"
			onclick={() => void frame.showWorking(`pipe:${pipe.id}`)}
			aria-label={`Loss of ${name}: show the working`}
			>{fig(pipe.total_kpa, 'kPa', 1)}<span class="unit">{unitName('kPa')}</span></button
		></td
	>
	<td class="whitespace-nowrap">
		{#if scheme && !inScheme}<button
				class="btn btn-quiet min-h-6 px-1 text-small touch:min-h-12"
				onclick={swap}
				aria-label={`Renew ${name} in the scheme`}>renew</button
			>{/if}
		<button class="btn btn-quiet min-h-6 px-1 text-small touch:min-h-12" onclick={away} aria-label={`Remove ${name}`}
			>{pipe.action === 'replace' ? 'as found' : 'remove'}</button
		>
	</td>
</tr>

<style>
	td {
		padding: 2px 4px;
	}
	.index td {
		background: var(--water-pale);
	}
</style>
