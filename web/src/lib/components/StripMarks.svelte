<script lang="ts">
	/** The drive line on a phone: its stations side by side, and between them the marks of their joints. */
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
			onclick={() => select(station.id)}
			>{station.label}
			{#if joint && i < 5}
				<!-- what stands at a joint is told at the station after it; a finger has no room for it here -->
				<i title="{joint.id.replace('-', ' and ')}: {joint.severity}"
					><Mark severity={joint.severity} size={15} /></i
				>
			{/if}</button
		>
	{/each}
</section>

<style>
	section {
		display: grid;
		grid-template-columns: repeat(6, minmax(44px, 1fr));
		overflow-x: auto;
		background: var(--sheet);
		border-bottom: 1px solid var(--rule-strong);
	}
	button {
		position: relative;
		padding: 0 0 14px;
		font-size: var(--t1);
		color: var(--ink-2);
	}
	i {
		position: absolute;
		right: -8px;
		bottom: 3px;
		line-height: 0;
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
