<script lang="ts">
	/** The bar above every page: what it is, units, theme, who. */
	import type { Snippet } from 'svelte';
	import { busy } from '../api/busy.svelte';
	import { session } from '../session.svelte';
	import UnitSwitch from './UnitSwitch.svelte';

	let { children, end }: { children: Snippet; end?: Snippet } = $props();
</script>

<header>
	{@render children()}
	<UnitSwitch />
	<button
		type="button"
		class="mode"
		onclick={() => session.toggleMode()}
		title={session.mode === 'dark' ? 'Light' : 'Dark'}
		aria-label={session.mode === 'dark' ? 'Light theme' : 'Dark theme'}
	>
		<svg viewBox="0 0 20 20" width="17" height="17" aria-hidden="true"
			><circle cx="10" cy="10" r="6.500" fill="none" stroke="currentColor" stroke-width="1.5" /><path
				d="M10 3.500a6.500 6.500 0 0 1 0 13z"
				fill="currentColor"
			/></svg
		>
	</button>
	<label class="who" title="Your name stands beside what you enter"
		><span class="sr-only">Your name</span><input
			value={session.who}
			placeholder="Your name"
			onchange={(event) => session.setWho(event.currentTarget.value)}
		/></label
	>
	{#if busy.count}<b class="busy" role="status">Working …</b>{/if}
	{#if !session.reachable}<b class="away" role="status">No link to the server</b>{/if}
	<span class="gap"></span>
	{@render end?.()}
</header>

<style>
	header {
		display: flex;
		align-items: center;
		gap: 10px;
		padding: 0 18px;
		border-bottom: 1px solid var(--rule);
		background: var(--sheet);
		min-width: 0;
	}
	.gap {
		flex: 1;
	}
	.mode {
		background: none;
		border: 0;
		color: var(--ink-2);
		cursor: pointer;
		min-width: 32px;
		min-height: 32px;
		display: grid;
		place-items: center;
	}
	.who input {
		width: 78px;
		font: var(--t2) var(--sans);
		color: var(--ink-2);
		background: none;
		border: 0;
		border-bottom: 1px dotted var(--rule-strong);
		min-height: 28px;
	}
	.busy {
		color: var(--ink-2);
		font-size: var(--t2);
		font-weight: 500;
	}
	.away {
		color: var(--caution);
		font-size: var(--t2);
	}
	@media (max-width: 600px) {
		header {
			flex-wrap: wrap;
			padding: 4px 12px 0;
			gap: 4px 10px;
		}
		header > :global(nav) {
			flex: 1 0 100%;
			overflow-x: auto;
		}
		.gap {
			display: none;
		}
	}
	@media (max-width: 1000px) {
		.who,
		.mode {
			display: none;
		}
	}
</style>
