<script lang="ts">
	/** One field of free words: a make, a serial number. */
	import type { Schemas } from '../api/client';
	import { openLine } from '../line/context';

	let { field }: { field: Schemas['FieldView'] } = $props();

	const page = openLine();
	const value = $derived(String(page.entry(field.path)?.value ?? ''));
</script>

<div class="row">
	<label for={field.path}>{field.label}</label>
	<input
		id={field.path}
		class="field"
		autocomplete="off"
		maxlength="2000"
		{value}
		onchange={(event) =>
			page.set(field.path, event.currentTarget.value.trim() || undefined, field.provenance)}
	/>
	<span class="say">{value ? '' : field.help}</span>
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
	.field {
		font: 600 var(--t3) var(--sans);
		width: 100%;
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
