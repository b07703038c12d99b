<script lang="ts">
	import { api, type Known } from '$lib/api/client';
	import Days from '$lib/charts/Days.svelte';
	import Months from '$lib/charts/Months.svelte';
	import { newId, nextPos, ordered } from '$lib/draft';
	import { money, num } from '$lib/format';
	import { useFrame } from '$lib/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import { Slow } from '$lib/slow.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const design = $derived(session.shown);
	const practice = $derived(job.practice ?? {});
	const path = { params: { path: { job_id: frame.session.id } } };
	const year = new Slow(() => api.GET('/api/jobs/{job_id}/year', path));
	const bills = new Slow(() => api.GET('/api/jobs/{job_id}/bills', path));
	$effect(() => {
		if (session.version) {
			year.ask();
			bills.ask();
		}
	});
	const found = $derived(year.found?.year);
	const check = $derived(bills.found?.bills);
	const rows = $derived(
		(found?.months ?? []).map((m) => {
			const free = Math.max(m.loss_kwh - m.heat_kwh, 0);
			const given = m.sun_kwh + m.people_kwh;
			const share = given > 0 ? m.sun_kwh / given : 0;
			return { name: m.name, outdoor: m.outdoor_c, parts: [{ kind: 'heat', value: m.heat_kwh }, { kind: 'people', value: free * (1 - share) }, { kind: 'sun', value: free * share }] };
		})
	);
	const line = $derived.by(() => {
		const house = design?.house;
		if (!house?.loss_w || house.outdoor_c == null || !house.h_w_k) return [];
		return [{ outdoor: house.outdoor_c, watts: house.loss_w }, { outdoor: Math.min(house.outdoor_c + house.loss_w / house.h_w_k, 20), watts: Math.max(house.loss_w - house.h_w_k * (20 - house.outdoor_c), 0) }];
	});
	/** Every window of the survey, for the share of the sun that reaches it past trees, reveals and curtains. */
	const panes = $derived(
		ordered(job.survey?.rooms).flatMap(([id, room]) =>
			Object.entries(room.faces ?? {}).flatMap(([face, doc]) =>
				ordered(doc.openings)
					.filter(([, o]) => (o.kind ?? 'window') === 'window')
					.map(([key, o], n) => ({ path: `/survey/rooms/${id}/faces/${face}/openings/${key}`, what: `${room.label}: ${o.label || `window ${n + 1} of ${face}`}`, sunlit: o.sunlit }))
			)
		)
	);
	const fuels = $derived(Object.entries(job.library?.tables?.standard?.data.fuels ?? {}));
	const fuelOf = (key: string) => job.library?.tables?.standard?.data.fuels?.[key];
	const GAINS = [{ value: 'people_and_sun', label: 'people, devices and sun, hour by hour' }, { value: 'people', label: 'people and devices only' }, { value: 'none', label: 'none: loss is demand' }];
	const VERDICT: Record<string, string> = { agrees: 'they agree', 'life is lower': 'the house used less than calculated', 'life is higher': 'the house used more than calculated', unknown: 'nothing to compare yet' };
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
	const proved = (at: string, field: string, label: string) => (value: number | null, proof?: Known): Promise<boolean> =>
		session.edit(label, (d) => {
			d.put(`${at}/${field}`, value);
			if (proof) d.set(`${at}/known/${field}`, { how: proof.how, by: proof.by, at: proof.at });
		});
	function addBill(): void {
		const fuel = String(job.site?.answers?.fuel ?? 'gas');
		const known = fuelOf(fuel) ? fuel : 'electricity';
		void session.edit('A bill added', (d) => d.set(`/site/bills/${newId()}`, { label: '', pos: nextPos(d.job.site?.bills), fuel: known, unit: 'kwh_gross' }));
	}
	function putDay(id: string, field: 'from_day' | 'to_day', value: string): void {
		void session.edit(field === 'from_day' ? 'First day of the bill' : 'Last day of the bill', (d) => d.put(`/site/bills/${id}/${field}`, value || null));
	}
	const span = $derived.by(() => {
		if (!check || check.h_life_low_w_k == null || check.h_life_high_w_k == null || check.h_calculated_w_k == null) return null;
		const top = Math.max(check.h_life_high_w_k, check.h_calculated_w_k) * 1.15;
		const at = (value: number): string => `${(value / top) * 100}%`;
		return { low: at(check.h_life_low_w_k), wide: at(check.h_life_high_w_k - check.h_life_low_w_k), life: at(check.h_life_w_k ?? 0), sum: at(check.h_calculated_w_k) };
	});
