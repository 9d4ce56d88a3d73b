<script lang="ts">
	/** The row of a field: what it is called, what edits it, and what is said of it. */
	import type { Snippet } from 'svelte';

	let {
		path,
		label,
		wide = false,
		children,
		say
	}: { path: string; label: string; wide?: boolean; children: Snippet; say: Snippet } = $props();
</script>

<div class="row" data-wide={wide}>
	<label for={path}>{label}</label>
	{@render children()}
	<span class="say" id="{path}-say">{@render say()}</span>
</div>

<style>
	.row {
		--edits: 168px;
		display: grid;
		grid-template-columns: 178px var(--edits) minmax(0, 1fr);
		align-items: center;
		gap: 10px;
		padding: 4.5px 0;
		border-bottom: 1px solid var(--rule);
	}
	.row[data-wide='true'] {
		--edits: 240px;
	}
	label {
		color: var(--ink-2);
		font-size: var(--t3);
	}
	.say {
		line-height: 1.25;
	}
	@media (max-width: 1000px) {
		.row {
			--edits: 150px;
			grid-template-columns: 130px var(--edits) minmax(0, 1fr);
		}
		.row[data-wide='true'] {
			--edits: 200px;
		}
	}
	@media (max-width: 600px) {
		.row {
			grid-template-columns: minmax(0, 1fr) 190px;
		}
		.say {
			grid-column: 1 / -1;
		}
	}
</style>
