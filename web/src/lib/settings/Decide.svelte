<script lang="ts">
	/** A value decided against or beside the proposal: the old and the new beside each other, and why. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let {
		row,
		decide,
		leave
	}: {
		row: Schemas['SettingView'];
		decide: (text: string, why: string) => Promise<boolean>;
		leave: () => void;
	} = $props();

	let value = $state('');
	let why = $state('');
	let choice = $state('');

	$effect(() => {
		choice = String(row.decided ?? '');
		value =
			typeof row.decided === 'number' && row.dimension
				? session.units.number(row.decided, row.dimension, session.system, undefined, 5)
				: '';
		why = row.decided_why;
	});

	async function keep(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		if (await decide(row.dimension ? value : choice, why)) leave();
	}
</script>

<form onsubmit={keep} aria-label="Decide {row.label}">
	<span class="say"
		>Proposed {row.planned
			? session.show(row.planned.value, row.planned.dimension)
			: (row.choices[row.planned_choice ?? ''] ?? 'nothing yet')}. Decided instead:</span
	>
	{#if row.dimension}
		<!-- svelte-ignore a11y_autofocus -->
		<input class="field num" aria-label="{row.label} decided" bind:value required autofocus />
		<i>{session.units.symbol(row.dimension, session.system)}</i>
	{:else if !Object.keys(row.choices).length}
		<!-- svelte-ignore a11y_autofocus -->
		<input class="field num" aria-label="{row.label} decided" bind:value={choice} required autofocus />
	{:else}
		<select class="field" aria-label="{row.label} decided" bind:value={choice} required>
			{#each Object.entries(row.choices) as [id, label] (id)}<option value={id}
					>{row.family?.words[id] ?? session.words(label)}</option
				>{/each}
		</select>
	{/if}
	<input
		class="field why"
		aria-label="Why {row.label} is decided"
		placeholder="Why: balance, noise, overload, the machine …"
		maxlength="500"
		bind:value={why}
		required
	/>
	<button class="act">Decide</button>
	{#if row.decided !== null}
		<button type="button" class="act" data-quiet onclick={async () => (await decide('', '')) && leave()}
			>Remove the decision</button
		>
	{/if}
	<button type="button" class="act" data-quiet onclick={leave}>Leave it</button>
</form>

<style>
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: center;
		padding: 8px 0 12px;
	}
	.field {
		min-height: 44px;
		padding: 4px 10px;
		width: 110px;
	}
	select.field {
		width: 220px;
	}
	.why {
		flex: 1 1 260px;
		width: auto;
	}
	i {
		font-style: normal;
		color: var(--ink-3);
	}
</style>
