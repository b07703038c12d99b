<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import { api, type Known } from '$lib/api/client';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const bills = new Slow(() => api.GET('/api/jobs/{job_id}/bills', { params: { path: { job_id: frame.session.id } } }));
	$effect(() => {
		if (session.settled) bills.ask();
	});
	const check = $derived(bills.found?.bills);
	const fuels = $derived(Object.entries(job.library?.tables?.standard?.data.fuels ?? {}));
	const fuelOf = (key: string) => job.library?.tables?.standard?.data.fuels?.[key];
	const VERDICT: Record<string, string> = {
		agrees: 'they agree',
		'within doubt': 'apart, but within their doubt',
		'life is lower': 'the house used less than calculated',
		'life is higher': 'the house used more than calculated',
		unknown: 'nothing to compare yet'
	};
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
	const proved =
		(at: string, field: string, label: string) =>
		(value: number | null, proof?: Known): Promise<boolean> =>
			session.edit(label, (d) => {
				d.put(`${at}/${field}`, value);
				if (proof) d.set(`${at}/known/${field}`, { how: proof.how, by: proof.by, at: proof.at });
			});
	function addBill(): void {
		const fuel = String(job.site?.answers?.fuel ?? 'gas');
		const known = fuelOf(fuel) ? fuel : 'electricity';
		void session.edit('A bill added', (d) =>
			d.set(`/site/bills/${newId()}`, { label: '', pos: nextPos(d.job.site?.bills), fuel: known, unit: 'kwh_gross' })
		);
	}
	function putDay(id: string, field: 'from_day' | 'to_day', value: string): void {
		void session.edit(field === 'from_day' ? 'First day of the bill' : 'Last day of the bill', (d) =>
			d.put(`/site/bills/${id}/${field}`, value || null)
		);
	}
	const span = $derived.by(() => {
		if (!check || check.h_life_low_w_k == null || check.h_life_high_w_k == null || check.h_calculated_w_k == null)
			return null;
		const top = Math.max(check.h_life_high_w_k, check.h_calculated_high_w_k ?? check.h_calculated_w_k) * 1.15;
		const at = (value: number): string => `${(value / top) * 100}%`;
		return {
			low: at(check.h_life_low_w_k),
			wide: at(check.h_life_high_w_k - check.h_life_low_w_k),
			life: at(check.h_life_w_k ?? 0),
			sum: at(check.h_calculated_w_k),
			least: at(check.h_calculated_low_w_k ?? 0),
			doubt: at((check.h_calculated_high_w_k ?? 0) - (check.h_calculated_low_w_k ?? 0))
		};
	});
</script>

