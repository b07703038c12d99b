<script lang="ts">
	import { amount, fig, unitName } from '$lib/parts/units';
	import { goto } from '$app/navigation';
	import { onMount } from 'svelte';
	import { api, type JobList, type Refusal } from '$lib/api/client';
	import { newId } from '$lib/job/draft';
	import { day, num } from '$lib/parts/format';
	import { theme } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import { post } from '$lib/job/post.svelte';

	let list = $state.raw<JobList | null>(null);
	let trouble = $state<string | null>(null);
	let opening = $state(false);
	let putAway = $state(false);
	let title = $state('');
	let age = $state('');
	let climate = $state('');
	let picker: HTMLInputElement | undefined = $state();

	async function refresh(): Promise<void> {
		const { data, error } = await api.GET('/api/jobs', { params: { query: { archived: putAway } } });
		list = data ?? null;
		if (error) trouble = (error as Refusal).message;
	}
	onMount(() => {
		void refresh();
		void shelf.load();
	});

	async function open(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const first = (event.submitter as HTMLButtonElement | null)?.value || 'rooms';
		if (!title.trim()) return;
		const body = { id: newId(), title: title.trim(), age: age || null, climate: climate || null };
		const { data, error } = await api.POST('/api/jobs', { body });
		if (data) await goto(`/job/${data.job.id}/${first}`);
		else trouble = (error as Refusal).message;
	}

	type Said = { job?: { id: string } } & Partial<Refusal>;
	async function send(body: string): Promise<[Response, Said]> {
		const headers = { 'content-type': 'application/json' };
		const answer = await fetch('/api/jobs/import', { method: 'POST', headers, body });
		return [answer, (await answer.json()) as Said];
	}

	/** A job with its pictures. */
	async function sendZip(file: File): Promise<[Response, Said]> {
		const answer = await fetch('/api/jobs/bundle', {
			method: 'POST',
			headers: { 'content-type': 'application/zip' },
			body: file
		});
		return [answer, (await answer.json()) as Said];
	}

	async function bring(): Promise<void> {
		const file = picker?.files?.[0];
		if (!file) return;
		const zipped = file.name.toLowerCase().endsWith('.zip');
		const text = zipped ? '' : await file.text();
		let [answer, said] = zipped ? await sendZip(file) : await send(text);
		if (!zipped && said.code === 'change_id_reused') {
			// the job is here already: take the file in beside it
			const twin = JSON.parse(text) as { id: string; title: string };
			[answer, said] = await send(JSON.stringify({ ...twin, id: newId(), title: `${twin.title} (from a file)` }));
		}
		if (answer.ok && said.job) await goto(`/job/${said.job.id}/rooms`);
		else {
			const places = (said.problems ?? []).map((p) => `${p.path}: ${p.message}`).slice(0, 3);
			trouble = `${file.name}: ${[said.message, ...places].join(' ')}`;
		}
		if (picker) picker.value = '';
	}

	async function archive(id: string): Promise<void> {
		await api.POST('/api/jobs/{job_id}/archive', { params: { path: { job_id: id } }, body: { archived: !putAway } });
		await refresh();
	}
</script>

<svelte:head><title>Jobs · Mellow Cinder</title></svelte:head>

