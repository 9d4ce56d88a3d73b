<script lang="ts" module>
	const kindOf = (path: string): string =>
		(path.split('/').at(-1) ?? '')
			.replace('.svelte', '')
			.replace(/(?<=.)[A-Z]/g, '_$&')
			.toLowerCase();
</script>

<script lang="ts">
	/** What proves the step in hand: its own way of entering, and what is still to be said of it. */
	import { untrack, type Component } from 'svelte';
	import { inSentence } from '../words';
	import { asks } from './counts';
	import { ProofEntry, type Keep } from './proof-entry.svelte';
	import type { RunSheet } from './run-sheet.svelte';
	import Schools from './Schools.svelte';
	import type { Step } from './waiting';

	let {
		sheet,
		step,
		busy,
		keep,
		open
	}: { sheet: RunSheet; step: Step; busy: boolean; keep: Keep; open: (key: string) => void } = $props();

	type Kind = Component<{ entry: ProofEntry; busy: boolean; open: (key: string) => void }>;
	/** A component for each kind of proof: `PutBack.svelte` is for the kind `put_back`. */
	const FOUND = import.meta.glob<Kind>('./proofs/*.svelte', { eager: true, import: 'default' });
	const KINDS = new Map(Object.entries(FOUND).map(([path, component]) => [kindOf(path), component]));

	const entry = new ProofEntry(
		() => step,
		untrack(() => sheet),
		(...what) => keep(...what)
	);
	const Entering = $derived(KINDS.get(step.proof));

	const at = $derived(step.id); // the step may be another object for the same id
	$effect(() => {
		void at;
		untrack(() => {
			entry.begin();
			sheet.said = '';
		});
	});
</script>

{#if entry.beside}
	<Schools schools={step.schools} chosen={entry.school} choose={(id) => entry.type('school', id)} />
{/if}

{#if Entering}<Entering {entry} {busy} {open} />{/if}

{#if step.wait_on_paper && step.state === 'next'}
	<p class="say note">
		{step.wait_on_paper}: entered from paper. That opens nothing that is done now; start the clock there
		first.
	</p>
{/if}
{#if step.state === 'failed' && step.wrong && !entry.doubt}
	<div class="hold">
		<b>{step.evidence.some((e) => !e.passed && e.out.length) ? 'Out of band.' : 'Not proven.'}</b>
		{step.wrong}
	</div>
{/if}
{#if step.lacking.length && step.evidence.length && step.state !== 'failed' && !step.table && !asks(step.rules, 'wait').length}
	<p class="say note">Still to be seen: {step.lacking.map(inSentence).join('; ')}.</p>
{/if}
{#if entry.problem || sheet.said}<p class="problem" role="alert">{entry.problem || sheet.said}</p>{/if}

<style>
	.note {
		margin-top: 6px;
	}
	.problem {
		margin-top: 12px;
	}
</style>
