<script lang="ts">
	import { onMount } from 'svelte';
	import { api, type Paper } from '$lib/api/client';
	import { newId } from '$lib/job/draft';
	import { clock, day, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import Head from '$lib/parts/Head.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	let papers = $state.raw<Paper[]>([]);
	let writer = $state(true);
	let asked = $state(0);
	const path = { params: { path: { job_id: frame.session.id } } };
	const waiting = $derived(papers.some((p) => p.state === 'waiting' || p.state === 'working'));
	const ready = $derived(session.design?.house.loss_w != null);

	async function look(): Promise<void> {
		const { data } = await api.GET('/api/jobs/{job_id}/papers', path).catch(() => ({ data: undefined }));
		if (!data) return;
		papers = data.papers;
		writer = data.writer;
	}
	async function write(): Promise<void> {
		asked++;
		const { data, error } = await api
			.POST('/api/jobs/{job_id}/papers', { ...path, body: { id: newId(), kind: 'heat-loss' } })
			.catch(() => ({ data: undefined, error: { message: 'No line just now.' } }));
		asked--;
		if (data) papers = [data, ...papers];
		else
			session.notice = {
				message: (error as { message?: string } | undefined)?.message ?? 'Not taken.',
				kept: 'Nothing was changed.',
				places: []
			};
	}
	const POLL_MS = 2500;
	onMount(() => {
		void look();
		// progress arrives as news; the slow look is for a line that broke on the way
		const news = (event: Event): void => {
			const said = (event as CustomEvent<{ paper: string; state: Paper['state']; progress: number; step: string }>)
				.detail;
			papers = papers.map((p) =>
				p.id === said.paper ? { ...p, state: said.state, progress: said.progress, step: said.step } : p
			);
			if (said.state === 'ready' || said.state === 'failed') void look();
		};
		addEventListener('cinder-paper', news);
		const timer = setInterval(() => waiting && void look(), POLL_MS);
		return () => {
			removeEventListener('cinder-paper', news);
			clearInterval(timer);
		};
	});
</script>

<Head title="Report" screen="report">
	<button class="act first" disabled={!ready || asked > 0} onclick={() => void write()}>Write the PDF</button>
	<a class="act link" href={`/api/jobs/${session.id}/report`} target="_blank" rel="noopener">Open the page</a>
</Head>

<div class="desk">
	<section class="sheet">
		{#if ready}
			{#key session.version}<iframe title="Heat-loss report" src={`/api/jobs/${session.id}/report?v=${session.version}`}
				></iframe>{/key}
		{:else}
			<p class="empty">A report needs a climate and one complete room.</p>
		{/if}
	</section>
	<section class="side">
		<h2>Written so far</h2>
		{#if !writer && waiting}<p class="hatch-doubt waits">
				Nobody is writing: the worker is not running. <code>./start</code> starts it; what is asked for here waits.
			</p>{/if}
		{#each papers as paper (paper.id)}
			<div class="paper" data-paper={paper.state}>
				<p>
					<b>Heat loss</b>
					<span class="note"
						>version {paper.version}{paper.version === session.version ? ', as shown' : ''} · {day(paper.at)}
						{clock(paper.at)}</span
					>
				</p>
				{#if paper.state === 'ready'}<p>
						<a class="act link" href={`/api/papers/${paper.id}/file`} download>Take the PDF</a>
						<span class="note">written in {num(paper.seconds, 1)} s</span>
					</p>
				{:else if paper.state === 'failed'}<p class="hatch-short waits">It could not be written: {paper.step}</p>
				{:else}<div
						class="track"
						role="progressbar"
						aria-valuemin="0"
						aria-valuemax="100"
						aria-valuenow={paper.progress}
						aria-label={paper.step}
					>
						<i style={`width: ${paper.progress}%`}></i>
					</div>
					<p class="note" role="status">{paper.step}</p>{/if}
			</div>
		{:else}<p class="note">
				None yet. A PDF is written in the background and keeps the version it was asked for.
			</p>{/each}
		<p class="note">
			Page and PDF are made from the same Design as the screens. Nothing in them says more than the inputs carry: range,
			schools, evidence and cautions go along.
		</p>
	</section>
</div>

<style>
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 270px;
		gap: 24px;
		height: calc(100% - 84px);
		min-height: 480px;
	}
	.sheet {
		min-width: 0;
	}
	iframe {
		width: 100%;
		height: 100%;
		border: 1px solid var(--hairline);
	}
	.side {
		display: grid;
		gap: 10px;
		align-content: start;
	}
	.paper {
		border-top: 1px solid var(--hairline);
		padding-top: 6px;
		display: grid;
		gap: 4px;
	}
	.link {
		display: inline-flex;
		align-items: center;
		text-decoration: none;
	}
	.track {
		height: 10px;
		background: var(--ash);
	}
	.track i {
		display: block;
		height: 100%;
		min-width: 4%;
		background: var(--ink);
		transition: width 0.4s;
	}
	.waits {
		padding: 6px 10px;
		border-radius: 4px;
	}
	.empty {
		font-size: var(--lead);
		padding: 40px 0;
	}
	@media (max-width: 1000px) {
		.desk {
			grid-template-columns: 1fr;
			height: auto;
		}
		iframe {
			height: 70vh;
		}
	}
</style>
