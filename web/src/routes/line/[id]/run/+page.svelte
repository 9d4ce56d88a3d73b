<script lang="ts">
	/** The run sheet: the safe order at the left, the step in hand large, its danger and what it means at the right. */
	import { onDestroy } from 'svelte';
	import Mark from '$lib/components/Mark.svelte';
	import Sentence from '$lib/components/Sentence.svelte';
	import type { Schemas } from '$lib/api/client';
	import { openLine } from '$lib/line/context';
	import Beside from '$lib/run/Beside.svelte';
	import Proof from '$lib/run/Proof.svelte';
	import Refused from '$lib/run/Refused.svelte';
	import { RunSheet, type Kind } from '$lib/run/run-sheet.svelte';
	import Visit from '$lib/run/Visit.svelte';
	import type { Step } from '$lib/run/waiting';
	import { session } from '$lib/session.svelte';
	import { asTitle, clock, inSentence, moment } from '$lib/words';

	const line = openLine();
	const sheet = new RunSheet(line);
	const open = (key: string) => line.openWorking(key);
	let chosen = $state<string | null>(null);
	let gone = false;
	onDestroy(() => (gone = true));
	let busy = $state(false);
	let atVisit = $state(false);

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

	let list = $state<HTMLElement>();

	const run = $derived(sheet.run);
	const steps = $derived<Step[]>(run?.steps ?? []);
	const first = $derived(steps.find((s) => s.state === 'next' || s.state === 'held' || s.state === 'failed'));
	const step = $derived(
		steps.find((s) => s.id === chosen) ?? first ?? steps.find((s) => s.state === 'stale') ?? steps.at(-1)
	);
	const at = $derived(step?.id); // the step may be another object for the same id
	$effect(() => {
		void at;
		const current = list?.querySelector<HTMLElement>('[aria-current]');
		if (list && current) list.scrollTop = current.offsetTop - list.clientHeight / 2;
	});
	const stale = $derived(steps.filter((s) => s.changed.length));
	const done = $derived(steps.filter((s) => s.state === 'done' || s.state === 'left_out').length);
	const overdue = $derived(run?.visit?.instruments.filter((i) => i.overdue) ?? []);
	const title = (id: string) => inSentence(steps.find((s) => s.id === id)?.title ?? id);

	async function keep(
		kind: Kind,
		data: Record<string, unknown> = {},
		note = '',
		typed = '',
		photo?: Blob
	): Promise<void> {
		if (!step) return;
		busy = true;
		const { id, state: was } = step;
		const stood = chosen;
		try {
			await sheet.keep(step, kind, data, note, typed, photo);
			if (gone) return; // the person is on another page by now
			const after = steps.find((s) => s.id === id);
			const settled = after?.state === 'done' || after?.state === 'left_out';
			if (chosen === stood)
				// unless the person has gone elsewhere meanwhile
				chosen = kind !== 'start' && kind !== 'note' && settled && was !== after.state ? null : id;
		} catch (error) {
			sheet.problem = (error as Error).message;
		}
		busy = false;
	}

	function mark(of: Step): string {
		const last = of.evidence.at(-1);
		if (of.waiting) return 'waiting';
		if (of.state === 'left_out') return 'left out';
		if (of.state === 'stale') return 'stale';
		if (of.state === 'held') return 'held';
		if (of.state === 'done' && last) return clock(last.at);
		const read = of.table?.rows.filter((r) => Object.keys(r.read).length).length ?? of.evidence.length;
		const all = of.table?.rows.length ?? of.units;
		return all && read ? `${read} of ${all}` : '';
	}

	function keys(event: KeyboardEvent): void {
		const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
		if (typing || (event.key !== 'j' && event.key !== 'k') || !step) return;
		const at = steps.indexOf(step) + (event.key === 'j' ? 1 : -1);
		chosen = steps[at]?.id ?? chosen;
	}

	function changedText(change: Schemas['ChangedView']): string {
		const said = (v: number | string | null) =>
			v === null ? 'nothing' : typeof v === 'number' ? session.show(v, change.dimension) : v;
		return `${inSentence(change.label)} was ${said(change.was)}, is ${said(change.now)}`;
	}

	const WORDS: Record<string, string> = { left_out: 'left out' };
</script>

<svelte:window onkeydown={keys} />

