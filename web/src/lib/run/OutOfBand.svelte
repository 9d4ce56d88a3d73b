<script lang="ts">
	/** A reading outside its band: read it again, keep it as it is, or explain it. */
	import Mark from '../components/Mark.svelte';

	let {
		names,
		explainable,
		again,
		keep
	}: {
		names: string[];
		/** Whether an explanation lets the work go on. */
		explainable: boolean;
		again: () => void;
		keep: (note: string) => void;
	} = $props();

	let why = $state('');
	let box = $state<HTMLElement>();

	$effect(() => box?.scrollIntoView({ block: 'nearest' }));
</script>

<div class="out" bind:this={box} role="alertdialog" aria-label="Out of band">
	<p>
		<Mark severity="caution" /> <b>Out of band: {names.join(', ')}.</b>
		{explainable
			? 'Read it again, keep it as it stands, or say why it is right.'
			: 'Read it again. Kept as it stands, it holds what comes after.'}
	</p>
	{#if explainable}
		<label
			>Why it is right as it stands
			<input class="field" bind:value={why} maxlength="2000" autocomplete="off" />
		</label>
	{/if}
	<div class="row">
		<button type="button" class="act" onclick={again}>Read again</button>
		<button type="button" class="act" data-quiet onclick={() => keep('')}>Keep as read</button>
		{#if explainable}
			<button type="button" class="act" data-quiet disabled={!why.trim()} onclick={() => keep(why)}
				>Explained: go on</button
			>
		{/if}
	</div>
</div>

<style>
	.out {
		border-left: 5px solid var(--caution);
		background: var(--caution-wash);
		padding: 12px 14px;
		margin-top: 14px;
		border-radius: 0 var(--r) var(--r) 0;
		max-width: 640px;
	}
	label {
		display: grid;
		gap: 3px;
		margin-top: 8px;
		font-size: var(--t2);
	}
	.field {
		font-family: var(--sans);
		font-weight: 500;
		min-height: 44px;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
		margin-top: 10px;
	}
	.row .act {
		min-height: 44px;
	}
</style>
