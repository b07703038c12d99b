<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import Curve from '$lib/charts/Curve.svelte';
	import type { Spot } from '$lib/charts/curve';
	import type { Draft } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Delta from '$lib/parts/Delta.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const curve = $derived(design?.curve);
	const names = $derived(Object.fromEntries((design?.rooms ?? []).map((r) => [r.id, r.label])));
	const base = $derived(`/schemes/${session.scheme}/control`);
	const control = $derived(session.scheme ? (session.job?.schemes?.[session.scheme]?.control ?? {}) : {});
	const movable = $derived(session.scheme !== null);

	const put = (field: string, what: string) => (value: number | null) =>
		session.edit(`Curve, ${what}`, (d: Draft) => d.put(`${base}/${field}`, value));

	function ask(key: 'cold' | 'mild', flow: number): void {
		session.whatIf((d) => d.set(`${base}/${key}_flow_c`, flow));
	}
	function set(key: 'cold' | 'mild', flow: number): void {
		void put(`${key}_flow_c`, `${key} point ${flow} °C`)(flow);
	}
	function fit(): void {
		void session.edit('Curve fitted again', (d) =>
			['cold_flow_c', 'mild_flow_c', 'cold_out_c'].forEach((f) => d.remove(`${base}/${f}`))
		);
	}
	const END = [
		{ value: 'settled', label: 'what the settled house needs' },
		{ value: 'waterline', label: "the waterline's, room by room" }
	];
	let spot = $state<Spot | null>(null);
	const apart = $derived(
		curve?.cold_need_c != null && curve.cold_standard_c != null && curve.cold_standard_c - curve.cold_need_c >= 0.1
	);
	/** What each room gets by the line, beside its target: on the design day, or where the pointer stands. */
	const over = $derived(
		(design?.rooms ?? [])
			.map((r) => ({
				id: r.id,
				label: r.label,
				target: r.target_c,
				k: spot === null ? curve?.design_over_k[r.id] : curve?.over_k[r.id]?.[spot.n],
				floats: curve?.floats.includes(r.id) ?? false
			}))
			.filter((r): r is typeof r & { k: number } => r.k != null)
			.sort((a, b) => b.k - a.k)
	);
	const most = $derived(Math.max(1, ...over.map((r) => Math.abs(r.k))));
	const limit = (value: number | null): Promise<boolean> =>
		session.edit('Heating off above', (d) => d.put('/practice/heating_limit_c', value));
</script>

<Head title="Curve desk" screen="curve" />

