<script lang="ts">
	/** The run sheet: the safe order at the left, the step in hand large, its danger and what it means at the right. */
	import { onDestroy } from 'svelte';
	import { MediaQuery } from 'svelte/reactivity';
	import Sentence from '$lib/components/Sentence.svelte';
	import Care from '$lib/run/Care.svelte';
	import { openLine } from '$lib/line/context';
	import Proof from '$lib/run/Proof.svelte';
	import Refused from '$lib/run/Refused.svelte';
	import { RunPage } from '$lib/run/run-page.svelte';
	import { RunSheet } from '$lib/run/run-sheet.svelte';
	import StepCare from '$lib/run/StepCare.svelte';
	import StepList from '$lib/run/StepList.svelte';
	import Visit from '$lib/run/Visit.svelte';
	import { session } from '$lib/session.svelte';

	const line = openLine();
	const narrow = new MediaQuery('max-width: 1000px');
	const sheet = new RunSheet(line);
	const at = new RunPage(sheet);
	const open = (key: string) => line.openWorking(key);
	const step = $derived(at.step);
	onDestroy(() => (at.gone = true));

	$effect(() => {
		void line.version;
		void sheet.load();
	});
	$effect(() => {
		// somebody else, or another tab, kept something; what could not be read is read at the next beat
		if (line.told.seq > sheet.seq && sheet.seq > 0) void sheet.load();
	});
	$effect(() => {
		if (session.reachable && sheet.waiting.length) void sheet.send();
	});

	function keys(event: KeyboardEvent): void {
		const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
		if (!typing && (event.key === 'j' || event.key === 'k')) at.move(event.key === 'j' ? 1 : -1);
	}
</script>

<svelte:window onkeydown={keys} />

{#if step}
	<div class="two" data-beside="left" style:--wide="296px" style:--narrow="220px">
		<StepList {at} />
		<main class="work" data-listed={at.atList}>
			{#if at.atVisit}
				<Visit {sheet} close={() => (at.atVisit = false)} />
			{:else}
				<div>
					{#if sheet.refused}<Refused {sheet} entry={sheet.refused} />{/if}
					<h2>{step.title}</h2>
					<p class="what"><Sentence parts={step.what} {open} /></p>
					<p class="why">{step.why}</p>
					{#if step.danger && narrow.current}<Care words={step.danger} />{/if}

					{#if step.state === 'later' || step.stops.length}
						<div class="hold" role="note">
							<b>{step.state === 'later' ? 'Not yet' : 'Held'}.</b>
							{(step.state === 'later' ? step.held_by : step.stops).join('; ')}
						</div>
					{/if}

					<Proof {sheet} {step} busy={at.busy} keep={(...what) => void at.keep(...what)} {open} />
					{#if sheet.problem}<p class="problem" role="alert">{sheet.problem}</p>{/if}
				</div>
				<StepCare {at} {step} {open} danger={!narrow.current} />
			{/if}
			<div class="thumb">
				<button type="button" class="act" data-quiet aria-label="The step before" onclick={() => at.move(-1)}
					>‹</button
				>
				<button
					type="button"
					class="act"
					data-quiet
					aria-expanded={at.atList}
					onclick={() => (at.atList = !at.atList)}
					>{at.atList ? 'To the step' : `Steps, ${at.done} of ${at.steps.length}`}</button
				>
				<button type="button" class="act" data-quiet aria-label="The step after" onclick={() => at.move(1)}
					>›</button
				>
			</div>
		</main>
	</div>
{:else}
	<p class="say" style:padding="20px">{sheet.problem || 'Opening the run sheet …'}</p>
{/if}

<style>
	.problem {
		margin-top: 12px;
	}
	.work {
		padding: 18px 24px 30px;
		display: grid;
		grid-template-columns: minmax(0, 1fr) 320px;
		gap: 24px;
		align-content: start;
		overflow: auto;
	}
	.work h2 {
		font-size: var(--t5);
		font-weight: 680;
		margin-bottom: 6px;
	}
	.what {
		font-size: var(--t4);
		max-width: 52ch;
	}
	.why {
		color: var(--ink-2);
		font-size: var(--t3);
		max-width: 56ch;
		margin-top: 4px;
	}
	.work :global(.actions) {
		display: flex;
		gap: 12px;
		margin-top: 18px;
		flex-wrap: wrap;
	}
	.work :global(.hold) {
		border-left: 5px solid var(--stop);
		background: var(--stop-wash);
		padding: 10px 14px;
		margin-top: 14px;
		border-radius: 0 var(--r) var(--r) 0;
		max-width: 60ch;
	}
	.thumb {
		display: none;
	}
	@media (max-width: 600px) {
		.work {
			padding: 14px 14px 84px;
		}
		.work[data-listed='true'] > :global(:not(.thumb)) {
			display: none;
		}
		.work :global(.actions .act) {
			flex: 1 0 100%;
			min-height: 60px;
		}
		.thumb {
			position: fixed;
			inset: auto 0 0;
			z-index: 5;
			display: grid;
			grid-template-columns: 64px minmax(0, 1fr) 64px;
			gap: 10px;
			padding: 10px 14px;
			background: var(--sheet);
			border-top: 1px solid var(--rule-strong);
		}
		.thumb .act {
			min-height: 56px;
			font-size: var(--t4);
		}
	}
	@media (max-width: 1000px) {
		.work {
			grid-template-columns: minmax(0, 1fr);
			padding: 14px;
		}
	}
</style>
