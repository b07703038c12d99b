<script lang="ts">
	import { unitName } from '$lib/parts/units';
	import { useFrame } from '$lib/job/frame.svelte';
	import { ordered } from '$lib/job/draft';
	import Cautions from '$lib/parts/Cautions.svelte';
	import Head from '$lib/parts/Head.svelte';
	import NewRoom from '$lib/house/NewRoom.svelte';
	import RoomRow from '$lib/house/RoomRow.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown);
	let adding = $state(!(frame.session.design?.rooms.length ?? 0));

	const storeys = $derived(ordered(session.job?.survey?.storeys));
	const groups = $derived.by(() => {
		const rooms = design?.rooms ?? [];
		const of = (id: string): string => session.job?.survey?.rooms?.[id]?.storey ?? '';
		const named = storeys.map(([key, storey]) => ({
			key,
			label: storey.label || key,
			rooms: rooms.filter((r) => of(r.id) === key)
		}));
		const loose = rooms.filter((r) => !storeys.some(([key]) => key === of(r.id)));
		return [...named, { key: '', label: 'No storey yet', rooms: loose }].filter((g) => g.rooms.length);
	});
	/** Rooms recorded without a line: nothing has been worked out for them yet. */
	const waiting = $derived(
		ordered(session.job?.survey?.rooms).filter(([id]) => !design?.rooms.some((r) => r.id === id))
	);
	const metric = $derived(session.units === 'feet' ? '' : ', m');
	const widest = $derived(
		Math.max(
			1,
			...(design?.rooms ?? []).map(
				(r) =>
					Math.abs(r.fabric_w ?? 0) + (r.ground_w ?? 0) + (r.bridges_w ?? 0) + (r.air_w ?? 0) + Math.abs(r.trade_w ?? 0)
			)
		)
	);
</script>

<Head title="Rooms" screen="rooms">
	<button class="btn btn-primary" onclick={() => (adding = !adding)}>Add room</button>
</Head>

{#if adding}<NewRoom onclose={() => (adding = false)} />{/if}

{#if waiting.length}
	<p class="mb-2 rounded-sm px-3 py-1.5 hatch-doubt">
		Kept here, figures follow when the line is back: {waiting.map(([, r]) => r.label).join(', ')}.
		<a href={`/job/${session.id}/plan`}>Go on with them on the plan</a>
	</p>
{/if}
{#if design?.rooms.length}
	<div class="overflow-x-auto">
		<table class="table min-w-215 table-figures narrow:min-w-0" class:feet={session.units === 'feet'}>
			<thead>
				<tr>
					<th class="w-[17%]">Room</th>
					<th class={frame.drawn ? 'narrow:hidden' : ''}>Use</th>
					<th class="text-right whitespace-nowrap">Width{metric}</th>
					<th class="text-right whitespace-nowrap">Length{metric}</th>
					<th class="text-right whitespace-nowrap">Height{metric}</th>
					<th class={['text-right whitespace-nowrap', frame.drawn && session.units === 'feet' && 'narrow:hidden']}
						>Wanted, {unitName('°C')}</th
					>
					<th class="w-[15%] narrow:hidden">
						Where its heat goes
						<span class="key block text-[11.5px] whitespace-nowrap"
							><i style="background: var(--fill-fabric)"></i>fabric
							<i style="background: var(--fill-bridges)"></i>bridges
							<i style="background: var(--fill-ground)"></i>ground <i style="background: var(--fill-air)"></i>air
							<i style="background: var(--fill-trade)"></i>to rooms</span
						>
					</th>
					<th class="min-w-18.5 text-right whitespace-normal">Emitter meets</th>
					<th class="min-w-24 text-right whitespace-normal">Water it needs</th>
				</tr>
			</thead>
			{#each groups as group (group.key)}
				<tbody>
					<tr><td class="px-2 pt-3 pb-0.75 font-display text-[15px] font-bold" colspan="9">{group.label}</td></tr>
					{#each group.rooms as room (room.id)}
						<RoomRow {room} {widest} />
					{/each}
				</tbody>
			{/each}
		</table>
	</div>
{/if}
{#if design?.rooms.length}<div class="mt-4.5"><Cautions cautions={design.cautions.rooms ?? []} /></div>{/if}

<style>
	.feet .key {
		white-space: normal;
	}
	.key i {
		display: inline-block;
		width: 9px;
		height: 9px;
		margin: 0 2px 0 5px;
	}
	.key i:first-child {
		margin-left: 0;
	}
</style>
