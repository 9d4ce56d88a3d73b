<script lang="ts">
	/** One field of few possibilities. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import { openHolder } from '../line/context';

	let { field }: { field: Schemas['FieldView'] } = $props();

	const page = openHolder();
	const value = $derived(String(page.entry(field.path)?.value ?? ''));
	const choices = $derived(Object.entries(field.choices ?? {}));
	const finding = $derived(
		page.assessment?.findings.find((f) => f.severity === 'stop' && f.fix?.field === field.path)
	);
</script>

<div class="row">
	<label for={field.path}>{field.label}</label>
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
	<span class="say">
		{#if finding?.fix}
			{@const fix = finding.fix}
			<b>{session.words(finding.title)}.</b>
			<button type="button" onclick={() => page.set(fix.field, fix.value, field.provenance)}
				>{field.choices?.[String(fix.value)] ?? fix.value}?</button
			>
		{:else if !value}{session.words(field.help)}{/if}
	</span>
</div>

<style>
	.row {
		display: grid;
		grid-template-columns: 178px 240px minmax(0, 1fr);
		align-items: center;
		gap: 10px;
		padding: 4.5px 0;
		border-bottom: 1px solid var(--rule);
	}
	label {
		color: var(--ink-2);
		font-size: var(--t3);
	}
	select {
		font: 600 var(--t3) var(--sans);
		width: 100%;
		text-overflow: ellipsis;
	}
	select[data-bad='true'] {
		border-color: var(--stop);
	}
	.say b {
		color: var(--stop);
	}
	.say button {
		font: 650 var(--t3) var(--sans);
		color: var(--steel);
		background: none;
		border: 0;
		border-bottom: 1.5px solid var(--steel);
		cursor: pointer;
		min-height: 28px;
	}
	@media (max-width: 1000px) {
		.row {
			grid-template-columns: 130px 200px minmax(0, 1fr);
		}
	}
	@media (max-width: 600px) {
		.row {
			grid-template-columns: minmax(0, 1fr) 190px;
		}
		.row > .say {
			grid-column: 1 / -1;
		}
	}
</style>
