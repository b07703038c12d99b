<script lang="ts">
	import type { PackFound } from '$lib/api/client';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { day } from '$lib/parts/format';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	/** Things with a serial number: registrations and warranties with the days that count. */
	let { found }: { found: PackFound } = $props();
	const session = $derived(useFrame().session);
	const plates = $derived(ordered(session.job?.handover?.plates));
	const base = '/handover/plates';
	const put = (path: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`${base}/${path}`, value));
	const add = (label: string) =>
		void session.edit('A serial number', (d) =>
			d.set(`${base}/${newId()}`, { label, pos: nextPos(d.job.handover?.plates) })
		);
</script>

<div class="grid gap-3">
	{#each plates as [id, p] (id)}
		<div
			class="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-x-3 gap-y-2 border-t border-t-hairline pt-2"
		>
			<label class="text-small text-muted"
				>What<TextField
					label={`What, ${p.label}`}
					value={p.label}
					strong
					commit={(v) => put(`${id}/label`, 'A plate')(v || 'A thing')}
				/></label
			>
			<label class="text-small text-muted"
				>Serial number<TextField
					label={`Serial number of ${p.label}`}
					value={p.serial}
					commit={put(`${id}/serial`, p.label)}
				/></label
			>
			<label class="text-small text-muted"
				>Fitted<TextField
					type="date"
					label={`Day ${p.label} was fitted`}
					value={p.fitted}
					commit={put(`${id}/fitted`, p.label)}
				/></label
			>
			<label class="text-small text-muted"
				>To be registered within, days<NumberField
					label={`Days to register ${p.label}`}
					value={p.register_within_days}
					quantity="whole"
					digits={0}
					width="100%"
					commit={put(`${id}/register_within_days`, p.label)}
				/></label
			>
			<label class="text-small text-muted"
				>Registered<TextField
					type="date"
					label={`Day ${p.label} was registered`}
					value={p.registered}
					commit={put(`${id}/registered`, p.label)}
				/></label
			>
			<label class="text-small text-muted"
				>under number<TextField
					label={`Number ${p.label} is registered under`}
					value={p.registered_number}
					commit={put(`${id}/registered_number`, p.label)}
				/></label
			>
			<label class="text-small text-muted"
				>Warranty, months<NumberField
					label={`Months of warranty on ${p.label}`}
					value={p.warranty_months}
					quantity="whole"
					digits={0}
					width="100%"
					commit={put(`${id}/warranty_months`, p.label)}
				/></label
			>
			<div class="flex items-center justify-between">
				<Tick
					ask="insured"
					label={`${p.label}: warranty insured`}
					value={p.insured ?? false}
					commit={put(`${id}/insured`, p.label)}
				/>
				<button
					class="btn btn-quiet"
					onclick={() => void session.edit(`${p.label} taken out`, (d) => d.remove(`${base}/${id}`))}
					>take out<span class="sr-only"> {p.label}</span></button
				>
			</div>
		</div>
	{:else}<p class="note">None yet: machine, store, controller, meters.</p>{/each}
</div>
<div class="mt-2 flex flex-wrap gap-2">
	<button class="btn btn-outline" onclick={() => add('A thing')}>+ a serial number</button>
</div>
{#if found.deadlines.length}
	<h2 class="mt-4">By when</h2>
	<ul class="grid gap-1">
		{#each found.deadlines as d (d.label + d.what)}<li class="flex flex-wrap items-baseline gap-x-3">
				<span class={['w-28 tabular-nums', (d.late || d.soon) && 'rounded-sm px-1.5 hatch-short']}>{day(d.day)}</span>
				<span>{d.label}: {d.what}</span><span class="note">{d.done || (d.late ? 'late' : d.soon ? 'soon' : '')}</span>
			</li>{/each}
	</ul>
{/if}
