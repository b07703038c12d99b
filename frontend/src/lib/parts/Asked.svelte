<script lang="ts">
	import type { ComponentProps } from 'svelte';
	import NumberField from './NumberField.svelte';
	/** What is asked, over its field; `label`: the same for those who hear it, where more must be said. */
	let { ask, ...field }: { ask: string } & ComponentProps<typeof NumberField> = $props();
</script>

<label class="text-small text-muted">{ask}<NumberField {...field} width="100%" /></label>
