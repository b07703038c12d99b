<script lang="ts">
	import Fold from '$lib/parts/Fold.svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { onMount } from 'svelte';
	import { amount, fig } from '$lib/parts/units';
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
	let work: HTMLElement | undefined = $state();
	function toWork(event: Event): void {
		event.preventDefault();
		work?.focus();
	}

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
		// a field undoes its own typing first; an empty one has none
		const typing = event.target instanceof HTMLInputElement && event.target.value !== '';
		if (undoing && !typing) {
			event.preventDefault();
			const inHand = event.target instanceof HTMLInputElement ? event.target : null;
			inHand?.blur(); // it lets go of what it held, and shows what stands when it is taken up again
			void session
				.takeBack(event.shiftKey || event.key.toLowerCase() === 'y' ? 'redo' : 'undo')
				.then(() => inHand?.isConnected && document.activeElement === document.body && inHand.focus());
			return;
		}
		if (event.ctrlKey || event.metaKey || event.altKey) return;
		if (event.key === 'Escape') {
			if (jumping || keys) jumping = keys = false;
			else if (frame.drawn) frame.closeDrawer();
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
	<main class="grid justify-items-start gap-3.5 p-10">
		<h1>Not here</h1>
		<p>{session.missing}</p>
		<a class="btn btn-primary" href="/">All jobs</a>
	</main>
{:else}
	<a
		class="btn sr-only top-2 left-2 z-50 btn-primary focus:not-sr-only focus:absolute focus:h-12 focus:px-4"
		href="#work"
		onclick={toWork}>To the work</a
	>
	<div
		class="grid h-dvh grid-cols-[196px_minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto] small:grid-cols-1 small:grid-rows-[auto_minmax(0,1fr)_auto]"
	>
		{#key session.units}<Trail onjump={() => (jumping = true)} />{/key}
		<div class={['drawer drawer-end min-h-0 grid-rows-[minmax(0,1fr)]', frame.drawn && 'wide:drawer-open']}>
			<input
				type="checkbox"
				class="drawer-toggle"
				checked={frame.drawn}
				tabindex="-1"
				aria-hidden="true"
				aria-label="The drawer beside the work"
			/>
			<main
				id="work"
				tabindex="-1"
				bind:this={work}
				class="main @container/main drawer-content overflow-auto px-6 pt-4 pb-5 outline-none {frame.drawn
					? 'wide:px-4'
					: ''}"
			>
				{#if session.notice}
					<div
						class="mb-3 alert block rounded-none border-0 border-l-6 border-l-heat bg-sheet px-3.5 py-2"
						role="alert"
					>
						<p><strong>{session.notice.message}</strong> {session.notice.kept}</p>
						{#each session.notice.places as place (place)}<p class="note">{place}</p>{/each}
						<button class="btn btn-quiet" onclick={() => (session.notice = null)}>Close</button>
					</div>
				{/if}
				{#if session.putAway}
					<div
						class="mb-3 alert flex flex-wrap items-center gap-x-4 gap-y-1 rounded-none border-0 border-l-6 border-l-doubt bg-sheet px-3.5 py-2"
						role="status"
					>
						<p>
							<strong>This job is put away.</strong> It stands in no list of open jobs; what is entered here is kept all the
							same.
						</p>
						<button class="btn btn-quiet" onclick={() => void session.takeOut()}>Take it out</button>
					</div>
				{/if}
				{#if session.moved}
					<div
						class="mb-3 alert block rounded-none border-0 border-l-6 border-l-doubt bg-sheet px-3.5 py-2"
						role="status"
					>
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
								{fig(f.before, f.unit, f.digits)} → <b>{amount(f.after, f.unit, f.digits)}</b>{/each}
						</p>
						<Fold title="Which rules may have moved them">
							<ul>
								{#each session.moved.why as why (why)}<li class="note">{why}</li>{/each}
							</ul>
						</Fold>
						<button class="btn btn-quiet" onclick={() => (session.moved = null)}>Close</button>
					</div>
				{/if}
				{#if session.design && session.job}{#key session.units}{@render children()}{/key}{/if}
			</main>
			<div class="drawer-side z-40 h-full small:h-dvh">
				<button class="drawer-overlay" tabindex="-1" aria-hidden="true" onclick={() => frame.closeDrawer()}></button>
				{#key session.units}<Drawer />{/key}
			</div>
		</div>
		{#key session.units}<EmberBar />{/key}
	</div>
{/if}

{#if jumping}<Jump onclose={() => (jumping = false)} />{/if}
{#if keys}<Keys onclose={() => (keys = false)} />{/if}
