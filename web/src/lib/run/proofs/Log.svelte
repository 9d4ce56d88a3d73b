<script lang="ts">
	/** What the display and its log show of a trip, as they stand. */
	import { faultOf, faultsOf, type Fault } from '../../families/faults';
	import { openLine } from '../../line/context';
	import type { ProofEntry } from '../proof-entry.svelte';
	import Cells from '../Cells.svelte';

	let { entry, busy, open }: { entry: ProofEntry; busy: boolean; open: (key: string) => void } = $props();

	const TEXTS = { code: 'Code on the display', dated: 'Its date in the log' };
	const said = (name: string) => entry.text(name) || String(entry.last?.data[name] ?? '');

	const line = openLine();
	const family = $derived(String(line.entry('drive.family')?.value ?? ''));
	let faults = $state.raw<Fault[]>([]);
	$effect(() => {
		const asked = family;
		if (!asked) return;
		void faultsOf(asked).then((found) => {
			if (asked !== family) return;
			faults = found;
			if (!said('trip')) means(said('code')); // typed before the map was there
		});
	});
	const fault = $derived(faultOf(faults, said('code')));

	/** The map of this drive says what a code means. */
	function means(code: string): void {
		const trip = faultOf(faults, code)?.trip;
		if (trip) entry.type('trip', trip);
	}

	function type(name: string, text: string): void {
		entry.type(name, text);
		if (name === 'code') means(text);
	}

	function keep(): void {
		const read = entry.allReadings();
		if (!read) return;
		const words = Object.fromEntries(Object.keys(TEXTS).map((name) => [name, said(name)]));
		entry.keep('log', { ...read, ...words, trip: said('trip'), when: said('when') }, '', entry.step.id);
	}
</script>

{#snippet pick(name: string, label: string, choices: Record<string, string>)}
	<fieldset>
		<legend>{label}</legend>
		{#each Object.entries(choices) as [id, words] (id)}
			<button
				type="button"
				class="act"
				data-quiet={said(name) === id ? undefined : true}
				aria-pressed={said(name) === id}
				onclick={() => entry.type(name, id)}>{words}</button
			>
		{/each}
	</fieldset>
{/snippet}

<div class="texts">
	{#each Object.entries(TEXTS) as [name, label] (name)}
		<label
			>{label}
			<input
				class="field"
				autocomplete="off"
				maxlength="60"
				value={said(name)}
				oninput={(event) => type(name, event.currentTarget.value)}
			/></label
		>
	{/each}
</div>
{#if fault}<p class="say">
		<b>{fault.code} {Object.values(fault.label ?? {})[0] ?? ''}</b>, by the map of this drive.
	</p>{/if}
{@render pick('trip', 'What kind of trip', entry.step.choices)}
{@render pick('when', 'What it was doing', entry.step.items)}
<Cells {entry} {open} />
<div class="actions">
	<button class="act" data-big disabled={busy || entry.shut || !said('trip') || !said('when')} onclick={keep}
		>Keep it as found</button
	>
</div>

<style>
	.texts {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
		gap: 12px;
		max-width: 640px;
		margin-top: 14px;
	}
	label {
		display: grid;
		gap: 3px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.field,
	fieldset .act {
		min-height: 44px;
	}
	fieldset {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		margin-top: 14px;
		max-width: 640px;
	}
	legend {
		font-size: var(--t1);
		font-weight: 600;
		color: var(--ink-3);
		padding-bottom: 4px;
	}
</style>
