<script lang="ts">
	/** The readings of a step, side by side. */
	import ReadingCell from '../components/ReadingCell.svelte';
	import { session } from '../session.svelte';
	import type { ProofEntry } from './proof-entry.svelte';

	let {
		entry,
		open,
		paired = false
	}: { entry: ProofEntry; open: (key: string) => void; paired?: boolean } = $props();

	function kept(id: string, read: number | null) {
		const value = entry.last?.data[id] ?? read;
		if (typeof value !== 'number') return undefined;
		return { value, deviation: null, fits: !entry.last?.out.includes(id) };
	}
</script>

<div class="readings" data-paired={paired}>
	{#each entry.readings as reading (reading.id)}
		{#each reading.twice ? [reading.id, `${reading.id}.again`] : [reading.id] as id, i (id)}
			<div>
				<span class="called"
					>{reading.label}{i ? ', read again' : ''}
					<i>{session.units.symbol(reading.dimension, session.system)}{reading.optional ? ', if read' : ''}</i
					></span
				>{#if reading.read !== null && !entry.last && !i}<small>read back by {reading.read_by}</small>{/if}
				<ReadingCell
					{reading}
					expected={i ? null : reading.expected}
					label="{reading.label}{i ? ', read again' : ''}"
					kept={kept(reading.id, reading.read)}
					text={entry.text(id)}
					input={(value) => entry.type(id, value)}
					{open}
				/>
			</div>
		{/each}
	{/each}
</div>

<style>
	.readings {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
		gap: 12px;
		margin-top: 16px;
		max-width: 640px;
	}
	.readings[data-paired='true'] {
		grid-template-columns: repeat(2, minmax(150px, 220px));
	}
	.called {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-3);
	}
	.called i {
		font-style: normal;
		color: var(--ink-3);
	}
</style>
