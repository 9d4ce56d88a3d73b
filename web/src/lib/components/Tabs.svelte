<script lang="ts">
	/** One thing at a time; the arrows go along. */
	import type { Snippet } from 'svelte';

	let {
		tabs,
		at,
		choose,
		label,
		children
	}: {
		tabs: { id: string; label: string }[];
		at: string;
		choose: (id: string) => void;
		label: string;
		children: Snippet;
	} = $props();

	const base = $props.id();

	function keys(event: KeyboardEvent): void {
		const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
		if (!by) return;
		const next = tabs[(tabs.findIndex((t) => t.id === at) + by + tabs.length) % tabs.length]?.id ?? '';
		choose(next);
		document.getElementById(`${base}-${next}`)?.focus();
	}
</script>

<div class="tabs" role="tablist" aria-label={label} tabindex="-1" onkeydown={keys}>
	{#each tabs as tab (tab.id)}
		<button
			type="button"
			role="tab"
			id="{base}-{tab.id}"
			aria-selected={at === tab.id}
			aria-controls="{base}-panel"
			tabindex={at === tab.id ? 0 : -1}
			onclick={() => choose(tab.id)}>{tab.label}</button
		>
	{/each}
</div>
<div class="panel" id="{base}-panel" role="tabpanel" aria-labelledby="{base}-{at}">{@render children()}</div>

<style>
	.tabs {
		display: flex;
		flex-wrap: wrap;
		border-bottom: 1px solid var(--rule);
		padding: 0 8px;
	}
	.tabs button {
		font: 600 var(--t3) var(--sans);
		border: 0;
		background: none;
		color: var(--ink-2);
		padding: 10px 12px;
		min-height: 44px;
		cursor: pointer;
		border-bottom: 3px solid transparent;
	}
	.tabs button[aria-selected='true'] {
		color: var(--ink);
		border-bottom-color: var(--brass);
	}
	.panel {
		min-height: 0;
		min-width: 0;
	}
</style>