</script>

<Head title="Year and bills" screen="year" sentence={found?.sentence ?? ''} />

{#if year.refused}<p class="hatch-doubt waits">{year.refused}</p>{/if}
{#if found?.lacks}
	<p class="empty">{found.lacks} <a href={`/job/${session.id}/climate`}>Climate</a></p>
{:else if found}
	<div class="desk" class:old={year.busy || session.stale}>
		<section>
			<h2>Month by month</h2>
			<Months {rows} unit="kWh" label="What the house loses every month: heating, people, sun" words={{ heat: 'from the heating', people: 'from people and devices', sun: 'from the sun' }} />
			<p class="legend note"><span><i class="heat"></i>heating gives</span><span><i class="people"></i>people and devices give</span><span><i class="sun"></i>sun gives</span><span><i class="out"></i>outside, °C</span></p>
		</section>
		<section>
			<h2>Day by day</h2>
			<Days outdoor={found.day_outdoor_c} heat={found.day_heat_w} {line} />
			<p class="legend note"><span><i class="dot"></i>a day</span><span><i class="dash"></i>the loss, nothing given</span></p>
		</section>
	</div>
	<div class="desk">
		<section>
			<div class="scroll">
				<table class="plain-table months">
					<thead><tr><th>Month</th><th class="right">Outside</th><th class="right">Degree days</th><th class="right">Lost</th><th class="right">Sun</th><th class="right">People</th><th class="right">Heat</th><th class="right">Electricity</th></tr></thead>
					<tbody>{#each found.months as m (m.name)}<tr><td>{m.name}</td><td class="right">{num(m.outdoor_c, 1)}<span class="unit">°C</span></td><td class="right">{num(m.degree_days_kd)}</td><td class="right">{num(m.loss_kwh)}</td><td class="right">{num(m.sun_kwh)}</td><td class="right">{num(m.people_kwh)}</td><td class="right">{num(m.heat_kwh)}</td><td class="right">{num(m.electricity_kwh)}</td></tr>{/each}</tbody>
					<tfoot><tr><td>Year</td><td></td><td class="right">{num(found.degree_days_kd)}</td><td class="right">{num(found.loss_kwh)}</td><td class="right">{num(found.sun_kwh)}</td><td class="right">{num(found.people_kwh)}</td><td class="right">{num(found.heat_kwh)}</td><td class="right">{num(found.electricity_kwh)}<span class="unit">kWh</span></td></tr></tfoot>
				</table>
			</div>
			<p class="note">Lost, sun and people: while there is heating. Degree days below {num(found.degree_base_c, 1)} °C. By degree days alone the same house asks for {num(found.by_degree_days_kwh)} kWh.</p>
		</section>
		<section class="side">
			<dl>
				<dt>Heat of the year</dt><dd>{num(found.heat_kwh)} kWh</dd>
				<dt>Electricity</dt><dd>{num(found.electricity_kwh)} kWh</dd>
				<dt>Season, hour by hour</dt><dd>{num(found.performance, 2)}</dd>
				<dt>Costs a year</dt><dd>{money(found.bill_minor, job.currency)}</dd>
				<dt>Coldest month, mean</dt><dd>{num((found.coldest_month_w ?? 0) / 1000, 2)} kW</dd>
				<dt>Hours of heating</dt><dd>{num(found.heating_hours)} h</dd>
			</dl>
			{#if found.glass.length}
				<h2>Sun through the glass</h2>
				<table class="plain-table"><tbody>{#each found.glass as glass, n (n)}<tr><td>{glass.bearing}{glass.tilt_deg < 89 && glass.tilt_deg > 0 ? `, sloping ${num(glass.tilt_deg)}°` : ''}</td><td class="right">{num(glass.area_m2, 1)}<span class="unit">m²</span></td><td class="right">{num(glass.sun_kwh)}<span class="unit">kWh</span></td></tr>{/each}</tbody></table>
			{/if}
			{#if panes.length}
				<details class="tablebox"><summary>Shade of each window</summary>
					<table class="plain-table"><tbody>{#each panes as pane (pane.path)}<tr><td>{pane.what}</td><td class="right"><NumberField label={`Sun past shade of ${pane.what}`} value={pane.sunlit == null ? null : pane.sunlit * 100} placeholder={num((practice.sunlit ?? 0.6) * 100)} digits={0} unit="%" width="5.6em" commit={(v) => put(`${pane.path}/sunlit`, `${pane.what}, shade`)(v === null ? null : v / 100)} /></td></tr>{/each}</tbody></table>
				</details>
			{/if}
			<h2>How it is counted</h2>
			<label>Gains<Choice label="Gains through the year" value={practice.year_gains ?? 'people_and_sun'} options={GAINS} commit={(v) => void session.edit('Practice: gains of the year', (d) => d.set('/practice/year_gains', v))} /></label>
			<div class="two">
				<label>People, devices<NumberField label="People and devices" value={practice.people_w_per_m2 ?? 4} digits={1} unit="W/m²" width="100%" commit={put('/practice/people_w_per_m2', 'Practice: people')} /></label>
				<label>No heating above<NumberField label="Heating limit" value={practice.heating_limit_c ?? 16} quantity="temperature" digits={1} unit="°C" width="100%" commit={put('/practice/heating_limit_c', 'Practice: heating limit')} /></label>
				<label>Sun past shade<NumberField label="Sun past shade" value={(practice.sunlit ?? 0.6) * 100} digits={0} unit="%" width="100%" commit={(v) => put('/practice/sunlit', 'Practice: shade')(v === null ? null : v / 100)} /></label>
				<label>House holds gains<NumberField label="House holds gains" value={practice.gain_hold_h ?? 12} digits={0} unit="h" width="100%" commit={put('/practice/gain_hold_h', 'Practice: gains held')} /></label>
			</div>
			{#if found.synthetic}<p class="note"><span class="hatch-doubt tag">synthetic year</span> {found.climate_label}. <a href={`/job/${session.id}/climate`}>Bring a measured one</a></p>{/if}
		</section>
	</div>
{:else}<p class="note">Working the year hour by hour…</p>{/if}

<h2 class="rule">Against the bills</h2>
<div class="desk" id="bills">
	<section>
		{#if check}<Sentence text={check.sentence} />{/if}
		{#if span && check}
			<div class="compare" role="img" aria-label={`From the bills ${num(check.h_life_w_k)} W/K, between ${num(check.h_life_low_w_k)} and ${num(check.h_life_high_w_k)}; calculated ${num(check.h_calculated_w_k)} W/K`}>
				<span class="name">from the bills</span><div class="lane"><i class="band hatch-doubt" style={`left: ${span.low}; width: ${span.wide}`}></i><i class="pin water" style={`left: ${span.life}`}></i></div><b>{num(check.h_life_w_k)}<span class="unit">W/K</span></b>
				<span class="name">calculated</span><div class="lane"><i class="fill" style={`width: ${span.sum}`}></i></div><b>{num(check.h_calculated_w_k)}<span class="unit">W/K</span></b>
			</div>
			<p class="verdict" class:good={check.verdict === 'agrees'} class:off={check.verdict !== 'agrees'}>{check.verdict === 'agrees' ? '✓' : '≠'} {VERDICT[check.verdict]}</p>
		{/if}
		{#if check?.reasons.length}<h3>Likely reasons</h3><ul class="reasons">{#each check.reasons as reason (reason)}<li>{reason}</li>{/each}</ul>{/if}
		{#if check?.basis}<p class="note">{check.basis}</p>{/if}
		<div class="two living">
			<label>Really kept at, mean<NumberField label="Temperature really kept" value={job.site?.living?.kept_c} placeholder={num(check?.kept_c, 1)} quantity="temperature" digits={1} unit="°C" width="100%" usual="told" known={job.site?.living?.known?.kept_c ?? null} by={session.person} commit={proved('/site/living', 'kept_c', 'Temperature really kept')} /></label>
			<label>Share of the house heated<NumberField label="Share of the house heated" value={job.site?.living?.heated_share == null ? null : job.site.living.heated_share * 100} placeholder="100" digits={0} unit="%" width="100%" usual="told" known={job.site?.living?.known?.heated_share ?? null} by={session.person} commit={(v, k) => proved('/site/living', 'heated_share', 'Share of the house heated')(v === null ? null : v / 100, k)} /></label>
			<label>Hot water a day<NumberField label="Hot water a day" value={job.site?.living?.hot_water_l_per_day} placeholder="by people" digits={0} unit="L" width="100%" usual="told" known={job.site?.living?.known?.hot_water_l_per_day ?? null} by={session.person} commit={proved('/site/living', 'hot_water_l_per_day', 'Hot water a day')} /></label>
		</div>
		{#if check}<p class="note">{num(check.kept_c, 1)} °C {check.kept_why}. Degree days of the billed days below {num(check.base_c, 1)} °C: {num(check.degree_days_kd)} K d.</p>{/if}
	</section>
	<section>
		{#each ordered(job.site?.bills) as [id, bill] (id)}
			{@const at = `/site/bills/${id}`}
			{@const fuel = fuelOf(bill.fuel)}
			{@const worked = check?.lines.find((l) => l.id === id)}
			<fieldset>
				<div class="three">
					<label>Bill<TextField label="Name of the bill" value={bill.label} placeholder={fuel?.label ?? bill.fuel} commit={(v) => session.edit('Bill named', (d) => d.set(`${at}/label`, v))} /></label>
					<label>Of<Choice label="Fuel" value={bill.fuel} options={fuels.map(([value, f]) => ({ value, label: f.label }))} commit={(v) => void session.edit('Fuel of the bill', (d) => d.set(`${at}/fuel`, v))} /></label>
					<label>Counted in<Choice label="Unit of the bill" value={bill.unit ?? 'kwh_gross'} options={[{ value: 'kwh_gross', label: 'kWh, gross' }, { value: 'kwh_net', label: 'kWh, net' }, { value: 'unit', label: fuel?.unit ?? 'unit' }]} commit={(v) => void session.edit('Unit of the bill', (d) => d.set(`${at}/unit`, v))} /></label>
					<label>Bought<NumberField label="Amount bought" value={bill.amount} digits={0} unit={bill.unit === 'unit' ? (fuel?.unit ?? '') : 'kWh'} width="100%" usual="read" known={bill.known?.amount ?? null} by={session.person} commit={proved(at, 'amount', 'Amount bought')} /></label>
					<label>First day<input class="field" type="date" aria-label="First day of the bill" value={bill.from_day ?? ''} onchange={(e) => putDay(id, 'from_day', e.currentTarget.value)} /></label>
					<label>Last day<input class="field" type="date" aria-label="Last day of the bill" value={bill.to_day ?? ''} onchange={(e) => putDay(id, 'to_day', e.currentTarget.value)} /></label>
					<label>Heater<Choice label="Heater" value={bill.old_boiler === false ? 'new' : 'old'} options={[{ value: 'old', label: 'older' }, { value: 'new', label: 'newer' }]} commit={(v) => void session.edit('Heater of the bill', (d) => d.set(`${at}/old_boiler`, v === 'old'))} /></label>
					<label>Efficiency<NumberField label="Efficiency" value={bill.efficiency == null ? null : bill.efficiency * 100} placeholder={worked ? num(worked.efficiency * 100) : '–'} digits={0} unit="%" width="100%" usual="told" known={bill.known?.efficiency ?? null} by={session.person} commit={(v, k) => proved(at, 'efficiency', 'Efficiency')(v === null ? null : v / 100, k)} /></label>
					<label>Cooked with it<NumberField label="Cooking" value={bill.cooking_kwh} placeholder="0" digits={0} unit="kWh" width="100%" commit={put(`${at}/cooking_kwh`, 'Cooking on the bill')} /></label>
				</div>
				<div class="foot">
					<label class="pick"><input type="checkbox" checked={bill.hot_water ?? true} onchange={(e) => void session.edit('Hot water on the bill', (d) => d.set(`${at}/hot_water`, e.currentTarget.checked))} />made the hot water too</label>
					<button class="quiet" onclick={() => void session.edit('Bill removed', (d) => d.remove(at))}>remove</button>
				</div>
				{#if worked}<p class="note">{num(worked.bought_kwh)} kWh gross over {worked.days} days × {num(worked.efficiency * 100)} % ({worked.efficiency_why}) − hot water {num(worked.hot_water_kwh)} kWh = <b>{num(worked.rooms_kwh)} kWh for the rooms</b></p>{/if}
			</fieldset>
		{/each}
		<div><button class="act" onclick={addBill}>Add a bill</button></div>
		<p class="note">A bill tells what the people did, not what the house can. Wood, an extra heater, shut rooms and a warm winter are why it lies below; open windows and a bad boiler why above.</p>
	</section>
</div>

<style>
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr);
		gap: 30px;
		margin-bottom: 12px;
	}
	#bills {
		grid-template-columns: minmax(0, 1fr) minmax(0, 1.25fr);
	}
	.old {
		opacity: 0.6;
	}
	section {
		display: grid;
		gap: 6px;
		align-content: start;
		min-width: 0;
	}
	.side h2 {
		margin-top: 8px;
	}
	.rule {
		border-top: 1px solid var(--ink);
		padding-top: 10px;
		margin: 8px 0;
		font-size: 20px;
	}
	.legend {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
	}
	.legend i {
		display: inline-block;
		width: 16px;
		height: 11px;
		margin-right: 5px;
		vertical-align: -1px;
	}
	.legend .heat {
		background: var(--heat);
	}
	.legend .people {
		background: var(--fill-trade);
	}
	.legend .sun {
		background: repeating-linear-gradient(45deg, var(--short-pale) 0 4px, var(--short) 4px 6px);
	}
	.legend .out {
		height: 0;
		border-top: 2px solid var(--ink);
		vertical-align: middle;
	}
	.legend .dot {
		width: 8px;
		height: 8px;
		border-radius: 4px;
		background: var(--heat);
	}
	.legend .dash {
		height: 0;
		border-top: 2px dashed var(--ink);
		vertical-align: middle;
	}
	.scroll {
		overflow-x: auto;
	}
	.months td,
	.months th {
		padding: 3px 6px;
	}
	tfoot td {
		font-weight: 700;
	}
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 3px 10px;
	}
	dt {
		color: var(--muted);
	}
	dd {
		text-align: right;
		font-weight: 600;
		font-variant-numeric: tabular-nums;
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px 12px;
		align-items: end;
	}
	.living {
		grid-template-columns: 1fr 1fr 1fr;
		margin-top: 6px;
	}
	.three {
		display: grid;
		grid-template-columns: 1.2fr 1fr 1fr;
		gap: 6px 12px;
		align-items: end;
	}
	label {
		font-size: var(--small);
		color: var(--muted);
		min-width: 0;
	}
	fieldset {
		border-top: 1px solid var(--hairline);
		padding: 6px 0;
		min-width: 0;
	}
	.foot {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	.pick {
		display: flex;
		gap: 8px;
		align-items: center;
		min-height: 34px;
		color: var(--ink);
		font-size: var(--text);
	}
	.pick input {
		width: 18px;
		height: 18px;
		accent-color: var(--ink);
	}
	.compare {
		display: grid;
		grid-template-columns: 96px 1fr 92px;
		gap: 6px 10px;
		align-items: center;
	}
	.compare b {
		text-align: right;
		font-variant-numeric: tabular-nums;
	}
	.lane {
		position: relative;
		height: 24px;
		background: var(--ash);
	}
	.lane i {
		position: absolute;
		top: 0;
		bottom: 0;
	}
	.lane .fill {
		left: 0;
		background: var(--heat);
	}
	.lane .pin {
		width: 4px;
		background: var(--ink);
		margin-left: -2px;
	}
	.verdict {
		font-weight: 700;
		font-size: var(--lead);
	}
	.good {
		color: var(--meets);
	}
	.off {
		color: var(--doubt);
	}
	h3 {
		font-weight: 700;
	}
	.reasons {
		list-style: disc;
		padding-left: 18px;
	}
	.waits {
		padding: 6px 12px;
		border-radius: 4px;
		margin-bottom: 8px;
	}
	.tag {
		padding: 0 7px;
		border-radius: 4px;
	}
	.empty {
		font-size: var(--lead);
		padding: 20px 0;
	}
	@media (max-width: 1000px) {
		.desk,
		#bills {
			grid-template-columns: 1fr;
		}
	}
</style>
