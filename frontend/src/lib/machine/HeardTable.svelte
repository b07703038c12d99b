<script lang="ts">
	import { followed } from '$lib/job/followed';
	import { amount, unitName } from '$lib/parts/units';
	import type { Design } from '$lib/api/client';
	import { ordered } from '$lib/job/draft';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	let { places, seen }: { places: Design['places']; seen: Design['places']['places'][number] | null } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const site = $derived(session.job?.site ?? {});
	const practice = $derived(followed(session.job?.practice));
	const receivers = $derived(ordered(site.receivers));
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
	const SCREENED = [
		{ value: 'none', label: 'sees the unit' },
		{ value: 'partly', label: 'sees part of it' },
		{ value: 'hidden', label: 'does not see it' }
	];
</script>

<h2 class="mt-4 mb-1">Who hears it</h2>
{#if places.noise_lacks}<p class="note">{places.noise_lacks}</p>{/if}
<label class="flex max-w-140 items-center gap-2 note"
	><span class="whitespace-nowrap">Judged</span><Choice
		label="Way of judging noise"
		value={practice.noise}
		options={[
			{ value: 'together', label: 'with an assumed background, both together' },
			{ value: 'alone', label: 'the unit alone' }
		]}
		commit={put('/practice/noise', 'Way of judging noise')}
	/></label
>
<p class="note">{places.noise_school}; local rules decide which counts.</p>
{#if receivers.length}
	<table class="table table-figures">
		<thead
			><tr
				><th>Window</th><th>Height, {unitName('m')}</th><th>It</th><th class="text-right">Distance</th><th
					class="text-right">By day</th
				><th class="text-right">Quiet</th><th class="text-right">Limit for the unit</th><th>What would pass</th><th
				></th></tr
			></thead
		>
		<tbody>
			{#each receivers as [id, one] (id)}
				{@const heard = seen?.heard.find((h) => h.id === id)}
				<tr
					><td class="min-w-38"
						><TextField
							label={`Name of ${one.label || 'a window'}`}
							value={one.label}
							bare
							commit={put(`/site/receivers/${id}/label`, 'Name of a window')}
						/></td
					><td
						><NumberField
							label={`Height of ${one.label || 'a window'}`}
							value={one.height_m ?? 1.5}
							quantity="length"
							unit="m"
							inHead
							width="4em"
							commit={(v) => put(`/site/receivers/${id}/height_m`, 'Height of a window')(v ?? 1.5)}
						/></td
					><td class="min-w-40"
						><Choice
							label={`What ${one.label || 'a window'} sees`}
							value={one.screened ?? 'none'}
							options={SCREENED}
							commit={put(`/site/receivers/${id}/screened`, 'What a window sees')}
						/></td
					><td class="text-right whitespace-nowrap">{heard ? amount(heard.distance_m, 'm', 1) : '–'}</td><td
						class="text-right whitespace-nowrap"
						>{num(heard?.level_db, 1)}<span class="unit">dB(A)</span>{#if heard?.others_db != null}<span
								class="block note">others {num(heard.others_db, 1)}</span
							>{/if}</td
					><td class="text-right">{num(heard?.quiet_db, 1)}</td><td class="text-right">{num(heard?.limit_db, 1)}</td><td
						>{#if heard?.met}<strong class="text-meets">under it</strong>{:else}{heard?.passes ?? ''}{/if}</td
					><td
						><button
							class="btn btn-quiet"
							aria-label={`Take ${one.label || 'the window'} off`}
							onclick={() => void session.edit('Taken off the site', (d) => d.remove(`/site/receivers/${id}`))}
							>×</button
						></td
					></tr
				>
			{/each}
		</tbody>
	</table>
{:else}<p class="note">No window stands on the site yet.</p>{/if}

<style>
	label {
		color: var(--muted);
		font-size: var(--text-small);
	}
</style>
