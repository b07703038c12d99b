<script lang="ts">
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
	<a class="act link" href={`/api/jobs/${session.id}/survey.pdf`} download>Empty form, PDF</a>
</Head>

<div class="tabs" role="tablist" aria-label="The surveyor's order">
	{#each SECTIONS as [key, label], n (key)}
		<button role="tab" aria-selected={section === key} class:on={section === key} onclick={() => (section = key)}
			><span class="note">{n + 1}</span>
			{label}{#if left[key]}<span class="open">{left[key]}</span>{/if}</button
		>
	{/each}
</div>

<div class="walk" class:whole={section === 'rooms' || section === 'pictures'}>
	{#if section === 'rooms'}
		<table class="plain-table">
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
								? `${num(result.area_m2, 1)} m²`
								: 'not yet'}{#if result?.closing_share && result.closing_share > 0.01}<span class="hatch-doubt tag"
									>misses by {num((result.closing_error_m ?? 0) * 1000)} mm</span
								>{/if}</td
						>
						<td>{room.height_m ? `${num(room.height_m, 3)} m` : 'not yet'}</td>
						<td>{Object.values(room.faces ?? {}).reduce((n, f) => n + Object.keys(f.openings ?? {}).length, 0)}</td>
						<td>{result?.emitters.length ?? 0}</td>
						<td><PhotoStrip about={{ room: id }} label={room.label ?? ''} /></td>
						<td class="right"><a class="act link" href={`/job/${session.id}/plan?room=${id}`}>On the plan</a></td>
					</tr>
				{:else}
					<tr><td colspan="7">No room yet. Rooms are walked on the plan: height, then wall by wall.</td></tr>
				{/each}
			</tbody>
		</table>
		<a class="act first link" href={`/job/${session.id}/plan?walk=new`}>Walk a new room</a>
	{:else if section === 'pictures'}
		<div class="gallery">
			{#each photos as [id, photo] (id)}
				<button class="shot" onclick={() => (viewing = id)}>
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
		<ul class="items">
			{#each items.filter((i) => i.section === section) as item (item.id)}
				{@const doc = seen(item)}
				{@const warn = caution(item.caution)}
				<li class:done={isDone(item)}>
					<div class="what">
						<p class="label">
							{item.label}{#if item.optional}<span class="note"> if there is one</span>{/if}
						</p>
						<p class="note">{item.look}</p>
						{#if warn}<p class="warn"><strong>{warn.hazard}.</strong> {warn.who} {warn.rule}</p>{/if}
					</div>
					<div class="say">
						{#if doc?.unseen}
							<p class="hatch-doubt tag">could not see, because {doc.unseen}</p>
						{:else if item.sign}
							{#each parts as [key, part] (key)}
								<div class="per">
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
							<div class="per">
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
								class="quiet"
								onclick={() =>
									void session.edit(`Can be seen: ${item.label}`, (d) =>
										d.remove(`/survey/walk_round/${item.id}/unseen`)
									)}>it can be seen after all</button
							>
						{:else if !isDone(item)}
							<button class="quiet" onclick={() => (unable = item.id)}>could not see, because …</button>
						{/if}
					</div>
				</li>
			{/each}
		</ul>
		<aside>
			<h2>What the signs say together</h2>
			{#each design.walls as wall (wall.part)}
				<section class="verdict">
					<Sentence text={wall.sentence} />
					{#each wall.guesses as guess, n (guess.id)}
						<div class="guess">
							<span class="bar" class:first={n === 0} style:width={`${guess.probability * 100}%`}></span>
							<span>{guess.label}</span><span class="num"
								>{num(guess.probability * 100, guess.probability < 0.1 ? 1 : 0)} %</span
							>
						</div>
					{/each}
					{#if wall.at_odds.length}<p class="hatch-doubt tag">The signs disagree</p>
						<p class="note">What would settle it: {wall.settles}</p>{/if}
					{#if wall.guesses[0] && session.job?.survey?.parts?.[wall.part]?.constructions?.wall !== wall.guesses[0].construction}
						<button
							class="act"
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
	.tabs {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
		border-bottom: 1px solid var(--ink);
		margin-bottom: 8px;
	}
	.tabs button {
		min-height: 42px;
		padding: 0 12px;
		border-radius: 5px 5px 0 0;
	}
	.tabs .on {
		background: var(--ink);
		color: var(--paper);
		font-weight: 600;
	}
	.tabs .on .note {
		color: inherit;
	}
	.open {
		margin-left: 6px;
		font-size: var(--small);
		font-weight: 600;
		color: var(--doubt);
	}
	.on .open {
		color: inherit;
	}
	.walk {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 330px;
		gap: 30px;
	}
	.walk.whole {
		grid-template-columns: 1fr;
		justify-items: start;
	}
	.items li {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 1.15fr);
		gap: 18px;
		padding: 11px 0 11px 12px;
		border-bottom: 1px solid var(--hairline);
		border-left: 4px solid var(--doubt-pale);
	}
	.items li.done {
		border-left-color: var(--meets);
	}
	.label {
		font-weight: 600;
	}
	.warn {
		font-size: var(--small);
		border-left: 3px solid var(--short);
		padding-left: 8px;
		margin-top: 4px;
	}
	.say {
		display: grid;
		gap: 6px;
		justify-items: start;
		align-content: start;
	}
	.per {
		display: flex;
		align-items: center;
		gap: 8px;
		flex-wrap: wrap;
		width: 100%;
	}
	.tag {
		padding: 1px 8px;
		border-radius: 4px;
		font-size: var(--small);
		font-weight: 600;
	}
	aside {
		display: grid;
		gap: 14px;
		align-content: start;
	}
	.verdict {
		display: grid;
		gap: 6px;
		padding-bottom: 12px;
		border-bottom: 1px solid var(--hairline);
		justify-items: start;
	}
	.guess {
		position: relative;
		isolation: isolate;
		display: flex;
		justify-content: space-between;
		width: 100%;
		padding: 3px 8px;
		font-size: var(--small);
	}
	.guess .bar {
		position: absolute;
		inset: 0 auto 0 0;
		background: var(--ash);
		z-index: -1;
	}
	.guess .bar.first {
		background: var(--heat-pale);
	}
	.gallery {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
		gap: 14px;
		width: 100%;
		margin-bottom: 14px;
	}
	.shot {
		display: grid;
		grid-template-rows: 150px auto;
		text-align: left;
		font-size: var(--small);
		gap: 4px;
	}
	.shot :global(img) {
		height: 150px;
		border-radius: 4px;
	}
	.link {
		display: inline-flex;
		align-items: center;
		text-decoration: none;
	}
	.whole .first {
		margin-top: 12px;
	}
	@media (max-width: 1000px) {
		.walk,
		.items li {
			grid-template-columns: 1fr;
		}
	}
</style>
