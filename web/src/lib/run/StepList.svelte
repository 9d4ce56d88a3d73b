<script lang="ts">
	/** The safe order, each step with its state; above it who is here and what else there is to do. */
	import { session } from '../session.svelte';
	import { asTitle, moment } from '../words';
	import { markOf, type RunPage } from './run-page.svelte';

	let { at }: { at: RunPage } = $props();

	const sheet = $derived(at.sheet);
	const run = $derived(sheet.run);
	const overdue = $derived(run?.visit?.instruments.filter((i) => i.overdue) ?? []);
	let list = $state<HTMLElement>();
	const inHand = $derived(at.step?.id); // the step may be another object for the same id
	$effect(() => {
		void inHand;
		const current = list?.querySelector<HTMLElement>('[aria-current]');
		if (list && current) list.scrollTop = current.offsetTop - list.clientHeight / 2;
	});

	const WORDS: Record<string, string> = { left_out: 'left out' };
</script>

<nav class="list" aria-label="Steps" data-open={at.atList} bind:this={list}>
	<p class="count">
		{at.done} of {at.steps.length} done{#if sheet.unsent}, <b>{sheet.unsent} waiting to be sent</b>{/if}
	</p>
	<p class="visit">
		<button
			type="button"
			aria-expanded={at.atVisit}
			onclick={() => {
				at.atVisit = !at.atVisit;
				at.atList = false;
			}}>{run?.visit ? `${asTitle(run.visit.purpose)}, ${run.visit.by}` : 'Start a visit'}</button
		>
		{#if sheet.told}<button type="button" class="over" onclick={() => (at.atVisit = true)}
				>From paper: entries carry {moment(sheet.told)}</button
			>{/if}
		{#if overdue.length}<span class="over">calibration over</span>{/if}
		<a href="/line/{sheet.line.id}/story">Story</a>
		<a
			href="/api/lines/{sheet.line.id}/run.pdf?units={session.system}&paper={session.units.system(
				session.system
			)?.paper}"
			download>On paper</a
		>
		<a href="/line/{sheet.line.id}/trip">It tripped: why?</a>
	</p>
	{#each at.steps as each, i (each.id)}
		{#if i === 0 || each.phase !== at.steps[i - 1]?.phase}<h3>{each.phase_label}</h3>{/if}
		<button
			type="button"
			class="step"
			data-state={each.state}
			data-waiting={each.waiting}
			data-first={each === at.first}
			aria-current={each.id === at.step?.id && !at.atVisit ? 'step' : undefined}
			onclick={() => at.goTo(each.id)}
		>
			<span class="dot" aria-hidden="true"></span>{each.title}<span class="t num">{markOf(each)}</span>
			<span class="sr-only">{WORDS[each.state] ?? each.state}</span>
		</button>
	{/each}
</nav>

<style>
	.list {
		position: relative; /* what is hidden in it for screen readers must scroll with it */
		border-right: 1px solid var(--rule);
		background: var(--sheet);
		padding: 8px 0 24px;
		overflow: auto;
		font-size: var(--t3);
	}
	@media (max-width: 600px) {
		.list {
			border: 0;
			padding-bottom: 84px;
		}
		.list[data-open='false'] {
			display: none;
		}
	}
	.visit {
		display: flex;
		flex-wrap: wrap;
		column-gap: 14px;
		padding: 0 16px;
	}
	.visit a,
	.visit button {
		display: inline-flex;
		align-items: center;
		min-height: 44px;
		color: var(--steel);
		font-size: var(--t2);
		font-weight: 600;
	}
	.visit button {
		display: inline-flex;
		align-items: center;
		min-height: 44px;
		color: var(--steel);
		font-size: var(--t2);
		font-weight: 600;
	}
	.over {
		flex: 1 0 100%;
		color: var(--stop);
		font-size: var(--t2);
		font-weight: 600;
	}
	.count b {
		color: var(--caution);
	}
	.count {
		padding: 4px 16px 0;
		color: var(--ink-3);
		font-size: var(--t1);
	}
	.list h3 {
		padding: 11px 16px 3px;
	}
	.list .step {
		display: grid;
		grid-template-columns: 22px minmax(0, 1fr) auto auto;
		gap: 8px;
		width: 100%;
		min-height: 44px;
		padding: 4px 16px;
		align-items: center;
		text-align: left;
		color: var(--ink-2);
		background: none;
		border: 0;
		cursor: pointer;
	}
	.list .step[aria-current] {
		background: var(--brass-wash);
		color: var(--ink);
		font-weight: 650;
		box-shadow: inset 4px 0 0 var(--brass);
	}
	.list .step[data-state='later'] {
		color: var(--ink-3);
	}
	.list .step[data-state='stale'] {
		color: var(--caution);
	}
	.list .step[data-state='held'],
	.list .step[data-state='failed'] {
		color: var(--stop);
	}
	.dot {
		width: 14px;
		height: 14px;
		border-radius: 50%;
		border: 1.6px solid var(--rule-strong);
	}
	[data-state='done'] .dot {
		background: var(--clear);
		border-color: var(--clear);
	}
	[data-state='next'] .dot {
		border: 2px solid var(--brass);
	}
	[data-first='true'] .dot {
		border-width: 4px;
	}
	[data-state='stale'] .dot {
		border: 1.8px dashed var(--caution);
	}
	[data-state='held'] .dot,
	[data-state='failed'] .dot {
		border-radius: 0;
		background: var(--stop);
		border-color: var(--stop);
	}
	[data-state='left_out'] .dot {
		border: 1.8px solid var(--caution);
		border-radius: 0;
		transform: rotate(45deg);
	}
	[data-waiting='true'] .t {
		color: var(--caution);
		font-weight: 650;
	}
	.t {
		font-size: var(--t1);
		color: var(--ink-3);
		font-weight: 500;
	}
</style>
