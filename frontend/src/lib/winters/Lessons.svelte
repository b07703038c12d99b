<script lang="ts">
	import { api, type LessonsFound } from '$lib/api/client';
	import { useFrame } from '$lib/job/frame.svelte';
	import { Slow } from '$lib/job/slow.svelte';
	import { num } from '$lib/parts/format';
	import Sentence from '$lib/parts/Sentence.svelte';
	import { amount } from '$lib/parts/units';
	import Learned from './Learned.svelte';
	/** What winters of all the company's jobs teach, and what they say of this one. */
	const session = $derived(useFrame().session);
	let simulated = $state(false);
	const asked = new Slow(() =>
		api.GET('/api/jobs/{job_id}/lessons', { params: { path: { job_id: session.id }, query: { simulated } } })
	);
	const found = $derived(asked.found?.lessons);
	$effect(() => {
		void simulated;
		if (session.settled) asked.ask();
	});
	const share = (v: number): string => `${num(v * 100)} %`;
	const kilowatts = (w: number): string => amount(w / 1000, 'kW', 1);
	type Lesson = LessonsFound['losses'][number];
	const GROUPS: { key: 'losses' | 'machines' | 'emitters'; label: string; note: string }[] = [
		{ key: 'losses', label: 'What houses lose', note: 'measured over calculated' },
		{ key: 'machines', label: 'What machines give', note: 'COP over the map at the same air and water' },
		{ key: 'emitters', label: 'What emitters give', note: 'heat over their rating at the same water' }
	];
	const at = (v: number): number => Math.min(Math.max((v - 0.5) * 100, 0), 100);
	const drawn = (l: Lesson): { left: number; width: number; mid: number } => ({
		left: at(l.next_house.low),
		width: at(l.next_house.high) - at(l.next_house.low),
		mid: at(l.bias.mid)
	});
</script>

<label class="mb-1 flex min-h-9 items-center gap-2 text-small text-muted"
	><input type="checkbox" class="checkbox" bind:checked={simulated} />count simulated winters too</label
>
{#if !found}<p class="py-4" aria-busy="true">{asked.refused ?? 'Every job with a winter is read.'}</p>
{:else}
	<div class="mb-3 max-w-[80ch]"><Sentence text={found.sentence} /></div>
	<div class="grid grid-cols-[minmax(0,1fr)_340px] gap-7 narrow:grid-cols-[1fr]">
		<div class="grid min-w-0 content-start gap-4">
			{#each GROUPS as g (g.key)}{#if found[g.key].length}
					<section class="overflow-x-auto">
						<h2>{g.label} <span class="note font-normal">{g.note}</span></h2>
						<table class="table table-figures">
							<thead
								><tr
									><th>Of</th><th class="text-right">Houses</th><th class="text-right">In the mean</th><th
										class="w-[34%]">The next one, on 50 to 150 %</th
									><th class="text-right">P10 to P90</th></tr
								></thead
							>
							<tbody
								>{#each found[g.key] as l (l.kind)}{@const bar = drawn(l)}<tr
										><td class:font-bold={found.own?.kind === l.kind && g.key === 'losses'}>{l.label}</td><td
											class="text-right">{l.houses}</td
										><td class="text-right">{share(l.bias.mid)}</td><td
											><svg viewBox="0 0 100 8" preserveAspectRatio="none" class="block h-3.5 w-full" aria-hidden="true"
												><rect x="0" y="0" width="100" height="8" class="ground" /><rect
													x={bar.left}
													y="2"
													width={bar.width}
													height="4"
													class="next"
												/><line x1="50" x2="50" y1="0" y2="8" class="even" /><line
													x1={bar.mid}
													x2={bar.mid}
													y1="0"
													y2="8"
													class="mean"
												/></svg
											></td
										><td class="text-right whitespace-nowrap"
											>{num(100 * l.next_house.low)} to {share(l.next_house.high)}</td
										></tr
									>{/each}</tbody
							>
						</table>
					</section>
				{/if}{/each}
			{#if found.houses.length}
				<section class="overflow-x-auto">
					<h2>The houses</h2>
					<table class="table table-figures">
						<thead
							><tr
								><th>House</th><th>Age</th><th>Walls</th><th class="text-right">Winters</th><th class="text-right"
									>Loss</th
								><th class="text-right">Machine</th><th class="text-right">Emitters</th></tr
							></thead
						>
						<tbody
							>{#each found.houses as h (h.job)}<tr
									><td
										><a class="link" href={`/job/${h.job}/winters`}>{h.title}</a>{#if h.simulated}<span
												class="ms-2 note">simulated</span
											>{/if}</td
									><td>{h.age.replaceAll('-', ' ') || '–'}</td><td>{h.build || '–'}</td><td class="text-right"
										>{h.winters}</td
									><td class="text-right">{h.loss ? share(h.loss.mid) : '–'}</td><td class="text-right"
										>{h.machine == null ? '–' : share(h.machine)}</td
									><td class="text-right">{h.emitters == null ? '–' : share(h.emitters)}</td></tr
								>{/each}</tbody
						>
					</table>
				</section>
			{/if}
		</div>
		<section class="grid content-start gap-2">
			<h2>What that says of this house</h2>
			{#if found.before_w && found.after_w}<p>
					Its loss on an ordinary day: <b>{kilowatts(found.after_w.low)} to {kilowatts(found.after_w.high)}</b> by our
					own winters.
					<span class="note"
						>{kilowatts(found.before_w.low)} to {kilowatts(found.before_w.high)} by its survey alone.</span
					>
				</p>{/if}
			{#if found.own}<Learned {found} by="our own winters" />{:else}<p class="note">Nothing yet.</p>{/if}
			{#each found.notes as note (note)}<p class="note">{note}</p>{/each}
		</section>
	</div>
{/if}

<style>
	.ground {
		fill: var(--sheet);
	}
	.next {
		fill: var(--water);
	}
	.even {
		stroke: var(--hairline);
		vector-effect: non-scaling-stroke;
	}
	.mean {
		stroke: var(--ink);
		stroke-width: 2;
		vector-effect: non-scaling-stroke;
	}
</style>
