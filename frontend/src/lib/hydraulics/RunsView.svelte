<script lang="ts">
	import type { Pipe, RoutesFound } from '$lib/api/client';
	import PipesPlan from '$lib/charts/PipesPlan.svelte';
	import type { Spot3 } from '$lib/charts/pipesPlan';
	import { useFrame } from '$lib/job/frame.svelte';
	import type { Option } from '$lib/parts/choices';
	import Fold from '$lib/parts/Fold.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import { amount, unitName } from '$lib/parts/units';
	import type { Snippet } from 'svelte';
	import { newId, nextPos, type Draft } from '$lib/job/draft';
	import PipeSide from './PipeSide.svelte';
	import PipeTable from './PipeTable.svelte';
	import { putWay, runOf, wayOf } from './runs';
	let {
		pipes,
		sizes,
		plan,
		busy,
		children
	}: { pipes: Pipe[]; sizes: Option[]; plan: RoutesFound | undefined; busy: boolean; children?: Snippet } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const scheme = $derived(session.scheme);
	let looked = $state<string | null>(null);
	const pipe = $derived(pipes.find((p) => p.id === looked) ?? pipes.findLast((p) => p.on_index) ?? pipes[0]);
	const runs = $derived(
		pipes
			.map((p) => {
				const run = runOf(session.job, scheme, p.id);
				return { pipe: p, way: wayOf(run), proposed: run?.proposed ?? false };
			})
			.filter((r) => r.way.length > 1)
	);
	const unlaid = $derived(pipes.length - runs.length);
	let preview = $state(false);
	const ghosts = $derived(
		preview && plan ? plan.runs.map((r) => r.way_m.map(([x, y, z]) => ({ x: x ?? 0, y: y ?? 0, z: z ?? 0 }))) : []
	);
	const way = $derived(pipe ? wayOf(runOf(session.job, scheme, pipe.id)) : []);
	const same = (a: Spot3 | undefined, b: Spot3): boolean => !!a && Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z) < 0.02;
	function move(n: number, to: Spot3): void {
		if (!pipe) return;
		const from = way[n]!;
		void session.edit(`Pipe ${pipe.label || 'a run'}, moved`, (d) => {
			putWay(
				d,
				scheme,
				pipe.id,
				way.map((p, k) => (k === n ? { ...to, z: p.z } : p))
			);
			if (n !== way.length - 1) return;
			// what branches off its end goes with it
			for (const other of pipes.filter((p) => p.parent === pipe.id)) {
				const theirs = wayOf(runOf(d.job, scheme, other.id));
				if (same(theirs[0], from)) putWay(d, scheme, other.id, [{ ...to, z: from.z }, ...theirs.slice(1)]);
			}
		});
	}
	const bend = (after: number, at: Spot3): unknown =>
		pipe &&
		session.edit(`Pipe ${pipe.label || 'a run'}, a bend`, (d) =>
			putWay(d, scheme, pipe.id, [...way.slice(0, after + 1), at, ...way.slice(after + 1)])
		);
	const remove = (n: number): unknown =>
		pipe &&
		way.length > 2 &&
		session.edit(`Pipe ${pipe.label || 'a run'}, a bend taken out`, (d) =>
			putWay(
				d,
				scheme,
				pipe.id,
				way.filter((_, k) => k !== n)
			)
		);
	/** The whole proposal in the place of what is there, but for the primaries it hangs on. */
	function takeUp(): void {
		if (!plan) return;
		const found = plan;
		const ids = new Map(found.runs.map((r) => [r.id, newId()]));
		void session.edit('Pipes laid by rule', (d: Draft) => {
			d.freeze('pipe_families', found.runs[0]?.family ?? 'copper');
			if (scheme) {
				for (const id of Object.keys(d.job.schemes?.[scheme]?.pipes ?? {}))
					if (id !== found.keeps) d.remove(`/schemes/${scheme}/pipes/${id}`);
				for (const id of Object.keys(d.job.survey?.pipes ?? {}))
					if (id !== found.keeps) d.set(`/schemes/${scheme}/pipes/${id}`, { action: 'remove' });
			} else
				for (const id of Object.keys(d.job.survey?.pipes ?? {}))
					if (id !== found.keeps) d.remove(`/survey/pipes/${id}`);
			found.runs.forEach((r, n) => {
				const short = r.length_m <= 0.3;
				const run = {
					label: r.label,
					pos: 100 + n,
					...(r.parent || found.keeps ? { parent: r.parent ? ids.get(r.parent) : found.keeps } : {}),
					...(r.emitter ? { emitter: r.emitter } : {}),
					family: r.family,
					size: r.size,
					fittings: r.fittings,
					...(short ? { length_m: r.length_m } : {}),
					way: r.way_m.map(([x, y, z]) => ({ x_m: x ?? 0, y_m: y ?? 0, z_m: z ?? 0 })),
					...(r.lies ? { lies: r.lies } : {}),
					proposed: true
				};
				const id = ids.get(r.id)!;
				if (scheme) d.set(`/schemes/${scheme}/pipes/${id}`, { action: 'add', run });
				else d.set(`/survey/pipes/${id}`, run);
			});
		});
		preview = false;
		looked = null;
	}
	const doubtful = $derived(runs.filter((r) => r.proposed));
	const confirm = (): unknown =>
		session.edit('Every pipe lies as drawn', (d) => {
			for (const r of doubtful)
				d.remove(
					scheme && d.job.schemes?.[scheme]?.pipes?.[r.pipe.id]?.run
						? `/schemes/${scheme}/pipes/${r.pipe.id}/run/proposed`
						: `/survey/pipes/${r.pipe.id}/proposed`
				);
		});
	const risers = $derived(
		Object.entries(session.job?.survey?.risers ?? {}).sort(([, a], [, b]) => (a.pos ?? 0) - (b.pos ?? 0))
	);
	const addRiser = (): unknown =>
		session.edit('A riser', (d) =>
			d.set(`/survey/risers/${newId()}`, {
				label: `Riser ${risers.length + 1}`,
				pos: nextPos(d.job.survey?.risers),
				x_m: plan?.start_m[0] ?? 0,
				y_m: plan?.start_m[1] ?? 0
			})
		);
	const setRiser = (id: string, field: string) => (value: unknown) =>
		session.edit('A riser, moved', (d) => d.set(`/survey/risers/${id}/${field}`, value));
