<script lang="ts">
	/** Any of several things named: what was touched, what is replaced. */
	import Checks from '../Checks.svelte';
	import type { ProofEntry } from '../proof-entry.svelte';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	const named = $derived(entry.ticks('', entry.last?.data));
</script>

<Checks
	items={entry.step.items}
	ticked={(key) => entry.ticked('', key, entry.last?.data)}
	tick={(key, on) => entry.tick('', key, on)}
/>
<div class="actions">
	<button
		class="act"
		data-big
		disabled={busy || entry.shut || Object.keys(named).length === 0}
		onclick={() => entry.keep('picked', named, '', entry.step.id)}>That is all of it</button
	>
</div>
