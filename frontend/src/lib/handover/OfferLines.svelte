<script lang="ts">
	import type { OfferVariant } from '$lib/api/client';
	import { CompanyPrices } from '$lib/job/companyPrices.svelte';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import { money, num } from '$lib/parts/format';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import { fig, unitName } from '$lib/parts/units';
	/** The lines of one variant: goods, work by task, lines of one's own. */
	let { variant, changed }: { variant: OfferVariant; changed: () => void } = $props();
	const session = $derived(useFrame().session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const base = '/handover/offer';
	const offer = $derived(session.job?.handover?.offer ?? {});
	const groups = $derived([...new Set(variant.goods.map((one) => one.group))]);
	const own = $derived(ordered(offer.lines).filter(([, one]) => !one.scheme || one.scheme === variant.scheme));
	const put = (path: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`${base}/${path}`, value));
	const STATES = [
		{ value: 'counted', label: 'by the hour' },
		{ value: 'falls away', label: 'falls away' }
	];
	type Trade = NonNullable<typeof shelf.all>['trades'][string];
	type Task = NonNullable<typeof shelf.all>['labour'][string];
	const trades = new CompanyPrices<Trade>(
		'trades',
		() => shelf.all?.trades,
		() => session,
		() => changed()
	);
	const tasks = new CompanyPrices<Task>(
		'labour',
		() => shelf.all?.labour,
		() => session,
		() => changed()
	);
</script>

<div class="overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr><th>Goods</th><th class="text-right">Number</th><th>Why</th><th class="text-right">{currency}</th></tr
			></thead
		>
		{#each groups as group (group)}<tbody>
				<tr
					><th colspan="3" class="pt-3 text-left font-semibold">{group}</th><th class="pt-3 text-right font-semibold"
						>{money(
							variant.goods.filter((g) => g.group === group).reduce((all, g) => all + (g.minor ?? 0), 0),
							currency
						)}</th
					></tr
				>
				{#each variant.goods.filter((g) => g.group === group) as g, n (n)}<tr
						><td
							>{g.label}{#if g.words}<span class="note">, {g.words}</span>{/if}</td
						><td class="text-right whitespace-nowrap"
							>{g.unit === 'each' ? num(g.count) : fig(g.count, g.unit, Number.isInteger(g.count) ? 0 : 1)}
							<span class="unit">{g.unit === 'each' ? '' : unitName(g.unit)}</span></td
						><td class="note">{g.why}</td><td class="text-right"
							>{#if g.minor == null}<span class="rounded-sm px-1.5 hatch-short">no price yet</span>{:else}{money(
									g.minor,
									currency
								)}{/if}</td
						></tr
					>{/each}
			</tbody>{/each}
	</table>
	<table class="table mt-4 table-figures">
		<thead
			><tr
				><th>Work</th><th>Who</th><th class="text-right">Hours</th><th class="text-right">Helper</th><th>Counted</th><th
					class="text-right">{currency}</th
				></tr
			></thead
		>
		<tbody
			>{#each variant.labour as l (l.key)}<tr class:opacity-60={l.state === 'falls away'}
					><td
						>{l.label}{#if l.of}<span class="note">, {l.of}</span>{/if}<span class="block note">{l.why}</span></td
					><td>{l.trade}</td><td class="text-right"
						><NumberField
							label={`Hours of ${l.label}`}
							value={l.own ? l.hours : null}
							placeholder={num(l.hours, 1)}
							digits={1}
							width="5em"
							commit={put(`tasks/${l.key}/hours`, `Hours of ${l.label}`)}
						/></td
					><td class="text-right">{l.helper_h ? num(l.helper_h, 1) : '–'}</td><td
						>{#if l.state === 'in the prices'}<span class="note">in the prices of the goods</span>{:else}<Choice
								label={`How ${l.label} counts`}
								value={l.state}
								options={STATES}
								commit={(v) => put(`tasks/${l.key}/falls_away`, l.label)(v === 'falls away' ? true : null)}
							/>{/if}</td
					><td class="text-right">{l.state === 'counted' ? money(l.minor, currency) : '–'}</td></tr
				>{/each}
			{#each own as [id, one] (id)}<tr
					><td
						><TextField label="A line of our own" value={one.label} commit={put(`lines/${id}/label`, 'Own line')} /></td
					><td
						><Choice
							label={`What ${one.label} is`}
							value={one.of ?? 'goods'}
							options={[
								{ value: 'goods', label: 'goods' },
								{ value: 'labour', label: 'work' }
							]}
							commit={put(`lines/${id}/of`, one.label)}
						/></td
					><td></td><td></td><td
						><button
							class="btn btn-quiet"
							onclick={() => void session.edit(`${one.label} taken out`, (d) => d.remove(`${base}/lines/${id}`))}
							>take out<span class="sr-only"> {one.label}</span></button
						></td
					><td class="text-right"
						><NumberField
							label={`Price of ${one.label}`}
							value={one.minor}
							times={0.01}
							digits={2}
							width="7.6em"
							commit={put(`lines/${id}/minor`, one.label)}
						/></td
					></tr
				>{/each}</tbody
		>
	</table>
</div>
<button
	class="btn mt-1 btn-outline"
	onclick={() =>
		void session.edit('A line of our own', (d) =>
			d.set(`${base}/lines/${newId()}`, {
				label: 'A line of our own',
				minor: 0,
				pos: nextPos(d.job.handover?.offer?.lines)
			})
		)}>+ a line of our own</button
>
<div class="mt-3">
	<Fold
		title="What an hour costs, and how long tasks take the company"
		opened={() => (void trades.load(), void tasks.load())}
	>
		<div class="grid grid-cols-[minmax(240px,1fr)_minmax(0,2fr)] gap-6 narrow:grid-cols-[1fr]">
			<table class="table table-figures">
				<thead><tr><th>Who</th><th class="text-right">An hour, {currency}</th><th>From</th></tr></thead><tbody
					>{#each Object.entries(trades.rows) as [key, row] (key)}<tr
							><td>{row.label}</td><td class="text-right"
								><NumberField
									label={`An hour of ${row.label}`}
									value={row.minor_per_h / 100}
									digits={2}
									width="6em"
									commit={(v) => trades.put(key, 'minor_per_h', v)}
								/></td
							><td class="note"
								>{#if trades.own[key]}yours <button class="btn btn-quiet" onclick={() => void trades.back(key)}
										>back to ours</button
									>{:else}ours, a guess{/if}</td
							></tr
						>{/each}</tbody
				>
			</table>
			<table class="table table-figures">
				<thead
					><tr
						><th>Task</th><th class="text-right">Hours once</th><th class="text-right">and for every</th><th></th><th
							>From</th
						></tr
					></thead
				><tbody
					>{#each Object.entries(tasks.rows) as [key, row] (key)}<tr
							><td>{row.label}</td><td class="text-right"
								><NumberField
									label={`Hours once, ${row.label}`}
									value={row.hours}
									digits={2}
									width="5em"
									commit={(v) => tasks.put(key, 'hours', v, {}, 1)}
								/></td
							><td class="text-right"
								><NumberField
									label={`Hours for every ${row.per}, ${row.label}`}
									value={row.each}
									digits={2}
									width="5em"
									commit={(v) => tasks.put(key, 'each', v, {}, 1)}
								/></td
							><td class="note">{row.per}</td><td class="note"
								>{#if tasks.own[key]}yours <button class="btn btn-quiet" onclick={() => void tasks.back(key)}
										>back to ours</button
									>{:else}ours, a guess{/if}</td
							></tr
						>{/each}</tbody
				>
			</table>
		</div>
	</Fold>
</div>
