<script lang="ts">
	import { api, type Runs } from '$lib/api/client';
	import { money, num } from '$lib/parts/format';
	import { amount } from '$lib/parts/units';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Tick from '$lib/parts/Tick.svelte';
	let { runs, seen }: { runs: Runs; seen: string | undefined } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const job = $derived(session.job!);
	const currency = $derived(job.currency ?? 'GBP');
	const grants = $derived(ordered(job.grants));
	const fuels = $derived(job.library?.tables?.standard?.data.fuels ?? {});
	const row = $derived(runs.rows.find((r) => r.id === seen));
	type Grant = NonNullable<typeof job.grants>[string];
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
	const add = (grant: Partial<Grant>): void =>
		void session.edit('A grant added', (d) =>
			d.set(`/grants/${newId()}`, { label: 'A grant', ...grant, pos: nextPos(d.job.grants) })
		);
	let said = $state('');
	/** A key of the company's own, made of the name. */
	const keyOf = (label: string): string =>
		label
			.toLowerCase()
			.replace(/[^a-z0-9]+/g, '-')
			.replace(/^-+|-+$/g, '')
			.slice(0, 60) || 'grant';
	async function keep(grant: Grant): Promise<void> {
		const { pos: _, ...rest } = grant;
		const key = keyOf(grant.label);
		const { error } = await api
			.PUT('/api/company/{kind}/{key}', { params: { path: { kind: 'grants', key } }, body: { ...rest } as never })
			.catch(() => ({ error: true }));
		said = error ? 'It could not be kept just now.' : `${grant.label} is kept for the company.`;
	}
	async function takeOwn(): Promise<void> {
		const { data } = await api
			.GET('/api/company/{kind}', { params: { path: { kind: 'grants' } } })
			.catch(() => ({ data: undefined }));
		const there = new Set(grants.map(([, one]) => one.label));
		const own = (data?.entries ?? []).map((one) => {
			const { id: _, ...rest } = one.entry as unknown as Grant & { id: string };
			return rest as Grant;
		});
		const fresh = own.filter((one) => !there.has(one.label));
		said = fresh.length
			? ''
			: own.length
				? 'All the company’s grants stand here already.'
				: 'The company keeps none yet.';
		if (fresh.length)
			void session.edit('The company’s grants', (d) => {
				for (const one of fresh) d.set(`/grants/${newId()}`, { ...one, pos: nextPos(d.job.grants) });
			});
	}
</script>

<h2 class="mt-4 mb-1">Grants</h2>
{#each grants as [id, grant] (id)}
	{@const given = row?.granted[grants.findIndex(([key]) => key === id)]}
	<div class="mb-2 border-t border-t-hairline pt-2">
		<div class="flex flex-wrap items-center gap-2">
			<div class="w-56">
				<TextField
					label="Name of the grant"
					value={grant.label}
					strong
					commit={(v) => put(`/grants/${id}/label`, 'A grant')(v || 'A grant')}
				/>
			</div>
			{#if given && row}<span class="note"
					>{given.why
						? `not for ${row.label}: ${given.why}`
						: `${money(given.amount_minor, currency)} for ${row.label}`}</span
				>{/if}
			<button class="btn ml-auto btn-quiet" onclick={() => void keep(grant)}>keep it for the company</button>
			<button
				class="btn btn-quiet"
				aria-label={`Take ${grant.label} off`}
				onclick={() => void session.edit('A grant taken off', (d) => d.remove(`/grants/${id}`))}>×</button
			>
		</div>
		<div class="mt-1 grid grid-cols-[repeat(auto-fill,minmax(140px,1fr))] items-end gap-x-3 gap-y-2">
			<Asked
				ask={`Amount, ${currency}`}
				label={`Amount of ${grant.label}`}
				value={grant.amount_minor}
				times={0.01}
				digits={0}
				commit={put(`/grants/${id}/amount_minor`, 'Amount of a grant')}
			/>
			<Asked
				ask="or of the cost, %"
				label={`Share of ${grant.label}`}
				value={grant.share}
				times={100}
				digits={0}
				commit={put(`/grants/${id}/share`, 'Share of a grant')}
			/>
			<Asked
				ask={`at most, ${currency}`}
				label={`Most of ${grant.label}`}
				value={grant.most_minor}
				times={0.01}
				digits={0}
				commit={put(`/grants/${id}/most_minor`, 'Most of a grant')}
			/>
			<label
				>only in place of<Choice
					label={`What ${grant.label} replaces`}
					value={grant.replaces?.[0] ?? null}
					empty="anything"
					options={Object.entries(fuels).map(([value, f]) => ({ value, label: f.label }))}
					commit={(v) => put(`/grants/${id}/replaces`, 'What a grant replaces')(v ? [v] : null)}
				/></label
			>
			<Asked
				ask={`only from SCOP, at ${amount(35, '°C')}`}
				label={`Least SCOP of ${grant.label}`}
				value={grant.least_scop_35}
				digits={2}
				commit={put(`/grants/${id}/least_scop_35`, 'Least SCOP of a grant')}
			/>
			<Asked
				ask="only with water up to"
				label={`Warmest water of ${grant.label}`}
				value={grant.most_flow_c}
				quantity="temperature"
				unit="°C"
				digits={0}
				commit={put(`/grants/${id}/most_flow_c`, 'Warmest water of a grant')}
			/>
			<Tick
				ask="no boiler beside it"
				value={grant.whole_heat ?? false}
				commit={put(`/grants/${id}/whole_heat`, 'No boiler beside')}
			/>
		</div>
	</div>
{/each}
<div class="flex flex-wrap items-center gap-2">
	<button class="btn btn-outline" onclick={() => add({})}>+ a grant</button>
	<button class="btn btn-outline" onclick={() => void takeOwn()}>Take the company’s</button>
	{#if said}<span class="note" role="status">{said}</span>{/if}
</div>
<p class="note">
	Sums by the rules entered here{grants.length && row?.granted.length
		? `: ${num(row.granted.filter((g) => !g.why).length)} of ${num(grants.length)} hold for ${row.label}`
		: ''}. Who pays a grant decides on it.
</p>

<style>
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
</style>
