<script lang="ts">
	/** A sentence whose numbers open their working. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import Num from './Num.svelte';

	let { parts, open }: { parts: Schemas['Part'][]; open?: ((key: string) => void) | undefined } = $props();
</script>

{#each parts as part, i (i)}{#if part.figure}<Num figure={part.figure} {open} prose />{:else}{session.words(
			part.text ?? ''
		)}{/if}{/each}
