<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import type { RoomOption } from '$lib/api/client';
	import { CheapestDesk } from '$lib/ways/cheapest.svelte';
	import Waterline from '$lib/charts/Waterline.svelte';
	import { useFrame } from '$lib/job/frame.svelte';
	import Cautions from '$lib/parts/Cautions.svelte';
	import CheapestWay from '$lib/ways/CheapestWay.svelte';
	import Head from '$lib/parts/Head.svelte';
	import HoldingUp from '$lib/ways/HoldingUp.svelte';
	import QuickRule from '$lib/emitters/QuickRule.svelte';
	import RoomWays from '$lib/ways/RoomWays.svelte';
	import SchemesSide from '$lib/job/SchemesSide.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import WayPrices from '$lib/ways/WayPrices.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	const line = $derived(design?.waterline);
	const rooms = $derived(design?.rooms ?? []);
	const loads = $derived(rooms.some((r) => r.room_emitter_load_w !== null));
	const inScheme = $derived(session.scheme !== null);
	const fixed = $derived(session.scheme ? session.job?.schemes?.[session.scheme]?.flow_c : null);
	const path = $derived(`/schemes/${session.scheme}/flow_c`);
	const tight = $derived(
		[...rooms]
			.filter((r) => r.needed_flow_c !== null)
			.sort((a, b) => (b.needed_flow_c ?? 0) - (a.needed_flow_c ?? 0))
			.slice(0, 5)
	);

	const cheapest = new CheapestDesk(frame.session);
	$effect(() => {
		if (session.settled && session.scheme && loads) cheapest.front.ask();
	});

	let picked = $state<string | null>(null);
	const room = $derived(rooms.find((r) => r.id === picked));
	let looked = $state.raw<RoomOption | null>(null);
	const ghost = $derived(
		looked?.needed_flow_c != null && picked ? { room: picked, needed: looked.needed_flow_c } : null
	);
	/** A room's ways open under the picture; pressed again they close. */
	function look(id: string): void {
		picked = picked === id ? null : id;
		looked = null;
		if (picked)
			requestAnimationFrame(() =>
				document.querySelector('.options')?.scrollIntoView({ block: 'nearest', behavior: 'smooth' })
			);
	}

	function ask(flow: number): void {
		if (inScheme) session.whatIf((d) => d.set(path, flow));
	}
	function set(flow: number | null): Promise<boolean> | void {
		if (!inScheme) return;
		return session.edit(
			flow === null ? 'Waterline: as low as every room allows' : `Waterline at ${amount(flow, '°C', 1)}`,
			(d) => d.put(path, flow)
		);
	}
</script>

<Head title="Waterline" screen="waterline" />

<div class="[container-type:inline-size]">
	<div class="desk grid grid-cols-[minmax(0,1fr)_344px] gap-5.5">
		<div class="picture min-w-0">
			{#if loads}
				{#if inScheme}
					<div class="mb-1 flex flex-wrap items-center gap-2.5 wide:flex-nowrap">
						<label class="flex items-center gap-2 font-bold whitespace-nowrap"
							>Line at <NumberField
								label="Design flow temperature"
								between={USUAL.flow_c}
								value={fixed}
								placeholder={fig(line?.chosen_flow_c, '°C', 1)}
								quantity="temperature"
								digits={1}
								unit="°C"
								width="7.2em"
								commit={(v) => set(v)}
							/></label
						>
						<button class="btn btn-outline whitespace-nowrap" disabled={fixed == null} onclick={() => void set(null)}
							>As low as it goes</button
						>
						<p class="note">{line?.chosen_why ?? ''}. Drag it, or use the arrow keys on it.</p>
					</div>
				{/if}
				<div class="[&.stick]:sticky [&.stick]:top-0 [&.stick]:z-1 [&.stick]:bg-paper" class:stick={room}>
					<Waterline
						{rooms}
						chosen={line?.chosen_flow_c ?? null}
						outdoor={design?.house.outdoor_c ?? null}
						onroom={look}
						{picked}
						height={room ? 330 : 560}
						{ghost}
						asked={inScheme && cheapest.point ? cheapest.flow : null}
						mends={inScheme && cheapest.point?.changes.length ? cheapest.mends : null}
						currency={session.job?.currency ?? 'GBP'}
						onmove={ask}
						oncancel={() => session.stopPreview()}
						onset={(flow) => void set(flow)}
					/>
				</div>
			{:else}
				<p class="max-w-[46ch] px-0 py-15 text-lead">
					First the rooms: a size, what lies beyond each face, and a radiator. <a href={`/job/${session.id}/rooms`}
						>To the rooms</a
					>
				</p>
			{/if}
			{#if room}
				<section class="mt-3 border-t border-t-ink pt-2" aria-label={`What may be done: ${room.label}`}>
					<header class="flex items-baseline justify-between">
						<h2 class="mt-1.5">{room.label}: what may be done</h2>
						<span
							><button class="fig" onclick={() => void frame.showWorking(`room-flow:${room.id}`)}>working</button>
							<a class="btn btn-quiet" href={`/job/${session.id}/emitters?emitter=${room.emitters[0]?.id ?? ''}`}
								>its emitters</a
							> <button class="btn btn-quiet" onclick={() => (picked = null)}>close</button></span
						>
					</header>
					{#key room.id}<RoomWays room={room.id} asked={cheapest.flow} onlook={(option) => (looked = option)} />{/key}
				</section>
			{/if}
		</div>
		{#if inScheme && loads}
			<CheapestWay desk={cheapest} />
		{:else if !inScheme}
			<section class="grid content-start gap-2">
				<p class="note">
					As found, the line only shows what the house needs. Choose a scheme at the top left to set it and to ask for
					the cheapest way.
				</p>
				<h2 class="mt-1.5">Who holds it up</h2>
				<ul>
					{#each tight as room (room.id)}
						<li class="border-t border-t-hairline">
							<button
								class="flex min-h-11 w-full items-center justify-between gap-2.5 text-left hover:bg-ash"
								aria-expanded={picked === room.id}
								onclick={() => look(room.id)}
							>
								<span
									><strong>{room.label}</strong><span class="block note"
										>{room.emitters.map((e) => e.description).join(', ') || 'no emitter'}</span
									></span
								>
								<span class="text-right whitespace-nowrap"
									><b class="num">{fig(room.needed_flow_c, '°C', 1)}</b><span class="unit">{unitName('°C')}</span></span
								>
							</button>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
	</div>
</div>

{#if inScheme}<WayPrices desk={cheapest} />{/if}
<HoldingUp />
<SchemesSide />
<QuickRule />
<div class="mt-4"><Cautions cautions={design?.cautions.waterline ?? []} /></div>

<style>
	/* stays in sight while the ways of a room are looked through: each is drawn into its column */

	@container (max-width: 860px) {
		.desk {
			grid-template-columns: 1fr;
		}
	}
</style>
