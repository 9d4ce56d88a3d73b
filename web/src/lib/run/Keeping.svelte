<script lang="ts">
	/** Keep what is entered, or say what is to be done with what lies out of its band. */
	import OutOfBand from './OutOfBand.svelte';
	import type { ProofEntry } from './proof-entry.svelte';

	let { entry, words, off, act }: { entry: ProofEntry; words: string; off: boolean; act: () => void } =
		$props();
</script>

{#if entry.doubt}
	<OutOfBand
		names={entry.doubt.names}
		explainable={entry.doubt.explainable}
		again={() => (entry.doubt = null)}
		keep={(word) => entry.keptAs(word)}
	/>
{:else}
	<div class="actions">
		<button class="act" data-big disabled={off} onclick={act}>{words}</button>
	</div>
{/if}
