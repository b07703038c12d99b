<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { Question } from '$lib/api/client';
	import { steps } from '$lib/charts/scale';
	import rules from '$lib/api/rules.json';
	import { evidence } from '$lib/house/evidence';
	import { nextPos, type Draft } from '$lib/job/draft';
	import { minorUnit } from '$lib/parts/format';
	import Mark from '$lib/parts/Mark.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import AnswerField from '$lib/house/AnswerField.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown!);
	const questions = $derived(shelf.all?.enquiry ?? {});
	const asked = $derived(design.asked.filter((a) => questions[a.id]));
	const next = $derived(asked.find((a) => !a.answered)?.id);
	const guess = $derived(design.first_guess);
	const ages = $derived(
		Object.fromEntries(Object.entries(shelf.all?.tables.standard?.ages ?? {}).map(([k, a]) => [k, a.label]))
	);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const top = $derived(Math.max(guess.high_w ?? 0, guess.bill_high_w ?? 0, 4000) * 1.12);
	const brings = $derived([...new Set(asked.flatMap((a) => a.brings))]);
	const costs = $derived(Math.max(1, ...guess.reasons.map((r) => r.costs_w)));

	function valueOf(q: Question): boolean | number | string | null | undefined {
		if (q.at === '/survey/household/people') return session.job?.survey?.household?.people;
		if (q.at === '/survey/household/bedrooms') return session.job?.survey?.household?.bedrooms;
		const said = session.job?.site?.answers?.[q.id];
		return q.unit === 'money/kWh' && typeof said === 'number' ? Math.round(said * 1e4) / 100 : said;
	}
	/** What was said of last year's fuel is a bill, and its price that of the fuel, until papers say better. */
	function tellBills(d: Draft, asked: string): void {
		const said = d.job.site?.answers ?? {};
		const fuel = (rules.call_fuels as Record<string, string>)[String(said.fuel)];
		const told = evidence('told', session.person, 'first call');
		if (fuel && asked !== 'bill_kwh' && typeof said.unit_price === 'number')
			d.set(`/prices/${fuel}`, Math.round(said.unit_price * 1e4) / 100);
		const bill = '/site/bills/first-call';
		const there = d.job.site?.bills?.['first-call'];
		// once somebody has read it off a paper, what was told on the telephone is not put over it
		if (there && there.known?.amount?.via !== told.via) return;
		if (fuel && typeof said.bill_kwh === 'number') {
			const pos = there?.pos ?? nextPos(d.job.site?.bills);
			const amounts = { fuel, amount: said.bill_kwh, unit: 'kwh_gross', known: { amount: told } };
			d.set(bill, { label: 'As told on the first call', ...there, pos, ...amounts });
		} else if (there) d.remove(bill);
	}
	function say(q: Question, value: boolean | number | string | null | undefined): Promise<boolean> {
		return session.edit(`First call: ${q.ask}`, (d) => {
			// a price of a kilowatt-hour is said in pence or cents, and kept in the currency itself
			const kept = q.unit === 'money/kWh' && typeof value === 'number' ? value / 100 : value;
			d.put(q.at || `/site/answers/${q.id}`, kept ?? null);
			if (value === null || value === undefined) d.remove(`/site/known/${q.id}`);
			else d.set(`/site/known/${q.id}`, evidence('told', session.person, 'first call'));
			if (['fuel', 'bill_kwh', 'unit_price'].includes(q.id)) tellBills(d, q.id);
			if (q.id !== 'age' || typeof value !== 'string') return;
			// the age brings its usual constructions, unless somebody has chosen already
			const part = Object.entries(d.job.survey?.parts ?? {}).sort(([, a], [, b]) => (a.pos ?? 0) - (b.pos ?? 0))[0];
			const entry = shelf.all?.tables.standard?.ages[value];
			if (!part || !entry || part[1].age) return;
			d.set(`/survey/parts/${part[0]}/age`, value);
			for (const [element, key] of Object.entries(entry.constructions)) {
				d.freeze('constructions', key);
				if (!part[1].constructions?.[element as 'wall'])
					d.set(`/survey/parts/${part[0]}/constructions/${element}`, key);
			}
		});
	}
</script>

<Head title="First call" screen="call">
	<a class="btn btn-outline" href={`/job/${session.id}/walk-round`}>To the walk-round</a>
</Head>

