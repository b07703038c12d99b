<script lang="ts">
	import { num } from '$lib/parts/format';
	let { byMonth, unit }: { byMonth: number[][]; unit: string } = $props();
	const WIDTH = 720;
	const LEFT = 44;
	const ROW = 15;
	const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
	const all = $derived(byMonth.flat());
	const least = $derived(Math.min(...all));
	const most = $derived(Math.max(...all));
	const wide = (WIDTH - LEFT - 4) / 24;
	/** Dear is dark: from 0.06 to 0.9 of the ink. */
	const dark = (price: number): number => (most > least ? 0.06 + (0.84 * (price - least)) / (most - least) : 0.3);
</script>

<p class="note">
	the mean price of every hour of the day, month by month: {num(least, 1)} (pale) to {num(most, 1)} (dark) {unit}
</p>
<svg
	class="chart"
	viewBox={`0 0 ${WIDTH} ${12 * ROW + 22}`}
	role="img"
	aria-label={`Prices by hour and month, ${num(least, 1)} to ${num(most, 1)} ${unit}`}
>
	{#each byMonth as row, month (month)}
		<text x={LEFT - 8} y={month * ROW + 12} text-anchor="end" class="tick">{MONTHS[month]}</text>
		{#each row as price, hour (hour)}<rect
				x={LEFT + hour * wide}
				y={month * ROW}
				width={wide - 1}
				height={ROW - 1}
				class="cell"
				style:opacity={dark(price)}><title>{MONTHS[month]}, {hour}:00: {num(price, 1)} {unit}</title></rect
			>{/each}
	{/each}
	{#each [0, 6, 12, 18] as hour (hour)}<text x={LEFT + hour * wide} y={12 * ROW + 16} class="tick">{hour}:00</text
		>{/each}
</svg>

<style>
	.cell {
		fill: var(--heat);
	}
</style>
