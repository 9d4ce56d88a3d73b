<script lang="ts">
	/** A list of things to be seen, each ticked by itself. */
	import { session } from '../session.svelte';

	let {
		items,
		ticked,
		tick
	}: {
		items: Record<string, string>;
		ticked: (key: string) => boolean;
		tick: (key: string, on: boolean) => void;
	} = $props();
</script>

<div class="checks">
	{#each Object.entries(items) as [key, name] (key)}
		<label>
			<input
				type="checkbox"
				checked={ticked(key)}
				onchange={(event) => tick(key, event.currentTarget.checked)}
			/>{session.words(name)}
		</label>
	{/each}
</div>

<style>
	.checks {
		margin-top: 14px;
		max-width: 640px;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: var(--sheet);
	}
	label {
		display: flex;
		align-items: center;
		gap: 12px;
		padding: 8px 14px;
		min-height: 48px;
		font-size: var(--t4);
		cursor: pointer;
	}
	label + label {
		border-top: 1px solid var(--rule);
	}
	input {
		width: 22px;
		height: 22px;
		flex: none;
		accent-color: var(--clear);
	}
</style>
