<script lang="ts">
	import { onMount } from 'svelte';
	import { api, type Paper } from '$lib/api/client';
	import { newId } from '$lib/job/draft';
	import { clock, day, num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import rules from '$lib/api/rules.json';
	import Choice from '$lib/parts/Choice.svelte';
	import Head from '$lib/parts/Head.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	let papers = $state.raw<Paper[]>([]);
	let writer = $state(true);
	let asked = $state(0);
	type Kind = keyof typeof rules.papers;
	const wished = new URLSearchParams(location.search).get('kind') ?? '';
	let kind = $state<Kind>(wished in rules.papers ? (wished as Kind) : 'heat-loss');
	const names = rules.papers as Record<string, string>;
	const page = $derived(`/api/jobs/${session.id}/report?kind=${kind}`);
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
			.POST('/api/jobs/{job_id}/papers', { ...path, body: { id: newId(), kind } })
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
	<div class="w-56">
		<Choice
			label="Which paper"
			value={kind}
			options={Object.entries(names).map(([value, label]) => ({ value, label }))}
			commit={(v) => (kind = (v ?? 'heat-loss') as Kind)}
		/>
	</div>
	<button class="btn btn-primary" disabled={!ready || asked > 0} onclick={() => void write()}>Write the PDF</button>
	<a class="btn btn-outline" href={page} target="_blank" rel="noopener">Open the page</a>
</Head>

<div
	class="grid h-[calc(100%_-_84px)] min-h-120 grid-cols-[minmax(0,1fr)_270px] gap-6 narrow:h-auto narrow:grid-cols-[1fr]"
>
	<section class="min-w-0">
		{#if ready}
			{#key session.version}<iframe
					class="h-full w-full border border-hairline narrow:h-[70vh]"
					title={names[kind]}
					src={`${page}&v=${session.version}`}
				></iframe>{/key}
		{:else}
			<p class="px-0 py-10 text-lead">A report needs a climate and one complete room.</p>
		{/if}
	</section>
	<section class="grid content-start gap-2.5">
		<h2>Written so far</h2>
		{#if !writer && waiting}<p class="rounded-sm px-2.5 py-1.5 hatch-doubt">
				Nobody is writing: the worker is not running. <code>./start</code> starts it; what is asked for here waits.
			</p>{/if}
		{#each papers as paper (paper.id)}
			<div class="grid gap-1 border-t border-t-hairline pt-1.5" data-paper={paper.state}>
				<p>
					<b>{names[paper.kind] ?? paper.kind}</b>
					<span class="note"
						>version {paper.version}{paper.version === session.version ? ', as shown' : ''} · {day(paper.at)}
						{clock(paper.at)}</span
					>
				</p>
				{#if paper.state === 'ready'}<p>
						<a class="btn btn-outline" href={`/api/papers/${paper.id}/file`} download>Take the PDF</a>
						<span class="note">written in {num(paper.seconds, 1)} s</span>
					</p>
				{:else if paper.state === 'failed'}<p class="rounded-sm px-2.5 py-1.5 hatch-short">
						It could not be written: {paper.step}
					</p>
				{:else}<progress
						class="progress h-2.5 w-full progress-primary"
						max="100"
						value={Math.max(paper.progress, 4)}
						aria-label={paper.step}
					></progress>
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
