<script lang="ts">
	/** The fields of a group by their headings, as far as they are asked of this line; wholly, or some headings only. */
	import { openLine } from '../line/context';
	import { session } from '../session.svelte';
	import { inSentence } from '../words';
	import ChoiceField from './ChoiceField.svelte';
	import PointsField from './PointsField.svelte';
	import QuantityField from './QuantityField.svelte';
	import TextField from './TextField.svelte';

	let {
		group,
		tabs,
		least = 3,
		folded = false
	}: {
		group: string;
		tabs?: string[];
		least?: number;
		/** What is asked on demand only waits behind a touch. */
		folded?: boolean;
	} = $props();
	let more = $state(false);

	const line = openLine();
	const traits = $derived(line.assessment?.traits ?? []);
	const fields = $derived(
		(session.groups.find((g) => g.id === group)?.fields ?? []).filter(
			(f) => (!tabs || tabs.includes(f.tab)) && (!f.when.length || f.when.some((t) => traits.includes(t)))
		)
	);
	const shown = $derived(fields.filter((f) => !folded || more || !f.more || line.entry(f.path)));
	const sections = $derived([...new Set(shown.map((f) => f.tab))]);
</script>

{#each sections as section (section)}
	<h3>{section}</h3>
	{#each shown.filter((f) => f.tab === section) as field (field.path)}
		{#if field.kind === 'quantity'}<QuantityField {field} />
		{:else if field.kind === 'choice'}<ChoiceField {field} />
		{:else if field.kind === 'text'}<TextField {field} />
		{:else if field.kind === 'points'}<PointsField {field} {least} />{/if}
	{/each}
{/each}
{#if folded && shown.length < fields.length}
	<button type="button" class="act" data-quiet onclick={() => (more = true)}
		>More: {fields
			.filter((f) => !shown.includes(f))
			.map((f) => inSentence(f.label))
			.join(', ')}</button
	>
{/if}

<style>
	.act {
		margin-top: 10px;
	}
	h3 {
		font-size: var(--t2);
		font-weight: 650;
		color: var(--ink-3);
		padding: 12px 0 2px;
	}
</style>
