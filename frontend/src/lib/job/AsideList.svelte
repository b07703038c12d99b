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
	<article>
		<p><strong>{one.label || 'A change'}</strong></p>
		<p>{one.why}</p>
		<p class="note place">{one.place}</p>
		<p class="note">
			Yours: {shown(wanted(one))}{#if one.theirs !== undefined}<br />Now there: {shown(one.theirs)}{/if}
		</p>
		<div class="acts">
			<button class="act" onclick={() => void session.retryAside(one)}>Apply it anyway</button>
			<button class="quiet" onclick={() => void session.forgetAside(one)}>Let it go</button>
		</div>
	</article>
{:else}
	<p>Nothing stands aside.</p>
{/each}
{#if session.aside.length}<a class="act link" href={exported()} download={`${session.id}.set-aside.json`}
		>Take them as a file</a
	>{/if}

<style>
	article {
		border-left: 5px solid var(--doubt);
		padding: 2px 0 6px 10px;
		display: grid;
		gap: 3px;
	}
	.place {
		overflow-wrap: anywhere;
	}
	.acts {
		display: flex;
		gap: 8px;
		align-items: center;
	}
	.link {
		display: inline-flex;
		align-items: center;
		text-decoration: none;
		justify-self: start;
	}
</style>
