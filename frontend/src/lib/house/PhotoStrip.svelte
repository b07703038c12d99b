<script lang="ts">
	import { useFrame } from '$lib/job/frame.svelte';
	import { addPhoto, photosAbout, type About } from './photos';
	import PhotoView from './PhotoView.svelte';
	import Thumb from './Thumb.svelte';
	let { about, label, wanted = false }: { about: About; label: string; wanted?: boolean } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const photos = $derived(photosAbout(session.job, about));
	let over = $state(false);
	let wrong = $state('');
	let viewing = $state<string | null>(null);

	async function take(files: FileList | null | undefined): Promise<void> {
		wrong = '';
		const chosen = Array.from(files ?? []); // the list empties when its field is cleared
		for (const file of chosen) wrong = (await addPhoto(session, file, about)) ?? wrong;
	}
	function dropped(event: DragEvent): void {
		event.preventDefault();
		over = false;
		void take(event.dataTransfer?.files);
	}
</script>

<div
	class="flex flex-wrap items-center gap-1.5 rounded-[5px] [&.over]:[outline:2px_dashed_var(--water)]"
	class:over
	role="group"
	aria-label={`Pictures of ${label}`}
	ondragover={(e) => (e.preventDefault(), (over = true))}
	ondragleave={() => (over = false)}
	ondrop={dropped}
>
	{#each photos as [id, photo] (id)}
		<button
			type="button"
			class="h-11.5 w-15 overflow-hidden rounded-sm border border-hairline"
			aria-label={photo.caption || `Picture of ${label}`}
			onclick={() => (viewing = id)}><Thumb sha256={photo.sha256} /></button
		>
	{/each}
	<label
		class={[
			'relative inline-flex min-h-11.5 cursor-pointer items-center rounded-[5px] border border-dashed border-muted px-3 py-0 text-small text-muted focus-within:[outline:3px_solid_var(--water)]',
			'[&.wanted]:border-doubt [&.wanted]:text-doubt'
		]}
		class:wanted={wanted && !photos.length}
	>
		<span>{wanted && !photos.length ? 'picture wanted' : '+ picture'}</span>
		<input
			class="absolute inset-0 w-full cursor-pointer opacity-0"
			type="file"
			accept="image/*"
			multiple
			aria-label={`Add a picture of ${label}`}
			onchange={(e) => (void take(e.currentTarget.files), (e.currentTarget.value = ''))}
		/>
	</label>
	<label
		class="relative hidden min-h-11.5 cursor-pointer items-center rounded-[5px] border border-dashed border-muted px-3 py-0 text-small text-muted focus-within:[outline:3px_solid_var(--water)] pointer-coarse:inline-flex"
	>
		<span>camera</span>
		<input
			class="absolute inset-0 w-full cursor-pointer opacity-0"
			type="file"
			accept="image/*"
			capture="environment"
			aria-label={`Take a picture of ${label}`}
			onchange={(e) => (void take(e.currentTarget.files), (e.currentTarget.value = ''))}
		/>
	</label>
	{#if wrong}<p class="text-small text-heat-text" role="alert">{wrong}</p>{/if}
</div>

{#if viewing}<PhotoView ids={photos.map(([id]) => id)} start={viewing} onclose={() => (viewing = null)} />{/if}