<main class="mx-auto my-0 flex min-h-[100vh] max-w-310 flex-col gap-5 px-6 py-6.5">
	<header class="flex flex-wrap items-end justify-between gap-5">
		<div>
			<p class="text-heat-text [font:700_15px_'Bricolage_Grotesque_Variable',_sans-serif]">Mellow Cinder</p>
			<h1>{putAway ? 'Jobs put away' : 'Jobs'}</h1>
			<p class="lead text-lead">
				{#if list}
					<strong>{list.jobs.length}</strong>
					{list.jobs.length === 1 ? 'house' : 'houses'} at {list.company}, as {list.person}.
				{:else}
					Opening the jobs.
				{/if}
			</p>
		</div>
		<div class="flex flex-wrap items-center gap-2">
			<button class="btn btn-quiet" onclick={() => theme.flip()}>{theme.name === 'day' ? 'Dusk' : 'Day'}</button>
			<button
				class="btn btn-quiet"
				onclick={() => {
					putAway = !putAway;
					void refresh();
				}}>{putAway ? 'Back to the jobs' : 'Put away'}</button
			>
			<label
				class="btn inline-flex cursor-pointer items-center btn-outline text-body text-ink focus-within:[outline:3px_solid_var(--water)]"
				>Take in a job file<input
					class="absolute h-px w-px opacity-0"
					bind:this={picker}
					type="file"
					accept=".json,.zip,application/json,application/zip"
					onchange={bring}
				/></label
			>
			<button class="btn btn-primary" onclick={() => (opening = !opening)}>New job</button>
		</div>
	</header>

	{#if trouble}<p class="border-l-6 border-l-heat bg-sheet px-3 py-1.5" role="alert">
			{trouble} <button class="btn btn-quiet" onclick={() => (trouble = null)}>Close</button>
		</p>{/if}

	{#if opening}
		<form
			class="grid grid-cols-[2fr_1fr_1.4fr_auto] items-end gap-3 border-y border-y-hairline px-0 py-3.5 small:grid-cols-[1fr]"
			onsubmit={open}
		>
			<!-- svelte-ignore a11y_autofocus -->
			<label class="text-small text-muted"
				>House<input
					class="input min-h-11 w-full bg-sheet"
					bind:value={title}
					placeholder="What do people call it?"
					maxlength="200"
					autofocus
					required
				/></label
			>
			<label class="text-small text-muted"
				>Age, roughly<select class="select min-h-11 w-full appearance-none bg-sheet ps-2 pe-7" bind:value={age}>
					<option value="">not known yet</option>
					{#each Object.entries(shelf.all?.tables.standard?.ages ?? {}) as [key, entry] (key)}<option value={key}
							>{entry.label}</option
						>{/each}
				</select></label
			>
			<label class="text-small text-muted"
				>Climate<select class="select min-h-11 w-full appearance-none bg-sheet ps-2 pe-7" bind:value={climate}>
					<option value="">choose later</option>
					{#each Object.values(shelf.all?.climates ?? {}) as entry (entry.id)}<option value={entry.id}
							>{entry.label}, {amount(entry.design_c, '°C')}</option
						>{/each}
				</select></label
			>
			<div class="flex gap-2">
				<button class="btn btn-primary" value="rooms">Open it</button><button class="btn btn-outline" value="call"
					>From a phone call</button
				>
			</div>
			<p class="col-span-full note">The age brings its usual constructions, to be corrected room by room.</p>
		</form>
	{/if}

	{#if list}
		<table class="table table-figures">
			<thead
				><tr
					><th>House</th><th>Place</th><th class="text-right">Rooms</th><th class="text-right">Loss</th><th
						class="text-right">Flow</th
					><th class="text-right">Cover</th><th class="text-right">Season</th><th>Scheme</th><th>Stands open</th><th
						>Changed</th
					><th></th></tr
				></thead
			>
			<tbody>
				{#each list.jobs as job (job.id)}
					<tr>
						<td>
							<a href={`/job/${job.id}/rooms`}>{job.title}</a>
							{#if post.held[job.id]?.waiting}<span class="block text-small text-heat-text"
									>{post.held[job.id]!.waiting} edit{post.held[job.id]!.waiting > 1 ? 's' : ''} here, not sent yet</span
								>{/if}
							{#if post.held[job.id]?.aside}<span class="block text-small text-heat-text"
									>{post.held[job.id]!.aside} set aside here</span
								>{/if}
						</td>
						<td>{job.place}</td>
						<td class="text-right">{job.summary?.rooms ?? '–'}</td>
						<td class="text-right"
							>{fig(
								job.summary?.loss_w == null ? null : job.summary.loss_w / 1000,
								'kW',
								2
							)}{#if job.summary?.loss_w != null}<span class="unit">kW</span>{/if}</td
						>
						<td class="text-right"
							>{#if job.summary?.flow_c != null}{fig(job.summary.flow_c, '°C', 1)}<span class="unit"
									>{unitName('°C')}</span
								>{:else if job.summary?.flow_lacks?.startsWith('needs')}<span class="text-short-text"
									>{job.summary.flow_lacks}</span
								>{:else}–{/if}</td
						>
						<td class="text-right"
							>{num(job.summary?.cover)}{#if job.summary?.cover != null}<span class="unit">%</span>{/if}</td
						>
						<td class="text-right"
							>{num(job.summary?.season, 2)}{#if job.summary?.season_burns}<span class="block note"
									>fuel counted in</span
								>{/if}</td
						>
						<td>{job.summary?.scheme_label ?? ''}</td>
						<td
							>{#if job.summary?.findings}<span class="font-semibold text-short-text">{job.summary.findings} short</span
								>{:else}<span class="note">nothing</span>{/if}</td
						>
						<td class="note">{day(job.changed_at)}</td>
						<td class="text-right"
							><a class="btn btn-quiet" href={`/api/jobs/${job.id}/file`} download>File</a><button
								class="btn btn-quiet"
								onclick={() => archive(job.id)}>{putAway ? 'Take out' : 'Put away'}</button
							></td
						>
					</tr>
				{:else}
					<tr
						><td colspan="11" class="px-2 py-7.5 text-lead"
							>{putAway ? 'Nothing is put away.' : 'No jobs yet. Open the first with “New job”: a name is enough.'}</td
						></tr
					>
				{/each}
			</tbody>
		</table>
	{/if}
	<p class="mt-auto note">
		Estimates for a heating engineer's judgement. Local codes, the makers' manuals and licensed practice decide.
	</p>
</main>

<style>
	td:first-child a {
		font-weight: 600;
	}
	td {
		height: 52px;
	}

	@media (max-width: 1000px) {
		th:nth-child(2),
		td:nth-child(2),
		th:nth-child(8),
		td:nth-child(8) {
			display: none;
		}
	}
</style>
