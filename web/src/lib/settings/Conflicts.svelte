<script lang="ts">
	/** Settings that contradict one another, above the sheet: what, why, what to do; a touch goes to the row. */
	import type { Schemas } from '../api/client';
	import Mark from '../components/Mark.svelte';
	import Sentence from '../components/Sentence.svelte';

	let { conflicts, open }: { conflicts: Schemas['ConflictView'][]; open: (key: string) => void } = $props();

	function go(setting: string | undefined): void {
		document.getElementById(`setting-${setting}`)?.scrollIntoView({ block: 'center' });
	}
</script>

{#if conflicts.length}
	<section aria-label="Settings against one another">
		{#each conflicts as conflict (conflict.id)}
			<div data-severity={conflict.severity}>
				<Mark severity={conflict.severity} named />
				<p>
					<button type="button" onclick={() => go(conflict.settings[0])}>{conflict.title}</button>
					<Sentence parts={conflict.because} {open} />
					<i><Sentence parts={conflict.do} {open} /></i>
				</p>
			</div>
		{/each}
	</section>
{/if}

<style>
	section {
		display: grid;
		gap: 6px;
		margin-top: 10px;
	}
	div {
		display: flex;
		gap: 10px;
		align-items: baseline;
		padding: 8px 12px;
		background: var(--sheet);
		border: 1px solid var(--rule);
		border-left: 4px solid var(--tone);
		border-radius: var(--r);
		font-size: var(--t3);
	}
	button {
		font-weight: 650;
		text-decoration: underline;
		text-decoration-thickness: 1px;
		text-underline-offset: 3px;
	}
	i {
		font-style: normal;
		color: var(--ink-2);
	}
	@media (pointer: coarse) {
		button {
			min-height: 44px;
		}
	}
</style>
