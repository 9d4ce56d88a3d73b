<script lang="ts">
	/** The danger of the step in hand. */
	import { session } from '../session.svelte';

	let { words }: { words: string } = $props();
</script>

<div class="care">
	<b>Take care</b>
	<p>{session.words(words)}</p>
</div>

<style>
	.care {
		margin-top: 12px;
		border-left: 5px solid var(--stop);
		background: var(--stop-wash);
		padding: 12px 14px;
		border-radius: 0 var(--r) var(--r) 0;
	}
	:global(aside) > .care {
		margin-top: 0;
	}
	b {
		color: var(--stop);
		font-size: var(--t4);
	}
	p {
		font-size: var(--t3);
		margin-top: 3px;
	}
</style>
