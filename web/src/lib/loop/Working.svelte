<script lang="ts">
	/** How far long work is, with a way out; and why it was refused. */
	import { session } from '../session.svelte';
	import type { LongWork } from './long-work.svelte';

	let { work, label }: { work: LongWork<unknown>; label: string } = $props();
	const share = $derived(work.progress?.of ? work.progress.done / work.progress.of : 0);
</script>

{#if work.runs}
	<p class="working" role="status">
		<progress value={share} max="1" aria-label={label}></progress>
		<span class="num">{work.words}</span>
		<button type="button" class="act" data-quiet onclick={() => work.stop()}>Stop</button>
	</p>
{/if}
{#if work.problem}<p class="problem" role="alert">{session.words(work.problem)}</p>{/if}

<style>
	.working {
		display: flex;
		gap: 12px;
		align-items: center;
	}
	progress {
		flex: 1;
		accent-color: var(--brass);
		height: 10px;
	}
</style>
