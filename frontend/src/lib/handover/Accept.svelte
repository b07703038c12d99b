<script lang="ts">
	import type { IssuedLine, OfferVariant } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	/** Who takes which variant of an issued offer, when. */
	let {
		one,
		variants,
		accept
	}: {
		one: IssuedLine;
		variants: OfferVariant[];
		accept: (body: { variant: string; by: string; day: string }) => Promise<boolean>;
	} = $props();
	const frame = useFrame();
	const able = $derived(variants.filter((v) => !v.lacks));
	let variant = $state('');
	let by = $state(frame.session.job?.handover?.customer ?? '');
	let on = $state(new Date().toISOString().slice(0, 10));
	const chosen = $derived(variant || able[0]?.scheme || '');
</script>

<form
	class="flex flex-wrap items-end gap-2"
	onsubmit={(event) => {
		event.preventDefault();
		void accept({ variant: chosen, by, day: on });
	}}
>
	<div class="w-52">
		<Choice
			label={`Variant of offer ${one.number} that is taken`}
			value={chosen}
			options={able.map((v) => ({ value: v.scheme, label: v.label }))}
			commit={(v) => (variant = v ?? '')}
		/>
	</div>
	<input
		class="input w-44 bg-sheet"
		aria-label={`Who accepts offer ${one.number}`}
		placeholder="by whom"
		bind:value={by}
	/>
	<input class="input w-40 bg-sheet" type="date" aria-label={`Day offer ${one.number} was accepted`} bind:value={on} />
	<button class="btn btn-neutral" disabled={!by.trim() || !chosen}>Accepted</button>
</form>
