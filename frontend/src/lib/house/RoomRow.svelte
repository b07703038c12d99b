<script lang="ts">
	import { proofOf, proveSide } from './evidence';
	import { amount, fig, system, unitName, watts } from '$lib/parts/units';
	import type { Known, RoomResult } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { rectangle, rectangleWalk, type Rectangle } from './rooms';
	import Choice from '$lib/parts/Choice.svelte';
	import Delta from '$lib/parts/Delta.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import { USUAL } from '$lib/parts/usual';
	import RoomPanel from './RoomPanel.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	let { room, widest }: { room: RoomResult; widest: number } = $props();
	const frame = useFrame();
	/** Feet, inches and sixteenths take more than metres. */
	const wide = system.feet ? '8.6em' : '6em';
	const session = $derived(frame.session);
	const doc = $derived(session.job?.survey?.rooms?.[room.id]);
	const open = $derived(frame.openRoom === room.id);
	const size = $derived(doc ? rectangle(doc) : null);
	const moves = $derived(session.effect?.rooms[room.id]);
	const at = $derived(`/survey/rooms/${room.id}`);
	const uses = $derived(
		Object.entries(session.job?.library?.tables?.standard?.data.room_uses ?? {}).map(([value, u]) => ({
			value,
			label: u.label
		}))
	);
	const bars = $derived(
		[
			{ name: 'fabric', w: room.fabric_w },
			{ name: 'bridges', w: room.bridges_w },
			{ name: 'ground', w: room.ground_w },
			{ name: 'air', w: room.air_w },
			{ name: 'trade', w: room.trade_w }
		].filter((bar) => (bar.w ?? 0) > 0)
	);
	const spoken = $derived(bars.map((bar) => `${bar.name} ${amount(bar.w, 'W', -1)}`).join(', '));

	function resize(part: Partial<Rectangle>, what: string, proof?: Known): Promise<boolean> {
		return session.edit(`${room.label}, ${what}`, (d) => {
			const now = d.job.survey?.rooms?.[room.id];
			const known = now ? rectangle(now) : null;
			d.set(`${at}/walk`, rectangleWalk({ width: null, length: null, ...known, ...part }));
			const side = 'width' in part ? 'width' : 'length';
			const other = side === 'width' ? 'length' : 'width';
			if (proof)
				proveSide(
					d,
					`${at}/known`,
					now?.known,
					{ side, other, together: 'walk', stands: known?.[other] != null },
					proof
				);
		});
	}
	const putHeight = (value: number | null, proof?: Known): Promise<boolean> =>
		session.edit(`${room.label}, height`, (d) => {
			d.put(`${at}/height_m`, value);
			if (proof) d.set(`${at}/known/height_m`, proof);
		});
	const put = (field: string, what: string) => (value: unknown) =>
		session.edit(`${room.label}, ${what}`, (d) => d.put(`${at}/${field}`, value));
</script>

