<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { onMount } from 'svelte';
	import { num } from '$lib/parts/format';
	import { provideFrame, theme } from '$lib/job/frame.svelte';
	import { JobSession } from '$lib/job/session.svelte';
	import { SCREENS } from '$lib/job/screens';
	import Drawer from '$lib/parts/Drawer.svelte';
	import EmberBar from '$lib/job/EmberBar.svelte';
	import Jump from '$lib/job/Jump.svelte';
	import Keys from '$lib/parts/Keys.svelte';
	import Trail from '$lib/job/Trail.svelte';
	let { children } = $props();

	const session = new JobSession(page.params.id ?? '');
	const frame = provideFrame(session);
	let jumping = $state(false);
	let keys = $state(false);

	onMount(() => {
		void session.open();
		const show = (): void => void (keys = true);
		addEventListener('cinder-keys', show);
		return () => {
			session.close();
			removeEventListener('cinder-keys', show);
		};
	});

	$effect(() => {
		if (session.settled) frame.doubts.ask();
	});

	function inField(target: EventTarget | null): boolean {
		return target instanceof HTMLElement && ['INPUT', 'SELECT', 'TEXTAREA'].includes(target.tagName);
	}

	function pressed(event: KeyboardEvent): void {
		const field = inField(event.target);
		const undoing = (event.ctrlKey || event.metaKey) && ['z', 'y'].includes(event.key.toLowerCase());
		if (undoing && !(field && (event.target as HTMLElement).tagName === 'INPUT')) {
			event.preventDefault();
			void session.takeBack(event.shiftKey || event.key.toLowerCase() === 'y' ? 'redo' : 'undo');
			return;
		}
		if (event.ctrlKey || event.metaKey || event.altKey) return;
		if (event.key === 'Escape') {
			if (jumping || keys) jumping = keys = false;
			else if (frame.workingKey || frame.findings || frame.aside) frame.closeDrawer();
			else if (!field) session.clearEffect();
			return;
		}
		if (field || jumping || keys || event.defaultPrevented) return;
		const screen = SCREENS.find((s) => s.shortcut === event.key);
		if (event.key === '/') jumping = true;
		else if (event.key === '?') keys = true;
		else if (event.key === 'd') theme.flip();
		else if (event.key === 'f') frame.showFindings();
		else if (screen) void goto(`/job/${session.id}/${screen.key}`);
		else return;
		event.preventDefault();
	}

	function leaving(event: BeforeUnloadEvent): void {
		if (session.pending && session.saving === 'saving') event.preventDefault();
	}
</script>

<svelte:window onkeydown={pressed} onbeforeunload={leaving} />
<svelte:head><title>{session.job?.title ?? 'Job'} · Mellow Cinder</title></svelte:head>

{#if session.missing}
	<main class="missing">
		<h1>Not here</h1>
		<p>{session.missing}</p>
		<a class="act first" href="/">All jobs</a>
	</main>
{:else}
	<div class="frame">
		<Trail />
		<main class="main">
			{#if session.notice}
				<div class="notice" role="alert">
					<p><strong>{session.notice.message}</strong> {session.notice.kept}</p>
					{#each session.notice.places as place (place)}<p class="note">{place}</p>{/each}
					<button class="quiet" onclick={() => (session.notice = null)}>Close</button>
				</div>
			{/if}
			{#if session.moved}
				<div class="notice moved" role="status">
					<p>
						<strong
							>Since this job was last written the rules of the tool changed, and with them {session.moved.figures
								.length === 1
								? 'a figure'
								: 'some figures'}; nobody edited anything.</strong
						>
					</p>
					<p>
						{#each session.moved.figures as f, n (f.key)}{n ? ' · ' : ''}{f.label}
							{num(f.before, f.digits)} → <b>{num(f.after, f.digits)}</b>{f.unit ? ` ${f.unit}` : ''}{/each}
					</p>
					<details class="tablebox">
						<summary>Which rules may have moved them</summary>
						<ul>
							{#each session.moved.why as why (why)}<li class="note">{why}</li>{/each}
						</ul>
					</details>
					<button class="quiet" onclick={() => (session.moved = null)}>Close</button>
				</div>
			{/if}
			{#if session.design && session.job}{@render children()}{/if}
		</main>
		<Drawer />
		<EmberBar />
	</div>
{/if}

{#if jumping}<Jump onclose={() => (jumping = false)} />{/if}
{#if keys}<Keys onclose={() => (keys = false)} />{/if}

<style>
	.frame {
		height: 100vh;
		display: grid;
		grid-template: 'trail main drawer' minmax(0, 1fr) 'bar bar bar' auto / 196px minmax(0, 1fr) auto;
	}
	.frame :global(.trail) {
		grid-area: trail;
	}
	.frame :global(.drawer) {
		grid-area: drawer;
	}
	.frame :global(.ember) {
		grid-area: bar;
	}
	.main {
		grid-area: main;
		overflow: auto;
		padding: 16px 24px 20px;
		min-width: 0;
	}
	.missing {
		padding: 40px;
		display: grid;
		gap: 14px;
		justify-items: start;
	}
	.missing a {
		display: inline-flex;
		align-items: center;
		text-decoration: none;
	}
	.notice {
		border-left: 6px solid var(--heat);
		background: var(--sheet);
		padding: 8px 14px;
		margin-bottom: 12px;
	}
	.notice.moved {
		border-left-color: var(--doubt);
	}
	@media (max-width: 1000px) {
		.frame {
			grid-template: 'trail' auto 'main' minmax(0, 1fr) 'bar' auto / minmax(0, 1fr);
		}
	}
</style>
