<script lang="ts">
	import { amount, fig, unitName, watts } from '$lib/parts/units';
	import HeatPlan from '$lib/charts/HeatPlan.svelte';
	import { ordered } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown!);
	const house = $derived(design.house);
	const rooms = $derived(design.rooms);
	const storeys = $derived(ordered(session.job?.survey?.storeys));
	let storey = $state<string | null>(null);
	let chosen = $state<string | null>(null);
	const of = (id: string): string => session.job?.survey?.rooms?.[id]?.storey ?? storeys[0]?.[0] ?? '';
	const here = $derived(storey ?? storeys[0]?.[0] ?? '');
	const onStorey = $derived(rooms.filter((room) => of(room.id) === here));
	const hottest = $derived(
		Math.max(
			80,
			...rooms.flatMap((r) =>
				r.faces
					.filter((f) => f.kind === 'wall')
					.flatMap((f) => [...f.pieces.map((p) => p.loss_w ?? 0), ...f.openings.map((o) => o.loss_w ?? 0)])
			)
		)
	);
	const warmest = $derived(Math.max(60, ...rooms.map((r) => r.w_per_m2 ?? 0)));
	const most = $derived(Math.max(1, ...house.leaks.map((l) => l.loss_w)));
	const counted = $derived(rooms.filter((r) => r.room_emitter_load_w !== null));
	const kinds: Record<string, string> = {
		solved: 'from its own faces',
		stated: 'factor entered',
		table: 'factor of its kind'
	};
	function openRoom(id: string): void {
		void frame.showWorking(`room:${id}`);
	}
</script>

