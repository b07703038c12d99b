<script lang="ts">
	import type { Aside } from './keep';
	import { useFrame } from './frame.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);

	function exported(): string {
		const plain = session.aside.map(({ id, label, at, why, place, theirs, base, operations }) => ({
			id,
			label,
			at,
			why,
			place,
			theirs,
			made_on_version: base,
			operations
		}));
		return `data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify({ job: session.id, set_aside: plain }, null, 1))}`;
	}
	function shown(value: unknown): string {
		const text = JSON.stringify(value) ?? '';
		return text.length > 90 ? `${text.slice(0, 90)}…` : text;
	}
	function wanted(one: Aside): unknown {
		return one.operations.find((op) => op.value !== undefined)?.value;
	}
</script>

<p class="note">
	These changes met somebody else's, or were refused after waiting. They are kept in this browser; nothing of them is in
	the job.
</p>
{#each session.aside as one (one.seq)}
	<article class="grid gap-0.75 border-l-5 border-l-doubt pt-0.5 pr-0 pb-1.5 pl-2.5">
		<p><strong>{one.label || 'A change'}</strong></p>
		<p>{one.why}</p>
		<p class="note wrap-anywhere">{one.place}</p>
		<p class="note">
			Yours: {shown(wanted(one))}{#if one.theirs !== undefined}<br />Now there: {shown(one.theirs)}{/if}
		</p>
		<div class="flex items-center gap-2">
			<button class="btn btn-outline" onclick={() => void session.retryAside(one)}>Apply it anyway</button>
			<button class="btn btn-quiet" onclick={() => void session.forgetAside(one)}>Let it go</button>
		</div>
	</article>
{:else}
	<p>Nothing stands aside.</p>
{/each}
{#if session.aside.length}<a
		class="btn inline-flex items-center justify-self-start btn-outline"
		href={exported()}
		download={`${session.id}.set-aside.json`}>Take them as a file</a
	>{/if}
