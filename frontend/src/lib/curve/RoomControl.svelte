<script lang="ts">
	import type { Control, RoomControlFound } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { money, num } from '$lib/parts/format';
	import Sentence from '$lib/parts/Sentence.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	let { found, busy }: { found: RoomControlFound; busy: boolean } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const base = $derived(`/schemes/${session.scheme}/control/room`);
	const rule = $derived<NonNullable<Control['room']>>(
		(session.scheme ? session.job?.schemes?.[session.scheme]?.control?.room : null) ?? {}
	);
	const put = (field: string, what: string) => (value: unknown) =>
		session.edit(`Room controller, ${what}`, (d) => d.put(`${base}/${field}`, value));
	const CHARGE = [
		{ value: 'curve', label: 'the curve' },
		{ value: 'thermostat', label: `a thermostat` }
	];
	const lead = (hours: number | null | undefined): string =>
		hours == null ? 'more than two days' : hours < 3 ? `${num(hours, 1)} h` : `${num(hours)} h`;
</script>

<p class="max-w-[86ch] py-1 text-lead"><Sentence text={found.sentence} /></p>
<div class="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-6.5 narrow:grid-cols-[1fr]">
	<div>
		<dl class="grid gap-2" class:opacity-60={busy} aria-busy={busy}>
			{#each found.advice as one (one.key)}<div class="border-t border-t-hairline pt-1.5">
					<dt class="text-small text-muted">{one.label}</dt>
					<dd><b>{one.set_to[0]?.toUpperCase()}{one.set_to.slice(1)}</b>: {one.why}.</dd>
				</div>{/each}
		</dl>
	</div>
	<div class="grid content-start gap-3">
		<table class="table table-figures" class:opacity-60={busy} aria-busy={busy}>
			<thead
				><tr
					><th>Away</th><th class="text-right">Outside, {unitName('°C')}</th><th class="text-right"
						>{found.room} falls to, {unitName('°C')}</th
					><th class="text-right">Start before coming home</th><th class="text-right">Saves</th></tr
				></thead
			>
			<tbody
				>{#each found.absences as one (`${one.label} ${one.outdoor_c}`)}<tr
						><td>{one.label}</td><td class="text-right">{fig(one.outdoor_c, '°C')}</td><td class="text-right"
							>{fig(one.falls_to_c, '°C', 1)}</td
						><td class="text-right">{lead(one.lead_h)}</td><td class="text-right"
							>{num(one.saved_kwh)} kWh, {money(one.saved_minor, currency)}</td
						></tr
					>{/each}</tbody
			>
		</table>
		<p class="note">
			Held at {amount(found.away_c, '°C')} meanwhile, at the same temperature outside throughout, no sun; warm again: {found.room}
			within a few tenths of where it stands else.
		</p>
		{#if session.scheme}
			<h3 class="font-semibold">As it is set</h3>
			<div class="grid grid-cols-[1fr_1fr_1fr] items-end gap-x-3 gap-y-2 narrow:grid-cols-[1fr_1fr]">
				<label class="text-small text-muted"
					>In charge<Choice
						label="In charge"
						value={rule.in_charge ?? 'curve'}
						options={CHARGE}
						commit={(v) => void session.edit('Room controller, who is in charge', (d) => d.set(`${base}/in_charge`, v))}
					/></label
				>
				<Asked
					ask="Off the water at night"
					label="Off the water at night"
					value={rule.setback_k}
					unit="K"
					digits={1}
					commit={put('setback_k', 'night')}
				/>
				<Asked
					ask="Night from, hour"
					label="Night from, hour"
					value={rule.night_from_h}
					placeholder="22"
					digits={1}
					commit={put('night_from_h', 'night from')}
				/>
				<Asked
					ask="Night to, hour"
					label="Night to, hour"
					value={rule.night_to_h}
					placeholder="6"
					digits={1}
					commit={put('night_to_h', 'night to')}
				/>
				<Asked
					ask="Held while away at"
					label="Held while away at"
					value={rule.away_c}
					placeholder={fig(16, '°C')}
					quantity="temperature"
					unit="°C"
					digits={1}
					commit={put('away_c', 'while away')}
				/>
				<Asked
					ask="Boost at the most, h"
					label="Boost at the most, h"
					value={rule.boost_hours}
					placeholder="2"
					digits={1}
					commit={put('boost_hours', 'boost')}
				/>
				<Asked
					ask="Landlord: no less than"
					label="Landlord: no less than"
					value={rule.least_c}
					quantity="temperature"
					unit="°C"
					digits={1}
					commit={put('least_c', "landlord's least")}
				/>
				<Asked
					ask="Landlord: no more than"
					label="Landlord: no more than"
					value={rule.greatest_c}
					quantity="temperature"
					unit="°C"
					digits={1}
					commit={put('greatest_c', "landlord's most")}
				/>
				<Asked
					ask="Quiet from, hour"
					label="Quiet from, hour"
					value={rule.quiet_from_h}
					digits={1}
					commit={put('quiet_from_h', 'quiet from')}
				/>
				<Asked
					ask="Quiet to, hour"
					label="Quiet to, hour"
					value={rule.quiet_to_h}
					digits={1}
					commit={put('quiet_to_h', 'quiet to')}
				/>
				<label class="text-small text-muted"
					>Whom to call<TextField
						label="Whom to call"
						value={rule.call ?? ''}
						commit={(v) => put('call', 'whom to call')(v)}
					/></label
				>
			</div>
			<p class="note">
				Night and who is in charge go into the year and the week above; the rest stands on the plain page.
			</p>
		{/if}
	</div>
</div>
