<script lang="ts">
	/** What proves the step in hand: its own way of entering, and what is still to be said of it. */
	import { untrack, type Component } from 'svelte';
	import { inSentence } from '../words';
	import { ProofEntry, type Keep } from './proof-entry.svelte';
	import Choice from './proofs/Choice.svelte';
	import Countdown from './proofs/Countdown.svelte';
	import Listed from './proofs/Listed.svelte';
	import Log from './proofs/Log.svelte';
	import Photo from './proofs/Photo.svelte';
	import Picked from './proofs/Picked.svelte';
	import PutBack from './proofs/PutBack.svelte';
	import Readings from './proofs/Readings.svelte';
	import Table from './proofs/Table.svelte';
	import Tick from './proofs/Tick.svelte';
	import Turns from './proofs/Turns.svelte';
	import Units from './proofs/Units.svelte';
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
	const KINDS: Record<string, Kind> = {
		tick: Tick as Kind,
		countdown: Countdown as Kind,
		choice: Choice as Kind,
		readings: Readings,
		turns: Turns,
		list: Listed as Kind,
		picked: Picked as Kind,
		log: Log,
		put_back: PutBack as Kind,
		units: Units as Kind,
		photo: Photo as Kind,
		table: Table
	};

	const entry = new ProofEntry(
		() => step,
		untrack(() => sheet),
		(...what) => keep(...what)
	);
	const Entering = $derived(KINDS[step.proof]);

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
		<b>{step.proof === 'readings' || step.table ? 'Out of band.' : 'Not proven.'}</b>
		{step.wrong}
	</div>
{/if}
{#if step.lacking.length && step.evidence.length && step.state !== 'failed' && !step.table && step.proof !== 'countdown'}
	<p class="say note">Still to be seen: {step.lacking.map(inSentence).join('; ')}.</p>
{/if}
{#if entry.problem || sheet.said}<p class="problem" role="alert">{entry.problem || sheet.said}</p>{/if}

<style>
	.note {
		margin-top: 6px;
	}
	.problem {
		color: var(--stop);
		font-weight: 600;
		margin-top: 12px;
	}
</style>
