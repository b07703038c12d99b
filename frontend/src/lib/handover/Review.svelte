<script lang="ts">
	import type { PackFound } from '$lib/api/client';
	import { newId, nextPos, ordered } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	/** Open questions, and the second person's remarks at what they concern, each answered. */
	let { found }: { found: PackFound } = $props();
	const session = $derived(useFrame().session);
	const handover = $derived(session.job?.handover ?? {});
	const questions = $derived(ordered(handover.questions));
	const put = (path: string, label: string) => (value: unknown) =>
		session.edit(label, (d) => d.put(`/handover/${path}`, value));
	let where = $state('');
	let text = $state('');
	let asks = $state('');
	const places = $derived(
		Object.entries(found.places).map(([value, label]) => ({
			value,
			label,
			group: value.startsWith('figure:') ? 'Figures' : 'Records'
		}))
	);
	function remark(): void {
		const at = where || places[0]?.value;
		if (!text.trim() || !at) return;
		void session.edit('A remark of the review', (d) =>
			d.set(`/handover/review/remarks/${newId()}`, {
				where: at,
				text: text.trim(),
				at: new Date().toISOString(),
				pos: nextPos(d.job.handover?.review?.remarks)
			})
		);
		text = '';
	}
	function ask(): void {
		if (!asks.trim()) return;
		void session.edit('A question', (d) =>
			d.set(`/handover/questions/${newId()}`, {
				text: asks.trim(),
				by: session.person,
				at: new Date().toISOString(),
				pos: nextPos(d.job.handover?.questions)
			})
		);
		asks = '';
	}
	const reviewed = (by: string) =>
		session.edit('Reviewed by', (d) => {
			d.put('/handover/review/by', by);
			if (by) {
				d.set('/handover/review/at', new Date().toISOString());
				d.set('/handover/review/version', session.version);
			}
		});
</script>

<div class="grid grid-cols-2 gap-8 narrow:grid-cols-1">
	<section class="grid content-start gap-2">
		<h2>A second person's look</h2>
		<div class="grid grid-cols-2 gap-3">
			<label class="text-small text-muted"
				>Designed by<TextField
					label="Designed by"
					value={handover.designer}
					commit={put('designer', 'Designed by')}
				/></label
			>
			<label class="text-small text-muted"
				>Reviewed by<TextField label="Reviewed by" value={handover.review?.by} commit={reviewed} /></label
			>
		</div>
		{#if found.review_old}<p class="rounded-sm px-2.5 py-1.5 hatch-doubt">
				{found.review_old}.
				<button class="btn btn-quiet" onclick={() => void put('review/version', 'Looked at again')(session.version)}
					>looked at again</button
				>
			</p>{/if}
		{#each found.remarks as r (r.key)}
			<div class="grid gap-1 border-t border-t-hairline pt-1.5" data-remark={r.answer ? 'answered' : 'open'}>
				<p>
					<b>{r.where_label}</b>
					{#if r.figure}<span class="note">{r.figure}</span>{/if}
				</p>
				<p>{r.text}</p>
				<TextField
					label={`Answer to: ${r.text.slice(0, 60)}`}
					placeholder="answer"
					value={r.answer}
					commit={(v) =>
						session.edit('A remark answered', (d) => {
							d.put(`/handover/review/remarks/${r.key}/answer`, v);
							d.put(`/handover/review/remarks/${r.key}/answered_by`, v ? session.person : null);
						})}
				/>
			</div>
		{:else}<p class="note">No remark yet. A remark stands at the figure or the record it concerns.</p>{/each}
		<div class="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
			<div class="col-span-2 max-w-80">
				<Choice
					label="What the remark concerns"
					value={where || places[0]?.value}
					options={places}
					commit={(v) => (where = v ?? '')}
				/>
			</div>
			<input
				class="input w-full bg-sheet"
				aria-label="The remark"
				placeholder="the remark"
				maxlength="4000"
				bind:value={text}
				onkeydown={(e) => e.key === 'Enter' && remark()}
			/>
			<button class="btn btn-outline" disabled={!text.trim()} onclick={remark}>Remark</button>
		</div>
	</section>
	<section class="grid content-start gap-2">
		<h2>Open questions</h2>
		{#each questions as [id, q] (id)}
			<div class="grid gap-1 border-t border-t-hairline pt-1.5">
				<p>
					{q.text}
					{#if q.by}<span class="note">{q.by}</span>{/if}
				</p>
				<div class="flex gap-2">
					<div class="flex-1">
						<TextField
							label={`Answer to: ${q.text.slice(0, 60)}`}
							placeholder="answer"
							value={q.answer}
							commit={(v) =>
								session.edit('A question answered', (d) => {
									d.put(`/handover/questions/${id}/answer`, v);
									d.put(`/handover/questions/${id}/answered_by`, v ? session.person : null);
								})}
						/>
					</div>
					<button
						class="btn btn-quiet"
						onclick={() => void session.edit('A question taken out', (d) => d.remove(`/handover/questions/${id}`))}
						>×<span class="sr-only">take the question out</span></button
					>
				</div>
			</div>
		{:else}<p class="note">None.</p>{/each}
		<div class="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
			<input
				class="input w-full bg-sheet"
				aria-label="A question"
				placeholder="a question"
				maxlength="4000"
				bind:value={asks}
				onkeydown={(e) => e.key === 'Enter' && ask()}
			/>
			<button class="btn btn-outline" disabled={!asks.trim()} onclick={ask}>Ask</button>
		</div>
	</section>
</div>
