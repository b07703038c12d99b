<script lang="ts">
	import { SCREENS } from '$lib/job/screens';
	import { useFrame } from '$lib/job/frame.svelte';
	import AsideList from '$lib/job/AsideList.svelte';
	import Cautions from './Cautions.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const WORDS = { stops: 'stops', short: 'short', doubt: 'doubt', note: 'note' };

	$effect(() => {
		void session.version;
		void frame.refreshWorking();
	});
</script>

{#if frame.drawn}
	<aside
		class="flex h-full w-85 max-w-[100vw] flex-col gap-2.25 overflow-auto border-l border-l-hairline bg-sheet px-4.5 pt-3.5 pb-4.5"
		aria-label={frame.findings ? 'Findings' : frame.aside ? 'Set aside' : 'Working'}
	>
		<div class="flex items-start justify-between gap-2">
			<h2>{frame.findings ? 'Findings' : frame.aside ? 'Set aside' : (frame.working?.title ?? 'Working')}</h2>
			<button class="btn btn-quiet" onclick={() => frame.closeDrawer()}>Close</button>
		</div>
		{#if frame.findings}
			{#each session.design?.findings ?? [] as finding, n (n)}
				<article class="grid gap-0.75 border-b border-b-hairline pb-2.25">
					<span
						class="justify-self-start rounded-[9px] px-1.75 py-0 text-small font-semibold not-[.hatch-doubt]:not-[.hatch-short]:bg-ash"
						class:hatch-short={finding.severity === 'short' || finding.severity === 'stops'}
						class:hatch-doubt={finding.severity === 'doubt'}>{WORDS[finding.severity]}</span
					>
					<p><strong>{finding.what}</strong> {finding.why}</p>
					<p class="note">
						{finding.mend}
						<a
							href={`/job/${session.id}/${finding.screen}${finding.screen === 'emitters' ? `?emitter=${finding.where.split('/').at(-1)}` : ''}`}
							>{SCREENS.find((s) => s.key === finding.screen)?.label}</a
						>
					</p>
				</article>
			{:else}
				<p class="note">Nothing stands open.</p>
			{/each}
		{:else if frame.aside}
			<AsideList />
		{:else if frame.working}
			{@const working = frame.working}
			<p class="figure text-title font-bold">{working.value}</p>
			<ol class="border-t border-t-hairline">
				{#each working.steps as step, n (n)}
					<li class="min-w-0 border-b border-b-hairline px-0 py-1.75 wrap-anywhere">
						<div class="flex justify-between gap-3">
							<span>{step.label}</span><strong
								class="num max-w-[62%] text-right [&.one]:whitespace-nowrap"
								class:one={step.result.length < 16}>{step.result}</strong
							>
						</div>
						<div class="text-small text-muted">{step.formula}</div>
						<div class="num text-small">{step.numbers}</div>
					</li>
				{/each}
			</ol>
			<h3 class="text-[15px] font-bold">Put in</h3>
			<table class="table table-figures">
				<tbody>
					{#each working.inputs as input, n (n)}
						<tr>
							<td>{input.label}</td>
							<td class="num text-right">{input.value}</td>
							<td
								><span
									class="rounded-[9px] px-1.75 py-0 text-small not-[.hatch-doubt]:bg-ash"
									class:hatch-doubt={['assumed', 'told', 'inferred'].includes(input.how)}>{input.how}</span
								></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
			<p class="note"><strong class="mr-1 text-ink">Source</strong> {working.source}</p>
			<p class="note"><strong class="mr-1 text-ink">School</strong> {working.school}</p>
			<Cautions cautions={working.cautions} />
			<p class="note">
				An estimate on these inputs. Local codes, the maker's manual and licensed practice decide.
				<a href={`/job/${session.id}/${working.screen}`}>Go to its screen</a>
			</p>
		{:else if frame.workingError}
			<p>{frame.workingError}</p>
		{/if}
	</aside>
{/if}
