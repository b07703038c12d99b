<script lang="ts">
	import type { Control, ControllersFound, Dialled } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { money, num } from '$lib/parts/format';
	import Sentence from '$lib/parts/Sentence.svelte';
	import { amount, difference, fig, unitName } from '$lib/parts/units';
	let { found }: { found: ControllersFound } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const take = (kind: string, label: string): Promise<boolean> =>
		session.edit(`Controller: ${label.toLowerCase()}`, (d) =>
			d.set(`/schemes/${session.scheme}/control/kind`, kind as NonNullable<Control['kind']>)
		);
	const told = (row: Dialled): string =>
		row.value == null
			? '–'
			: row.quantity === '°C'
				? amount(row.value, '°C', row.digits)
				: row.quantity === 'K'
					? `${num(difference(row.value, 'K'), row.digits)} ${unitName('K')}`
					: num(row.value, row.digits);
</script>

<p class="max-w-[76ch] py-1"><Sentence text={found.sentence} /></p>
<div class="overflow-x-auto">
	<table class="table table-figures">
		<thead
			><tr
				><th>Kind</th><th class="text-right">Short, {unitName('K')}</th><th class="text-right"
					>Above need, {unitName('K')}</th
				><th class="text-right">Season</th><th class="text-right">More, kWh a year</th><th class="text-right"
					>More to pay</th
				><th><span class="sr-only">Choose</span></th></tr
			></thead
		>
		<tbody
			>{#each found.rows as row (row.kind)}<tr class="border-b-0"
					><td class:font-semibold={row.chosen}>{row.label}</td><td class="text-right"
						>{row.lacks ? '–' : fig(row.short_k, 'K', 1)}</td
					><td class="text-right">{row.lacks ? '–' : fig(row.excess_k, 'K', 1)}</td><td class="text-right"
						>{row.lacks ? '–' : num(row.performance, 2)}</td
					><td class="text-right">{row.more_kwh == null ? '–' : num(row.more_kwh)}</td><td class="text-right"
						>{row.more_minor == null ? '–' : money(row.more_minor, currency)}</td
					><td class="text-right whitespace-nowrap"
						>{#if row.chosen}<b>chosen</b>{:else if session.scheme}<button
								class="btn btn-quiet"
								aria-label={`Choose ${row.label.toLowerCase()}`}
								onclick={() => void take(row.kind, row.label)}>Choose it</button
							>{/if}</td
					></tr
				><tr
					><td colspan="7" class="pt-0 text-small text-muted"
						>{#each row.dial as one, n (one.key)}{n ? ' · ' : ''}{one.label}
							<b class="text-ink">{told(one)}</b>{/each}{row.dial.length
							? '. '
							: ''}{row.verdict[0]?.toUpperCase()}{row.verdict.slice(1)}{row.verdict.endsWith('.') ? '' : '.'}</td
					></tr
				>{/each}</tbody
		>
	</table>
</div>
<p class="note">
	Short: the worst room below its target. Above need: the line over the water the house needs. More: beside the kind
	that serves every room and costs least{found.boiler.length
		? '; kWh of electricity and fuel together, whose prices differ: go by what is to pay'
		: ''}.
</p>
