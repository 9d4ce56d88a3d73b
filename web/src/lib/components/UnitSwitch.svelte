<script lang="ts">
	/** The unit system of the whole page. */
	import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';
	import { session } from '../session.svelte';
</script>

<SegmentedControl
	value={session.system}
	onValueChange={(details) => session.setUnits(session.units.known(details.value))}
>
	<SegmentedControl.Control class="unit-switch" aria-label="Units">
		{#each session.units.systems as { id, label } (id)}
			<SegmentedControl.Item value={id}>
				<SegmentedControl.ItemText>{label}</SegmentedControl.ItemText>
				<SegmentedControl.ItemHiddenInput />
			</SegmentedControl.Item>
		{/each}
	</SegmentedControl.Control>
</SegmentedControl>

<style>
	:global(.unit-switch) {
		display: flex;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		overflow: hidden;
		font-size: var(--t1);
		padding: 0;
	}
	:global(.unit-switch [data-part='item']) {
		padding: 3px 8px;
		cursor: pointer;
		min-height: 30px;
		display: grid;
		place-items: center;
		color: var(--ink-2);
	}
	:global(.unit-switch [data-part='item'][data-state='checked']) {
		background: var(--ink);
		color: var(--sheet);
		font-weight: 650;
	}
	:global(.unit-switch [data-focus-visible]) {
		outline: 2px solid var(--steel);
		outline-offset: -2px;
	}
</style>
