<script lang="ts">
	/** The drive line on a phone: the names of its stations, and between them the marks of their joints. */
	import type { Schemas } from '../api/client';
	import Mark from './Mark.svelte';

	let {
		strip,
		selected,
		select
	}: { strip: Schemas['StripView']; selected: string; select: (place: string) => void } = $props();
</script>

<section aria-label="Stations and joints">
	{#each strip.stations as station, i (station.id)}
		{@const joint = strip.joints[i]}
		<button
			type="button"
			aria-pressed={selected === station.id}
			data-severity={station.severity}
			onclick={() => select(station.id)}>{station.label}</button
		>
		{#if joint && i < 5}
			<button
				type="button"
				class="joint"
				aria-label="Joint {joint.id.replace('-', ' and ')}: {joint.severity}"
				aria-pressed={selected === joint.id}
				onclick={() => select(joint.id)}><Mark severity={joint.severity} size={17} /></button
			>
		{/if}
	{/each}
</section>

<style>
	section {
		display: flex;
		justify-content: space-between;
		padding: 0 4px;
		overflow-x: auto;
		background: var(--sheet);
		border-bottom: 1px solid var(--rule-strong);
	}
	button {
		min-width: 0 !important; /* six names and five marks in one row of a phone */
		padding: 0 2px;
		font-size: 11.5px;
		color: var(--ink-2);
	}
	.joint {
		display: grid;
		place-items: center;
		min-width: 24px !important;
	}
	[aria-pressed='true'] {
		box-shadow: inset 0 -3px 0 var(--steel);
		color: var(--ink);
		font-weight: 650;
	}
	[data-severity='stop'] {
		color: var(--stop);
	}
</style>
