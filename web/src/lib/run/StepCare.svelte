<script lang="ts">
	/** Beside the step in hand: its danger, what its readings mean, what stands open, who kept it and what waits for it. */
	import Mark from '../components/Mark.svelte';
	import Sentence from '../components/Sentence.svelte';
	import { inSentence, moment } from '../words';
	import Beside from './Beside.svelte';
	import Care from './Care.svelte';
	import { changedText, type RunPage } from './run-page.svelte';
	import type { Step } from './waiting';

	let {
		at,
		step,
		open,
		danger = true
	}: { at: RunPage; step: Step; open: (key: string) => void; danger?: boolean } = $props();
</script>

<aside>
	{#if danger && step.danger}<Care words={step.danger} />{/if}
	{#if step.table?.pattern && step.table.pattern.id !== 'right'}
		<div class="box" data-severity="caution">
			<Mark severity="caution" /> <b>{step.table.pattern.title}</b>
			<p><Sentence parts={step.table.pattern.because} {open} /> {step.table.pattern.do}</p>
		</div>
	{/if}
	{#each at.sheet.run?.standing ?? [] as each (`${each.step}${each.at}`)}
		<div class="box standing" data-here={each.step === step.id}>
			<Mark severity="caution" /> <b>{each.title}</b>
			<p>{each.words} {each.by}, {moment(each.at)}: “{each.why}”</p>
		</div>
	{/each}
	{#if at.behind.length && step.id !== 'finish.put_back'}
		<div class="box behind">
			<b>To be put back</b>
			<p>{at.behind.map((e) => e.data['what']).join('; ')}</p>
			<button type="button" class="act" data-quiet onclick={() => at.goTo('finish.put_back')}
				>To the list</button
			>
		</div>
	{/if}
	{#each at.stale as each (each.id)}
		<div class="box stale">
			<b>Stale: {inSentence(each.title)}</b>
			<p>
				It rested on values that changed: {each.changed.slice(0, 4).map(changedText).join('; ')}. Prove it
				again.
			</p>
			{#if each.id !== step.id}<button type="button" class="act" data-quiet onclick={() => at.goTo(each.id)}
					>To that step</button
				>{/if}
		</div>
	{/each}
	{#each step.evidence.slice(-1) as kept (kept.id)}
		<p class="say by">
			{kept.passed ? 'Kept' : 'Entered'} by {kept.by}, {moment(kept.at)}{#if kept.instrument},
				{kept.instrument.name}{#if kept.instrument.overdue}
					<b>(calibration over)</b>{/if}{/if}{#if kept.received}; {kept.paper
					? 'from paper, typed in'
					: 'made without a link, sent'}
				{moment(kept.received)}{/if}.
			{#if kept.note}“{kept.note}”{/if}
		</p>
	{/each}
	<p class="say by">
		Proof: {step.proven}.
		{step.gates.length
			? `For it waits: ${step.gates
					.slice(0, 3)
					.map((id) => at.titleOf(id))
					.join('; ')}${step.gates.length > 3 ? `; and ${step.gates.length - 3} more` : ''}.`
			: ''}
	</p>
	<Beside
		{step}
		line={at.sheet.line.id}
		busy={at.busy}
		behind={(what) => void at.changedForNow(what)}
		keep={(...what) => void at.keep(...what)}
	/>
</aside>

<style>
	.standing:not([data-here='true']) {
		border-style: dotted;
	}
	.box {
		background: var(--sheet);
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		padding: 12px 14px;
		margin-top: 14px;
		font-size: var(--t3);
	}
	.box b {
		color: var(--caution);
	}
	.box p {
		color: var(--ink-2);
		margin-top: 4px;
	}
	.box .act {
		margin-top: 8px;
	}
	.stale {
		border: 1px dashed var(--caution);
	}
	.by {
		margin-top: 12px;
	}
</style>
