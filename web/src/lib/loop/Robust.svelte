<script lang="ts">
	/** Robust, not lucky: this tuning on many plants that differ in what nobody knows for sure. */
	import type { Schemas } from '../api/client';
	import type { LoopBench } from './loop-bench.svelte';
	import { LongWork } from './long-work.svelte';
	import Working from './Working.svelte';

	let { bench }: { bench: LoopBench } = $props();
	const work = new LongWork<Schemas['SpreadView']>('/api/loop/spread');
	const spread = $derived(bench.spread);

	async function begin(): Promise<void> {
		bench.spread = null;
		bench.spread = await work.begin(bench.body);
	}
	$effect(() => () => work.stop());
</script>

<p class="say">
	The same settings on 200 plants: friction, curve, the tank’s air, dead time, leak, the sensor’s lag and
	noise drawn as they may well be. The band holds nine in ten of them.
</p>
<p>
	<button type="button" class="act" onclick={() => void begin()} disabled={work.runs}
		>Try on 200 plants</button
	>
</p>
<Working {work} label="Plants tried" />
{#if spread}
	<p class="verdict" data-good={spread.holds >= 0.95 * spread.draws}>
		Holds in <b class="num">{spread.holds}</b> of {spread.draws} plants.
	</p>
	{#if Object.keys(spread.faults).length}
		<ul>
			{#each Object.entries(spread.faults).sort((a, b) => b[1] - a[1]) as [title, many] (title)}
				<li><span class="num">{many}</span> {title}</li>
			{/each}
		</ul>
	{/if}
{/if}

<style>
	.verdict {
		font-size: var(--t4);
		font-weight: 600;
	}
	.verdict[data-good='false'] {
		color: var(--caution);
	}
	ul {
		list-style: none;
		padding: 0;
		font-size: var(--t3);
	}
	li .num {
		display: inline-block;
		min-width: 36px;
		text-align: right;
	}
</style>