<h2 class="my-2 border-t border-t-ink pt-2.5 text-[20px]">Against the bills</h2>
<div class="mb-3 grid grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)] gap-7.5 narrow:grid-cols-[1fr]" id="bills">
	<section class="grid min-w-0 content-start gap-1.5">
		{#if check}<Sentence text={check.sentence} />{/if}
		{#if span && check}
			<div
				class="grid grid-cols-[96px_1fr_92px] items-center gap-x-2.5 gap-y-1.5"
				role="img"
				aria-label={[
					`From the bills ${amount(check.h_life_w_k, 'W/K')}`,
					`between ${fig(check.h_life_low_w_k, 'W/K')} and ${fig(check.h_life_high_w_k, 'W/K')}; calculated ${fig(check.h_calculated_w_k, 'W/K')}`,
					`between ${fig(check.h_calculated_low_w_k, 'W/K')} and ${fig(check.h_calculated_high_w_k, 'W/K')}`
				].join(', ')}
			>
				<span class="name">from the bills</span>
				<div class="relative h-6 bg-ash">
					<i class="band absolute top-0 bottom-0 hatch-doubt" style={`left: ${span.low}; width: ${span.wide}`}></i><i
						class="water absolute top-0 bottom-0 -ml-0.5 w-1 bg-ink"
						style={`left: ${span.life}`}
					></i>
				</div>
				<b class="text-right tabular-nums">{fig(check.h_life_w_k, 'W/K')}<span class="unit">{unitName('W/K')}</span></b>
				<span class="name">calculated</span>
				<div class="relative h-6 bg-ash">
					<i class="band absolute top-0 bottom-0 hatch-doubt" style={`left: ${span.least}; width: ${span.doubt}`}></i><i
						class="absolute top-0 bottom-0 -ml-0.5 w-1 bg-ink"
						style={`left: ${span.sum}`}
					></i>
				</div>
				<b class="text-right tabular-nums"
					>{fig(check.h_calculated_w_k, 'W/K')}<span class="unit">{unitName('W/K')}</span></b
				>
			</div>
			<p class="note">
				Hatched: how far each may be off. Bills: the usual range of the heater{check.findings.some(
					(f) => f.where === '/survey/household/people'
				)
					? ', and of hot water while nobody is entered'
					: ''}. Calculated: P10 to P90 of the sampled losses.
			</p>
			<p
				class="text-lead font-bold [&.good]:text-meets [&.off]:text-doubt"
				class:good={check.verdict === 'agrees'}
				class:off={check.verdict !== 'agrees' && check.verdict !== 'within doubt'}
			>
				{check.verdict === 'agrees' ? '✓' : check.verdict === 'within doubt' ? '≈' : '≠'}
				{VERDICT[check.verdict]}
			</p>
		{/if}
		{#each check?.findings ?? [] as f (f.where)}<p class="border-l-3 border-l-doubt pl-2.5">
				<b>{f.what}</b>
				{f.why} <i>{f.mend}</i>
			</p>{/each}
		{#if check?.reasons.length}<h3 class="font-bold">Likely reasons</h3>
			<ul class="reasons list-disc pl-4.5">
				{#each check.reasons as reason (reason)}<li>{reason}</li>{/each}
			</ul>{/if}
		{#if check?.basis}<p class="note">{check.basis}</p>{/if}
		<div class="mt-1.5 grid grid-cols-[1fr_1fr_1fr] items-end gap-x-3 gap-y-2">
			<label
				>Really kept at, mean<NumberField
					label="Temperature really kept"
					value={job.site?.living?.kept_c}
					placeholder={fig(check?.kept_c, '°C', 1)}
					quantity="temperature"
					digits={1}
					unit="°C"
					width="100%"
					usual="told"
					known={job.site?.living?.known?.kept_c ?? null}
					by={session.person}
					commit={proved('/site/living', 'kept_c', 'Temperature really kept')}
				/></label
			>
			<label
				>Share of the house heated<NumberField
					label="Share of the house heated"
					value={job.site?.living?.heated_share}
					times={100}
					placeholder="100"
					digits={0}
					unit="%"
					width="100%"
					usual="told"
					known={job.site?.living?.known?.heated_share ?? null}
					by={session.person}
					commit={(v, k) => proved('/site/living', 'heated_share', 'Share of the house heated')(v, k)}
				/></label
			>
			<label
				>Hot water a day<NumberField
					label="Hot water a day"
					value={job.site?.living?.hot_water_l_per_day}
					placeholder="by people"
					digits={0}
					unit="L"
					width="100%"
					usual="told"
					known={job.site?.living?.known?.hot_water_l_per_day ?? null}
					by={session.person}
					commit={proved('/site/living', 'hot_water_l_per_day', 'Hot water a day')}
				/></label
			>
		</div>
		{#if check}<p class="note">
				{amount(check.kept_c, '°C', 1)}
				{check.kept_why}. Degree days of the billed days below {amount(check.base_c, '°C', 1)}: {amount(
					check.degree_days_kd,
					'K d'
				)}.
			</p>{/if}
	</section>
	<section class="grid min-w-0 content-start gap-1.5">
		{#each ordered(job.site?.bills) as [id, bill] (id)}
			{@const at = `/site/bills/${id}`}
			{@const fuel = fuelOf(bill.fuel)}
			{@const worked = check?.lines.find((l) => l.id === id)}
			<fieldset class="min-w-0 border-t border-t-hairline px-0 py-1.5">
				<div class="grid grid-cols-[1.2fr_1fr_1fr] items-end gap-x-3 gap-y-1.5">
					<label
						>Bill<TextField
							label="Name of the bill"
							value={bill.label}
							placeholder={fuel?.label ?? bill.fuel}
							commit={(v) => session.edit('Bill named', (d) => d.set(`${at}/label`, v))}
						/></label
					>
					<label
						>Of<Choice
							label="Fuel"
							value={bill.fuel}
							options={fuels.map(([value, f]) => ({ value, label: f.label }))}
							commit={(v) => void session.edit('Fuel of the bill', (d) => d.set(`${at}/fuel`, v))}
						/></label
					>
					<label
						>Counted in<Choice
							label="Unit of the bill"
							value={bill.unit ?? 'kwh_gross'}
							options={[
								{ value: 'kwh_gross', label: 'kWh, gross' },
								{ value: 'kwh_net', label: 'kWh, net' },
								{ value: 'unit', label: fuel?.unit ?? 'unit' }
							]}
							commit={(v) => void session.edit('Unit of the bill', (d) => d.set(`${at}/unit`, v))}
						/></label
					>
					<label
						>Bought<NumberField
							label="Amount bought"
							value={bill.amount}
							digits={0}
							unit={bill.unit === 'unit' ? (fuel?.unit ?? '') : 'kWh'}
							width="100%"
							usual="read"
							known={bill.known?.amount ?? null}
							by={session.person}
							commit={proved(at, 'amount', 'Amount bought')}
						/></label
					>
					<label
						>First day<TextField
							type="date"
							label="First day of the bill"
							value={bill.from_day}
							commit={(v) => putDay(id, 'from_day', v)}
						/></label
					>
					<label
						>Last day<TextField
							type="date"
							label="Last day of the bill"
							value={bill.to_day}
							commit={(v) => putDay(id, 'to_day', v)}
						/></label
					>
					<label
						>Heater<Choice
							label="Heater"
							value={bill.old_boiler === false ? 'new' : 'old'}
							options={[
								{ value: 'old', label: 'older' },
								{ value: 'new', label: 'newer' }
							]}
							commit={(v) => void session.edit('Heater of the bill', (d) => d.set(`${at}/old_boiler`, v === 'old'))}
						/></label
					>
					<label
						>Efficiency<NumberField
							label="Efficiency"
							value={bill.efficiency}
							times={100}
							placeholder={worked ? num(worked.efficiency * 100) : '–'}
							digits={0}
							unit="%"
							width="100%"
							usual="told"
							known={bill.known?.efficiency ?? null}
							by={session.person}
							commit={(v, k) => proved(at, 'efficiency', 'Efficiency')(v, k)}
						/></label
					>
					<label
						>Cooked with it<NumberField
							label="Cooking"
							value={bill.cooking_kwh}
							placeholder="0"
							digits={0}
							unit="kWh"
							width="100%"
							commit={put(`${at}/cooking_kwh`, 'Cooking on the bill')}
						/></label
					>
				</div>
				<div class="flex items-center justify-between">
					<label class="pick"
						><input
							class="h-4.5 w-4.5 accent-ink"
							type="checkbox"
							checked={bill.hot_water ?? true}
							onchange={(e) =>
								void session.edit('Hot water on the bill', (d) => d.set(`${at}/hot_water`, e.currentTarget.checked))}
						/>made the hot water too</label
					>
					<button class="btn btn-quiet" onclick={() => void session.edit('Bill removed', (d) => d.remove(at))}
						>remove</button
					>
				</div>
				{#if worked}<p class="note">
						{num(worked.bought_kwh)} kWh gross over {worked.days} days × {num(worked.efficiency * 100)} % ({worked.efficiency_why})
						− hot water {num(worked.hot_water_kwh)} kWh = <b>{num(worked.rooms_kwh)} kWh for the rooms</b>
					</p>{/if}
			</fieldset>
		{/each}
		<div><button class="btn btn-outline" onclick={addBill}>Add a bill</button></div>
		<p class="note">
			A bill tells what the people did, not what the house can. Wood, an extra heater, shut rooms and a warm winter are
			why it lies below; open windows and a bad boiler why above.
		</p>
	</section>
</div>

<style>
	label {
		font-size: var(--small);
		color: var(--muted);
		min-width: 0;
	}

	.pick {
		display: flex;
		gap: 8px;
		align-items: center;
		min-height: 34px;
		color: var(--ink);
		font-size: var(--text);
	}
</style>