{#if doc}
	<tr class:open id={`room-${room.id}`} data-room={room.label}>
		<td>
			<div
				class={[
					'name flex min-w-32.5 items-center gap-0.5',
					frame.drawn && !system.feet ? 'narrow:min-w-38' : 'narrow:min-w-28'
				]}
			>
				<button
					class="min-h-9 min-w-7 text-muted"
					aria-expanded={open}
					aria-label={`${open ? 'Close' : 'Open'} ${room.label}`}
					onclick={() => (frame.openRoom = open ? null : room.id)}>{open ? '▾' : '▸'}</button
				>
				<TextField
					label={`Name of ${room.label}`}
					value={doc.label}
					strong
					bare
					commit={(v) => session.edit('Room renamed', (d) => d.set(`${at}/label`, v))}
				/>
			</div>
		</td>
		<td class={['min-w-26', frame.drawn && 'narrow:hidden']}
			><Choice
				label={`Use of ${room.label}`}
				value={doc.use}
				empty="not said"
				options={uses}
				commit={put('use', 'use')}
			/></td
		>
		{#if size}
			<td class="text-right"
				><NumberField
					label={`Width of ${room.label}`}
					between={USUAL.wall_m}
					value={size.width}
					quantity="length"
					digits={3}
					width={wide}
					known={proofOf(doc.known, 'width', 'walk')}
					by={session.person}
					commit={(v, k) => resize({ width: v }, 'width', k)}
				/></td
			>
			<td class="text-right"
				><NumberField
					label={`Length of ${room.label}`}
					between={USUAL.wall_m}
					value={size.length}
					quantity="length"
					digits={3}
					width={wide}
					known={proofOf(doc.known, 'length', 'walk')}
					by={session.person}
					commit={(v, k) => resize({ length: v }, 'length', k)}
				/></td
			>
		{:else}
			<td class="text-right" colspan="2"
				>walked, {fig(room.area_m2, 'm²', 1)}<span class="unit">{unitName('m²')}</span></td
			>
		{/if}
		<td class="text-right"
			><NumberField
				label={`Height of ${room.label}`}
				between={USUAL.room_height_m}
				value={doc.height_m}
				quantity="length"
				digits={3}
				width={wide}
				known={doc.known?.height_m ?? null}
				by={session.person}
				commit={putHeight}
			/></td
		>
		<td class={['text-right', frame.drawn && system.feet && 'narrow:hidden']}
			><NumberField
				label={`Wanted temperature in ${room.label}`}
				between={USUAL.target_c}
				value={doc.target_c}
				placeholder={fig(room.target_c, '°C')}
				quantity="temperature"
				unit="°C"
				inHead
				digits={1}
				width="4.1em"
				commit={put('target_c', 'wanted temperature')}
			/></td
		>
		<td class="narrow:hidden">
			<svg class="bar" viewBox="0 0 200 14" preserveAspectRatio="none" role="img" aria-label={spoken || 'no loss yet'}>
				{#each bars as bar, n (bar.name)}
					{@const x = bars.slice(0, n).reduce((sum, b) => sum + (b.w ?? 0), 0)}
					<rect
						x={(x / widest) * 200}
						y="0"
						width={Math.max(((bar.w ?? 0) / widest) * 200 - 0.8, 0)}
						height="14"
						style={`fill: var(--fill-${bar.name})`}><title>{bar.name} {amount(bar.w, 'W', -1)}</title></rect
					>
				{/each}
			</svg>
		</td>
		<td class="text-right">
			<button
				class="fig"
				onclick={() => frame.showWorking(`room:${room.id}`)}
				aria-label={`Loss of ${room.label}: show the working`}
			>
				{#if room.room_emitter_load_w === null}<span
						class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-doubt"
						>lacks something</span
					>{:else}<b class="font-semibold">{watts(room.room_emitter_load_w)}</b><span class="unit">{unitName('W')}</span
					>{/if}
			</button>
			<div><Delta move={moves?.loss_w} unit="W" /></div>
		</td>
		<td class="text-right">
			<button
				class="fig"
				onclick={() => frame.showWorking(`room-flow:${room.id}`)}
				aria-label={`Water for ${room.label}: show the working`}
			>
				{#if room.status === 'no emitter'}<span
						class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
						>no emitter</span
					>
				{:else if room.needed_flow_c === null}<span class="note">–</span>
				{:else}<b class="font-semibold">{fig(room.needed_flow_c, '°C', 1)}</b><span class="unit">{unitName('°C')}</span
					>{/if}
			</button>
			<div>
				{#if room.status === 'short'}<span
						class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-short"
						>only {amount(room.reached_c, '°C', 1)}</span
					>{/if}
				<Delta move={moves?.needed_flow_c} digits={1} unit="°C" />
			</div>
		</td>
	</tr>
	{#if open}
		<tr class="panel"><td colspan="9"><RoomPanel {room} {doc} /></td></tr>
	{/if}
{/if}

<style>
	.bar {
		width: 100%;
		height: 14px;
		display: block;
	}

	td {
		padding-inline: 4px;
	}
	.open td {
		border-bottom: 0;
		background: var(--sheet);
	}
	.panel td {
		padding: 0;
		background: var(--sheet);
		border-bottom: 2px solid var(--ink);
	}
</style>
