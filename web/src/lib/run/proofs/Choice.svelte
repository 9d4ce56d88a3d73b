<script lang="ts">
	/** What was seen, of a few possibilities; some ask who decided it and why. */
	import { session } from '../../session.svelte';
	import type { ProofEntry } from '../proof-entry.svelte';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	const step = $derived(entry.step);
	/** Each choice is a way of doing it, or a cause, with its own reason. */
	const reasons = $derived(Object.keys(step.choices).every((id) => id in step.schools));
	let why = $state('');
	/** A choice whose way of doing it asks for a reason first. */
	let asking = $state('');
	const at = $derived(step.id);
	$effect(() => {
		void at;
		asking = '';
		why = '';
	});

	function choose(id: string): void {
		const asks = step.schools[id]?.asks_why ?? step.schools[entry.school]?.asks_why;
		if (asks && !why.trim()) {
			asking = id;
			return;
		}
		entry.keep(
			'choice',
			{ choice: id, ...(entry.beside ? { school: entry.school } : {}) },
			asks ? why : '',
			step.id
		);
		asking = '';
		why = '';
	}
</script>

{#if reasons}
	<dl>
		{#each Object.entries(step.choices) as [id, label] (id)}
			<dt>{session.words(label)}</dt>
			<dd>{session.words(step.schools[id]?.why ?? '')}</dd>
		{/each}
	</dl>
{/if}
<div class="actions">
	{#each Object.entries(step.choices) as [id, label], i (id)}
		<button
			class="act"
			data-big
			data-quiet={(step.right === '*' ? i > 0 : id !== step.right) ? true : undefined}
			aria-pressed={entry.last?.data['choice'] === id}
			disabled={busy || entry.shut}
			onclick={() => choose(id)}>{label}</button
		>
	{/each}
</div>
{#if asking}
	<div class="why">
		<label
			>Who decided it and why; it stays on this sheet
			<input class="field" bind:value={why} maxlength="2000" autocomplete="off" /></label
		>
		<button type="button" class="act" disabled={!why.trim()} onclick={() => choose(asking)}>Keep it so</button
		>
	</div>
{/if}

<style>
	dl {
		margin-top: 14px;
		max-width: 640px;
		border: 1px solid var(--rule);
		border-radius: var(--r);
		background: var(--sheet);
		padding: 4px 14px 10px;
	}
	dt {
		margin-top: 8px;
		font-weight: 650;
		font-size: var(--t3);
	}
	dd {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.why {
		display: flex;
		gap: 12px;
		align-items: end;
		max-width: 640px;
		margin-top: 4px;
	}
	label {
		display: grid;
		flex: 1;
		gap: 3px;
		margin-top: 12px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.field {
		min-height: 44px;
		font-family: var(--sans);
		font-weight: 500;
	}
	.why .act {
		min-height: 44px;
	}
</style>