{#if run && step}
	<div class="two">
		<nav class="list" aria-label="Steps" bind:this={list}>
			<p class="count">
				{done} of {steps.length} done{#if sheet.waiting.length}, <b
						>{sheet.waiting.length} waiting to be sent</b
					>{/if}
			</p>
			<p class="visit">
				<button type="button" aria-expanded={atVisit} onclick={() => (atVisit = !atVisit)}
					>{run.visit ? `${asTitle(run.visit.purpose)}, ${run.visit.by}` : 'Start a visit'}</button
				>
				{#if sheet.told}<button type="button" class="over" onclick={() => (atVisit = true)}
						>From paper: entries carry {moment(sheet.told)}</button
					>{/if}
				{#if overdue.length}<span class="over">calibration over</span>{/if}
				<a href="/line/{line.id}/story">Story</a>
				<a
					href="/api/lines/{line.id}/run.pdf?units={session.system}&paper={session.system === 'us'
						? 'Letter'
						: 'A4'}"
					download>On paper</a
				>
				<a href="/line/{line.id}/trip">It tripped: why?</a>
			</p>
			{#each steps as each, i (each.id)}
				{#if i === 0 || each.phase !== steps[i - 1]?.phase}<h3>{each.phase_label}</h3>{/if}
				<button
					type="button"
					class="step"
					data-state={each.state}
					data-waiting={each.waiting}
					data-first={each === first}
					aria-current={each.id === step.id && !atVisit ? 'step' : undefined}
					onclick={() => {
						chosen = each.id;
						atVisit = false;
					}}
				>
					<span class="dot" aria-hidden="true"></span>{each.title}<span class="t num">{mark(each)}</span>
					<span class="sr-only">{WORDS[each.state] ?? each.state}</span>
				</button>
			{/each}
		</nav>
		{#if atVisit}
			<main class="work"><Visit {sheet} close={() => (atVisit = false)} /></main>
		{:else}
			<main class="work">
				<div>
					{#if sheet.refused}<Refused {sheet} entry={sheet.refused} />{/if}
					<h2>{step.title}</h2>
					<p class="what"><Sentence parts={step.what} {open} /></p>
					<p class="why">{step.why}</p>

					{#if step.state === 'later' || step.stops.length}
						<div class="hold" role="note">
							<b>{step.state === 'later' ? 'Not yet' : 'Held'}.</b>
							{(step.state === 'later' ? step.held_by : step.stops).join('; ')}
						</div>
					{/if}

					<Proof {sheet} {step} {busy} keep={(...what) => void keep(...what)} {open} />
					{#if sheet.problem}<p class="problem" role="alert">{sheet.problem}</p>{/if}
				</div>
				<aside>
					{#if step.danger}
						<div class="care">
							<b>Take care</b>
							<p>{step.danger}</p>
						</div>
					{/if}
					{#if step.table?.pattern && step.table.pattern.id !== 'right'}
						<div class="box" data-severity="caution">
							<Mark severity="caution" /> <b>{step.table.pattern.title}</b>
							<p><Sentence parts={step.table.pattern.because} {open} /> {step.table.pattern.do}</p>
						</div>
					{/if}
					{#each run.standing as each (`${each.step}${each.at}`)}
						<div class="box standing" data-here={each.step === step.id}>
							<Mark severity="caution" /> <b>{each.title}</b>
							<p>{each.words} {each.by}, {moment(each.at)}: “{each.why}”</p>
						</div>
					{/each}
					{#each stale as each (each.id)}
						<div class="box stale">
							<b>Stale: {inSentence(each.title)}</b>
							<p>
								It rested on values that changed: {each.changed.slice(0, 4).map(changedText).join('; ')}.
								Prove it again.
							</p>
							{#if each.id !== step.id}<button
									type="button"
									class="act"
									data-quiet
									onclick={() => (chosen = each.id)}>To that step</button
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
							? `For it waits: ${step.gates.slice(0, 3).map(title).join('; ')}${
									step.gates.length > 3 ? `; and ${step.gates.length - 3} more` : ''
								}.`
							: ''}
					</p>
					<Beside {step} line={line.id} {busy} keep={(...what) => void keep(...what)} />
				</aside>
			</main>
		{/if}
	</div>
{:else}
	<p class="say" style:padding="20px">{sheet.problem || 'Opening the run sheet …'}</p>
{/if}

<style>
	.two {
		display: grid;
		grid-template-columns: 296px minmax(0, 1fr);
		min-height: 0;
	}
	.list {
		position: relative; /* what is hidden in it for screen readers must scroll with it */
		border-right: 1px solid var(--rule);
		background: var(--sheet);
		padding: 8px 0 24px;
		overflow: auto;
		font-size: 14.5px;
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
		font-size: 13.5px;
		font-weight: 600;
	}
	.visit button {
		flex: 1 0 100%;
		text-align: left;
		min-height: 36px;
	}
	.over {
		flex: 1 0 100%;
		color: var(--stop);
		font-size: 13px;
		font-weight: 600;
	}
	.count b {
		color: var(--caution);
	}
	.count {
		padding: 4px 16px 0;
		color: var(--ink-3);
		font-size: 12.5px;
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
	.problem {
		color: var(--stop);
		font-weight: 600;
		margin-top: 12px;
	}
	.standing:not([data-here='true']) {
		border-style: dotted;
	}
	.t {
		font-size: 12px;
		color: var(--ink-3);
		font-weight: 500;
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
		font-size: 24px;
		font-weight: 680;
		margin-bottom: 6px;
	}
	.what {
		font-size: 17px;
		max-width: 52ch;
	}
	.why {
		color: var(--ink-2);
		font-size: 14.5px;
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
	.care {
		border-left: 5px solid var(--stop);
		background: var(--stop-wash);
		padding: 12px 14px;
		border-radius: 0 var(--r) var(--r) 0;
	}
	.care b {
		color: var(--stop);
		font-size: 15.5px;
	}
	.care p {
		font-size: 14.5px;
		margin-top: 3px;
	}
	.box {
		background: var(--sheet);
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		padding: 12px 14px;
		margin-top: 14px;
		font-size: 14px;
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
	@media (max-width: 1000px) {
		.two {
			grid-template-columns: 220px minmax(0, 1fr);
		}
		.work {
			grid-template-columns: minmax(0, 1fr);
			padding: 14px;
		}
		.work aside {
			grid-row: 1;
		}
	}
</style>
