<script lang="ts">
	import type { OfferFound } from '$lib/api/client';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import rules from '$lib/api/rules.json';
	import Asked from '$lib/parts/Asked.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	/** How the offer is made: whom it is for, what prices hold, taxes, payment, terms. */
	let { found }: { found: OfferFound } = $props();
	const session = $derived(useFrame().session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const handover = $derived(session.job?.handover ?? {});
	const offer = $derived(handover.offer ?? {});
	const base = '/handover/offer';
	const put = (path: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(path, value));
	const taxes = $derived(ordered(offer.taxes));
	const payments = $derived(ordered(offer.payments));
	const words = rules.offer_words;
	const of = (table: Record<string, string>) => Object.entries(table).map(([value, label]) => ({ value, label }));
	const said = $derived({ ...rules.offer, ...offer });
	const heaters = $derived(found.variants.find((v) => !v.lacks)?.disturbance.heaters ?? 0);
</script>

<div class="grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] items-end gap-x-4 gap-y-2.5">
	<label class="text-small text-muted"
		>For whom<TextField
			label="For whom"
			value={handover.customer}
			commit={put('/handover/customer', 'Customer')}
		/></label
	>
	<label class="text-small text-muted"
		>Number<TextField
			label="Number of the offer"
			value={offer.number}
			commit={put(`${base}/number`, 'Number of the offer')}
		/></label
	>
	<Asked
		ask="Holds for, days"
		value={said.valid_days}
		quantity="whole"
		digits={0}
		label="Holds for, days"
		commit={put(`${base}/valid_days`, 'Validity')}
	/>
	<label class="text-small text-muted"
		>Prices of parts<Choice
			label="What prices of parts hold"
			value={said.prices}
			options={of(words.prices)}
			commit={put(`${base}/prices`, 'What prices hold')}
		/></label
	>
	<label class="text-small text-muted"
		>Access<Choice
			label="Access"
			value={said.access}
			options={of(words.access)}
			commit={put(`${base}/access`, 'Access')}
		/></label
	>
	<Asked
		ask="People on site"
		value={said.crew}
		quantity="whole"
		digits={0}
		label="People on site"
		commit={put(`${base}/crew`, 'People on site')}
	/>
	<Asked
		ask="Travel, hours a day each"
		value={said.travel_h_per_day}
		digits={1}
		label="Travel, hours a day each"
		commit={put(`${base}/travel_h_per_day`, 'Travel')}
	/>
	<Asked
		ask="Reserve, %"
		value={said.reserve_share}
		times={100}
		digits={1}
		label="Reserve"
		commit={put(`${base}/reserve_share`, 'Reserve')}
	/>
	<Asked
		ask="On goods, %"
		value={said.margin_share}
		times={100}
		digits={1}
		label="Margin on goods"
		commit={put(`${base}/margin_share`, 'Margin on goods')}
	/>
	<Asked
		ask="Heaters lent"
		value={offer.heaters}
		placeholder={String(heaters)}
		quantity="whole"
		digits={0}
		label="Heaters lent"
		commit={put(`${base}/heaters`, 'Heaters lent')}
	/>
	<Asked
		ask={`A heater a day, ${currency}`}
		value={said.heater_minor_per_day}
		times={0.01}
		digits={2}
		label="A heater a day"
		commit={put(`${base}/heater_minor_per_day`, 'Price of a heater')}
	/>
</div>
<p class="mt-1 note">{found.prices}</p>
<div class="mt-4 grid grid-cols-2 gap-8 narrow:grid-cols-1">
	<section>
		<h2>Taxes</h2>
		{#each taxes as [id, tax] (id)}<div class="mb-1.5 grid grid-cols-[1fr_5.5em_9em_auto] items-center gap-2">
				<TextField label="Name of the tax" value={tax.label} commit={put(`${base}/taxes/${id}/label`, 'Tax')} />
				<NumberField
					label={`Share of ${tax.label}, %`}
					value={tax.share}
					times={100}
					digits={1}
					unit="%"
					width="100%"
					commit={put(`${base}/taxes/${id}/share`, 'Tax')}
				/>
				<Choice
					label={`What ${tax.label} is taken of`}
					value={tax.of ?? 'all'}
					options={of(words.of)}
					commit={put(`${base}/taxes/${id}/of`, 'Tax')}
				/>
				<button
					class="btn btn-quiet"
					onclick={() => void session.edit('A tax taken off', (d) => d.remove(`${base}/taxes/${id}`))}
					>×<span class="sr-only">take {tax.label} off</span></button
				>
			</div>{/each}
		<button
			class="btn btn-outline"
			onclick={() =>
				void session.edit('A tax', (d) =>
					d.set(`${base}/taxes/${newId()}`, { label: 'Tax', share: 0, pos: nextPos(d.job.handover?.offer?.taxes) })
				)}>+ a tax</button
		>
	</section>
	<section>
		<h2>Steps of payment</h2>
		{#each payments as [id, step], n (id)}<div class="mb-1.5 grid grid-cols-[1fr_6em_auto] items-center gap-2">
				<Choice
					label={`When step ${n + 1} is paid`}
					value={step.when}
					options={of(words.paid_when)}
					commit={put(`${base}/payments/${id}/when`, 'Step of payment')}
				/>
				<NumberField
					label={`Share of step ${n + 1}, %`}
					value={step.share}
					times={100}
					digits={0}
					unit="%"
					width="100%"
					commit={put(`${base}/payments/${id}/share`, 'Step of payment')}
				/>
				<button
					class="btn btn-quiet"
					onclick={() => void session.edit('A step of payment taken out', (d) => d.remove(`${base}/payments/${id}`))}
					>×<span class="sr-only">take step {n + 1} out</span></button
				>
			</div>{:else}<p class="note">
				Where none is entered: {words.usual_payments} (common practice).
			</p>{/each}
		<button
			class="btn btn-outline"
			onclick={() =>
				void session.edit('A step of payment', (d) => {
					const left =
						1 - Object.values(d.job.handover?.offer?.payments ?? {}).reduce((all, one) => all + one.share, 0);
					d.set(`${base}/payments/${newId()}`, {
						when: 'handover',
						share: Math.max(Math.round(left * 100) / 100, 0),
						pos: nextPos(d.job.handover?.offer?.payments)
					});
				})}>+ a step</button
		>
		<p class="note">The last step takes what is left.</p>
	</section>
</div>
<section class="mt-4">
	<h2>Terms</h2>
	<textarea
		class="textarea w-full bg-sheet"
		rows="5"
		aria-label="Terms"
		maxlength="4000"
		value={offer.terms ?? ''}
		onchange={(e) => void put(`${base}/terms`, 'Terms')(e.currentTarget.value.trim())}></textarea>
	<p class="note">One line, one paragraph. They stand behind the lines, after the customer's page.</p>
</section>
