<script lang="ts">
	import rules from '$lib/api/rules.json';
	import type { Alternatives } from '$lib/api/client';
	import type { Operation } from '$lib/job/draft';
	import { amount } from '$lib/parts/units';
	import { money, num } from '$lib/parts/format';
	import { newId } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Spans from '$lib/charts/Spans.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	let { found }: { found: Alternatives } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const currency = $derived(session.job?.currency ?? 'GBP');
	const usual = rules.practice;
	const practice = $derived(session.job?.practice ?? {});
	const put = (at: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`/practice/${at}`, value));
	type Way = Alternatives['rows'][number];
	const range = (span: { low: number; high: number } | null | undefined): string =>
		span ? `${money(span.low, currency)} to ${money(span.high, currency)}` : '–';
	const disturbs = rules.disturbs as Record<string, string> | string[];
	const word = (level: number): string => (Array.isArray(disturbs) ? disturbs[level] : disturbs[String(level)]) ?? '';
	const bars = $derived(
		found.rows.flatMap((r) =>
			r.fifteen_minor
				? [
						{
							key: r.key,
							label: r.title,
							strong: false,
							low: r.fifteen_minor.low / 100,
							mid: r.fifteen_minor.mid / 100,
							high: r.fifteen_minor.high / 100
						}
					]
				: []
		)
	);
	const LINES: { name: string; told: (way: Way) => string; right?: boolean }[] = [
		{ name: 'Done in the house', told: (w) => w.what },
		{ name: 'Machine', told: (w) => (w.machine ? `${w.machine}, with ${w.backup}` : w.backup) },
		{ name: 'Design day', told: (w) => `${amount((w.loss_w ?? 0) / 1000, 'kW', 1)}, water ${amount(w.flow_c, '°C')}` },
		{ name: 'Heat by the machine', told: (w) => (w.heat_share == null ? '–' : `${num(w.heat_share * 100)} %`) },
		{ name: 'A year costs', told: (w) => range(w.cost_minor) },
		{ name: 'Saves against today', told: (w) => range(w.saves_minor) },
		{ name: 'Carbon a year', told: (w) => (w.carbon_kg == null ? '–' : amount(w.carbon_kg, 'kg')) },
		{ name: 'Paid once', told: (w) => money(w.once_minor, currency) },
		{ name: 'Fifteen years', told: (w) => range(w.fifteen_minor) },
		{
			name: 'Worked in',
			told: (w) =>
				w.changes === 0 ? 'no room' : `${w.rooms.join(', ') || 'the house'}; ${word(w.disturbance)} disturbance`
		},
		{ name: 'Rooms too cool', told: (w) => w.short.join(', ') || 'none' },
		{ name: 'Keeps open', told: (w) => w.keeps_open.join('; ') },
		{ name: 'Decides', told: (w) => w.decides.join('; ') }
	];
	function begin(way: Way): void {
		const id = newId();
		void session.edit(`“${way.title}” begun as a scheme`, (d) => {
			d.follow(
				(way.operations as unknown as Operation[]).map((one) =>
					one.path === '/schemes/new' ? { ...one, path: `/schemes/${id}` } : one
				)
			);
			d.set('/active_scheme', id);
		});
	}
</script>

{#if found.lacks}<p class="px-0 py-5 text-lead">{found.lacks}</p>
{:else}
	<p class="note">what fifteen years come to, from the house as it was found, with their range</p>
	<Spans rows={bars} label="What fifteen years come to, by way" told={(v) => money(v * 100, currency)} />
	<div class="mt-2 overflow-x-auto">
		<table class="table w-full min-w-160 table-fixed table-figures">
			<thead
				><tr
					><th class="w-32"></th>{#each found.rows as way (way.key)}<th
							class="align-bottom text-body! font-bold! whitespace-normal text-ink">{way.title}</th
						>{/each}</tr
				></thead
			>
			<tbody>
				{#each LINES as line (line.name)}
					<tr
						><td class="align-top note">{line.name}</td>{#each found.rows as way (way.key)}<td
								class="align-top whitespace-normal"
								>{#if way.lacks}{#if line === LINES[0]}<span class="px-1.5 py-0.5 hatch-doubt">{way.lacks}</span
										>{:else if line.name === 'Keeps open' || line.name === 'Decides'}{line.told(
											way
										)}{:else}–{/if}{:else}{line.told(way)}{/if}</td
							>{/each}</tr
					>
				{/each}
				<tr
					><td></td>{#each found.rows as way (way.key)}<td class="align-top"
							>{#if way.operations.length}<button
									class="btn h-auto min-h-10 btn-outline px-2 py-1"
									onclick={() => begin(way)}>Begin a scheme of it</button
								>{/if}</td
						>{/each}</tr
				>
			</tbody>
		</table>
	</div>
	{#if found.later}<p class="mt-2">{found.later}</p>{/if}
	<div class="mt-2 grid max-w-120 grid-cols-2 gap-x-3">
		<Asked
			ask={`Work on a machine nobody priced, ${currency}`}
			label="Work on a machine"
			value={practice.machine_work_minor ?? usual.machine_work_minor}
			times={0.01}
			digits={0}
			commit={put('machine_work_minor', 'Work on a machine')}
		/>
		<Asked
			ask={`and a kW of it, ${currency}`}
			label="A kilowatt of machine"
			value={practice.machine_minor_per_kw ?? usual.machine_minor_per_kw}
			times={0.01}
			digits={0}
			commit={put('machine_minor_per_kw', 'A kilowatt of machine')}
		/>
	</div>
	<p class="note">
		Each is a whole chain and a year of hours, from the house as found, keeping what the customer ruled out. Fabric
		first: what pays within 25 years against today's fuel, the heater staying. Hybrid: the smallest machine that carries
		half the design day and reaches the water down to {amount(2, '°C')}. Whole: the cheapest set for {amount(45, '°C')} to
		{amount(55, '°C')} water. {found.priced}
	</p>
{/if}
