<script lang="ts">
	import { untrack } from 'svelte';
	import { day } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import Thumb from './Thumb.svelte';
	let { ids, start, onclose }: { ids: string[]; start: string; onclose: () => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	let here = $state(untrack(() => start));
	const photo = $derived(session.job?.survey?.photos?.[here]);
	const of = $derived(
		[
			photo?.room ? session.job?.survey?.rooms?.[photo.room]?.label : '',
			photo?.emitter ? session.job?.survey?.emitters?.[photo.emitter]?.label : '',
			photo?.face ? `face ${photo.face}` : '',
			photo?.by,
			photo?.at ? day(photo.at) : ''
		]
			.filter(Boolean)
			.join(' · ')
	);

	function step(by: number): void {
		here = ids[(ids.indexOf(here) + by + ids.length) % ids.length] ?? here;
	}
	function pressed(event: KeyboardEvent): void {
		if (event.target instanceof HTMLInputElement) return;
		if (event.key === 'Escape') onclose();
		else if (event.key === 'ArrowRight') step(1);
		else if (event.key === 'ArrowLeft') step(-1);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	function away(): void {
		const gone = here;
		void session.edit('Picture taken out', (d) => d.remove(`/survey/photos/${gone}`));
		onclose();
	}
</script>

<svelte:window onkeydowncapture={pressed} />
<div
	class="fixed inset-0 z-70 grid grid-rows-[minmax(0,1fr)_auto] bg-bar"
	role="dialog"
	aria-modal="true"
	aria-label="Picture"
>
	<div class="image grid min-h-0 place-items-center">
		{#if photo}{#key photo.sha256}<Thumb
					sha256={photo.sha256}
					size="view"
					alt={photo.caption || 'Survey picture'}
				/>{/key}{/if}
	</div>
	<footer class="flex items-center gap-2.5 bg-paper px-4 py-2.5">
		{#if ids.length > 1}<button class="btn btn-outline" onclick={() => step(-1)} aria-label="Picture before">←</button
			><button class="btn btn-outline" onclick={() => step(1)} aria-label="Next picture">→</button>{/if}
		<div class="grid flex-1 gap-0.5">
			<TextField
				label="Caption"
				value={photo?.caption}
				placeholder="what it shows"
				commit={(v) => session.edit('Picture described', (d) => d.set(`/survey/photos/${here}/caption`, v))}
			/><span class="note">{of}</span>
		</div>
		<button class="btn btn-quiet" onclick={away}>Take it out</button>
		<button class="btn btn-primary" onclick={onclose}>Close</button>
	</footer>
</div>

<style>
	.image :global(img) {
		object-fit: contain;
		min-height: 0;
		max-height: 100%;
	}
</style>
