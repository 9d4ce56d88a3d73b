<script lang="ts">
	/** Done, with a name. */
	import type { ProofEntry } from '../proof-entry.svelte';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	const words = $derived(
		entry.step.state === 'done'
			? 'Done again'
			: entry.step.state === 'stale'
				? 'Done again, with the new values'
				: 'Done'
	);
</script>

<div class="actions">
	<button class="act" data-big disabled={busy || entry.shut} onclick={() => entry.keep('tick')}
		>{words}</button
	>
</div>
