<script lang="ts">
	/** Numbers read, each inside its band, with what is to be seen beside them. */
	import Checks from '../Checks.svelte';
	import type { ProofEntry } from '../proof-entry.svelte';
	import Cells from '../Cells.svelte';
	import Keeping from '../Keeping.svelte';

	let { entry, busy, open }: { entry: ProofEntry; busy: boolean; open: (key: string) => void } = $props();

	function offer(): void {
		const read = entry.allReadings();
		const school = entry.beside ? { school: entry.school } : {};
		if (read)
			entry.offer('readings', { ...read, ...entry.ticks('', entry.last?.data), ...school }, entry.step.id);
	}
</script>

<Cells {entry} {open} />
{#if Object.keys(entry.step.items).length}
	<Checks
		items={entry.step.items}
		ticked={(key) => entry.ticked('', key, entry.last?.data)}
		tick={(key, on) => entry.tick('', key, on)}
	/>
{/if}
<Keeping {entry} words="Keep these readings" off={busy || entry.shut} act={offer} />
