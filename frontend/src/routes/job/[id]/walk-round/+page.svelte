<script lang="ts">
	import { amount } from '$lib/parts/units';
	import type { Item } from '$lib/api/client';
	import { ordered } from '$lib/job/draft';
	import { evidence } from '$lib/house/evidence';
	import { num } from '$lib/parts/format';
	import { useFrame } from '$lib/job/frame.svelte';
	import { shelf } from '$lib/job/library.svelte';
	import AnswerField from '$lib/house/AnswerField.svelte';
	import Head from '$lib/parts/Head.svelte';
	import Mark from '$lib/parts/Mark.svelte';
	import PhotoStrip from '$lib/house/PhotoStrip.svelte';
	import PhotoView from '$lib/house/PhotoView.svelte';
	import Sentence from '$lib/parts/Sentence.svelte';
	import TextField from '$lib/parts/TextField.svelte';
	import Thumb from '$lib/house/Thumb.svelte';
	const frame = useFrame();
	const session = $derived(frame.session);
	const design = $derived(session.shown!);
	const items = $derived(Object.values(shelf.all?.walk_round ?? {}));
	const parts = $derived(ordered(session.job?.survey?.parts));
	const SECTIONS = [
		['outside', 'Outside'],
		['plant', 'Plant and services'],
		['electrics', 'Electrics and water'],
		['rooms', 'Rooms'],
		['loft', 'Loft and floor'],
		['places', 'Places for the unit'],
		['pictures', 'Pictures']
	] as const;
	let section = $state<(typeof SECTIONS)[number][0]>('outside');
	let unable = $state<string | null>(null);
	let viewing = $state<string | null>(null);
	const photos = $derived(ordered(session.job?.survey?.photos));
	const rooms = $derived(ordered(session.job?.survey?.rooms));

	const seen = (item: Item) => session.job?.survey?.walk_round?.[item.id];
	function isDone(item: Item): boolean {
		const doc = seen(item);
		if (doc?.unseen) return true;
		if (item.sign) return parts.every(([, part]) => part.signs?.[item.sign!] !== undefined);
		return doc?.value !== undefined && doc?.value !== null;
	}
	const left = $derived(
		Object.fromEntries(
			SECTIONS.map(([key]) => [key, items.filter((i) => i.section === key && !i.optional && !isDone(i)).length])
		)
	);
	function say(item: Item, value: unknown): Promise<boolean> {
		return session.edit(`Walk-round: ${item.label}`, (d) => {
			const at = `/survey/walk_round/${item.id}`;
			if (value === null || value === undefined) return d.remove(`${at}/value`);
			d.set(`${at}/value`, value);
			d.remove(`${at}/unseen`);
			d.set(`${at}/known/value`, evidence(item.kind === 'text' ? 'read' : 'measured', session.person));
		});
	}
	function sign(part: string, item: Item, value: unknown): Promise<boolean> {
		return session.edit(`Sign: ${item.label}`, (d) => {
			d.put(`/survey/parts/${part}/signs/${item.sign}`, value ?? null);
			if (value !== null && value !== undefined)
				d.set(
					`/survey/parts/${part}/known/${item.sign}`,
					evidence(item.sign === 'told' ? 'told' : 'measured', session.person)
				);
		});
	}
	function couldNot(item: Item, reason: string): void {
		void session.edit(`Could not see: ${item.label}`, (d) => d.put(`/survey/walk_round/${item.id}/unseen`, reason));
		unable = null;
	}
	function take(part: string, construction: string, probability: number): void {
		void session.edit('Wall taken from its signs', (d) => {
			d.freeze('constructions', construction);
			d.set(`/survey/parts/${part}/constructions/wall`, construction);
			d.set(
				`/survey/parts/${part}/known/wall`,
				evidence('inferred', session.person, 'signs', `${Math.round(probability * 100)} % by its signs`)
			);
		});
	}
	const caution = (id: string | null | undefined) => (id ? shelf.all?.cautions[id] : undefined);
</script>

<Head title="Walk-round" screen="walk-round">
	<a class="btn btn-outline" href={`/api/jobs/${session.id}/survey.pdf`} download>Empty form, PDF</a>
</Head>

