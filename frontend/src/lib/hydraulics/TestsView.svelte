<script lang="ts">
	import type { PipesTested, PipeTest } from '$lib/api/client';
	import { newId } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import { num } from '$lib/parts/format';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	/** Pumps are stepped, flows and returns read, and what lies hidden is fitted to them. */
	let { found }: { found: PipesTested | undefined } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const survey = $derived(session.job?.survey);
	const tests = $derived(
		Object.entries(survey?.pipe_tests ?? {}).sort(([a, x], [b, y]) => (x.pos ?? 0) - (y.pos ?? 0) || a.localeCompare(b))
	);
	const piped = $derived(new Set(Object.values(survey?.pipes ?? {}).map((p) => p.emitter)));
	const ends = $derived(
		Object.entries(survey?.emitters ?? {})
			.filter(([id]) => piped.has(id))
			.map(([id, e]) => ({
				id,
				room: e.room ?? '',
				label: `${survey?.rooms?.[e.room ?? '']?.label ?? ''}${e.label ? `: ${e.label}` : ''}`
			}))
			.sort((a, b) => a.label.localeCompare(b.label))
	);
	const rooms = $derived([...new Set(ends.map((e) => e.room))].filter((id) => survey?.rooms?.[id]));
	const judged = $derived(new Map(found?.readings.map((r) => [r.id, r]) ?? []));
	const at = (id: string): string => `/survey/pipe_tests/${id}`;
	const next = $derived(Math.max(0, ...tests.map(([, t]) => (t.pos ?? 0) + 1)));
	function add(only: string[] | null): void {
		const last = tests.at(-1)?.[1];
		void session.edit(only && only.length > 1 ? 'Tests, one emitter at a time' : 'Test with the pump', (d) =>
			(only ?? [null]).forEach((one, n) =>
				d.set(at(newId()), {
					pos: next + n,
					at: new Date().toISOString().slice(0, 19) + 'Z',
					...(one ? { only: one } : {}),
					...(last?.head_by ? { head_by: last.head_by } : {})
				})
			)
		);
	}
	const put =
		(id: string, field: keyof PipeTest, what: string) =>
		(value: number | null): Promise<boolean> =>
			session.edit(`Test with the pump, ${what}`, (d) => d.put(`${at(id)}/${field}`, value));
	const putOf =
		(id: string, field: 'returns' | 'gauges' | 'rooms', key: string, what: string) =>
		(value: number | null): Promise<boolean> =>
			session.edit(`Test with the pump, ${what}`, (d) => d.put(`${at(id)}/${field}/${key}`, value));
	const READ = [
		{ field: 'returns', label: 'Return', what: 'a return', unit: '°C', digits: 1 },
		{ field: 'gauges', label: 'Indicator', what: 'an indicator', unit: 'L/h', digits: 0 }
	] as const;
	function take(one: PipesTested['pipes'][number]): void {
		const run = `/survey/pipes/${one.id}`;
		void session.edit(`By the tests: ${one.label}`, (d) => {
			const known = { how: 'inferred', note: `fitted to ${tests.length} tests with the pump` };
			d.set(`${run}/size`, one.size);
			d.set(`${run}/length_m`, one.write_length_m);
			d.set(`${run}/known/size`, known);
			d.set(`${run}/known/length_m`, known);
		});
	}
	const share = (value: number): string => (value > 0.99 ? 'over 99 %' : `${num(100 * value)} %`);
	const alone = $derived(ends.filter((e) => !tests.some(([, t]) => t.only === e.id)));
</script>

