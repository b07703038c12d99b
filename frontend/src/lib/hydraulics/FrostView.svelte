<script lang="ts">
	import type { ProtectingFound } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import { money, num } from '$lib/parts/format';
	import TextField from '$lib/parts/TextField.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	let { found }: { found: ProtectingFound } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const scheme = $derived(session.scheme);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const chosen = $derived(scheme ? (session.job?.schemes?.[scheme]?.protection ?? {}) : {});
	const base = $derived(`/schemes/${scheme}/protection`);
	const put = (field: string, what: string) => (value: unknown) =>
		session.edit(`Frost, ${what}`, (d) => d.put(`${base}/${field}`, value));
	type Guard = ProtectingFound['rows'][number];
	function take(row: Guard): void {
		void session.edit(`Frost: ${row.label}`, (d) => {
			d.set(`${base}/kind`, row.kind);
			if (row.kind === 'glycol') d.set(`${base}/glycol`, row.glycol);
			d.put(`${base}/glycol_share`, null);
			d.put(`${base}/cost_minor`, null);
		});
	}
	const most = $derived(Math.max(1, ...found.rows.map((r) => r.total_minor)));
	const wide = (minor: number): number => (320 * Math.max(minor, 0)) / most;
</script>

{#if found.rows.length}
	<table class="table table-figures">
		<thead
			><tr
				><th>Way</th><th class="text-right">Glycol</th><th class="text-right">Freezes at, {unitName('°C')}</th><th
					class="text-right">Flow, {unitName('L/h')}</th
				><th class="text-right">Index, {unitName('kPa')}</th><th class="text-right">Of the head</th><th
					class="text-right">Output, {unitName('W')}</th
				><th class="text-right">Season</th><th class="text-right">Vessel, {unitName('L')}</th><th
					><span class="sr-only">Choose</span></th
				></tr
			></thead
		>
		<tbody
			>{#each found.rows as row (row.key)}<tr
					><td class="font-semibold"
						>{row.label}{#each row.lacks as one (one)}<span class="block note"
								><span class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold hatch-short">but</span>
								{one}</span
							>{/each}</td
					><td class="text-right">{row.share ? `${num(100 * row.share)} %` : '–'}</td><td class="text-right"
						>{row.freezes_c == null ? '–' : fig(row.freezes_c, '°C')}</td
					><td class="text-right">{fig(row.flow_lph, 'L/h')}</td><td class="text-right"
						>{fig(row.index_kpa, 'kPa', 1)}</td
					><td class="text-right"
						>{row.head_used == null ? '–' : row.head_used > 1 ? 'too little' : `${num(100 * row.head_used)} %`}</td
					><td class="text-right">{fig(row.output_w, 'W', -1)}</td><td class="text-right">{num(row.season, 2)}</td><td
						class="text-right">{fig(row.vessel_l, 'L')}</td
					><td class="text-right whitespace-nowrap"
						>{#if row.chosen}<span class="font-semibold">chosen</span>{:else}<button
								class={`btn ${row.key === found.best ? 'btn-primary' : 'btn-quiet'}`}
								aria-label={`Choose ${row.label}`}
								onclick={() => take(row)}>Choose it</button
							>{/if}</td
					></tr
				>{/each}</tbody
		>
	</table>
	<h2 class="mt-4">Over {found.rows[0]?.years} years</h2>
	<table class="table max-w-220 table-figures">
		<thead
			><tr
				><th>Way</th><th><span class="sr-only">as a bar</span></th><th class="text-right">At once</th><th
					class="text-right">Again</th
				><th class="text-right">Energy a year</th><th class="text-right">Together</th></tr
			></thead
		>
		<tbody
			>{#each found.rows as row (row.key)}<tr
					><td>{row.label}</td><td class="w-[36%]"
						><svg viewBox="0 0 330 14" preserveAspectRatio="none" class="block h-3.5 w-full" aria-hidden="true"
							><rect x="0" y="2" height="10" width={wide(row.once_minor)} class="once" /><rect
								x={wide(row.once_minor)}
								y="2"
								height="10"
								width={wide(row.total_minor - row.once_minor)}
								class="later"
							/></svg
						></td
					><td class="text-right">{money(row.once_minor, currency)}</td><td class="text-right"
						>{row.again_years ? `${money(row.again_minor, currency)} every ${row.again_years} years` : '–'}</td
					><td class="text-right">{row.energy_minor ? money(row.energy_minor, currency) : '–'}</td><td
						class="text-right font-semibold">{money(row.total_minor, currency)}</td
					></tr
				>{/each}</tbody
		>
	</table>
	<div class="mt-3 grid grid-cols-2 gap-6.5 narrow:grid-cols-1">
		<section class="grid content-start gap-2">
			<h2>What is said of it</h2>
			<div class="grid max-w-[46ch] grid-cols-2 items-end gap-2">
				<Asked
					ask={`Coldest to expect (${found.frost_from})`}
					label="Coldest to expect"
					value={chosen.frost_c}
					placeholder={fig(found.frost_c, '°C')}
					quantity="temperature"
					digits={0}
					unit="°C"
					commit={put('frost_c', 'the coldest to expect')}
				/>
				{#if chosen.kind === 'glycol'}<Asked
						ask="Glycol, % by volume"
						label="Glycol by volume"
						value={chosen.glycol_share}
						times={100}
						digits={0}
						unit="%"
						placeholder={num(100 * (found.rows.find((r) => r.chosen)?.share ?? 0))}
						commit={put('glycol_share', 'glycol')}
					/>{/if}
				{#if chosen.kind && chosen.kind !== 'none'}<Asked
						ask={`Costs at once, ${currency}`}
						label="What it costs at once"
						value={chosen.cost_minor}
						times={0.01}
						digits={0}
						placeholder={num((found.rows.find((r) => r.chosen)?.once_minor ?? 0) / 100)}
						commit={put('cost_minor', 'what it costs')}
					/>{/if}
				<label class="text-small text-muted"
					>Who refills after a power cut<TextField
						label="Who refills after a power cut"
						value={chosen.refills ?? ''}
						commit={put('refills', 'who refills')}
					/></label
				>
			</div>
			{#each found.reasons as one (one)}<p>{one}</p>{/each}
			{#each found.rows as row (row.key)}{#if row.chosen || row.key === found.best}{#each row.words as one (one)}<p
							class="note"
						>
							{row.label}: {one}.
						</p>{/each}{/if}{/each}
		</section>
		<section class="grid content-start gap-2">
			<h2>Freeze valves: where and how many</h2>
			<ul class="grid list-disc gap-1 ps-4.5">
				{#each found.where as one (one)}<li>{one}</li>{/each}
			</ul>
			<h2>Into {amount(found.system_l, 'L')} of water</h2>
			<ul class="grid list-disc gap-1 ps-4.5">
				{#each found.doses as one (one.key)}<li>
						<strong>{amount(one.litres, 'L', 1)}</strong>
						{one.label.toLowerCase()}: {one.why}
					</li>{/each}
			</ul>
			<p class="note">The maker's label wins. Mixed before filling, never poured in; never down the drain.</p>
		</section>
	</div>
{/if}

<style>
	.once {
		fill: var(--ink);
	}
	.later {
		fill: none;
		stroke: var(--ink);
	}
</style>