<div class="mb-2 tabs gap-1 border-b border-b-ink" role="tablist" aria-label="The surveyor's order">
	{#each SECTIONS as [key, label], n (key)}
		<button
			class="group tab h-10.5 rounded-t-md px-3 text-ink aria-selected:bg-ink aria-selected:font-semibold aria-selected:text-paper touch:h-12"
			role="tab"
			aria-selected={section === key}
			onclick={() => (section = key)}
			><span class="me-1 text-small text-muted group-aria-selected:text-inherit">{n + 1}</span>
			{label}{#if left[key]}<span class="ms-1.5 text-small font-semibold text-doubt group-aria-selected:text-inherit"
					>{left[key]}</span
				>{/if}</button
		>
	{/each}
</div>

<div
	class="grid grid-cols-[minmax(0,1fr)_330px] gap-7.5 narrow:grid-cols-[1fr] [&.whole]:grid-cols-[1fr] [&.whole]:justify-items-start"
	class:whole={section === 'rooms' || section === 'pictures'}
>
	{#if section === 'rooms'}
		<table class="table table-figures">
			<thead
				><tr
					><th>Room</th><th>Walked</th><th>Height</th><th>Windows, doors</th><th>Radiators</th><th>Pictures</th><th
					></th></tr
				></thead
			>
			<tbody>
				{#each rooms as [id, room] (id)}
					{@const result = design.rooms.find((r) => r.id === id)}
					<tr>
						<td><strong>{room.label}</strong></td>
						<td
							>{result?.area_m2
								? `${amount(result.area_m2, 'm²', 1)}`
								: 'not yet'}{#if result?.closing_share && result.closing_share > 0.01}<span
									class="badge h-auto min-h-5 border-0 px-1.75 badge-sm font-semibold whitespace-nowrap hatch-doubt"
									>misses by {amount((result.closing_error_m ?? 0) * 1000, 'mm')}</span
								>{/if}</td
						>
						<td>{room.height_m ? `${amount(room.height_m, 'm', 3)}` : 'not yet'}</td>
						<td>{Object.values(room.faces ?? {}).reduce((n, f) => n + Object.keys(f.openings ?? {}).length, 0)}</td>
						<td>{result?.emitters.length ?? 0}</td>
						<td><PhotoStrip about={{ room: id }} label={room.label ?? ''} /></td>
						<td class="text-right"
							><a class="btn btn-outline" href={`/job/${session.id}/plan?room=${id}`}>On the plan</a></td
						>
					</tr>
				{:else}
					<tr><td colspan="7">No room yet. Rooms are walked on the plan: height, then wall by wall.</td></tr>
				{/each}
			</tbody>
		</table>
		<a class="btn inline-flex items-center btn-primary" href={`/job/${session.id}/plan?walk=new`}>Walk a new room</a>
	{:else if section === 'pictures'}
		<div class="mb-3.5 grid w-full grid-cols-[repeat(auto-fill,minmax(200px,1fr))] gap-3.5">
			{#each photos as [id, photo] (id)}
				<button class="shot grid grid-rows-[150px_auto] gap-1 text-left text-small" onclick={() => (viewing = id)}>
					<Thumb sha256={photo.sha256} alt={photo.caption} />
					<span
						>{photo.caption ||
							(photo.room
								? session.job?.survey?.rooms?.[photo.room]?.label
								: photo.item
									? shelf.all?.walk_round[photo.item]?.label
									: 'House')}</span
					>
				</button>
			{:else}
				<p>No picture yet. Every item says where one is wanted; drop a file on it, or take one with the tablet.</p>
			{/each}
			<PhotoStrip about={{ item: 'front' }} label="the house" />
		</div>
		<p class="note">
			With its pictures the job leaves as one file: <a href={`/api/jobs/${session.id}/bundle`} download
				>job and pictures, zip</a
			>.
		</p>
	{:else}
		<ul>
			{#each items.filter((i) => i.section === section) as item (item.id)}
				{@const doc = seen(item)}
				{@const warn = caution(item.caution)}
				<li
					class="grid grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)] gap-4.5 border-b border-l-4 border-b-hairline border-l-doubt-pale pt-2.75 pr-0 pb-2.75 pl-3 narrow:grid-cols-[1fr] [&.done]:border-l-meets"
					class:done={isDone(item)}
				>
					<div class="what">
						<p class="font-semibold">
							{item.label}{#if item.optional}<span class="note"> if there is one</span>{/if}
						</p>
						<p class="note">{item.look}</p>
						{#if warn}<p class="mt-1 border-l-3 border-l-short pl-2 text-small">
								<strong>{warn.hazard}.</strong>
								{warn.who}
								{warn.rule}
							</p>{/if}
					</div>
					<div class="grid content-start justify-items-start gap-1.5">
						{#if doc?.unseen}
							<p class="rounded-sm px-2 py-px text-small font-semibold hatch-doubt">
								could not see, because {doc.unseen}
							</p>
						{:else if item.sign}
							{#each parts as [key, part] (key)}
								<div class="flex w-full flex-wrap items-center gap-2">
									{#if parts.length > 1}<span class="note">{part.label}</span>{/if}
									<AnswerField
										kind={item.kind}
										value={part.signs?.[item.sign]}
										options={item.options}
										unit={item.unit}
										label={`${item.label}, ${part.label}`}
										commit={(v) => sign(key, item, v)}
									/>
								</div>
							{/each}
						{:else}
							<div class="flex w-full flex-wrap items-center gap-2">
								<AnswerField
									kind={item.kind}
									value={doc?.value}
									options={item.options}
									unit={item.unit}
									label={item.label}
									commit={(v) => say(item, v)}
								/>
								{#if doc?.value !== undefined && doc?.value !== null}<Mark
										known={doc.known?.value}
										label={item.label}
										set={(k) =>
											void session.edit(`How ${item.label} is known`, (d) =>
												d.set(`/survey/walk_round/${item.id}/known/value`, k)
											)}
									/>{/if}
							</div>
						{/if}
						{#if item.picture}<PhotoStrip about={{ item: item.id }} label={item.label} wanted />{/if}
						{#if unable === item.id}
							<TextField
								label={`Why ${item.label} could not be seen`}
								value=""
								placeholder="locked, dark, too high …"
								commit={(v) => couldNot(item, v)}
							/>
						{:else if doc?.unseen}
							<button
								class="btn btn-quiet"
								onclick={() =>
									void session.edit(`Can be seen: ${item.label}`, (d) =>
										d.remove(`/survey/walk_round/${item.id}/unseen`)
									)}>it can be seen after all</button
							>
						{:else if !isDone(item)}
							<button class="btn btn-quiet" onclick={() => (unable = item.id)}>could not see, because …</button>
						{/if}
					</div>
				</li>
			{/each}
		</ul>
		<aside class="grid content-start gap-3.5">
			<h2>What the signs say together</h2>
			{#each design.walls as wall (wall.part)}
				<section class="grid justify-items-start gap-1.5 border-b border-b-hairline pb-3">
					<Sentence text={wall.sentence} />
					{#each wall.guesses as guess, n (guess.id)}
						<div class="relative isolate flex w-full justify-between px-2 py-0.75 text-small">
							<span
								class="absolute [inset:0_auto_0_0] z-[-1] bg-ash [&.first]:bg-heat-pale"
								class:first={n === 0}
								style:width={`${guess.probability * 100}%`}
							></span>
							<span>{guess.label}</span><span class="num"
								>{num(guess.probability * 100, guess.probability < 0.1 ? 1 : 0)} %</span
							>
						</div>
					{/each}
					{#if wall.at_odds.length}<p class="rounded-sm px-2 py-px text-small font-semibold hatch-doubt">
							The signs disagree
						</p>
						<p class="note">What would settle it: {wall.settles}</p>{/if}
					{#if wall.guesses[0] && session.job?.survey?.parts?.[wall.part]?.constructions?.wall !== wall.guesses[0].construction}
						<button
							class="btn btn-outline"
							onclick={() => take(wall.part, wall.guesses[0]!.construction, wall.guesses[0]!.probability)}
							>Take it into the house</button
						>
					{/if}
				</section>
			{/each}
		</aside>
	{/if}
</div>

{#if viewing}<PhotoView ids={photos.map(([id]) => id)} start={viewing} onclose={() => (viewing = null)} />{/if}

<style>
	.shot :global(img) {
		height: 150px;
		border-radius: 4px;
	}

	.whole .first {
		margin-top: 12px;
	}
</style>
