<script lang="ts">
	/** A setting as found or as left: a number in its unit, or one of its choices. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import type { SettingsPage } from './settings-page.svelte';

	let { at, row, moment }: { at: SettingsPage; row: Schemas['SettingView']; moment: 'found' | 'left' } =
		$props();
</script>

{#if row.dimension || !Object.keys(row.choices).length}
	<span class="cell"
		><input
			class="field"
			aria-label="{row.label} as {moment}"
			value={at.text(row, moment)}
			oninput={(event) => at.type(row, moment, event.currentTarget.value)}
			onchange={(event) => void at.put(row, moment, event.currentTarget.value)}
		/>{#if row.dimension}<i>{session.units.symbol(row.dimension, session.system)}</i>{/if}</span
	>
{:else}
	<select
		class="field"
		aria-label="{row.label} as {moment}"
		value={String(row[moment] ?? '')}
		onchange={(event) => void at.put(row, moment, event.currentTarget.value)}
	>
		<option value="">–</option>
		{#each Object.entries(row.choices) as [id, label] (id)}<option value={id}
				>{row.family?.words[id] ?? session.words(label)}</option
			>{/each}
	</select>
{/if}
{#if moment === 'found' && row.former !== null}
	<small
		>former drive: <b class="num"
			>{typeof row.former === 'number'
				? session.show(row.former, row.dimension)
				: (row.choices[row.former] ?? row.former)}</b
		></small
	>
{/if}

<style>
	.cell {
		display: inline-flex;
		align-items: center;
		gap: 4px;
	}
	.cell i {
		font-style: normal;
		font-size: var(--t1);
		color: var(--ink-3);
		min-width: 26px;
	}
	.field {
		width: 74px;
		text-align: right;
		padding: 3px 6px;
		min-height: 32px;
		font-size: var(--t3);
	}
	select.field {
		width: 104px;
		text-align: left;
		font: 500 var(--t2) var(--sans);
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-3);
	}
	@media (pointer: coarse) {
		.field {
			min-height: 44px;
		}
	}
</style>
