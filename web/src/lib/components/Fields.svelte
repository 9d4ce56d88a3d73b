<script lang="ts">
	/** The fields of a group by their headings, as far as they are asked of this line; wholly, or some headings only. */
	import { openLine } from '../line/context';
	import { session } from '../session.svelte';
	import ChoiceField from './ChoiceField.svelte';
	import PointsField from './PointsField.svelte';
	import QuantityField from './QuantityField.svelte';
	import TextField from './TextField.svelte';

	let { group, tabs, least = 3 }: { group: string; tabs?: string[]; least?: number } = $props();

	const line = openLine();
	const traits = $derived(line.assessment?.traits ?? []);
	const fields = $derived(
		(session.groups.find((g) => g.id === group)?.fields ?? []).filter(
			(f) => (!tabs || tabs.includes(f.tab)) && (!f.when.length || f.when.some((t) => traits.includes(t)))
		)
	);
	const sections = $derived([...new Set(fields.map((f) => f.tab))]);
</script>

{#each sections as section (section)}
	<h3>{section}</h3>
	{#each fields.filter((f) => f.tab === section) as field (field.path)}
		{#if field.kind === 'quantity'}<QuantityField {field} />
		{:else if field.kind === 'choice'}<ChoiceField {field} />
		{:else if field.kind === 'text'}<TextField {field} />
		{:else if field.kind === 'points'}<PointsField {field} {least} />{/if}
	{/each}
{/each}

<style>
	h3 {
		font-size: 13px;
		font-weight: 650;
		color: var(--ink-3);
		padding: 12px 0 2px;
	}
</style>
