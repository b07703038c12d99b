<script lang="ts">
	import type { SeparatingFound } from '$lib/api/client';
	import { newId, nextPos } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import { num } from '$lib/parts/format';
	import Fold from '$lib/parts/Fold.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	import { amount, fig, unitName } from '$lib/parts/units';
	let { zones }: { zones: SeparatingFound['zones'] } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const scheme = $derived(session.scheme);
	const named = $derived(
		Object.entries(scheme ? (session.job?.schemes?.[scheme]?.zones ?? {}) : {}).sort(
			([, a], [, b]) => (a.pos ?? 0) - (b.pos ?? 0)
		)
	);
	const rooms = $derived(
		(session.shown?.rooms ?? []).filter((r) => r.emitters.length).map((r) => ({ id: r.id, label: r.label }))
	);
	const home = $derived(new Map(named.flatMap(([key, zone]) => (zone.rooms ?? []).map((r) => [r, key] as const))));
	const add = (): unknown =>
		session.edit('A zone', (d) =>
			d.set(`/schemes/${scheme}/zones/${newId()}`, {
				label: `Zone ${named.length + 1}`,
				pos: nextPos(d.job.schemes?.[scheme ?? '']?.zones),
				rooms: []
			})
		);
	function move(key: string, room: string, into: boolean): void {
		void session.edit(into ? 'Room into a zone' : 'Room out of a zone', (d) => {
			for (const [other, zone] of named) {
				const held = (zone.rooms ?? []).filter((r) => r !== room);
				const after = other === key && into ? [...held, room] : held;
				if (after.length !== (zone.rooms ?? []).length || other === key)
					d.set(`/schemes/${scheme}/zones/${other}/rooms`, after);
			}
		});
	}
</script>

<h2 class="mt-5">Zones</h2>
<p class="max-w-[78ch] note">
	What the machine does when one zone alone calls in air of {amount(zones.mild_c, '°C')}, where it gives {zones.least_w ==
	null
		? 'nobody says how little'
		: amount(zones.least_w, 'W')} at least. Where no zones are named, every room whose valves close is one.
</p>
{#if zones.rows.length}<div class="overflow-x-auto">
		<table class="table table-figures">
			<thead
				><tr
					><th>Zone</th><th class="text-right">Design day, {unitName('W')}</th><th class="text-right"
						>Mild, {unitName('W')}</th
					><th class="text-right">Water with it, {unitName('L')}</th><th class="text-right">Runs of, min</th><th
						class="text-right">Starts an hour</th
					><th class="text-right">Needs, {unitName('°C')}</th></tr
				></thead
			>
			<tbody
				>{#each zones.rows as z (z.key)}<tr
						><td class="font-semibold"
							>{z.label[0]?.toUpperCase()}{z.label.slice(1)}{#if z.mixed}<span class="note">{' · blended'}</span
								>{/if}{#if z.holds}<span class="note">{' · holds the water up'}</span>{/if}</td
						><td class="text-right">{fig(z.design_w, 'W', -1)}</td><td class="text-right">{fig(z.mild_w, 'W', -1)}</td
						><td class="text-right">{fig(z.litres, 'L')}</td><td class="text-right"
							>{#if z.run_minutes == null}–{:else if z.run_minutes < 10}<span
									class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold hatch-short"
									>short {num(z.run_minutes)}</span
								>{:else}{num(z.run_minutes)}{/if}</td
						><td class="text-right">{z.starts_per_h == null ? '–' : num(z.starts_per_h, 1)}</td><td class="text-right"
							>{fig(z.needed_c, '°C', 1)}</td
						></tr
					>{/each}</tbody
			>
		</table>
	</div>{/if}
{#each zones.words as one (one)}<p class="mt-1 max-w-[78ch]">{one}</p>{/each}
{#if zones.without_season != null && zones.season != null}<p class="note">
		At that water the season is {num(zones.without_season, 2)} instead of {num(zones.season, 2)}.
	</p>{/if}
{#if scheme}<div class="mt-2">
		<Fold title="Name zones, blend them">
			{#each named as [key, zone] (key)}
				<div
					class="mb-2 grid grid-cols-[14em_1fr_auto_auto] items-start gap-3 border-b border-hairline pb-2 narrow:grid-cols-1"
				>
					<TextField
						label="Name of the zone"
						value={zone.label ?? ''}
						commit={(v) => session.edit('Zone named', (d) => d.set(`/schemes/${scheme}/zones/${key}/label`, v))}
					/>
					<div class="flex flex-wrap gap-x-3">
						{#each rooms as r (r.id)}<Tick
								ask={r.label}
								label={`${r.label} in ${zone.label}`}
								value={home.get(r.id) === key}
								commit={(on) => move(key, r.id, on)}
							/>{/each}
					</div>
					<Tick
						ask="Blended"
						label={`${zone.label} is blended`}
						value={zone.mixed ?? false}
						commit={(on) =>
							session.edit('Zone blended', (d) => d.put(`/schemes/${scheme}/zones/${key}/mixed`, on || null))}
					/>
					<button
						class="btn btn-quiet"
						onclick={() => void session.edit('Zone removed', (d) => d.remove(`/schemes/${scheme}/zones/${key}`))}
						>remove</button
					>
				</div>
			{/each}
			<button class="btn btn-quiet" onclick={() => void add()}>Another zone</button>
		</Fold>
		<p class="mt-1 note">
			What goes at an old manifold stands with the <a href={`/job/${session.id}/emitters`}>emitters</a>.
		</p>
	</div>{/if}
