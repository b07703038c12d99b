<script lang="ts">
	/** A kind of radiator as one sees it from above: panels as bars, convectors as folded sheet, columns as rings. */
	let { type, length = 30 }: { type: string | null | undefined; length?: number } = $props();
	const shape = $derived.by(() => {
		const panel = /^t(\d)(\d)$/.exec(type ?? '');
		if (panel) return { panels: Number(panel[1]), folds: Number(panel[2]), rings: 0 };
		if (type === 'panel-single') return { panels: 1, folds: 0, rings: 0 };
		if (type === 'panel-double') return { panels: 2, folds: 0, rings: 0 };
		const column = /^column-(\d)$/.exec(type ?? '');
		if (column) return { panels: 0, folds: 0, rings: Number(column[1]) };
		return type === 'towel' ? { panels: 0, folds: 0, rings: 1 } : null;
	});
	const gap = 6;
	const lines = $derived(shape ? Math.max(shape.panels, shape.rings) : 0);
	/** Folds lie between the panels, one behind a single one. */
	const fold = (n: number): string =>
		Array.from({ length: Math.floor(length / 4) }, (_, i) => `${i * 4 + 1},${n * gap + (i % 2 ? 7 : 3)}`).join(' ');
</script>

{#if shape}
	<svg class="inline-block shrink-0 align-middle" width={length} height={lines * gap + 4} aria-hidden="true">
		{#each { length: shape.panels }, n}<rect x="0" y={n * gap} width={length} height="2.4" class="fill-water" />{/each}
		{#each { length: shape.folds }, n}<polyline
				points={fold(Math.min(n, Math.max(shape.panels - 1, 0)))}
				class="fill-none stroke-water"
			/>{/each}
		{#each { length: shape.rings }, row}{#each { length: Math.floor(length / 7) }, n}<circle
					cx={n * 7 + 4}
					cy={row * gap + 3}
					r="2.4"
					class="fill-none stroke-water"
				/>{/each}{/each}
	</svg>
{/if}
