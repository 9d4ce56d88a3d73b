<script lang="ts">
	/** One field of few possibilities. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import { openHolder } from '../line/context';
	import FieldRow from './FieldRow.svelte';

	let { field }: { field: Schemas['FieldView'] } = $props();

	const page = openHolder();
	const value = $derived(String(page.entry(field.path)?.value ?? ''));
	const choices = $derived(Object.entries(field.choices ?? {}));
	const finding = $derived(
		page.assessment?.findings.find((f) => f.severity === 'stop' && f.fix?.field === field.path)
	);
</script>

<FieldRow path={field.path} label={field.label} wide>
	<select
		id={field.path}
		class="field"
		data-bad={finding !== undefined}
		{value}
		onchange={(event) => page.set(field.path, event.currentTarget.value || undefined, field.provenance)}
	>
		<option value="">–</option>
		{#each choices as [id, label] (id)}<option value={id}>{session.words(label)}</option>{/each}
	</select>
	{#snippet say()}
		{#if finding?.fix}
			{@const fix = finding.fix}
			<b>{session.words(finding.title)}.</b>
			<button type="button" onclick={() => page.set(fix.field, fix.value, field.provenance)}
				>{field.choices?.[String(fix.value)] ?? fix.value}?</button
			>
		{:else if !value}{session.words(field.help)}{/if}
	{/snippet}
</FieldRow>

<style>
	select {
		font: 600 var(--t3) var(--sans);
		width: 100%;
		text-overflow: ellipsis;
	}
	select[data-bad='true'] {
		border-color: var(--stop);
	}
	b {
		color: var(--stop);
	}
	button {
		font: 650 var(--t3) var(--sans);
		color: var(--steel);
		background: none;
		border: 0;
		border-bottom: 1.5px solid var(--steel);
		cursor: pointer;
		min-height: 28px;
	}
</style>
