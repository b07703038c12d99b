<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import rules from '$lib/api/rules.json';
	import { api, type RoomOption } from '$lib/api/client';
	import type { Operation } from '$lib/job/draft';
	import { money } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	let {
		room,
		slot,
		asked: to = null,
		onlook
	}: { room: string; slot?: string; asked?: number | null; onlook?: (option: RoomOption | null) => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const currency = $derived(job.currency ?? 'GBP');
	const scheme = $derived(session.scheme);
	const at = $derived(`/schemes/${scheme}`);
	const asked = new Slow(() =>
		api.GET('/api/jobs/{job_id}/front/rooms/{room_id}', {
			params: { path: { job_id: frame.session.id, room_id: room } }
		})
	);
	$effect(() => {
		if (session.settled && scheme && room) asked.ask();
	});
	const found = $derived(asked.found?.room.room === room ? asked.found.room : null);
	const options = $derived((found?.options ?? []).filter((o) => !slot || o.slot === slot));
	/** The water a way is to serve: what is asked for, else the line. */
	const flow = $derived(to ?? found?.flow_c ?? null);
	const LOOKS = ['as before', 'a little', 'larger', 'much'];
	let all = $state(false);
	const FIRST = 9;
	/** Those that serve the room at that water first, the cheapest of them on top. */
	const ranked = $derived(
		[...options].sort(
			(a, b) =>
				Number(serves(b)) - Number(serves(a)) ||
				a.cost_minor - b.cost_minor ||
				(a.needed_flow_c ?? 99) - (b.needed_flow_c ?? 99)
		)
	);
	const shown = $derived(all ? ranked : ranked.slice(0, FIRST));
	const concession = $derived(scheme ? job.schemes?.[scheme]?.concessions?.[room] : null);
	const serves = (o: RoomOption): boolean =>
		flow !== null && o.needed_flow_c !== null && o.needed_flow_c <= flow + 0.05;

	const refusedNow = (d: { job: typeof job }): string[] => d.job.schemes?.[scheme ?? '']?.refused ?? [];
	function wish(option: RoomOption, kind: 'must' | 'prefer'): void {
		const on = option.pin === kind;
		void session.edit(
			on ? `No longer pinned: ${option.what}` : `${kind === 'must' ? 'Must be' : 'Preferred'}: ${option.what}`,
			(d) => (on ? d.remove(`${at}/wishes/${option.key}`) : d.set(`${at}/wishes/${option.key}`, kind))
		);
	}
	const refuse = (key: string, what: string): void =>
		void session.edit(`Refused: ${what}`, (d) => {
			d.set(`${at}/refused`, [...refusedNow(d).filter((k) => k !== key), key]);
			d.remove(`${at}/wishes/${key}`);
		});
	function allow(): void {
		const key = `electric:${room}`;
		void session.edit(found?.electric_allowed ? 'No heater of its own' : 'A heater of its own is allowed', (d) => {
			const now = (d.job.schemes?.[scheme ?? '']?.allowed ?? []).filter((k) => k !== key);
			d.set(`${at}/allowed`, found?.electric_allowed ? now : [...now, key]);
		});
	}
	const concede = (value: number | null): Promise<boolean> =>
		session.edit(
			value === null
				? `${found?.label}: as warm as asked for`
				: `${found?.label}: may stay at ${amount(value, '°C', 1)}`,
			(d) => d.put(`${at}/concessions/${room}`, value)
		);
	async function take(option: RoomOption): Promise<void> {
		const { data, error } = await api
			.POST('/api/jobs/{job_id}/front/way', { params: { path: { job_id: session.id } }, body: { way: option.key } })
			.catch(() => ({ data: undefined, error: { message: 'No line just now.' } }));
		if (data) await session.edit(`${found?.label}: ${option.what}`, (d) => d.follow(data.operations as Operation[]));
		else
			session.notice = {
				message: (error as { message?: string } | undefined)?.message ?? 'Not taken.',
				kept: 'The scheme is as it was.',
				places: []
			};
	}
</script>

{#if !scheme}
	<p class="note">As found there is nothing to change: choose a scheme at the top left.</p>
{:else if asked.refused}
	<p class="rounded-sm px-2 py-0.5 hatch-doubt" role="status">{asked.refused}</p>
{:else if found}
	<div
		class="grid grid-cols-[minmax(0,1fr)] justify-items-start gap-1.5 overflow-x-auto [&.old]:opacity-65"
		class:old={asked.busy}
		aria-busy={asked.busy}
		onmouseleave={() => onlook?.(null)}
		role="group"
	>
		<p>
			{found.label} asks for <b>{amount(found.load_w, 'W')}</b> at {amount(found.target_c, '°C')} and needs
			<b>{amount(found.needed_flow_c, '°C', 1)}</b>
			water with what hangs there{flow === null
				? ''
				: to === null
					? `; the line is at ${amount(flow, '°C', 1)}`
					: `; ${amount(flow, '°C')} are asked for`}.
		</p>
		<table class="table table-figures">
			<thead
				><tr
					><th>What may be done</th><th class="text-right">Costs</th><th class="text-right">Then needs</th><th
						>Disturbs</th
					><th>Looks</th><th></th></tr
				></thead
			>
			<tbody>
				{#each shown as option (option.key)}
					<tr class:serves={serves(option)} onmouseenter={() => onlook?.(option)} onfocusin={() => onlook?.(option)}>
						<td
							>{option.what}{#if option.kind === 'concession'}
								<span class="rounded-[3px] bg-ash px-1.25 py-0 text-small">a concession, no saving</span
								>{/if}{#if option.pin}<span class="strong rounded-[3px] bg-ink px-1.25 py-0 text-small text-paper"
									>{option.pin === 'must' ? 'must be' : 'preferred'}</span
								>{/if}{#if option.note}<span class="block note">{option.note}</span>{/if}</td
						>
						<td class="text-right"
							>{option.kind === 'concession'
								? '–'
								: money(option.cost_minor, currency)}{#if option.yearly_minor > 50}<span class="block note"
									>and {money(option.yearly_minor, currency)} a year</span
								>{/if}</td
						>
						<td class="text-right"
							>{option.needed_flow_c === null ? `over ${fig(80, '°C')}` : fig(option.needed_flow_c, '°C', 1)}<span
								class="unit">{unitName('°C')}</span
							>{#if serves(option)}<span
									class="tooltip tooltip-left ml-1 font-bold text-meets"
									data-tip="serves the room at that water">✓</span
								>{/if}</td
						>
						<td class="whitespace-nowrap">{rules.disturbs[option.disturbance]}</td>
						<td class="whitespace-nowrap">{LOOKS[option.looks]}</td>
						<td class="text-right whitespace-nowrap">
							<button
								class="btn btn-quiet px-1.25 py-0 text-small aria-pressed:font-bold aria-pressed:text-ink pointer-coarse:px-2.5 pointer-coarse:py-0"
								aria-pressed={option.pin === 'must'}
								onclick={() => wish(option, 'must')}>must</button
							><button
								class="btn btn-quiet px-1.25 py-0 text-small aria-pressed:font-bold aria-pressed:text-ink pointer-coarse:px-2.5 pointer-coarse:py-0"
								aria-pressed={option.pin === 'prefer'}
								onclick={() => wish(option, 'prefer')}>prefer</button
							><button
								class="btn btn-quiet px-1.25 py-0 text-small aria-pressed:font-bold aria-pressed:text-ink pointer-coarse:px-2.5 pointer-coarse:py-0"
								aria-label={`Not this: ${option.what}`}
								onclick={() => refuse(option.key, option.what)}>not</button
							><button
								class="btn btn-quiet px-1.25 py-0 text-small aria-pressed:font-bold aria-pressed:text-ink pointer-coarse:px-2.5 pointer-coarse:py-0"
								aria-label={`Take: ${option.what}`}
								onclick={() => void take(option)}>take</button
							>
						</td>
					</tr>
				{:else}
					<tr
						><td colspan="6" class="note"
							>Nothing the tool knows fits here. Record the free wall beside its emitter, or bring in a list of
							products.</td
						></tr
					>
				{/each}
			</tbody>
		</table>
		{#if ranked.length > FIRST}<button class="btn btn-quiet" onclick={() => (all = !all)}
				>{all ? 'only the first' : `all ${ranked.length}`}</button
			>{/if}
		{#if !slot}
			<div class="flex flex-wrap items-center gap-6">
				<label class="inline-flex items-center gap-2"
					>May stay as cool as <NumberField
						label={`Least temperature accepted in ${found.label}`}
						value={concession}
						placeholder="not allowed"
						quantity="temperature"
						digits={1}
						unit="°C"
						width="8em"
						commit={concede}
					/></label
				>
				<label class="tick inline-flex items-center gap-2"
					><input class="checkbox checkbox-sm" type="checkbox" checked={found.electric_allowed} onchange={allow} /> a heater
					of its own is allowed here</label
				>
			</div>
			{#if found.refused.length}
				<p class="note">
					Refused here: {#each found.refused as key (key)}<button
							class="btn btn-quiet"
							onclick={() =>
								void session.edit('Allowed again', (d) =>
									d.set(
										`${at}/refused`,
										refusedNow(d).filter((k) => k !== key)
									)
								)}
							>{key.startsWith('emitter:')
								? 'changing its emitter'
								: key.startsWith('new:')
									? 'a further emitter'
									: key.startsWith('floor:')
										? 'a new floor'
										: key.startsWith('fan:')
											? 'fan units'
											: 'one way'}: allow again</button
						>{/each}
				</p>
			{/if}
		{/if}
	</div>
{:else}<p class="note">Looking what fits…</p>{/if}

<style>
	.serves td:first-child {
		box-shadow: inset 4px 0 0 var(--meets);
	}
</style>