<Head title="Losses" screen="losses">
	<div class="flex gap-1.5" role="tablist" aria-label="Storey">
		{#each storeys as [key, one] (key)}
			<button
				role="tab"
				class="btn"
				class:btn-primary={key === here}
				class:btn-outline={!(key === here)}
				aria-selected={key === here}
				onclick={() => (storey = key)}>{one.label || key}</button
			>
		{/each}
	</div>
</Head>

{#if !counted.length}
	<p class="px-0 py-10 text-lead">
		No room is complete yet. <a href={`/job/${session.id}/plan?walk=new`}>Walk the first room</a>, say how the house is
		built, and choose a climate.
	</p>
{:else}
	<div class="grid grid-cols-[minmax(0,1.45fr)_minmax(300px,1fr)] items-start gap-6.5 narrow:grid-cols-[1fr]">
		<div class="picture">
			<HeatPlan rooms={onStorey} {hottest} {warmest} {chosen} onroom={openRoom} />
			<p class="flex flex-wrap gap-x-4 gap-y-1 note">
				<span
					><i class="mr-1.25 inline-block w-6 border-t-8 border-t-heat align-middle"></i>heat through a wall, thicker is
					more</span
				><span
					><i class="mr-1.25 inline-block h-2.25 w-6 border-t-3 border-b-3 border-t-heat border-b-heat align-middle"
					></i>window or door</span
				><span
					><i class="mr-1.25 inline-block h-2.75 w-6 bg-heat-pale align-middle"></i>the room loses more for its size</span
				><span><i class="mr-1.25 inline-block w-6 border-t-2 border-t-muted align-middle"></i>another room</span
				>{#if Object.keys(session.job?.survey?.neighbours ?? {}).length}<span
						><i class="mr-1.25 inline-block h-1.5 w-6 border-y-2 border-y-ink align-middle"></i>party wall</span
					>{/if}{#if chosen}<span
						><i class="mr-1.25 inline-block w-6 border-t-2 border-dotted border-t-heat align-middle"></i>its floor or
						ceiling is built so</span
					>{/if}
			</p>
			{#if onStorey.some((room) => !room.placed)}<p class="note">
					Not in place on the plan, so not drawn: {onStorey
						.filter((r) => !r.placed)
						.map((r) => r.label)
						.join(', ')}.
				</p>{/if}
		</div>
		<section aria-label="Where it goes">
			<h2 class="mt-3.5 mb-0.5">Where it goes</h2>
			<ol class="mt-0.5 mb-2.5 max-h-[calc(100vh_-_380px)] min-h-65 overflow-auto narrow:max-h-[none]">
				{#each house.leaks as leak (leak.key)}
					<li class="relative border-b border-b-hairline">
						<button
							class="leak grid w-full grid-cols-[1fr_auto] gap-x-2.5 gap-y-px px-1.5 pt-1.5 pb-1.25 text-left hover:not-[:disabled]:bg-sheet disabled:opacity-100 [&.chosen]:bg-sheet"
							class:chosen={chosen === leak.label}
							aria-pressed={chosen === leak.label}
							disabled={leak.construction === null}
							onclick={() => (chosen = chosen === leak.label ? null : leak.label)}
						>
							<span class="what font-semibold">{leak.label}</span>
							<span class="font-bold tabular-nums">{watts(leak.loss_w)}<span class="unit">{unitName('W')}</span></span>
							<span class="bar col-span-full h-1.75 bg-ash"
								><i
									class={leak.kind === 'air'
										? 'air'
										: leak.kind === 'bridges'
											? 'bridges'
											: leak.kind === 'ground floor'
												? 'ground'
												: leak.kind === 'extras'
													? 'extras'
													: 'fabric'}
									style={`width: ${Math.max(0, (leak.loss_w / most) * 100)}%`}
								></i></span
							>
							<span class="col-span-full pr-23 note"
								>{num(leak.share * 100)} %{leak.area_m2
									? ` · ${amount(leak.area_m2, 'm²', 1)} · U ${fig(leak.u_w_m2k, 'W/m²K', 2)}`
									: ''}{` · most in ${leak.worst}`}</span
							>
						</button>
						{#if leak.kind === 'air'}<a
								class="absolute right-1.5 bottom-1.25 text-small"
								href={`/job/${session.id}/air`}>counted four ways</a
							>
						{:else if leak.construction}<a
								class="absolute right-1.5 bottom-1.25 text-small"
								href={`/job/${session.id}/constructions?show=${leak.construction}`}>its section</a
							>{/if}
					</li>
				{/each}
			</ol>
			<p><a class="btn btn-outline" href={`/job/${session.id}/measures`}>What would stop it</a></p>
		</section>
	</div>

	<h2 class="mt-3.5 mb-0.5">Ledger</h2>
	<div class="overflow-x-auto">
		<table class="table table-figures [&_:is(td,th)]:px-1.5">
			<thead>
				<tr
					><th>Room</th><th class="text-right">Inside</th><th class="text-right">Fabric</th><th class="text-right"
						>Ground</th
					><th class="text-right">Bridges</th><th class="text-right">Air</th><th class="text-right">To rooms</th
					>{#if house.extras_w && Math.abs(house.extras_w) > 0.5}<th class="text-right">Additions</th>{/if}<th
						class="text-right">Emitter meets</th
					><th class="text-right">Of the house</th><th class="text-right">Per floor</th></tr
				>
			</thead>
			<tbody>
				{#each counted as room (room.id)}
					<tr>
						<td
							><button class="fig" onclick={() => openRoom(room.id)}>{room.label}</button>{#if room.odd}<span
									class="ml-2 badge h-auto min-h-5 border-0 px-1.75 badge-sm whitespace-nowrap hatch-doubt"
									>{room.odd}</span
								>{/if}</td
						>
						<td class="text-right">{fig(room.target_c, '°C')}<span class="unit">{unitName('°C')}</span></td>
						<td class="text-right">{fig(room.fabric_w, 'W')}</td><td class="text-right">{fig(room.ground_w, 'W')}</td
						><td class="text-right">{fig(room.bridges_w, 'W')}</td><td class="text-right">{fig(room.air_w, 'W')}</td><td
							class="text-right">{fig(room.trade_w, 'W')}</td
						>
						{#if house.extras_w && Math.abs(house.extras_w) > 0.5}<td class="text-right">{fig(room.extras_w, 'W')}</td
							>{/if}
						<td class="strong px-1.5 text-right font-bold"
							>{fig(room.room_emitter_load_w, 'W')}<span class="unit">{unitName('W')}</span></td
						>
						<td class="text-right">{fig(room.room_share_of_house_w, 'W')}<span class="unit">{unitName('W')}</span></td>
						<td class="text-right">{fig(room.w_per_m2, 'W/m²')}<span class="unit">{unitName('W/m²')}</span></td>
					</tr>
				{/each}
			</tbody>
			<tfoot>
				<tr
					><td class="font-bold">House</td><td class="font-bold"></td><td class="text-right font-bold"
						>{fig(house.fabric_w, 'W')}</td
					><td class="text-right font-bold">{fig(house.ground_w, 'W')}</td><td class="text-right font-bold"
						>{fig(house.bridges_w, 'W')}</td
					><td class="text-right font-bold">{fig(house.air_w, 'W')}</td><td class="text-right note font-normal"
						>cancels</td
					>{#if house.extras_w && Math.abs(house.extras_w) > 0.5}<td class="text-right font-bold"
							>{fig(house.extras_w, 'W')}</td
						>{/if}<td class="text-right font-bold"
						>{fig(house.emitter_loads_w, 'W')}<span class="unit">{unitName('W')}</span></td
					><td class="text-right font-bold"
						><button class="fig" onclick={() => frame.showWorking('house')} aria-label="House loss: show the working"
							>{fig(house.loss_w, 'W')}</button
						><span class="unit">{unitName('W')}</span></td
					><td class="text-right font-bold"
						>{fig(house.w_per_m2, 'W/m²')}<span class="unit">{unitName('W/m²')}</span></td
					></tr
				>
			</tfoot>
		</table>
	</div>
	<p class="note">
		Two loads: the emitter of a room meets windward air, a cold neighbour and the heat its room gives to colder ones;
		only the parts “of the house” sum to what the machine must give.
	</p>

	<div class="grid grid-cols-[1fr_1fr] gap-7.5 narrow:grid-cols-[1fr]">
		{#if house.slabs.length}
			<section>
				<h2 class="mt-3.5 mb-0.5">Floors on the ground</h2>
				<table class="table table-figures [&_:is(td,th)]:px-1.5">
					<thead
						><tr
							><th>Floor</th><th class="text-right">Area</th><th class="text-right">Edge</th><th class="text-right"
								>B′</th
							><th class="text-right">U</th></tr
						></thead
					>
					<tbody
						>{#each house.slabs as slab, n (n)}<tr
								><td
									>{slab.construction_label}{slab.part ? `, ${slab.part}` : ''}{slab.depth_m > 0
										? `, ${amount(slab.depth_m, 'm', 1)} deep`
										: ''}</td
								><td class="text-right">{fig(slab.area_m2, 'm²', 1)}<span class="unit">{unitName('m²')}</span></td><td
									class="text-right"
									>{fig(slab.exposed_perimeter_m, 'm', 1)}<span class="unit">{unitName('m')}</span></td
								><td class="text-right"
									>{fig(slab.characteristic_m, 'm', 2)}<span class="unit">{unitName('m')}</span></td
								><td class="text-right"
									><button
										class="fig"
										aria-label={`U of ${slab.construction_label}: show the working`}
										onclick={() => frame.showWorking(`slab:${n}`)}>{fig(slab.u_w_m2k, 'W/m²K', 3)}</button
									></td
								></tr
							>{/each}</tbody
					>
				</table>
			</section>
		{/if}
		{#if house.spaces.length}
			<section>
				<h2 class="mt-3.5 mb-0.5">
					Unheated spaces <a class="note" href={`/job/${session.id}/site#spaces`}>change</a>
				</h2>
				<table class="table table-figures [&_:is(td,th)]:px-1.5">
					<thead
						><tr
							><th>Space</th><th>How</th><th class="text-right">b</th><th class="text-right">On the design day</th></tr
						></thead
					>
					<tbody
						>{#each house.spaces as space (space.id)}<tr
								><td>{space.label}</td><td>{kinds[space.how]}</td><td class="text-right">{num(space.b, 2)}</td><td
									class="text-right"
									><button
										class="fig"
										aria-label={`Temperature of ${space.label}: show the working`}
										onclick={() => frame.showWorking(`space:${space.id}`)}>{fig(space.temperature_c, '°C', 1)}</button
									><span class="unit">{unitName('°C')}</span></td
								></tr
							>{/each}</tbody
					>
				</table>
			</section>
		{/if}
	</div>
{/if}
<div class="mt-4"><Cautions cautions={design.cautions.losses ?? design.cautions.rooms ?? []} /></div>

<style>
	.picture :global(svg) {
		max-height: calc(100vh - 330px);
		min-height: 320px;
	}

	.chosen .what {
		text-decoration: underline;
		text-underline-offset: 3px;
	}

	.bar i {
		display: block;
		height: 100%;
	}
	.bar .fabric {
		background: var(--fill-fabric);
	}
	.bar .air {
		background: var(--fill-air);
	}
	.bar .bridges {
		background: var(--fill-bridges);
	}
	.bar .ground {
		background: var(--fill-ground);
	}
	.bar .extras {
		background: var(--fill-trade);
	}
</style>
