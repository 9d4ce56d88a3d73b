<script lang="ts">
	/** Old and new of what was tried, before it is decided. */
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';

	let { bench }: { bench: LoopBench } = $props();
</script>

{#if bench.changes}
	<div class="changes" role="alertdialog" aria-label="Decide what was tried">
		{#if bench.changes.length}
			<table>
				<tbody>
					{#each bench.changes as change (change.setting)}
						<tr
							><th scope="row">{change.label}</th><td class="num"
								>{change.was === null ? '–' : session.show(change.was, change.dimension)}</td
							><td>→</td><td class="num"><b>{session.show(change.now, change.dimension)}</b></td></tr
						>
					{/each}
				</tbody>
			</table>
			<p class="say">Decided with the reason “{bench.why}”; everything else stays as it is.</p>
			<button class="act" onclick={() => void bench.decide()}>Decide these</button>
		{:else}<p class="say">
				Nothing that was moved is a setting of the drive: there is nothing to decide.
			</p>{/if}
		<button class="act" data-quiet onclick={() => (bench.changes = null)}>No</button>
	</div>
{/if}

<style>
	.changes {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 10px 16px;
		margin-top: 10px;
		padding: 10px 14px;
		border: 1.5px solid var(--brass);
		border-radius: var(--r);
		background: var(--sheet);
	}
	p {
		flex: 1 1 200px;
	}
	th {
		text-align: left;
		font-weight: 600;
	}
	td {
		padding: 2px 8px;
		text-align: right;
	}
</style>
