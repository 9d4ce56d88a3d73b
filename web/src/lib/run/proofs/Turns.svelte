<script lang="ts">
	/** Two directions of rotation compared: what was read both ways round, and which was left. */
	import type { ProofEntry } from '../proof-entry.svelte';
	import Cells from '../Cells.svelte';

	let { entry, busy, open }: { entry: ProofEntry; busy: boolean; open: (key: string) => void } = $props();

	function keep(choice: string): void {
		const read = entry.allReadings();
		if (read) entry.keep('turns', { ...read, choice }, '', entry.step.id);
	}
</script>

<Cells {entry} {open} paired />
<div class="actions">
	{#each Object.entries(entry.step.choices) as [id, label] (id)}
		<button
			class="act"
			data-big
			data-quiet={id === 'first' ? true : undefined}
			disabled={busy || entry.shut}
			onclick={() => keep(id)}>{label}</button
		>
	{/each}
</div>
