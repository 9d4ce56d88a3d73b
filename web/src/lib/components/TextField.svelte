<script lang="ts">
	/** One field of free words: a make, a serial number. */
	import type { Schemas } from '../api/client';
	import { openLine } from '../line/context';
	import FieldRow from './FieldRow.svelte';

	let { field }: { field: Schemas['FieldView'] } = $props();

	const page = openLine();
	const value = $derived(String(page.entry(field.path)?.value ?? ''));
</script>

<FieldRow path={field.path} label={field.label} wide>
	<input
		id={field.path}
		class="field"
		autocomplete="off"
		maxlength="2000"
		{value}
		onchange={(event) =>
			page.set(field.path, event.currentTarget.value.trim() || undefined, field.provenance)}
	/>
	{#snippet say()}{value ? '' : field.help}{/snippet}
</FieldRow>

<style>
	.field {
		font: 600 var(--t3) var(--sans);
		width: 100%;
	}
</style>
