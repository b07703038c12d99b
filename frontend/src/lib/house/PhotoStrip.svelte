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
	class="strip"
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
			class="shot"
			aria-label={photo.caption || `Picture of ${label}`}
			onclick={() => (viewing = id)}><Thumb sha256={photo.sha256} /></button
		>
	{/each}
	<label class="add" class:wanted={wanted && !photos.length}>
		<span>{wanted && !photos.length ? 'picture wanted' : '+ picture'}</span>
		<input
			type="file"
			accept="image/*"
			multiple
			aria-label={`Add a picture of ${label}`}
			onchange={(e) => (void take(e.currentTarget.files), (e.currentTarget.value = ''))}
		/>
	</label>
	<label class="add camera">
		<span>camera</span>
		<input
			type="file"
			accept="image/*"
			capture="environment"
			aria-label={`Take a picture of ${label}`}
			onchange={(e) => (void take(e.currentTarget.files), (e.currentTarget.value = ''))}
		/>
	</label>
	{#if wrong}<p class="wrong" role="alert">{wrong}</p>{/if}
</div>

{#if viewing}<PhotoView ids={photos.map(([id]) => id)} start={viewing} onclose={() => (viewing = null)} />{/if}

<style>
	.strip {
		display: flex;
		gap: 6px;
		align-items: center;
		flex-wrap: wrap;
		border-radius: 5px;
	}
	.strip.over {
		outline: 2px dashed var(--water);
	}
	.shot {
		width: 60px;
		height: 46px;
		border-radius: 4px;
		overflow: hidden;
		border: 1px solid var(--hairline);
	}
	.add {
		display: inline-flex;
		align-items: center;
		min-height: 46px;
		padding: 0 12px;
		border: 1px dashed var(--muted);
		border-radius: 5px;
		color: var(--muted);
		font-size: var(--small);
		cursor: pointer;
		position: relative;
	}
	.camera {
		display: none;
	}
	@media (pointer: coarse) {
		.camera {
			display: inline-flex;
		}
	}
	.add.wanted {
		border-color: var(--doubt);
		color: var(--doubt);
	}
	.add:focus-within {
		outline: 3px solid var(--water);
	}
	.add input {
		position: absolute;
		inset: 0;
		opacity: 0;
		cursor: pointer;
		width: 100%;
	}
	.wrong {
		color: var(--heat-text);
		font-size: var(--small);
	}
</style>
