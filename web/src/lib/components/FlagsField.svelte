<script lang="ts">
	/** A list of conditions to look for: tick what is so, or say that nothing is. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import { openLine } from '../line/context';

	let { field }: { field: Schemas['FieldView'] } = $props();

	const page = openLine();
	const ticked = $derived(page.entry(field.path)?.value as string[] | undefined);
	const choices = $derived(Object.entries(field.choices ?? {}));

	function toggle(id: string, on: boolean): void {
		const now = ticked ?? [];
		page.set(field.path, on ? [...now, id] : now.filter((c) => c !== id), field.provenance);
	}
</script>

<fieldset>
	<legend>{field.label}</legend>
	<label class="none" data-on={ticked !== undefined && ticked.length === 0}>
		<input
			type="checkbox"
			id={field.path}
			checked={ticked !== undefined && ticked.length === 0}
			onchange={(event) =>
				page.set(field.path, event.currentTarget.checked ? [] : undefined, field.provenance)}
		/>
		{field.none}
	</label>
	{#each choices as [id, text] (id)}
		<label data-on={ticked?.includes(id) ?? false}>
			<input
				type="checkbox"
				checked={ticked?.includes(id) ?? false}
				onchange={(event) => toggle(id, event.currentTarget.checked)}
			/>
			{session.words(text)}
		</label>
	{/each}
</fieldset>

<style>
	fieldset {
		border: 0;
		border-bottom: 1px solid var(--rule);
		padding: 6px 0 8px;
		margin: 0;
		display: grid;
		grid-template-columns: repeat(2, minmax(0, 1fr));
		gap: 2px 12px;
	}
	legend {
		color: var(--ink-2);
		font-size: var(--t3);
		padding: 0 0 2px;
	}
	label {
		display: flex;
		align-items: center;
		gap: 9px;
		min-height: 34px;
		padding: 2px 8px;
		font-size: var(--t3);
		border-radius: var(--r);
		cursor: pointer;
	}
	label[data-on='true'] {
		background: var(--paper);
		font-weight: 600;
	}
	.none {
		grid-column: 1 / -1;
	}
	input {
		width: 18px;
		height: 18px;
		accent-color: var(--steel);
		flex: none;
	}
	@media (max-width: 1000px) {
		fieldset {
			grid-template-columns: 1fr;
		}
	}
</style>
