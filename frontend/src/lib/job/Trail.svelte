<script lang="ts">
	import { page } from '$app/state';
	import { useFrame, theme } from './frame.svelte';
	import { PLACES } from './screens';
	import { ordered } from './draft';
	import { num } from '$lib/parts/format';
	import Choice from '$lib/parts/Choice.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.design);
	const here = $derived(page.url.pathname.split('/').at(-1));

	/** Places somebody unfolded; the place one is in is always open, and all of them where there is room. */
	let unfolded = $state<string[]>([]);
	let high = $state(0);
	const ROOM_FOR_ALL_PX = 880;
	const inside = $derived(PLACES.find((place) => place.screens.some((screen) => screen.key === here))?.name);
	const shown = (name: string): boolean => high > ROOM_FOR_ALL_PX || name === inside || unfolded.includes(name);
	function fold(name: string): void {
		unfolded = unfolded.includes(name) ? unfolded.filter((one) => one !== name) : [...unfolded, name];
	}

	let row: HTMLElement | undefined = $state();
	$effect(() => {
		if (here) row?.querySelector('a.here')?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
	});
	const open = $derived.by(() => {
		const counts: Record<string, number> = {};
		for (const finding of design?.findings ?? []) counts[finding.screen] = (counts[finding.screen] ?? 0) + 1;
		return counts;
	});
	const schemes = $derived(
		ordered(session.job?.schemes).map(([value, scheme]) => ({ value, label: scheme.label || value }))
	);
</script>

<nav class="trail" aria-label="Places of work">
	<header>
		<a class="name" href="/" title="All jobs">{session.job?.title ?? ''}</a>
		<p class="note">
			{session.job?.site?.place || 'no place yet'} · {design?.house.outdoor_c == null
				? 'no climate'
				: `${num(design.house.outdoor_c, 0)} °C`}
		</p>
		<Choice
			label="Scheme on show"
			value={session.job?.active_scheme ?? ''}
			empty="As found"
			options={schemes}
			commit={(value) => void session.edit(value ? 'Other scheme' : 'As found', (d) => d.set('/active_scheme', value))}
		/>
	</header>
	<div class="places" bind:clientHeight={high} bind:this={row}>
		{#each PLACES as place (place.name)}
			{@const counted = place.screens.reduce((sum, screen) => sum + (open[screen.key] ?? 0), 0)}
			<section class:folded={!shown(place.name)}>
				<h2>
					{#if place.name === inside || high > ROOM_FOR_ALL_PX}
						<span class="fold">{place.name}<span class="note">{place.when}</span></span>
					{:else}
						<button class="fold" aria-expanded={shown(place.name)} onclick={() => fold(place.name)}>
							{place.name}
							{#if counted && !shown(place.name)}<span class="open">{counted} open</span>{:else}<span class="note"
									>{shown(place.name) ? place.when : `${place.screens.length} ▸`}</span
								>{/if}
						</button>
					{/if}
				</h2>
				<ul>
					{#each place.screens as screen (screen.key)}
						<li>
							<a
								href={`/job/${session.id}/${screen.key}`}
								class:here={here === screen.key}
								aria-current={here === screen.key ? 'page' : undefined}
							>
								{screen.label}
								{#if open[screen.key]}<span class="open">{open[screen.key]} open</span>{/if}
							</a>
						</li>
					{/each}
				</ul>
			</section>
		{/each}
	</div>
	<footer>
		<button class="quiet" onclick={() => frame.showFindings()}>Findings {design?.findings.length ?? 0}</button>
		<button class="quiet" onclick={() => theme.flip()} title="d">{theme.name === 'day' ? 'Dusk' : 'Day'}</button>
		<button class="quiet" onclick={() => dispatchEvent(new CustomEvent('cinder-keys'))} title="?">Keys</button>
	</footer>
</nav>

<style>
	.trail {
		background: var(--ash);
		border-right: 1px solid var(--hairline);
		display: flex;
		flex-direction: column;
		min-height: 0;
	}
	header {
		padding: 16px 12px 12px 16px;
		border-bottom: 1px solid var(--hairline);
		display: grid;
		gap: 4px;
	}
	.name {
		font:
			700 17px/1.2 'Bricolage Grotesque Variable',
			sans-serif;
		text-decoration: none;
		overflow-wrap: anywhere;
	}
	.name:hover {
		text-decoration: underline;
	}
	.places {
		flex: 1;
		overflow: auto;
		padding-top: 8px;
	}
	.folded ul {
		display: none;
	}
	.fold {
		display: flex;
		width: 100%;
		justify-content: space-between;
		align-items: baseline;
		padding: 8px 16px 3px;
		font: inherit;
		font-size: 15px;
		text-align: left;
		outline-offset: -3px;
	}
	button.fold {
		padding-block: 10px;
	}
	button.fold:hover {
		background: color-mix(in srgb, var(--paper) 60%, var(--ash));
	}
	section h2 .note,
	section h2 .open {
		font-family: 'Atkinson Hyperlegible Next Variable', sans-serif;
		font-weight: 500;
		letter-spacing: 0;
	}
	li a {
		display: flex;
		justify-content: space-between;
		align-items: center;
		min-height: 36px;
		padding: 0 16px 0 24px;
		border-left: 4px solid transparent;
		text-decoration: none;
		outline-offset: -3px;
	}
	li a:hover {
		background: color-mix(in srgb, var(--paper) 60%, var(--ash));
	}
	li a.here {
		background: var(--paper);
		border-left-color: var(--heat);
		font-weight: 700;
	}
	.open {
		color: var(--doubt);
		font-size: var(--small);
		font-weight: 600;
	}
	footer {
		display: flex;
		padding: 6px 8px;
		gap: 0;
		border-top: 1px solid var(--hairline);
	}
	@media (max-width: 1000px) {
		.trail {
			border-right: 0;
			border-bottom: 1px solid var(--hairline);
			flex-direction: row;
			flex-wrap: wrap;
		}
		header {
			border: 0;
			padding: 8px 12px;
			grid-template-columns: auto auto 160px;
			align-items: center;
			gap: 12px;
			flex: 1;
		}
		.places {
			order: 3;
			flex: 0 0 100%;
			display: flex;
			padding: 0;
			overflow-x: auto;
		}
		section h2 {
			display: none;
		}
		ul,
		.folded ul {
			display: flex;
		}
		li a {
			min-height: 48px;
			padding: 0 12px;
			border-left: 0;
			border-bottom: 4px solid transparent;
			gap: 6px;
			white-space: nowrap;
		}
		li a.here {
			border-bottom-color: var(--heat);
		}
		footer {
			border: 0;
		}
	}
</style>
