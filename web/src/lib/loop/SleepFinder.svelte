<script lang="ts">
	/** The sleep settings as they are found by hand, on the model; then from the frequency read on site. */
	import { answer, api, type Schemas } from '../api/client';
	import Num from '../components/Num.svelte';
	import Sentence from '../components/Sentence.svelte';
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';

	let { bench }: { bench: LoopBench } = $props();
	let read = $state('');
	let found = $state.raw<Schemas['SleepView'] | null>(null);
	let problem = $state('');
	let busy = $state(false);
	let measured: number | null = null;
	const open = (key: string): void => bench.openWorking(key, measured);

	async function find(): Promise<void> {
		const typed = read.trim() ? session.units.parse(read, 'frequency', session.system) : null;
		if (typeof typed === 'string') return void (problem = `${read}: ${typed}`);
		measured = typed;
		busy = true;
		try {
			found = await answer(api.POST('/api/loop/sleep', { body: { ...bench.body, measured } }));
			problem = '';
		} catch (error) {
			problem = (error as Error).message;
		} finally {
			busy = false;
		}
	}

	async function decide(): Promise<void> {
		if (!found) return;
		bench.take(found.moved);
		await bench.propose(
			measured === null
				? 'Sleep found on the model.'
				: `Held at ${read.trim()} Hz, read on site, the valve shut.`
		);
	}
</script>

<div class="ask">
	<label
		>Held at, read on site
		<span
			><input
				class="field"
				inputmode="decimal"
				aria-label="Frequency that held at no demand, read on site"
				bind:value={read}
				placeholder={bench.loop?.figures['hold_frequency']?.value.toFixed(1)}
			/> Hz</span
		></label
	>
	<button type="button" class="act" onclick={() => void find()} disabled={busy}
		>{read.trim() ? 'Go on from the reading' : 'Find it on the model'}</button
	>
</div>
{#if problem}<p class="problem" role="alert">{session.words(problem)}</p>{/if}
{#if found}
	<ol>
		{#each found.steps as step (step.title)}
			<li><b>{step.title}.</b> <Sentence parts={step.words} {open} /></li>
		{/each}
	</ol>
	{#if found.refit.length}<p class="refit"><Sentence parts={found.refit} {open} /></p>{/if}
	<p class="say">
		On the model it settles at <Num figure={found.hold_seen} {open} /> after <Num
			figure={found.settles}
			{open}
		/>.
	</p>
	<table>
		<thead
			><tr><th class="r">Leak</th><th class="r">Starts, run</th><th class="r">By the tank’s drawdown</th></tr
			></thead
		>
		<tbody>
			{#each found.leaks as leak, i (i)}
				<tr>
					<td class="r num"><Num figure={leak.leak} {open} /></td>
					<td class="r num"><Num figure={leak.seen} {open} /></td>
					<td class="r num"
						>{#if leak.told}<Num figure={leak.told} {open} />{:else}–{/if}</td
					>
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="say"><Sentence parts={found.tank} {open} /></p>
	<p>
		<button type="button" class="act" onclick={() => void decide()}>Take low limit and sleep frequency</button
		>
	</p>
{/if}

<style>
	.ask {
		display: flex;
		flex-wrap: wrap;
		gap: 12px;
		align-items: end;
	}
	label {
		display: grid;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.field {
		width: 100px;
		text-align: right;
	}
	ol {
		padding-left: 22px;
		font-size: var(--t3);
		line-height: 1.45;
	}
	.refit {
		border-left: 3px solid var(--brass);
		padding-left: 10px;
	}
	table {
		border-collapse: collapse;
		font-size: var(--t3);
	}
	th,
	td {
		padding: 4px 14px 4px 0;
	}
	th {
		font-size: var(--t1);
		color: var(--ink-3);
	}
	.r {
		text-align: right;
	}
</style>
