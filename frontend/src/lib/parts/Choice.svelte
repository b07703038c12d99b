<script lang="ts">
	type Option = { value: string; label: string; group?: string };
	let {
		value,
		options,
		label,
		empty,
		commit
	}: {
		value: string | null | undefined;
		options: Option[];
		label: string;
		empty?: string;
		commit: (value: string | null) => void;
	} = $props();
	const groups = $derived([...new Set(options.map((o) => o.group ?? ''))]);
</script>

<select
	class="select w-full appearance-none bg-sheet ps-2 pe-7"
	aria-label={label}
	value={value ?? ''}
	onchange={(event) => commit(event.currentTarget.value === '' ? null : event.currentTarget.value)}
>
	{#if empty !== undefined}<option value="">{empty}</option>{/if}
	{#each groups as group (group)}
		{#if group}
			<optgroup label={group}>
				{#each options.filter((o) => o.group === group) as option (option.value)}
					<option value={option.value}>{option.label}</option>
				{/each}
			</optgroup>
		{:else}
			{#each options.filter((o) => !o.group) as option (option.value)}
				<option value={option.value}>{option.label}</option>
			{/each}
		{/if}
	{/each}
</select>