</script>

<div class="grid grid-cols-[minmax(0,1fr)_272px] gap-5 narrow:grid-cols-1">
	<div class="min-w-0">
		{#if plan && plan.storeys.length}
			<PipesPlan
				{plan}
				{runs}
				{ghosts}
				looked={pipe?.id ?? null}
				look={(id) => (looked = id)}
				{move}
				bend={(n, at) => void bend(n, at)}
				remove={(n) => void remove(n)}
			/>
			<p class="note">
				As wide as the flow; dark: the index circuit; dashed: laid by rule, confirmed by nobody{unlaid
					? `; ${unlaid} run${unlaid === 1 ? '' : 's'} not on the plan yet`
					: ''}.
			</p>
			<div class="flex flex-wrap items-baseline gap-x-3">
				{#if !plan.lacks}
					<label class="flex min-h-9 items-center gap-2 touch:min-h-12"
						><input type="checkbox" class="checkbox" bind:checked={preview} />Lay pipes by rule</label
					>
					{#if preview}<p class="max-w-[62ch]">
							{plan.runs.length} runs, {amount(plan.total_m, 'm')} one way; the index circuit would take
							<strong>{amount(plan.index_kpa, 'kPa', 1)}</strong>{plan.now_index_kpa == null
								? ''
								: `, now ${amount(plan.now_index_kpa, 'kPa', 1)}`}.
							<span class="block note">{plan.notes.join(' ')}</span>
						</p>
						<button class="btn btn-primary" disabled={busy} onclick={takeUp}>Take them up</button>{/if}
				{/if}
				{#if doubtful.length}<button class="btn btn-quiet" onclick={() => void confirm()}
						>All {doubtful.length} lie as drawn</button
					>{/if}
			</div>
		{:else if plan}<p class="note">{plan.lacks}</p>{/if}
	</div>
	{#if pipe}<PipeSide {pipe} {sizes} {plan} />{/if}
</div>
{@render children?.()}
<div class="mt-3"><PipeTable {pipes} looked={pipe?.id ?? null} look={(id) => (looked = id)} /></div>
{#if plan && plan.storeys.length > 1}<div class="mt-2">
		<Fold title="Risers: where pipes may go up">
			{#each risers as [id, one] (id)}<div class="mb-1.5 flex flex-wrap items-center gap-2">
					<TextField label="Name of the riser" value={one.label ?? ''} commit={setRiser(id, 'label')} />
					<NumberField
						label={`${one.label}, along, ${unitName('m')}`}
						value={one.x_m}
						quantity="length"
						digits={2}
						commit={setRiser(id, 'x_m')}
					/>
					<NumberField
						label={`${one.label}, up the plan, ${unitName('m')}`}
						value={one.y_m}
						quantity="length"
						digits={2}
						commit={setRiser(id, 'y_m')}
					/>
					<button
						class="btn btn-quiet"
						onclick={() => void session.edit('A riser removed', (d) => d.remove(`/survey/risers/${id}`))}>remove</button
					>
				</div>{/each}
			<button class="btn btn-quiet" onclick={() => void addRiser()}>Another riser</button>
			<p class="note">
				Given risers are the only ones the rule uses; without any it looks for walls that stand over each other.
			</p>
		</Fold>
	</div>{/if}
