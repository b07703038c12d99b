<script lang="ts">
	import rules from '$lib/api/rules.json';
	import type { WaterDays } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { money, num } from '$lib/parts/format';
	let { found }: { found: WaterDays } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const practice = $derived(session.job?.practice ?? {});
	const usual = rules.practice;
	const currency = $derived(session.job?.currency ?? 'GBP');
	const put = (field: string, what: string) => (value: unknown) =>
		session.edit(`Practice: ${what}`, (d) => d.put(`/practice/${field}`, value));
</script>

<p class="mb-2 max-w-[78ch]">
	Practice differs in how a store is kept clean. Each way is tried in the night of a day in the mean of the year;
	whoever signs the design states which one holds, and for whom.
</p>
<table class="table table-figures">
	<thead
		><tr
			><th>Way</th><th class="text-right">Times a year</th><th class="text-right">A cycle takes, kWh</th><th
				class="text-right">kWh a year</th
			><th class="text-right">Costs a year</th><th></th></tr
		></thead
	>
	<tbody
		>{#each found.hygiene as one (one.key)}<tr class={one.chosen ? 'font-semibold' : ''}
				><td
					>{one.label}{#if !one.reached}<span class="block note"
							>the {num(practice.hygiene_minutes ?? usual.hygiene_minutes)} minutes are not reached</span
						>{/if}</td
				><td class="text-right">{one.times || '–'}</td><td class="text-right"
					>{one.times ? num(one.more_kwh, 1) : '–'}</td
				><td class="text-right">{one.times ? num(one.electricity_kwh) : '–'}</td><td class="text-right"
					>{one.times ? money(one.cost_minor, currency) : '–'}</td
				><td class="text-right"
					>{#if one.chosen}this job's{:else}<button
							class="btn btn-quiet whitespace-nowrap"
							onclick={() => void put('hygiene', 'hygiene of the hot water')(one.key)}>Follow this</button
						>{/if}</td
				></tr
			>{/each}</tbody
	>
</table>
<div class="mt-3 grid max-w-[62ch] grid-cols-3 gap-3">
	<Asked
		ask="Heated to"
		label="The cycle heats to"
		value={practice.hygiene_c ?? usual.hygiene_c}
		quantity="temperature"
		digits={0}
		unit="°C"
		commit={put('hygiene_c', 'temperature of the cycle')}
	/>
	<Asked
		ask="Held for, min"
		label="The cycle is held for, minutes"
		value={practice.hygiene_minutes ?? usual.hygiene_minutes}
		quantity="whole"
		commit={put('hygiene_minutes', 'minutes of the cycle')}
	/>
	<label class="text-small text-muted"
		>Mixing valve at the shower<Choice
			label="Mixing valve at the shower"
			value={practice.mixer ?? usual.mixer}
			options={[
				{ value: 'thermostatic', label: 'thermostatic' },
				{ value: 'plain', label: 'plain' }
			]}
			commit={(v) => void put('mixer', 'mixing valve')(v)}
		/></label
	>
</div>
