<script lang="ts">
	import type { PlantFound, PlantPart, PlantPipe } from '$lib/api/client';
	/** The plant drawn by the server's places; what moves in the state is drawn full, with its direction. */
	let {
		plant,
		state,
		looked,
		look
	}: { plant: PlantFound; state: string; looked: string | null; look: (id: string) => void } = $props();
	const LINE = 16;
	const moves = (pipe: PlantPipe): boolean => (pipe.states as string[]).includes(state);
	const path = (pipe: PlantPipe): string => 'M' + pipe.points.map(([x, y]) => `${x} ${y}`).join('L');
	/** Defrosting, what leaves the machine is colder than what comes back. */
	function tone(pipe: PlantPipe): string {
		if (pipe.side !== 'flow' && pipe.side !== 'return') return 'plain';
		const warm = (pipe.side === 'flow') !== (state === 'defrost');
		return warm ? 'warm' : 'cool';
	}
	/** A tip in the middle of the longest stretch, where there is room for one. */
	function tip(pipe: PlantPipe): string {
		let best = 0;
		let out = '';
		for (let n = 1; n < pipe.points.length; n++) {
			const [ax = 0, ay = 0] = pipe.points[n - 1]!;
			const [bx = 0, by = 0] = pipe.points[n]!;
			const long = Math.abs(bx - ax) + Math.abs(by - ay);
			if (long <= best || long < 34) continue;
			best = long;
			const [dx, dy] = [(bx - ax) / long, (by - ay) / long];
			const [x, y] = [(ax + bx) / 2, (ay + by) / 2];
			out = `M${x + 8 * dx} ${y + 8 * dy}L${x - 5 * dx - 7 * dy} ${y - 5 * dy + 7 * dx}L${x - 5 * dx + 7 * dy} ${y - 5 * dy - 7 * dx}Z`;
		}
		return out;
	}
	/** Sizes stand in a lighter tone than names. */
	function light(part: PlantPart, n: number): boolean {
		const rest = part.lines.slice(n).join('').replace(/\s/g, '');
		return n > 0 && part.words !== '' && part.words.replace(/\s/g, '').includes(rest);
	}
</script>

<div class="overflow-x-auto">
	<svg
		viewBox={`0 0 ${plant.width} ${plant.height}`}
		style={`min-width:${Math.round(plant.width * 0.78)}px`}
		role="img"
		aria-label={plant.sentence.replaceAll('**', '')}
	>
		{#each plant.bands as band (band.label)}
			<rect
				x={band.from_x}
				y="30"
				width={band.to_x - band.from_x}
				height={plant.height - 40}
				class={band.label === 'Wall' ? 'wall' : 'band'}
			/>
			{#if band.label !== 'Wall'}<text x={band.from_x + 6} y="22" class="where">{band.label}</text>{/if}
		{/each}
		{#each plant.pipes as pipe (pipe.id)}
			<path d={path(pipe)} class={`pipe ${tone(pipe)}`} class:moves={moves(pipe)} class:cable={pipe.side === 'cable'} />
			{#if moves(pipe) && tip(pipe)}<path d={tip(pipe)} class={`tip ${tone(pipe)}`} />{/if}
		{/each}
		{#each plant.joints as joint (joint.id)}<circle cx={joint.x} cy={joint.y} r="3" class="joint" />{/each}
		{#each plant.parts as part (part.id)}
			<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions (the list beneath does the same by keyboard) -->
			<g class="part" class:on={part.id === looked} onclick={() => look(part.id)}>
				{#if part.box}<rect
						x={part.x - part.width / 2}
						y={part.y - part.height / 2}
						width={part.width}
						height={part.height}
						rx="3"
					/>{/if}
				{#if part.mark}<path
						d={part.mark}
						transform={`translate(${part.x} ${part.y})`}
						class={part.box ? 'within' : 'mark'}
					/>{/if}
				<text x={part.text_x} y={part.text_y} text-anchor={part.anchor}
					>{#each part.lines as line, n (n)}<tspan
							x={part.text_x}
							dy={n ? LINE : 0}
							class={light(part, n) ? 'size' : undefined}>{line}</tspan
						>{/each}</text
				>
			</g>
		{/each}
	</svg>
</div>

<style>
	svg {
		width: 100%;
		max-height: 66vh;
		font-size: 14px;
	}
	.band {
		fill: var(--sheet);
	}
	.wall {
		fill: var(--hairline);
	}
	.where {
		fill: var(--muted);
		font-size: 15px;
	}
	.pipe {
		fill: none;
		stroke-width: 1.5;
	}
	.pipe.moves {
		stroke-width: 4;
	}
	.cable {
		stroke-dasharray: 4 4;
	}
	.pipe.warm {
		stroke: var(--heat);
	}
	.pipe.cool {
		stroke: var(--water);
	}
	.pipe.plain {
		stroke: var(--muted);
	}
	.tip.warm {
		fill: var(--heat);
	}
	.tip.cool {
		fill: var(--water);
	}
	.tip.plain {
		fill: var(--muted);
	}
	.joint {
		fill: var(--ink);
	}
	.part {
		cursor: pointer;
	}
	.part rect,
	.mark {
		fill: var(--paper);
		stroke: var(--ink);
		stroke-width: 1.5;
		stroke-linejoin: round;
	}
	.within {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1.5;
		stroke-linejoin: round;
	}
	.on rect,
	.on .mark {
		stroke-width: 3;
	}
	.on text {
		font-weight: 700;
	}
	.part text {
		fill: var(--ink);
	}
	.size {
		fill: var(--muted);
	}
</style>
