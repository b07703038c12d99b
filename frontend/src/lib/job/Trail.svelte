<script lang="ts">
	import { amount } from '$lib/parts/units';
	import { page } from '$app/state';
	import { MediaQuery } from 'svelte/reactivity';
	import { useFrame, theme } from './frame.svelte';
	import { PLACES } from './screens';
	import { ordered } from './draft';
	import Choice from '$lib/parts/Choice.svelte';
	let { onjump }: { onjump: () => void } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.design);
	const here = $derived(page.url.pathname.split('/').at(-1));

	/** Places somebody unfolded; the place one is in is open by itself, unless the trail is a row of menus. */
	let unfolded = $state<string[]>([]);
	const row = new MediaQuery('(max-width: 1000px)');
	const inside = $derived(PLACES.find((place) => place.screens.some((screen) => screen.key === here))?.name);
	const shown = (name: string): boolean => unfolded.includes(name) || (!row.current && name === inside);
	function fold(name: string): void {
		const others = row.current ? [] : unfolded.filter((one) => one !== name);
		unfolded = unfolded.includes(name) ? others : [...others, name];
	}
	function gone(event: FocusEvent & { currentTarget: HTMLElement }): void {
		if (row.current && !event.currentTarget.contains(event.relatedTarget as Node | null)) unfolded = [];
	}

	const open = $derived.by(() => {
		const counts: Record<string, number> = {};
		for (const finding of design?.findings ?? []) counts[finding.screen] = (counts[finding.screen] ?? 0) + 1;
		return counts;
	});
	const schemes = $derived(
		ordered(session.job?.schemes).map(([value, scheme]) => ({ value, label: scheme.label || value }))
	);
	const next = $derived(design?.next ?? null);
	/** On a low screen the list is longer than its place: where one is stays in sight. */
	let list: HTMLElement | undefined = $state();
	$effect(() => {
		if (here && !row.current) list?.querySelector('[aria-current=page]')?.scrollIntoView({ block: 'nearest' });
	});
</script>

<nav
	class="flex min-h-0 flex-col border-r border-r-hairline bg-ash small:flex-row small:flex-wrap small:items-stretch small:border-r-0 small:border-b small:border-b-hairline"
	aria-label="Places of work"
>
	<header class="grid gap-1 px-4 pt-4 pb-2.5 small:flex small:items-center small:gap-3 small:px-3 small:py-1.5">
		<a
			class="font-display text-[17px] leading-[1.2] font-bold wrap-anywhere no-underline hover:underline small:flex small:min-h-12 small:items-center"
			href="/"
			title="All jobs">{session.job?.title ?? ''}</a
		>
		<p class="note small:hidden">
			{session.job?.site?.place || 'no place yet'} · {design?.house.outdoor_c == null
				? 'no climate'
				: `${amount(design.house.outdoor_c, '°C', 0)}`}
		</p>
		<div class="small:w-44">
			<Choice
				label="Scheme on show"
				value={session.job?.active_scheme ?? ''}
				empty="As found"
				options={schemes}
				commit={(value) =>
					void session.edit(value ? 'Other scheme' : 'As found', (d) => d.set('/active_scheme', value))}
			/>
		</div>
	</header>
	{#if next}
		<a
			class={[
				'mx-3 mb-1.5 grid gap-0.5 rounded-md bg-ink px-3 py-2 text-paper no-underline hover:bg-[color-mix(in_srgb,var(--ink)_85%,var(--paper))]',
				'small:mb-0 small:ml-0 small:flex small:min-h-12 small:flex-1 small:items-center small:gap-2'
			]}
			href={`/job/${session.id}/${next.screen}${next.query ? `?${next.query}` : ''}`}
			aria-label={`Next: ${next.what}`}
			title={next.why}
		>
			<span class="text-small opacity-80">Next</span>
			<span class="line-clamp-3 leading-tight font-semibold small:line-clamp-2">{next.what}</span>
		</a>
	{/if}
	<ul
		class={[
			'menu w-full flex-1 flex-nowrap overflow-auto p-0 pt-1 [--menu-active-bg:var(--paper)] [--menu-active-fg:var(--ink)]',
			'small:menu-horizontal small:order-3 small:flex-none small:basis-full small:flex-nowrap small:overflow-visible small:border-t small:border-t-hairline small:pt-0'
		]}
		bind:this={list}
		onfocusout={gone}
	>
		{#each PLACES as place (place.name)}
			{@const counted = place.screens.reduce((sum, screen) => sum + (open[screen.key] ?? 0), 0)}
			<li class="small:flex-1">
				<button
					class={[
						'menu-dropdown-toggle min-h-10 grid-cols-[1fr_auto_auto] rounded-none px-4 font-display text-[15px] font-bold -outline-offset-3 small:min-h-12 small:px-2.5',
						'phone:px-1.5 phone:text-body phone:whitespace-nowrap phone:after:hidden',
						shown(place.name) && 'menu-dropdown-show',
						row.current && place.name === inside && 'bg-paper shadow-[inset_0_-4px_0_var(--heat)]'
					]}
					aria-expanded={shown(place.name)}
					onclick={() => fold(place.name)}
				>
					{place.name}
					{#if counted && !shown(place.name)}<span class="font-sans text-small font-semibold text-doubt"
							>{counted}<span class="small:sr-only">&nbsp;open</span></span
						>{:else}<span class="font-sans note small:hidden">{place.when}</span>{/if}
				</button>
				<ul
					class={[
						'menu-dropdown ms-0 ps-0 before:hidden small:z-30 small:min-w-56 small:rounded-md small:border small:border-ink small:bg-sheet',
						shown(place.name) && 'menu-dropdown-show'
					]}
				>
					{#each place.screens as screen (screen.key)}
						<li>
							<a
								class={[
									'min-h-9 grid-cols-[1fr_auto] rounded-none border-l-4 ps-5 pe-4 no-underline -outline-offset-3 small:min-h-12 small:ps-3',
									here === screen.key ? 'border-l-heat bg-paper font-bold' : 'border-l-transparent'
								]}
								href={`/job/${session.id}/${screen.key}`}
								aria-current={here === screen.key ? 'page' : undefined}
								onclick={() => row.current && (unfolded = [])}
							>
								{screen.label}
								{#if open[screen.key]}<span class="text-small font-semibold text-doubt">{open[screen.key]} open</span
									>{/if}
							</a>
						</li>
					{/each}
				</ul>
			</li>
		{/each}
	</ul>
	<footer
		class="flex flex-wrap border-t border-t-hairline px-2 py-1 small:items-center small:border-0 small:px-1 small:py-0"
	>
		<button class="btn btn-quiet px-1.25 text-small" onclick={onjump} title="/" aria-keyshortcuts="/">Jump</button>
		<button
			class="btn btn-quiet px-1.25 text-small"
			onclick={() => frame.showFindings()}
			title="f"
			aria-keyshortcuts="f">Findings {design?.findings.length ?? 0}</button
		>
		<button class="btn btn-quiet px-1.25 text-small" onclick={() => theme.flip()} title="d" aria-keyshortcuts="d"
			>{theme.name === 'day' ? 'Dusk' : 'Day'}</button
		>
		<button
			class="btn btn-quiet px-1.25 text-small small:hidden"
			onclick={() => dispatchEvent(new CustomEvent('cinder-keys'))}
			title="?"
			aria-keyshortcuts="?">Keys</button
		>
	</footer>
</nav>
