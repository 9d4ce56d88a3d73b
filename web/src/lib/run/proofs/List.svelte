<script lang="ts">
	/** Things looked at, each of them. */
	import Checks from '../Checks.svelte';
	import type { ProofEntry } from '../proof-entry.svelte';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	const seen = $derived(entry.ticks('', entry.last?.data));
	const some = $derived(Object.keys(seen).length);
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
		disabled={busy || entry.shut || some === 0}
		onclick={() => entry.keep('list', seen, '', entry.step.id)}
		>{some === Object.keys(entry.step.items).length ? 'All seen' : 'Keep what was seen'}</button
	>
</div>
