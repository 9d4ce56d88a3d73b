<script lang="ts">
	/** What was seen, of a few possibilities; some ask who decided it and why. */
	import type { ProofEntry } from '../proof-entry.svelte';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	const step = $derived(entry.step);
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
		font-size: 13.5px;
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
