<script lang="ts">
	import { amount } from '$lib/parts/units';
	import type { EmitterSpec } from '$lib/api/client';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	let {
		spec,
		label,
		put
	}: { spec: EmitterSpec; label: string; put: (fields: Record<string, unknown>, what: string) => Promise<boolean> } =
		$props();
	const speeds = $derived(spec.speeds ?? []);
	type Speed = (typeof speeds)[number];
	const set = (n: number, change: Partial<Speed>): Promise<boolean> =>
		put(
			{
				speeds: speeds.map((s, k) =>
					k === n ? (Object.fromEntries(Object.entries({ ...s, ...change }).filter(([, v]) => v !== null)) as Speed) : s
				)
			},
			'fan speeds'
		);
	const add = (): void => {
		const last = speeds.at(-1);
		void put(
			{
				speeds: [
					...speeds,
					{ label: '', output_w: Math.round((last?.output_w ?? 500) * 1.5), electric_w: (last?.electric_w ?? 5) * 2 }
				]
			},
			'a speed added'
		);
	};
</script>

<table class="table table-figures">
	<thead
		><tr
			><th>Speed</th><th class="text-right">Gives at {amount(spec.excess_k ?? 50, 'K')}</th><th class="text-right"
				>Fan draws</th
			><th class="text-right">Sound</th><th>Accepted up to</th><th></th></tr
		></thead
	>
	<tbody>
		{#each speeds as speed, n (n)}
			<tr>
				<td class="px-1.5 py-0.5"
					><TextField
						label={`Name of speed ${n + 1} of ${label}`}
						value={speed.label ?? ''}
						placeholder={`speed ${n + 1}`}
						commit={(v) => set(n, { label: v ?? '' })}
					/></td
				>
				<td class="px-1.5 py-0.5 text-right"
					><NumberField
						label={`Output at speed ${n + 1} of ${label}`}
						value={speed.output_w}
						digits={0}
						unit="W"
						width="6.6em"
						commit={(v) => (v === null ? undefined : set(n, { output_w: v }))}
					/></td
				>
				<td class="px-1.5 py-0.5 text-right"
					><NumberField
						label={`Fan watts at speed ${n + 1} of ${label}`}
						value={speed.electric_w}
						digits={0}
						unit="W"
						width="5.6em"
						commit={(v) => set(n, { electric_w: v ?? 0 })}
					/></td
				>
				<td class="px-1.5 py-0.5 text-right"
					><NumberField
						label={`Sound at speed ${n + 1} of ${label}`}
						value={speed.sound_db}
						digits={0}
						unit="dB"
						width="5.6em"
						commit={(v) => set(n, { sound_db: v })}
					/></td
				>
				<td class="px-1.5 py-0.5"
					><label class="inline-flex min-h-9 items-center gap-2"
						><input
							class="checkbox checkbox-sm"
							type="radio"
							name={`speed-${label}`}
							checked={(spec.speed ?? 0) === n}
							onchange={() => void put({ speed: n }, `speed ${speed.label || n + 1} accepted`)}
						/>
						{(spec.speed ?? 0) === n ? 'the design counts this' : ''}</label
					></td
				>
				<td class="px-1.5 py-0.5"
					>{#if speeds.length > 1}<button
							class="btn btn-quiet"
							aria-label={`Remove speed ${n + 1}`}
							onclick={() => void put({ speeds: speeds.filter((_, k) => k !== n), speed: 0 }, 'a speed removed')}
							>remove</button
						>{/if}</td
				>
			</tr>
		{/each}
	</tbody>
</table>
<button class="btn btn-quiet" onclick={add}>+ a faster speed</button>
<p class="note">
	The quietest first. The design counts the fastest the customer accepts in the evening; a fan unit needs a socket and
	holds little water.
</p>
