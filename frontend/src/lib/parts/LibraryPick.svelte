<script lang="ts">
	import type { Construction } from '$lib/api/client';
	import { ELEMENTS } from '$lib/house/builds';
	import { num } from './format';
	import { shelf } from '$lib/job/library.svelte';
	import Choice from './Choice.svelte';
	let { shown, show }: { shown: string | null; show: (id: string) => void } = $props();
	let element = $state<Construction['element'] | ''>('');
	let age = $state('');
	let build = $state('');
	let wanted = $state('');
	const every = $derived(Object.values(shelf.all?.constructions ?? {}));
	const ages = $derived(
		[...new Set(every.filter((c) => !element || c.element === element).map((c) => c.age ?? ''))].filter(Boolean)
	);
	const builds = $derived(
		[
			...new Set(
				every.filter((c) => (!element || c.element === element) && (!age || c.age === age)).map((c) => c.build ?? '')
			)
		]
			.filter(Boolean)
			.sort()
	);
	const found = $derived(
		every.filter(
			(c) =>
				(!element || c.element === element) &&
				(!age || c.age === age) &&
				(!build || c.build === build) &&
				(!wanted || `${c.label} ${c.build} ${c.age}`.toLowerCase().includes(wanted.toLowerCase()))
		)
	);
</script>

<input
	class="input w-full bg-sheet"
	placeholder="Word in its name"
	aria-label="Search the library"
	bind:value={wanted}
/>
<div class="grid grid-cols-[1fr_1fr] gap-1.5">
	<Choice
		label="Part of the shell"
		value={element}
		empty="every part"
		options={ELEMENTS}
		commit={(v) => ((element = (v ?? '') as typeof element), (age = ''), (build = ''))}
	/>
	<Choice
		label="Age"
		value={age}
		empty="every age"
		options={ages.map((a) => ({ value: a, label: a }))}
		commit={(v) => ((age = v ?? ''), (build = ''))}
	/>
</div>
<Choice
	label="Build"
	value={build}
	empty="every build"
	options={builds.map((b) => ({ value: b, label: b }))}
	commit={(v) => (build = v ?? '')}
/>
<p class="note">{found.length} of {every.length}</p>
<ul class="max-h-[calc(100vh_-_430px)] min-h-55 overflow-auto border-t border-t-hairline">
	{#each found as one (one.id)}
		<li>
			<button class="pickrow" class:on={shown === one.id} onclick={() => show(one.id)}
				><span
					>{one.label}<span class="block note"
						>{one.age || 'any age'}{#if shelf.all?.own?.constructions?.[one.id]}, the company's own{/if}</span
					></span
				><span class="u">{one.element === 'ground' ? '–' : num(shelf.all?.u_values[one.id], 2)}</span></button
			>
		</li>
	{:else}<li class="px-1.5 py-5 note">Nothing of that kind: loosen the choice, or compose one.</li>{/each}
</ul>
