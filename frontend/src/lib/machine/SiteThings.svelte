<script lang="ts">
	import { unitName } from '$lib/parts/units';
	import { ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import NumberField from '$lib/parts/NumberField.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const site = $derived(session.job?.site ?? {});
	const put = (at: string, label: string) => (value: unknown) => session.edit(label, (d) => d.put(at, value));
	const KINDS: Record<string, string> = {
		tree: 'tree or hedge',
		patio: 'patio or path',
		meter: 'meter',
		tap: 'main tap',
		store: 'store',
		unit: 'another unit'
	};
	const rows = $derived([
		...ordered(site.openings).map(([id, one]) => ({ kind: 'openings', what: 'opening or drain', id, one })),
		...ordered(site.marks).map(([id, one]) => ({ kind: 'marks', what: KINDS[one.kind] ?? one.kind, id, one }))
	]);
	const sounds = (one: object): boolean => 'kind' in one && one.kind === 'unit';
	const power = (one: object): number | null => ('power_db' in one ? ((one.power_db as number | null) ?? null) : null);
</script>

{#if rows.length}
	<h2 class="mt-4 mb-1">What else stands there</h2>
	<table class="table table-figures">
		<thead
			><tr
				><th>Name</th><th>It is</th><th class="text-right">Above ground, {unitName('m')}</th><th class="text-right"
					>Sound power, dB(A)</th
				><th></th></tr
			></thead
		>
		<tbody>
			{#each rows as { kind, what, id, one } (kind + id)}
				<tr
					><td class="min-w-40"
						><TextField
							label={`Name of ${one.label || what}`}
							value={one.label}
							bare
							commit={put(`/site/${kind}/${id}/label`, 'Name of what stands there')}
						/></td
					><td class="whitespace-nowrap">{what}</td><td class="text-right"
						><NumberField
							label={`Height of ${one.label || what}`}
							value={one.height_m ?? 0}
							quantity="length"
							unit="m"
							inHead
							width="5em"
							commit={(v) => put(`/site/${kind}/${id}/height_m`, 'Its height')(v ?? 0)}
						/></td
					><td class="text-right"
						>{#if sounds(one)}<NumberField
								label={`Sound power of ${one.label || what}`}
								value={power(one)}
								digits={1}
								width="5em"
								commit={put(`/site/${kind}/${id}/power_db`, 'Its sound power')}
							/>{/if}</td
					><td
						><button
							class="btn btn-quiet"
							aria-label={`Take ${one.label || what} off`}
							onclick={() => void session.edit('Taken off the site', (d) => d.remove(`/site/${kind}/${id}`))}>×</button
						></td
					></tr
				>
			{/each}
		</tbody>
	</table>
{/if}