{#if found?.pipes.length}
	<h2>What lies hidden, most likely</h2>
	{#if found.next_emitter}<p class="my-1">{found.next_says}</p>{/if}
	<div class="overflow-x-auto">
		<table class="table table-figures">
			<thead
				><tr
					><th>Pipe</th><th>Written down</th><th class="text-right">Bore, {unitName('mm')}</th><th>Sizes, how likely</th
					><th class="text-right">Length, {unitName('m')}</th><th class="text-right"
						>Takes at {amount(100, 'L/h')}, {unitName('kPa')}</th
					><th class="text-right">Told by the tests</th><th><span class="sr-only">Write it down</span></th></tr
				></thead
			>
			<tbody
				>{#each found.pipes as p (p.id)}<tr
						><td class="font-semibold">{p.label}<span class="block note font-normal">{p.says}</span></td><td
							>{p.surveyed}</td
						><td class="text-right whitespace-nowrap"
							>{num(p.bore_mm.mid, 1)}<span class="block note">{num(p.bore_mm.low, 1)} to {num(p.bore_mm.high, 1)}</span
							></td
						><td
							>{#each p.sizes.filter((s) => s.chance >= 0.03) as s (s.size)}<span class="block whitespace-nowrap"
									>{s.label} <span class="note">{share(s.chance)}</span></span
								>{:else}<span class="note">no family of sizes chosen</span>{/each}</td
						><td class="text-right whitespace-nowrap"
							>{fig(p.length_m.mid, 'm', 1)}<span class="block note"
								>{fig(p.length_m.low, 'm', 1)} to {fig(p.length_m.high, 'm', 1)}</span
							></td
						><td class="text-right whitespace-nowrap"
							>{fig(p.takes_kpa.mid, 'kPa', 2)}<span class="block note"
								>{fig(p.takes_kpa.low, 'kPa', 2)} to {fig(p.takes_kpa.high, 'kPa', 2)}</span
							></td
						><td class="text-right">{share(p.told)}</td><td class="text-right"
							>{#if p.size && p.told >= 0.2}<button class="btn btn-quiet whitespace-nowrap" onclick={() => take(p)}
									>Write it down<span class="sr-only">: {p.label}</span></button
								>{/if}</td
						></tr
					>{/each}</tbody
			>
		</table>
	</div>
	{#each found.notes as note (note)}<p class="note">{note}</p>{/each}
{/if}
<h2 class="mt-5 mb-1">The tests</h2>
<p class="mb-3 max-w-[70ch]">
	Lockshields and valves wide open, air let out, strainer clean. Run the pump at two or three of its steps, then leave
	one emitter open at a time. Water that goes out hot scalds; note where every lockshield stood before you open it.
</p>
<div class="mb-3 flex flex-wrap gap-2">
	<button class="btn btn-primary" onclick={() => add(null)}>Add a test, everything open</button>
	{#if alone.length}<button class="btn btn-neutral" onclick={() => add(alone.map((e) => e.id))}
			>Add one for every emitter alone ({alone.length})</button
		>{/if}
</div>
{#if tests.length}
	<ul class="mb-5 grid gap-2">
		{#each tests as [id, test], n (id)}
			{@const seen = judged.get(id)}
			<li class="grid gap-1.5 rounded-box border border-hairline bg-sheet p-2.5">
				<div class="flex flex-wrap items-end gap-x-4 gap-y-2">
					<strong class="min-w-[9em] self-center">{n + 1}. {test.only ? 'Only one open' : 'Everything open'}</strong>
					{#if test.only}<span class="grid gap-0.5 text-small text-muted"
							>Open<Choice
								label={`Open, test ${n + 1}`}
								value={test.only}
								options={ends.map((e) => ({ value: e.id, label: e.label }))}
								commit={(value) =>
									void session.edit('Test with the pump, what is open', (d) => d.set(`${at(id)}/only`, value))}
							/></span
						>{/if}
					<span class="grid gap-0.5 text-small text-muted"
						>Pump’s head<NumberField
							value={test.head_kpa}
							digits={1}
							width="7em"
							unit="kPa"
							label={`Head, test ${n + 1}`}
							commit={put(id, 'head_kpa', 'head')}
						/></span
					>
					<span class="grid gap-0.5 text-small text-muted"
						>Read on<Choice
							label={`Head read on, test ${n + 1}`}
							value={test.head_by ?? 'display'}
							options={[
								{ value: 'display', label: 'the pump' },
								{ value: 'gauges', label: 'two gauges' }
							]}
							commit={(value) =>
								void session.edit('Test with the pump, where its head was read', (d) =>
									d.set(`${at(id)}/head_by`, value)
								)}
						/></span
					>
					<span class="grid gap-0.5 text-small text-muted"
						>Whole flow<NumberField
							value={test.flow_lph}
							digits={0}
							width="8em"
							unit="L/h"
							label={`Whole flow, test ${n + 1}`}
							commit={put(id, 'flow_lph', 'whole flow')}
						/></span
					>
					{#if !test.only}<span class="grid gap-0.5 text-small text-muted"
							>Water going out<NumberField
								value={test.supply_c}
								digits={1}
								width="7em"
								unit="°C"
								label={`Water going out, test ${n + 1}`}
								commit={put(id, 'supply_c', 'water going out')}
							/></span
						>{/if}
					<span class="ml-auto self-center text-right">
						{#if seen?.fits_lph != null}<span class="note">these pipes would give {amount(seen.fits_lph, 'L/h')}</span
							>{/if}
						<button
							class="btn btn-quiet"
							onclick={() => void session.edit('Test with the pump taken out', (d) => d.remove(at(id)))}
							>take out<span class="sr-only"> test {n + 1}</span></button
						>
					</span>
				</div>
				{#if !test.only}
					<Fold
						title={`Returns and flow indicators (${Object.keys(test.returns ?? {}).length + Object.keys(test.gauges ?? {}).length} read)`}
					>
						<table class="table table-figures">
							<thead
								><tr><th>Emitter</th><th>Return, {unitName('°C')}</th><th>or its indicator, {unitName('L/h')}</th></tr
								></thead
							>
							<tbody
								>{#each ends as e (e.id)}<tr
										><td>{e.label}</td>{#each READ as r (r.field)}<td
												><NumberField
													value={test[r.field]?.[e.id]}
													digits={r.digits}
													unit={r.unit}
													inHead
													label={`${r.label} of ${e.label}, test ${n + 1}`}
													commit={putOf(id, r.field, e.id, r.what)}
												/></td
											>{/each}</tr
									>{/each}</tbody
							>
						</table>
						<div class="mt-2 flex flex-wrap gap-3">
							{#each rooms as r (r)}<span class="grid gap-0.5 text-small text-muted"
									>Air, {survey?.rooms?.[r]?.label}<NumberField
										value={test.rooms?.[r]}
										digits={1}
										width="7em"
										unit="°C"
										placeholder="20"
										label={`Air in ${survey?.rooms?.[r]?.label}, test ${n + 1}`}
										commit={putOf(id, 'rooms', r, 'air of a room')}
									/></span
								>{/each}
						</div>
					</Fold>
				{/if}
				{#each seen?.odd ?? [] as line (line)}<p class="rounded-sm px-2 py-0.5 hatch-doubt">{line}</p>{/each}
			</li>
		{/each}
	</ul>
{/if}
