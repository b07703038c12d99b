<script lang="ts">
	import type { SeparatingFound, Variant } from '$lib/api/client';
	import Mixing from '$lib/charts/Mixing.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import { money, num } from '$lib/parts/format';
	import Tick from '$lib/parts/Tick.svelte';
	import { difference, fig, unitName } from '$lib/parts/units';
	import OpenWater from './OpenWater.svelte';
	import ZonesBlock from './ZonesBlock.svelte';
	let { found }: { found: SeparatingFound } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const scheme = $derived(session.scheme);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const design = $derived(session.shown);
	const chosen = $derived(scheme ? (session.job?.schemes?.[scheme]?.separation ?? {}) : {});
	const two = $derived((chosen.kind ?? 'direct') !== 'direct');
	let looked = $state<string | null>(null);
	const shown = $derived(
		found.variants.find((v) => v.key === looked) ?? found.variants.find((v) => v.chosen) ?? found.variants[0]
	);
	const pumps = $derived(Object.values(shelf.all?.pumps ?? {}).map((one) => ({ value: one.id, label: one.label })));
	const base = $derived(`/schemes/${scheme}/separation`);
	const put = (field: string, what: string) => (value: unknown) =>
		session.edit(`Separation, ${what}`, (d) => d.put(`${base}/${field}`, value === false ? null : value));
	function take(v: Variant): void {
		void session.edit(`Laid out as ${v.label}`, (d) => {
			d.put(`${base}/kind`, v.key === 'direct' || v.key === 'volumiser' ? null : v.key);
			d.put(`${base}/volumiser_l`, v.key === 'volumiser' ? v.volumiser_l : null);
			d.put(`${base}/buffer_l`, v.key.startsWith('buffer') ? v.buffer_l : null);
			d.put(`${base}/pump`, v.pump || null);
		});
	}
</script>

{#if shown}
	<Mixing variant={shown} />
	<p class="note">
		{shown.label[0]?.toUpperCase()}{shown.label.slice(1)} on the design day. Gives: {shown.gives}. Asks: {shown.takes}.
	</p>
	<div class="mt-2 overflow-x-auto">
		<table class="table table-figures">
			<thead
				><tr
					><th>Way</th><th class="text-right">Of the pump’s head</th><th class="text-right"
						>Open water, {unitName('L')}</th
					><th class="text-right">Hotter by, {unitName('K')}</th><th class="text-right">Season</th><th
						class="text-right">Pumps beside, kWh</th
					><th class="text-right">Costs</th><th>What it does not do</th><th><span class="sr-only">Choose</span></th></tr
				></thead
			>
			<tbody
				>{#each found.variants as v (v.key)}<tr class:best={v.key === found.best}
						><td
							><button
								class="text-left underline decoration-muted decoration-dotted underline-offset-4"
								class:font-semibold={v.key === shown.key}
								aria-pressed={v.key === shown.key}
								onclick={() => (looked = v.key)}>{v.label}</button
							>{#if v.pump_label}<span class="block note">{v.pump_label}</span>{/if}</td
						><td class="text-right"
							>{v.head_used == null ? '–' : v.head_used > 1 ? 'too little' : `${num(100 * v.head_used)} %`}</td
						><td class="text-right"
							>{fig(v.open_l, 'L')}{#if v.need_l != null && v.open_l != null && v.open_l < v.need_l}<span
									class="ms-1 badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold hatch-short">short</span
								>{/if}</td
						><td class="text-right">{v.lift_k ? num(difference(v.lift_k, 'K'), 1) : '–'}</td><td class="text-right"
							>{num(v.season, 2)}{#if (v.season_change ?? 0) < -0.0005}<span class="block note"
									>−{num(-100 * (v.season_change ?? 0), 1)} %</span
								>{/if}</td
						><td class="text-right">{v.pump_kwh ? num(v.pump_kwh) : '–'}</td><td class="text-right"
							>{v.cost_minor ? money(v.cost_minor, currency) : '–'}</td
						><td
							>{#if v.lacks.length}{v.lacks.join('; ')}{:else}<span class="font-semibold text-meets"
									>does all of it</span
								>{/if}</td
						><td class="text-right whitespace-nowrap"
							>{#if v.chosen}<span class="font-semibold">chosen</span>{:else if scheme}<button
									class={`btn ${v.key === found.best ? 'btn-primary' : 'btn-quiet'}`}
									aria-label={`Choose ${v.label}`}
									onclick={() => take(v)}>Choose it</button
								>{/if}</td
						></tr
					>{/each}</tbody
			>
		</table>
	</div>
	<div class="mt-3 grid grid-cols-2 gap-6.5 narrow:grid-cols-1">
		<section>
			<h2>Why</h2>
			<ul class="mt-1 grid list-disc gap-1 ps-4.5">
				{#each found.reasons as reason (reason)}<li>{reason}</li>{/each}
			</ul>
			<h2 class="mt-3">What would change it</h2>
			<ul class="mt-1 grid list-disc gap-1 ps-4.5">
				{#each found.changes as one (one)}<li>{one}</li>{/each}
			</ul>
		</section>
		<section class="grid content-start gap-2">
			{#if two}
				<h2>The separator</h2>
				<div class="grid max-w-[46ch] grid-cols-2 gap-2">
					{#if chosen.kind !== 'header'}<Asked
							ask="Its litres"
							label="Litres of the buffer"
							value={chosen.buffer_l}
							placeholder={fig(design?.separation.vessel_l, 'L')}
							digits={0}
							unit="L"
							commit={put('buffer_l', 'litres')}
						/>{/if}
					<Asked
						ask={`Machine’s own flow (${design?.separation.machine_from ?? ''})`}
						label="Flow on the machine’s own side"
						value={chosen.machine_lph}
						placeholder={fig(design?.separation.machine_lph, 'L/h')}
						digits={0}
						unit="L/h"
						commit={put('machine_lph', 'the machine’s own flow')}
					/>
					<label class="text-small text-muted"
						>Second pump<Choice
							label="Class of the second pump"
							value={chosen.pump ?? design?.separation.pump}
							options={pumps}
							commit={put('pump', 'second pump')}
						/></label
					>
					<Tick
						ask="A valve takes it out of the circuit"
						value={chosen.bypass ?? false}
						commit={put('bypass', 'bypass')}
					/>
				</div>
				<p class="note">With that valve direct running can be tried on the day, before anything is decided for good.</p>
			{/if}
			{#each found.notes as one (one)}<p class="note">{one}</p>{/each}
		</section>
	</div>
{:else}<p class="py-3 text-lead">{found.lacks}</p>{/if}
<OpenWater {found} />
<ZonesBlock zones={found.zones} />

<style>
	.best td {
		background: var(--sheet);
	}
</style>
