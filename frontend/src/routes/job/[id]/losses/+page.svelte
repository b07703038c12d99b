<script lang="ts">
	import HeatPlan from '$lib/charts/HeatPlan.svelte';
	import { ordered } from '$lib/job/draft';
	import { num, watts } from '$lib/parts/format';
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
	<div class="storeys" role="tablist" aria-label="Storey">
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
	<p class="empty">
		No room is complete yet. <a href={`/job/${session.id}/plan?walk=new`}>Walk the first room</a>, say how the house is
		built, and choose a climate.
	</p>
{:else}
	<div class="desk">
		<div class="picture">
			<HeatPlan rooms={onStorey} {hottest} {warmest} {chosen} onroom={openRoom} />
			<p class="legend note">
				<span><i class="thick"></i>heat through a wall, thicker is more</span><span
					><i class="glass"></i>window or door</span
				><span><i class="warm"></i>the room loses more for its size</span><span><i class="inner"></i>another room</span
				>{#if chosen}<span><i class="level"></i>its floor or ceiling is built so</span>{/if}
			</p>
			{#if onStorey.some((room) => !room.placed)}<p class="note">
					Not in place on the plan, so not drawn: {onStorey
						.filter((r) => !r.placed)
						.map((r) => r.label)
						.join(', ')}.
				</p>{/if}
		</div>
		<section aria-label="Where it goes">
			<h2 class="mx-0 mt-0 mt-3.5 mb-0.5">Where it goes</h2>
			<ol class="leaks">
				{#each house.leaks as leak (leak.key)}
					<li class="relative border-b border-b-hairline">
						<button
							class="leak"
							class:chosen={chosen === leak.label}
							aria-pressed={chosen === leak.label}
							disabled={leak.construction === null}
							onclick={() => (chosen = chosen === leak.label ? null : leak.label)}
						>
							<span class="what">{leak.label}</span>
							<span class="w">{watts(leak.loss_w)}<span class="unit">W</span></span>
							<span class="bar"
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
							<span class="note"
								>{num(leak.share * 100)} %{leak.area_m2
									? ` · ${num(leak.area_m2, 1)} m² · U ${num(leak.u_w_m2k, 2)}`
									: ''}{` · most in ${leak.worst}`}</span
							>
						</button>
						{#if leak.kind === 'air'}<a class="more" href={`/job/${session.id}/air`}>counted four ways</a>
						{:else if leak.construction}<a
								class="more"
								href={`/job/${session.id}/constructions?show=${leak.construction}`}>its section</a
							>{/if}
					</li>
				{/each}
			</ol>
			<p><a class="btn btn-outline" href={`/job/${session.id}/measures`}>What would stop it</a></p>
		</section>
	</div>

	<h2 class="mx-0 mt-3.5 mb-0.5">Ledger</h2>
	<div class="scroll">
		<table class="table table-figures">
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
									class="tag hatch-doubt">{room.odd}</span
								>{/if}</td
						>
						<td class="text-right">{num(room.target_c)}<span class="unit">°C</span></td>
						<td class="text-right">{num(room.fabric_w)}</td><td class="text-right">{num(room.ground_w)}</td><td
							class="text-right">{num(room.bridges_w)}</td
						><td class="text-right">{num(room.air_w)}</td><td class="text-right">{num(room.trade_w)}</td>
						{#if house.extras_w && Math.abs(house.extras_w) > 0.5}<td class="text-right">{num(room.extras_w)}</td>{/if}
						<td class="strong text-right">{num(room.room_emitter_load_w)}<span class="unit">W</span></td>
						<td class="text-right">{num(room.room_share_of_house_w)}<span class="unit">W</span></td>
						<td class="text-right">{num(room.w_per_m2)}<span class="unit">W/m²</span></td>
					</tr>
				{/each}
			</tbody>
			<tfoot>
				<tr
					><td>House</td><td></td><td class="text-right">{num(house.fabric_w)}</td><td class="text-right"
						>{num(house.ground_w)}</td
					><td class="text-right">{num(house.bridges_w)}</td><td class="text-right">{num(house.air_w)}</td><td
						class="text-right note">cancels</td
					>{#if house.extras_w && Math.abs(house.extras_w) > 0.5}<td class="text-right">{num(house.extras_w)}</td
						>{/if}<td class="text-right">{num(house.emitter_loads_w)}<span class="unit">W</span></td><td
						class="text-right"
						><button class="fig" onclick={() => frame.showWorking('house')} aria-label="House loss: show the working"
							>{num(house.loss_w)}</button
						><span class="unit">W</span></td
					><td class="text-right">{num(house.w_per_m2)}<span class="unit">W/m²</span></td></tr
				>
			</tfoot>
		</table>
	</div>
	<p class="note">
		Two loads: the emitter of a room meets windward air, a cold neighbour and the heat its room gives to colder ones;
		only the parts “of the house” sum to what the machine must give.
	</p>

	<div class="two">
		{#if house.slabs.length}
			<section>
				<h2 class="mx-0 mt-3.5 mb-0.5">Floors on the ground</h2>
				<table class="table table-figures">
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
										? `, ${num(slab.depth_m, 1)} m deep`
										: ''}</td
								><td class="text-right">{num(slab.area_m2, 1)}<span class="unit">m²</span></td><td class="text-right"
									>{num(slab.exposed_perimeter_m, 1)}<span class="unit">m</span></td
								><td class="text-right">{num(slab.characteristic_m, 2)}<span class="unit">m</span></td><td
									class="text-right"
									><button
										class="fig"
										aria-label={`U of ${slab.construction_label}: show the working`}
										onclick={() => frame.showWorking(`slab:${n}`)}>{num(slab.u_w_m2k, 3)}</button
									></td
								></tr
							>{/each}</tbody
					>
				</table>
			</section>
		{/if}
		{#if house.spaces.length}
			<section>
				<h2 class="mx-0 mt-3.5 mb-0.5">
					Unheated spaces <a class="note" href={`/job/${session.id}/site#spaces`}>change</a>
				</h2>
				<table class="table table-figures">
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
										onclick={() => frame.showWorking(`space:${space.id}`)}>{num(space.temperature_c, 1)}</button
									><span class="unit">°C</span></td
								></tr
							>{/each}</tbody
					>
				</table>
			</section>
		{/if}
	</div>
{/if}
<div class="below"><Cautions cautions={design.cautions.losses ?? design.cautions.rooms ?? []} /></div>

<style>
	.storeys {
		display: flex;
		gap: 6px;
	}
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1.45fr) minmax(300px, 1fr);
		gap: 26px;
		align-items: start;
	}
	.picture :global(svg) {
		max-height: calc(100vh - 330px);
		min-height: 320px;
	}
	.legend {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
	}
	.legend i {
		display: inline-block;
		width: 24px;
		vertical-align: middle;
		margin-right: 5px;
	}
	.thick {
		border-top: 8px solid var(--heat);
	}
	.glass {
		border-top: 3px solid var(--heat);
		border-bottom: 3px solid var(--heat);
		height: 9px;
	}
	.warm {
		height: 11px;
		background: var(--heat-pale);
	}
	.inner {
		border-top: 2px solid var(--muted);
	}
	.level {
		border-top: 2px dotted var(--heat);
	}
	.leaks {
		margin: 2px 0 10px;
		max-height: calc(100vh - 380px);
		min-height: 260px;
		overflow: auto;
	}

	.leak {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 1px 10px;
		width: 100%;
		padding: 6px 6px 5px;
		text-align: left;
	}
	.leak:disabled {
		opacity: 1;
	}
	.leak:hover:not(:disabled),
	.leak.chosen {
		background: var(--sheet);
	}
	.chosen .what {
		text-decoration: underline;
		text-underline-offset: 3px;
	}
	.what {
		font-weight: 600;
	}
	.w {
		font-weight: 700;
		font-variant-numeric: tabular-nums;
	}
	.bar {
		grid-column: 1 / -1;
		height: 7px;
		background: var(--ash);
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
	.leak .note {
		grid-column: 1 / -1;
		padding-right: 92px;
	}
	.more {
		position: absolute;
		right: 6px;
		bottom: 5px;
		font-size: var(--small);
	}
	.scroll {
		overflow-x: auto;
	}
	td,
	th {
		padding-inline: 6px;
	}
	.strong,
	tfoot td {
		font-weight: 700;
	}
	tfoot .note {
		font-weight: 400;
	}
	.tag {
		margin-left: 8px;
		padding: 0 7px;
		border-radius: 4px;
		font-size: var(--small);
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 30px;
	}
	.below {
		margin-top: 16px;
	}
	.empty {
		font-size: var(--lead);
		padding: 40px 0;
	}
	@media (max-width: 1000px) {
		.desk,
		.two {
			grid-template-columns: 1fr;
		}
		.leaks {
			max-height: none;
		}
	}
</style>
