<script lang="ts">
	import type { OfferFound } from '$lib/api/client';
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
	const KINDS = ['grant', 'planning', 'network', 'building', 'landlord', 'other'].map((value) => ({
		value,
		label: value
	}));
	const STATES = ['open', 'asked', 'given', 'refused', 'not needed'].map((value) => ({ value, label: value }));
	const WHEN = [
		{ value: 'before', label: 'before the work' },
		{ value: 'after', label: 'after it' }
	];
	const USUAL = [
		{ kind: 'grant', label: 'Grant applied for', when: 'before' },
		{ kind: 'planning', label: 'Planning: is permission needed here?', when: 'before' },
		{ kind: 'network', label: 'Network told of the machine', when: 'before' },
		{ kind: 'building', label: 'Building control told', when: 'after' },
		{ kind: 'grant', label: 'Grant paid out', when: 'after' }
	];
	function add(rows: { kind: string; label: string; when: string }[]): void {
		void session.edit(rows.length > 1 ? 'The usual permissions' : 'A permission', (d) => {
			for (const row of rows) d.set(`${base}/${newId()}`, { ...row, pos: nextPos(d.job.handover?.offer?.permissions) });
		});
	}
</script>

{#if lines.length}
	<div class="overflow-x-auto">
		<table class="table table-figures">
			<thead
				><tr
					><th>When</th><th>Kind</th><th>What</th><th>Who asks</th><th>Stands</th><th>Asked</th><th>Decided</th><th
						>Number</th
					><th></th></tr
				></thead
			>
			<tbody
				>{#each lines as p (p.key)}<tr data-permission={p.state}
						><td class="w-36"
							><Choice
								label={`When, ${p.label}`}
								value={p.when}
								options={WHEN}
								commit={put(`${p.key}/when`, p.label)}
							/></td
						><td class="w-32"
							><Choice
								label={`Kind of ${p.label}`}
								value={p.kind}
								options={KINDS}
								commit={put(`${p.key}/kind`, p.label)}
							/></td
						><td class="min-w-52"
							><TextField
								label={`What, ${p.label}`}
								value={p.label}
								commit={put(`${p.key}/label`, p.label)}
							/>{#if p.warn}<span class="mt-0.5 block rounded-sm px-1.5 text-small hatch-short">{p.warn}</span>{/if}</td
						><td class="w-32"
							><TextField label={`Who asks, ${p.label}`} value={p.by} commit={put(`${p.key}/by`, p.label)} /></td
						><td class="w-32"
							><Choice
								label={`How ${p.label} stands`}
								value={p.state}
								options={STATES}
								commit={put(`${p.key}/state`, p.label)}
							/></td
						><td class="w-36"
							><TextField
								type="date"
								label={`Asked, ${p.label}`}
								value={p.asked}
								commit={put(`${p.key}/asked`, p.label)}
							/></td
						><td class="w-36"
							><TextField
								type="date"
								label={`Decided, ${p.label}`}
								value={p.decided}
								commit={put(`${p.key}/decided`, p.label)}
							/></td
						><td class="w-28"
							><TextField label={`Number, ${p.label}`} value={p.number} commit={put(`${p.key}/number`, p.label)} /></td
						><td
							><button
								class="btn btn-quiet"
								onclick={() => void session.edit(`${p.label} taken out`, (d) => d.remove(`${base}/${p.key}`))}
								>×<span class="sr-only">take out {p.label}</span></button
							></td
						></tr
					>{/each}</tbody
			>
		</table>
	</div>
{:else}<p class="note">
		None entered: what has to be asked for, of whom, and whether before the work or after it.
	</p>{/if}
<div class="mt-1 flex flex-wrap gap-2">
	<button class="btn btn-outline" onclick={() => add([{ kind: 'other', label: 'A permission', when: 'before' }])}
		>+ a permission</button
	>
	{#if !lines.length}<button class="btn btn-outline" onclick={() => add(USUAL)}>The usual ones</button>{/if}
</div>
