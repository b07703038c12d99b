<script lang="ts">
	import { api, type Source } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { day, num } from '$lib/parts/format';
	import { fig, ours, unitName } from '$lib/parts/units';
	/** What meters stood at on a day, read by hand. */
	let { sources, changed }: { sources: Source[]; changed: () => void } = $props();
	const session = $derived(useFrame().session);
	const hand = $derived(sources.find((s) => s.kind === 'hand'));
	let on = $state(new Date().toISOString().slice(0, 10));
	let typed = $state<Record<string, string>>({});
	let fresh = $state(false);
	let said = $state('');
	const FIELDS = $derived([
		{ key: 'electric_kwh', label: 'Electricity meter, kWh' },
		{ key: 'heat_kwh', label: 'Heat meter, kWh' },
		{ key: 'heater_kwh', label: 'Heater beside it, kWh' },
		{ key: 'inside_c', label: `Rooms, mean, ${unitName('°C')}` }
	] as const);
	type Row = { at: string; figures: (number | null)[] };
	let rows = $state.raw<Row[]>([]);
	async function look(): Promise<void> {
		const { data } = await api
			.GET('/api/jobs/{job_id}/readings/hand', { params: { path: { job_id: session.id } } })
			.catch(() => ({ data: undefined }));
		rows = data?.rows ?? [];
	}
	$effect(() => {
		if (hand) void look();
		else rows = [];
	});
	const number = (key: string): number | null => {
		const text = (typed[key] ?? '').trim().replace(',', '.');
		return text === '' ? null : Number(text);
	};
	async function keep(): Promise<void> {
		const body: Record<string, number | null> = Object.fromEntries(FIELDS.map((f) => [f.key, number(f.key)]));
		if (body.inside_c != null) body.inside_c = ours(body.inside_c, '°C');
		const wrong = FIELDS.find((f) => Number.isNaN(body[f.key]));
		if (wrong) {
			said = `${wrong.label}: “${typed[wrong.key]}” is no number. Nothing was kept.`;
			return;
		}
		const { error } = await api
			.POST('/api/jobs/{job_id}/readings/hand', {
				params: { path: { job_id: session.id } },
				body: { day: on, new_meter: fresh, ...body }
			})
			.catch(() => ({ error: { message: 'No line just now: it was not kept.' } }));
		said = (error as { message?: string } | undefined)?.message ?? 'Kept.';
		if (!error) {
			typed = {};
			fresh = false;
			await look();
			changed();
		}
	}
	async function drop(at: string): Promise<void> {
		await api
			.DELETE('/api/jobs/{job_id}/readings/hand/{day}', {
				params: { path: { job_id: session.id, day: at.slice(0, 10) } }
			})
			.catch(() => undefined);
		await look();
		changed();
	}
</script>

<h2>Meters, read by hand</h2>
<form
	class="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-2"
	onsubmit={(event) => {
		event.preventDefault();
		void keep();
	}}
>
	<label class="text-small text-muted">Day<input class="input w-full bg-sheet" type="date" bind:value={on} /></label>
	{#each FIELDS as f (f.key)}<label class="text-small text-muted"
			>{f.label}<input
				class="input w-full bg-sheet text-right tabular-nums"
				inputmode="decimal"
				bind:value={typed[f.key]}
			/></label
		>{/each}
	<label class="flex min-h-9 items-center gap-2 text-small text-muted"
		><input type="checkbox" class="checkbox" bind:checked={fresh} />a meter is new</label
	>
	<button class="btn btn-neutral">Keep it</button>
</form>
{#if said}<p class="note" role="status">{said}</p>{/if}
{#if rows.length}
	<table class="table table-figures">
		<thead
			><tr
				><th>Day</th>{#each FIELDS as f (f.key)}<th class="text-right">{f.label}</th>{/each}<th></th></tr
			></thead
		>
		<tbody
			>{#each rows as row (row.at)}<tr
					><td class="whitespace-nowrap">{day(row.at)}</td>{#each row.figures as one, n (n)}<td class="text-right"
							>{one == null ? '–' : n === FIELDS.length - 1 ? fig(one, '°C', 1) : num(one, 1)}</td
						>{/each}<td
						><button class="btn btn-quiet whitespace-nowrap" onclick={() => void drop(row.at)}
							>take back<span class="sr-only"> {day(row.at)}</span></button
						></td
					></tr
				>{/each}</tbody
		>
	</table>
{/if}
