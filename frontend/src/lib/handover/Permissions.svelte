<script lang="ts">
	import type { OfferFound } from '$lib/api/client';
	import rules from '$lib/api/rules.json';
	import { newId, nextPos } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	/** Permissions in the order they are wanted, before the work and after it. */
	let { lines }: { lines: OfferFound['permissions'] } = $props();
	const session = $derived(useFrame().session);
	const base = '/handover/offer/permissions';
	const put = (path: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`${base}/${path}`, value));
	const words = rules.offer_words;
	const of = (table: Record<string, string>) => Object.entries(table).map(([value, label]) => ({ value, label }));
	const states = words.permission_states.map((value) => ({ value, label: value }));
	function add(rows: { kind: string; label: string; when: string }[]): void {
		void session.edit(rows.length > 1 ? 'The usual permissions' : 'A permission', (d) => {
			for (const row of rows) d.set(`${base}/${newId()}`, { ...row, pos: nextPos(d.job.handover?.offer?.permissions) });
		});
	}
</script>

{#each lines as p (p.key)}
	<div
		class="grid grid-cols-[140px_minmax(200px,1.4fr)_minmax(290px,1fr)_120px] items-end gap-x-3 gap-y-1.5 border-t border-t-hairline py-2.5 narrow:grid-cols-2"
		data-permission={p.state}
	>
		<Choice
			label={`When, ${p.label}`}
			value={p.when}
			options={of(words.permission_when)}
			commit={put(`${p.key}/when`, p.label)}
		/>
		<TextField label={`What, ${p.label}`} value={p.label} strong commit={put(`${p.key}/label`, p.label)} />
		<Choice
			label={`Kind of ${p.label}`}
			value={p.kind}
			options={of(words.permission_kinds)}
			commit={put(`${p.key}/kind`, p.label)}
		/>
		<Choice label={`How ${p.label} stands`} value={p.state} options={states} commit={put(`${p.key}/state`, p.label)} />
		<label class="text-small text-muted"
			>Number<TextField label={`Number, ${p.label}`} value={p.number} commit={put(`${p.key}/number`, p.label)} /></label
		>
		<label class="text-small text-muted"
			>Who asks<TextField label={`Who asks, ${p.label}`} value={p.by} commit={put(`${p.key}/by`, p.label)} /></label
		>
		<div class="grid grid-cols-2 gap-2">
			<label class="text-small text-muted"
				>Asked<TextField
					type="date"
					label={`Asked, ${p.label}`}
					value={p.asked}
					commit={put(`${p.key}/asked`, p.label)}
				/></label
			>
			<label class="text-small text-muted"
				>Decided<TextField
					type="date"
					label={`Decided, ${p.label}`}
					value={p.decided}
					commit={put(`${p.key}/decided`, p.label)}
				/></label
			>
		</div>
		<button
			class="btn btn-quiet"
			onclick={() => void session.edit(`${p.label} taken out`, (d) => d.remove(`${base}/${p.key}`))}
			>take out<span class="sr-only"> {p.label}</span></button
		>
		{#if p.warn}<p class="col-span-full"><span class="rounded-sm px-1.5 text-small hatch-short">{p.warn}</span></p>{/if}
	</div>
{:else}<p class="note">
		None entered: what has to be asked for, of whom, and whether before the work or after it.
	</p>{/each}
<div class="mt-1 flex flex-wrap gap-2">
	<button class="btn btn-outline" onclick={() => add([{ kind: 'other', label: 'A permission', when: 'before' }])}
		>+ a permission</button
	>
	{#if !lines.length}<button class="btn btn-outline" onclick={() => add(words.usual_permissions)}>The usual ones</button
		>{/if}
</div>
