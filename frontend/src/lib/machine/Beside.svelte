<script lang="ts">
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	let { id, label, quietShare }: { id: string; label: string; quietShare: number | undefined } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const base = $derived(`/schemes/${session.scheme}/candidates/${id}`);
	const candidate = $derived(session.job?.schemes?.[session.scheme ?? '']?.candidates?.[id]);
	const backup = $derived(candidate?.backup ?? {});
	const kind = $derived(backup.kind ?? 'heater');
	const burns = $derived(kind !== 'heater' && kind !== 'none');
	const fuels = $derived(
		Object.entries(session.job?.library?.tables?.standard?.data.fuels ?? {}).filter(([key]) => key !== 'electricity')
	);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const KINDS = [
		{ value: 'heater', label: 'a heater in the water' },
		{ value: 'boiler', label: 'the boiler that is there' },
		{ value: 'new boiler', label: 'a new boiler' },
		{ value: 'stove', label: 'a stove' },
		{ value: 'none', label: 'nothing' }
	];
	const MODES = [
		{ value: 'parallel', label: 'beside it, when it falls short' },
		{ value: 'alternate', label: 'in its place, when it falls short' },
		{ value: 'price', label: 'whichever is cheaper that hour' },
		{ value: 'carbon', label: 'whichever makes less carbon' }
	];
	const put = (field: string, what: string) => (value: unknown) =>
		session.edit(`${label}: ${what}`, (d) => d.put(`${base}/${field}`, value));
</script>

<div class="grid grid-cols-2 items-end gap-x-3 gap-y-2">
	<label class="col-span-2"
		>Beside it works<Choice
			label="What works beside the machine"
			value={kind}
			options={KINDS}
			commit={(v) => void put('backup/kind', 'what works beside it')(v ?? 'heater')}
		/></label
	>
	{#if kind !== 'none'}
		<label class="col-span-2"
			>It works<Choice
				label="When it works"
				value={backup.mode ?? 'parallel'}
				options={burns ? MODES : MODES.slice(0, 2)}
				commit={(v) => void put('backup/mode', 'when it works')(v ?? 'parallel')}
			/></label
		>
	{/if}
	{#if burns}
		<label
			>It burns<Choice
				label="What it burns"
				value={backup.fuel ?? null}
				empty={kind === 'boiler' ? 'as today' : kind === 'stove' ? 'firewood' : 'gas'}
				options={fuels.map(([value, f]) => ({ value, label: f.label }))}
				commit={(v) => void put('backup/fuel', 'what burns beside it')(v)}
			/></label
		>
		<Asked
			ask="Efficiency, %"
			label="Efficiency of what works beside"
			value={backup.efficiency}
			times={100}
			digits={0}
			placeholder="usual"
			commit={put('backup/efficiency', 'efficiency beside it')}
		/>
		<label class="col-span-2 flex min-h-9 items-center gap-2"
			><input
				type="checkbox"
				class="checkbox"
				checked={backup.hot_water ?? false}
				onchange={(event) => void put('backup/hot_water', 'hot water')(event.currentTarget.checked)}
			/>It makes the hot water too</label
		>
		<p class="col-span-2 note">
			Its controller joins it when the water has not risen within about 20 minutes; somebody must enter both prices
			there, and again when a tariff changes. A registered person works on anything that burns.
		</p>
	{/if}
	<Asked
		ask={`Paid once, ${currency}`}
		label="Cost of machine and work"
		value={candidate?.cost_minor}
		times={0.01}
		digits={0}
		commit={put('cost_minor', 'what is paid once')}
	/>
	<Asked
		ask={`Service, ${currency} a year`}
		label="Service of the machine"
		value={candidate?.service_minor}
		times={0.01}
		digits={0}
		commit={put('service_minor', 'service')}
	/>
	{#if quietShare != null && quietShare < 1}<Tick
			ask="Quiet at night"
			value={candidate?.quiet ?? false}
			commit={put('quiet', 'quiet nights')}
		/>{/if}
</div>

<style>
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
</style>
