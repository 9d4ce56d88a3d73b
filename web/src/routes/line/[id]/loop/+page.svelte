<script lang="ts">
	/** The loop bench: the plant tried with its settings, what that means, and the tools that find better ones. */
	import { session } from '$lib/session.svelte';
	import CurveChart from '$lib/components/CurveChart.svelte';
	import { openLine } from '$lib/line/context';
	import Deciding from '$lib/loop/Deciding.svelte';
	import KnobPanel from '$lib/loop/KnobPanel.svelte';
	import { LoopBench } from '$lib/loop/loop-bench.svelte';
	import LoopTrace from '$lib/loop/LoopTrace.svelte';
	import Meanings from '$lib/loop/Meanings.svelte';
	import Tools from '$lib/loop/Tools.svelte';
	import TryBar from '$lib/loop/TryBar.svelte';

	const line = openLine();
	const bench = new LoopBench(line);
	const loop = $derived(bench.loop);
	const open = (key: string) => bench.openWorking(key);
	const sentence = (text: string) => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}.`;
	const TITLES: Record<string, string> = {
		header: 'On its plant',
		room: 'In its room',
		flow: 'Behind its valve',
		level: 'In its pit',
		heat: 'On its heat',
		open: 'As ordered'
	};

	$effect(() => bench.ask());
</script>

<div class="two" style:--wide="318px" style:--narrow="250px">
	<main>
		<header>
			<h2>{TITLES[loop?.plant ?? ''] ?? 'Loop bench'}</h2>
			{#if loop && !loop.missing}<TryBar {bench} />{/if}
			<span class="gap"></span>
			{#if bench.moved}<button class="act" data-quiet onclick={() => bench.letGo()}>Back to the plan</button
				>{/if}
			<button class="act" onclick={() => void bench.propose()} disabled={!loop || loop.missing !== ''}
				>Use these settings</button
			>
		</header>
		<Deciding {bench} />
		{#if bench.problem}<p class="problem" role="alert">{bench.problem}</p>{/if}
		<section class="sheet trace">
			{#if loop && loop.times.length}<LoopTrace {bench} />
			{:else}<p class="say pad">{loop ? sentence(session.words(loop.missing)) : 'Running the loop …'}</p>{/if}
		</section>
		<div class="lower">
			<section class="sheet meaning"><Meanings {bench} {open} /></section>
			<section class="sheet curve">
				{#if loop && loop.curves.machine.length}<CurveChart curves={loop.curves} />
				{:else}<p class="say pad">{session.words(loop?.curves.missing ?? '')}</p>{/if}
			</section>
		</div>
		<Tools {bench} {line} />
	</main>
	<KnobPanel {bench} {open} />
</div>

<style>
	main {
		padding: 12px 18px 20px;
		overflow: auto;
		position: relative;
	}
	header {
		display: flex;
		flex-wrap: wrap;
		align-items: end;
		gap: 8px 14px;
	}
	header h2 {
		align-self: center;
	}
	.gap {
		flex: 1;
	}
	.trace {
		margin-top: 8px;
		padding: 4px 0;
	}
	.lower {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		gap: 12px;
		margin-top: 12px;
	}
	.curve {
		padding: 4px 0;
	}
	.meaning {
		padding: 10px 14px;
	}
	.pad {
		padding: 20px;
	}
	@media (max-width: 1000px) {
		.lower {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
