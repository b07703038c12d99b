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

{#if frame.workingKey || frame.findings || frame.aside}
	<aside class="drawer" aria-label={frame.findings ? 'Findings' : frame.aside ? 'Set aside' : 'Working'}>
		<div class="head">
			<h2>{frame.findings ? 'Findings' : frame.aside ? 'Set aside' : (frame.working?.title ?? 'Working')}</h2>
			<button class="quiet" onclick={() => frame.closeDrawer()}>Close</button>
		</div>
		{#if frame.findings}
			{#each session.design?.findings ?? [] as finding, n (n)}
				<article class="finding">
					<span
						class="tag"
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
			<p class="figure value">{working.value}</p>
			<ol>
				{#each working.steps as step, n (n)}
					<li>
						<div class="row">
							<span>{step.label}</span><strong class="num" class:one={step.result.length < 16}>{step.result}</strong>
						</div>
						<div class="formula">{step.formula}</div>
						<div class="numbers num">{step.numbers}</div>
					</li>
				{/each}
			</ol>
			<h3>Put in</h3>
			<table class="plain-table">
				<tbody>
					{#each working.inputs as input, n (n)}
						<tr>
							<td>{input.label}</td>
							<td class="right num">{input.value}</td>
							<td
								><span class="how" class:hatch-doubt={['assumed', 'told', 'inferred'].includes(input.how)}
									>{input.how}</span
								></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
			<p class="note"><strong>Source</strong> {working.source}</p>
			<p class="note"><strong>School</strong> {working.school}</p>
			<Cautions cautions={working.cautions} brief />
			<p class="note">
				An estimate on these inputs. Local codes, the maker's manual and licensed practice decide.
				<a href={`/job/${session.id}/${working.screen}`}>Go to its screen</a>
			</p>
		{:else if frame.workingError}
			<p>{frame.workingError}</p>
		{/if}
	</aside>
{/if}

<style>
	.drawer {
		width: 380px;
		max-width: 100vw;
		border-left: 1px solid var(--hairline);
		background: var(--sheet);
		padding: 14px 18px 18px;
		overflow: auto;
		display: flex;
		flex-direction: column;
		gap: 9px;
	}
	.head {
		display: flex;
		justify-content: space-between;
		align-items: start;
		gap: 8px;
	}
	.value {
		font-size: var(--title);
		font-weight: 700;
	}
	ol {
		border-top: 1px solid var(--hairline);
	}
	li {
		padding: 7px 0;
		border-bottom: 1px solid var(--hairline);
	}
	.row {
		display: flex;
		justify-content: space-between;
		gap: 12px;
	}
	.row strong.one {
		white-space: nowrap;
	}
	.row strong {
		text-align: right;
		max-width: 62%;
	}
	li {
		min-width: 0;
		overflow-wrap: anywhere;
	}
	.formula {
		color: var(--muted);
		font-size: var(--small);
	}
	.numbers {
		font-size: var(--small);
	}
	h3 {
		font-weight: 700;
		font-size: 15px;
	}
	.how,
	.tag {
		padding: 0 7px;
		border-radius: 9px;
		font-size: var(--small);
	}
	.how:not(.hatch-doubt),
	.tag:not(.hatch-doubt):not(.hatch-short) {
		background: var(--ash);
	}
	.tag {
		font-weight: 600;
		justify-self: start;
	}
	.finding {
		display: grid;
		gap: 3px;
		padding-bottom: 9px;
		border-bottom: 1px solid var(--hairline);
	}
	.note strong {
		color: var(--ink);
		margin-right: 4px;
	}
	@media (max-width: 1000px) {
		.drawer {
			position: fixed;
			inset: 0 0 0 auto;
			z-index: 40;
			width: min(420px, 100vw);
		}
	}
</style>
