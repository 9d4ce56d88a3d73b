<script lang="ts">
	/** Two ways of doing it: the usual one stands first and is taken unless the other is touched. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let {
		schools,
		chosen,
		choose
	}: { schools: Record<string, Schemas['SchoolView']>; chosen: string; choose: (id: string) => void } =
		$props();
</script>

<fieldset>
	<legend>The trade knows two ways</legend>
	{#each Object.entries(schools) as [id, school] (id)}
		<label data-chosen={id === chosen}>
			<input type="radio" name="school" checked={id === chosen} onchange={() => choose(id)} />
			<span
				><b>{session.words(school.label)}</b>{#if school.expected}<em class="num"
						>{session.show(school.expected.value, school.expected.dimension)}</em
					>{/if}<br />{school.why}</span
			>
		</label>
	{/each}
</fieldset>

<style>
	fieldset {
		margin-top: 14px;
		max-width: 640px;
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
		gap: 8px;
	}
	legend {
		font-size: var(--t1);
		color: var(--ink-3);
		padding-bottom: 4px;
	}
	label {
		display: grid;
		grid-template-columns: 20px 1fr;
		gap: 8px;
		padding: 9px 11px;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: var(--sheet);
		font-size: var(--t2);
		color: var(--ink-2);
		min-height: 44px;
		cursor: pointer;
	}
	label[data-chosen='true'] {
		border-color: var(--brass);
		box-shadow: inset 0 -3px 0 var(--brass);
	}
	b {
		color: var(--ink);
	}
	em {
		font-style: normal;
		margin-left: 8px;
	}
</style>
