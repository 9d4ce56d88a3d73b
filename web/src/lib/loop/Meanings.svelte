<script lang="ts">
	/** What the trial means: each judgement with its numbers, what to do, and the settings that it is about. */
	import Mark from '../components/Mark.svelte';
	import Num from '../components/Num.svelte';
	import Sentence from '../components/Sentence.svelte';
	import type { LoopBench } from './loop-bench.svelte';

	let { bench, open }: { bench: LoopBench; open: (key: string) => void } = $props();
	const loop = $derived(bench.loop);
	const TOTALS = [
		['energy', 'Shaft work'],
		['pumped', 'Brought'],
		['starts', 'Starts'],
		['starts_an_hour', 'Rate'],
		['awake', 'Ran']
	] as const;
	const named = (setting: string): string => loop?.knobs.find((k) => k.setting === setting)?.label ?? '';
</script>

<h2>What it means</h2>
{#each loop?.meaning ?? [] as said, i (i)}
	<p class="said" data-severity={said.severity}>
		<Mark severity={said.severity} named />
		<span
			><b>{said.title}.</b>
			<Sentence parts={said.because} {open} />
			{#if said.do.length}<em><Sentence parts={said.do} {open} /></em>{/if}
			{#if said.severity !== 'clear' && said.settings.some(named)}<small
					>{said.settings.map(named).filter(Boolean).join(', ')}</small
				>{/if}</span
		>
	</p>
{/each}
{#if loop}
	<dl>
		{#each TOTALS as [name, label] (name)}
			{@const figure = loop.totals[name]}
			{#if figure}<div>
					<dt>{label}</dt>
					<dd class="num"><Num {figure} {open} /></dd>
				</div>{/if}
		{/each}
	</dl>
{/if}

<style>
	.said {
		display: flex;
		gap: 8px;
		padding: 7px 0;
		border-bottom: 1px solid var(--rule);
		font-size: var(--t3);
		color: var(--ink-2);
		line-height: 1.35;
	}
	.said > :global(svg) {
		margin-top: 2px;
	}
	.said[data-severity='caution'] b,
	.said[data-severity='stop'] b {
		color: var(--tone);
	}
	em {
		font-style: normal;
		font-weight: 600;
		color: var(--steel);
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-3);
	}
	dl {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 18px;
		margin: 8px 0 0;
	}
	dt {
		font-size: var(--t1);
		color: var(--ink-3);
	}
	dd {
		margin: 0;
	}
</style>