<div class="grid grid-cols-[minmax(0,1.15fr)_minmax(320px,0.85fr)] gap-8.5 narrow:grid-cols-[1fr]">
	<ol aria-label="Questions, in order">
		{#each asked as one, n (one.id)}
			{@const q = questions[one.id]!}
			<li
				class="grid grid-cols-[30px_1fr] border-b border-b-hairline px-0 pt-2.25 pb-2.75 [&.next]:-ml-3.5 [&.next]:border-l-4 [&.next]:border-l-ink"
				class:next={one.id === next}
				class:done={one.answered}
			>
				<span class="num pt-px text-muted">{n + 1}</span>
				<div>
					<p class="ask mb-1.25 font-semibold">
						{q.ask}{#if one.answered}<span class="ml-2"
								><Mark
									known={session.job?.site?.known?.[q.id] ?? { how: 'told' }}
									label={q.ask}
									set={(k) => void session.edit(`How it is known: ${q.ask}`, (d) => d.set(`/site/known/${q.id}`, k))}
								/></span
							>{/if}
					</p>
					<AnswerField
						kind={q.kind}
						value={valueOf(q)}
						options={q.kind === 'age' ? ages : q.options}
						unit={q.unit === 'money' ? currency : q.unit === 'money/kWh' ? `${minorUnit(currency)}/kWh` : q.unit}
						label={q.ask}
						commit={(v) => say(q, v)}
					/>
					{#if one.id === next}<p class="note">{q.why}</p>{/if}
					{#each one.brings as what (what)}<p class="mt-1 text-small text-water">Brings: {what}</p>{/each}
				</div>
			</li>
		{/each}
	</ol>
	<aside class="sticky top-0 grid content-start gap-4.5 self-start">
		<section aria-label="First guess">
			<h2>First guess</h2>
			<svg viewBox="0 0 380 126" role="img" aria-label={design.sentences.call?.replaceAll('**', '')}>
				{#each steps(0, top / 1000, 6, 'kW') as kw (kw)}
					<line x1={20 + ((kw * 1000) / top) * 340} x2={20 + ((kw * 1000) / top) * 340} y1="8" y2="88" class="ruled" />
					<text x={20 + ((kw * 1000) / top) * 340} y="103" text-anchor="middle">{fig(kw, 'kW')}</text>
				{/each}
				<text x="360" y="120" text-anchor="end" class="axis">{unitName('kW')} on the design day</text>
				{#if guess.low_w !== null && guess.high_w !== null}
					<rect
						x={20 + (guess.low_w / top) * 340}
						width={Math.max(((guess.high_w - guess.low_w) / top) * 340, 3)}
						y="16"
						height="26"
						class="area"
					/>
					<text x={26 + (guess.low_w / top) * 340} y="34" class="in">floor × {unitName('W/m²')}</text>
				{/if}
				{#if guess.bill_low_w !== null && guess.bill_high_w !== null}
					<rect
						x={20 + (guess.bill_low_w / top) * 340}
						width={Math.max(((guess.bill_high_w - guess.bill_low_w) / top) * 340, 3)}
						y="52"
						height="26"
						class="bill"
					/>
					<text x={26 + (guess.bill_low_w / top) * 340} y="70" class="in">last year's fuel</text>
				{/if}
			</svg>
			<table class="table table-figures">
				<tbody>
					<tr
						><td>By floor area</td><td class="num text-right"
							>{guess.low_w === null
								? '–'
								: `${fig(guess.low_w / 1000, 'kW', 1)} to ${fig((guess.high_w ?? 0) / 1000, 'kW', 1)}`}<span
								class="unit">{unitName('kW')}</span
							></td
						><td class="note"
							>{guess.area_m2
								? `${amount(guess.area_m2, 'm²')} × ${fig(guess.density_low_w_m2, 'W/m²')} to ${amount(guess.density_high_w_m2, 'W/m²')}`
								: 'no floor area yet'}</td
						></tr
					>
					<tr
						><td>By the bill</td><td class="num text-right"
							>{guess.bill_low_w === null
								? '–'
								: `${fig(guess.bill_low_w / 1000, 'kW', 1)} to ${fig((guess.bill_high_w ?? 0) / 1000, 'kW', 1)}`}<span
								class="unit">{unitName('kW')}</span
							></td
						><td class="note">{guess.bill_why || 'no bill yet'}</td></tr
					>
				</tbody>
			</table>
		</section>
		{#if guess.reasons.length}
			<section>
				<h2>Why it is wide</h2>
				<ul class="reasons">
					{#each guess.reasons as reason (reason.what)}
						<li class="relative grid grid-cols-[1fr_auto] border-b border-b-hairline px-2 py-1.5">
							<span
								class="absolute top-0 bottom-0 left-0 z-[-1] bg-doubt-pale"
								style:width={`${(reason.costs_w / costs) * 100}%`}
							></span>
							<strong>{reason.what}</strong>{#if reason.costs_w > 5}<span class="num costs"
									>{amount(reason.costs_w / 1000, 'kW', 1)}</span
								>{/if}
							<span class="col-span-full note">{reason.mend}</span>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
		{#if brings.length}
			<section>
				<h2>The visit brings</h2>
				<ul>
					{#each brings as what (what)}<li
							class="relative border-b border-b-hairline pt-1 pr-0 pb-1 pl-3.5 before:absolute before:left-0 before:content-['–']"
						>
							{what}
						</li>{/each}
				</ul>
			</section>
		{/if}
		<Cautions cautions={design.cautions.call ?? []} />
	</aside>
</div>

<style>
	.done .ask {
		font-weight: 400;
	}

	svg text {
		font-size: 12px;
		fill: var(--muted);
	}
	.ruled {
		stroke: var(--hairline);
	}
	.area {
		fill: var(--heat-pale);
		stroke: var(--heat);
	}
	.bill {
		fill: var(--ash);
		stroke: var(--muted);
	}
	svg text.in {
		fill: var(--ink);
	}
</style>