{#if curve?.cold_flow_c != null}
	<div class="grid grid-cols-[minmax(0,1fr)_290px] gap-6.5 narrow:grid-cols-[1fr]">
		<div>
			<Curve {curve} {names} {movable} bind:spot onmove={ask} onset={set} />
			{#if over.length}
				<h2 class="mt-3.5">How warm it makes each room</h2>
				<p class="note">
					{spot === null ? 'On the design day' : `At ${amount(curve.outdoor_c[spot.n] ?? 0, '°C')} outside`}, against
					what each room asks for. Thermostatic valves hold theirs there.
				</p>
				<ul class="rooms grid grid-cols-[repeat(auto-fill,minmax(320px,1fr))] gap-x-6.5 gap-y-0.5">
					{#each over as r (r.id)}
						<li
							class="grid min-h-6.5 grid-cols-[minmax(90px,1.2fr)_minmax(40px,1fr)_64px_minmax(60px,auto)] items-center gap-2 tabular-nums"
							class:cold={r.k < -0.05}
						>
							<span>{r.label}</span>
							<span class="lane h-2.5 bg-ash"
								><i class="block h-full bg-heat" style={`width: ${(Math.abs(r.k) / most) * 100}%`}></i></span
							>
							<b class="text-right"
								>{Math.abs(r.k) < 0.05 ? 'as asked' : `${r.k > 0 ? '+' : '−'}${amount(Math.abs(r.k), 'K', 1)}`}</b
							>
							<span class="note"
								>{r.floats
									? `no emitter: reaches ${amount(r.target + r.k, '°C', 1)}`
									: `${amount(r.target + r.k, '°C', 1)}`}</span
							>
						</li>
					{/each}
				</ul>
			{/if}
		</div>
		<section class="grid content-start gap-2">
			<h2>Dial in</h2>
			<p class="note">
				Two-point controller, steps of {amount(control.step_k ?? 1, 'K', 1)}. {curve.fitted
					? 'Fitted to the rooms.'
					: 'Entered by hand.'}
			</p>
			<div class="dial rounded-md border border-hairline bg-sheet px-3.5 py-2">
				<div>
					<span
						>Water at <button
							class="min-h-8 underline decoration-dotted underline-offset-4"
							onclick={() => void frame.showWorking('curve')}>{amount(curve.cold_out_c, '°C')} outside</button
						></span
					><b class="figure text-[22px] font-bold"
						>{fig(curve.cold_flow_c, '°C')}<span class="unit">{unitName('°C')}</span></b
					><Delta move={session.effect?.curve.cold_flow_c} unit="°C" />
				</div>
				<div>
					<span
						>Water at <button
							class="min-h-8 underline decoration-dotted underline-offset-4"
							onclick={() => void frame.showWorking('curve')}>{amount(curve.mild_out_c, '°C')} outside</button
						></span
					><b class="figure text-[22px] font-bold"
						>{fig(curve.mild_flow_c, '°C')}<span class="unit">{unitName('°C')}</span></b
					><Delta move={session.effect?.curve.mild_flow_c} unit="°C" />
				</div>
				<div>
					<span>Never above</span><b class="figure text-[22px] font-bold"
						>{fig(curve.greatest_flow_c, '°C')}<span class="unit">{unitName('°C')}</span></b
					>
				</div>
				<div>
					<span>Heating off above</span><b class="figure text-[22px] font-bold"
						>{fig(curve.heating_limit_c, '°C')}<span class="unit">{unitName('°C')}</span></b
					>
				</div>
			</div>
			{#if curve.cold_need_c != null}
				<h2>The cold end</h2>
				<div class="dial ends rounded-md border border-hairline bg-sheet px-3.5 py-2">
					<div class="[&.on]:font-bold" class:on={curve.cold_end === 'settled'}>
						<span>The settled house needs</span><b
							>{fig(curve.cold_need_c, '°C', 1)}<span class="unit">{unitName('°C')}</span></b
						>
					</div>
					<div class="[&.on]:font-bold" class:on={curve.cold_end === 'waterline'}>
						<span>Each room by itself (waterline)</span><b
							>{fig(curve.cold_standard_c, '°C', 1)}<span class="unit">{unitName('°C')}</span></b
						>
					</div>
				</div>
				{#if apart}
					<p class="note">Less, because {curve.cold_why.join('; ')}. The other stays its limit.</p>
					<label class="text-small text-muted"
						>Dial in<Choice
							label="Which cold end is dialled in"
							value={curve.cold_end}
							options={END}
							commit={(v) =>
								void session.edit('Practice: cold end of the curve', (d) => d.set('/practice/cold_end', v))}
						/></label
					>
				{/if}
				<p class="note">
					Held by <b>{names[curve.holds_cold ?? ''] ?? 'no room'}</b> when it is cold{#if curve.holds_mild && curve.holds_mild !== curve.holds_cold},
						by <b>{names[curve.holds_mild]}</b> when it is mild{:else if curve.holds_mild}{' '}and when it is mild{/if}.
				</p>
			{/if}
			{#if movable}
				<h2>Or enter your own</h2>
				<div class="grid grid-cols-[1fr_1fr] items-end gap-x-3 gap-y-2">
					<label class="text-small text-muted"
						>Cold point, water<NumberField
							label="Cold point, water"
							between={USUAL.flow_c}
							value={control.cold_flow_c}
							placeholder={fig(curve.cold_flow_c, '°C')}
							quantity="temperature"
							digits={0}
							unit="°C"
							width="100%"
							commit={put('cold_flow_c', 'cold point')}
						/></label
					>
					<label class="text-small text-muted"
						>Mild point, water<NumberField
							label="Mild point, water"
							between={USUAL.flow_c}
							value={control.mild_flow_c}
							placeholder={fig(curve.mild_flow_c, '°C')}
							quantity="temperature"
							digits={0}
							unit="°C"
							width="100%"
							commit={put('mild_flow_c', 'mild point')}
						/></label
					>
					<label class="text-small text-muted"
						>Mild point, outside<NumberField
							label="Mild point, outside"
							value={control.mild_out_c}
							placeholder={fig(curve.mild_out_c, '°C')}
							quantity="temperature"
							digits={0}
							unit="°C"
							width="100%"
							commit={put('mild_out_c', 'mild outdoor point')}
						/></label
					>
					<label class="text-small text-muted"
						>Never above<NumberField
							label="Never above"
							value={control.greatest_flow_c}
							placeholder={fig(curve.greatest_flow_c, '°C')}
							quantity="temperature"
							digits={0}
							unit="°C"
							width="100%"
							commit={put('greatest_flow_c', 'upper limit')}
						/></label
					>
					<label class="text-small text-muted"
						>Heating off above<NumberField
							label="Heating off above"
							value={session.job?.practice?.heating_limit_c}
							placeholder={fig(curve.heating_limit_c, '°C')}
							quantity="temperature"
							digits={0}
							unit="°C"
							width="100%"
							commit={limit}
						/></label
					>
					<button class="btn btn-outline" disabled={curve.fitted} onclick={fit}>Fit it again</button>
				</div>
			{/if}
			<p class="note">
				Worst room {amount(curve.short_room_k, 'K', 1)} short; at most {amount(curve.excess_k, 'K', 1)} above need.
				{#if design?.season.excess_kwh != null && design.season.excess_kwh > 0.5}The straight line costs {num(
						design.season.excess_kwh
					)} kWh a year more than water exactly as warm as needed.{/if}
			</p>
			<Cautions cautions={design?.cautions.curve ?? []} />
		</section>
	</div>
{:else}
	<p class="px-0 py-15 text-lead">
		A curve needs rooms with a loss and emitters, and a climate. <a href={`/job/${session.id}/rooms`}>To the rooms</a>
	</p>
{/if}

<style>
	.dial > div {
		display: grid;
		grid-template-columns: 1fr auto auto;
		align-items: center;
		gap: 8px;
		min-height: 38px;
	}

	.ends > div {
		grid-template-columns: 1fr auto;
	}

	.ends .on > span::before {
		content: '▸ ';
	}

	.rooms .cold .lane i {
		background: var(--water);
	}
</style>
