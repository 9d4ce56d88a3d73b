<script lang="ts">
	/** The loop bench: ten minutes at the tap, the curves, and what they mean; every value can be moved. */
	import { session } from '$lib/session.svelte';
	import CurveChart from '$lib/components/CurveChart.svelte';
	import Mark from '$lib/components/Mark.svelte';
	import Sentence from '$lib/components/Sentence.svelte';
	import Trace from '$lib/components/Trace.svelte';
	import { openLine } from '$lib/line/context';
	import { LoopBench } from '$lib/loop/loop-bench.svelte';
	import StepTest from '$lib/loop/StepTest.svelte';
	import TuningPanel from '$lib/loop/TuningPanel.svelte';

	const line = openLine();
	const bench = new LoopBench(line);
	const loop = $derived(bench.loop);
	const open = (key: string) => bench.openWorking(key);
	const sentence = (text: string) => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}.`;

	/** Only a pump that holds a pressure is tried here; the other loops begin from the sheet. */
	const tries = $derived(
		line.assessment === null ||
			line.assessment.traits.includes('rests') ||
			!line.assessment.traits.some((trait) => trait.startsWith('holds:'))
	);

	$effect(() => bench.ask());
</script>

<div class="two" style:--wide="318px" style:--narrow="250px">
	<main>
		<header>
			<h2>Ten minutes at the tap</h2>
			<span class="say">demand falls, ends, a leak remains, then much is drawn</span>
			<span class="gap"></span>
			{#if bench.moved}<button class="act" data-quiet onclick={() => bench.letGo()}>Back to the plan</button
				>{/if}
			<button class="act" onclick={() => void bench.propose()} disabled={!loop || loop.missing !== ''}
				>Use these settings</button
			>
		</header>
		{#if bench.changes}
			<div class="changes" role="alertdialog" aria-label="Decide what was tried">
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
				<p class="say">Decided with the reason “Tried on the loop bench”; everything else stays as it is.</p>
				<button class="act" onclick={() => void bench.decide()}>Decide these</button>
				<button class="act" data-quiet onclick={() => (bench.changes = null)}>No</button>
			</div>
		{/if}
		{#if bench.problem}<p class="problem" role="alert">{bench.problem}</p>{/if}
		<section class="sheet trace">
			{#if loop && loop.times.length}<Trace {loop} />
			{:else}<p class="say pad">{loop ? sentence(session.words(loop.missing)) : 'Running the loop …'}</p>{/if}
		</section>
		<div class="lower">
			<section class="sheet curve">
				{#if loop && loop.curves.machine.length}<CurveChart curves={loop.curves} />
				{:else}<p class="say pad">{session.words(loop?.curves.missing ?? '')}</p>{/if}
			</section>
			<section class="sheet meaning">
				<h2>What it means</h2>
				{#each loop?.meaning ?? [] as said, i (i)}
					<p data-severity={said.severity}>
						<Mark severity={said.severity} named />
						<span
							><b>{said.title}.</b>
							<Sentence parts={said.because} {open} />
							{#if said.do.length}<em><Sentence parts={said.do} {open} /></em>{/if}</span
						>
					</p>
				{/each}
			</section>
		</div>
		{#if line.assessment?.traits.includes('loop')}<StepTest {line} />{/if}
	</main>
	<TuningPanel {bench} {tries} {open} />
</div>

<style>
	main {
		padding: 12px 18px 20px;
		overflow: auto;
		position: relative;
	}
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
	.changes p {
		flex: 1 1 200px;
	}
	.changes th {
		text-align: left;
		font-weight: 600;
	}
	.changes td {
		padding: 2px 8px;
		text-align: right;
	}
	header {
		display: flex;
		align-items: center;
		gap: 12px;
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
	.meaning p {
		display: flex;
		gap: 8px;
		padding: 7px 0;
		border-bottom: 1px solid var(--rule);
		font-size: 14px;
		color: var(--ink-2);
		line-height: 1.35;
	}
	.meaning p > :global(svg) {
		margin-top: 2px;
	}
	.meaning p[data-severity='caution'] b,
	.meaning p[data-severity='stop'] b {
		color: var(--tone);
	}
	em {
		font-style: normal;
		font-weight: 600;
		color: var(--steel);
	}
	.pad {
		padding: 20px;
	}
	.problem {
		color: var(--stop);
		font-weight: 600;
	}
	@media (max-width: 1000px) {
		.lower {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
