<script lang="ts">
	/** The groups of the sheet, with how far each has come or what is wrong in it; a touch goes there. */
	import { SAID_ONCE } from '../words';
	import type { Group } from './settings-page.svelte';

	let { groups }: { groups: Group[] } = $props();
</script>

<nav aria-label="Groups of settings">
	{#each groups as group (group.name)}
		<button
			type="button"
			data-severity={group.severity}
			onclick={() => document.getElementById(`group-${group.name}`)?.scrollIntoView({ block: 'start' })}
			><span>{group.name}</span><b>{group.says}</b></button
		>
	{/each}
	<p class="say">
		In force is what was left, else what was decided, else what is proposed. All that follows goes by it.
		{SAID_ONCE}
	</p>
</nav>

<style>
	nav {
		overflow: auto;
		border-right: 1px solid var(--rule-strong);
		background: var(--sheet);
		padding: 10px 0;
	}
	button {
		display: flex;
		width: 100%;
		min-height: 44px;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
		padding: 4px 14px;
		text-align: left;
		font-size: var(--t3);
		color: var(--ink);
	}
	button:hover {
		background: var(--well);
	}
	b {
		font-size: var(--t1);
		color: var(--ink-3);
		white-space: nowrap;
	}
	[data-severity='stop'] b {
		color: var(--stop);
	}
	[data-severity='caution'] b {
		color: var(--caution);
	}
	p {
		padding: 12px 14px;
	}
	@media (max-width: 1000px) {
		nav {
			display: none;
		}
	}
</style>
