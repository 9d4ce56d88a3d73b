<script lang="ts">
	/** The rows of the settings sheet: a table, and on a phone a card a setting. */
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';
	import Decide from './Decide.svelte';
	import EnteredCell from './EnteredCell.svelte';
	import type { SettingsPage } from './settings-page.svelte';
	import WhatItDoes from './WhatItDoes.svelte';

	let { at, open }: { at: SettingsPage; open: (key: string) => void } = $props();
</script>

<table>
	<thead>
		<tr
			><th>Setting</th><th>On this drive</th><th class="r">Proposed</th><th>As found</th><th class="r"
				>Decided</th
			><th>As left</th><th>What it does</th></tr
		>
	</thead>
	<tbody>
		{#each at.groups as group (group.name)}
			<tr class="group" id="group-{group.name}"><th colspan="7" scope="colgroup">{group.name}</th></tr>
			{#each group.rows as row (row.id)}
				<tr id="setting-{row.id}" data-verdict={row.verdict} data-effect={row.effect?.severity ?? ''}>
					<td class="called" title="Off: {row.wrong}">{row.label}</td>
					<td class="family"
						>{#if row.family}<b class="num">{row.family.number}</b>
							{row.family.label}{:else if row.verdict === 'absent'}<span class="missing"
								>not in this drive</span
							>{/if}</td
					>
					<td class="r planned" class:over={row.decided !== null}>
						{#if row.planned}<Num figure={row.planned} {open} />
						{:else if row.planned_choice}
							{@const words = row.choices[row.planned_choice] ?? row.planned_choice}
							{@const word = row.family?.words[row.planned_choice] ?? words}
							<span class="choice">{words}</span>{#if word !== words}<small>“{word}”</small>{/if}
						{:else}<span class="missing">{session.words(row.missing)}</span>{/if}
						{#if row.each.length}<small class="num">each: {row.each.join(', ')}</small>{/if}
					</td>
					<td data-name="As found"><EnteredCell {at} {row} moment="found" /></td>
					<td class="r decided">
						<button
							type="button"
							aria-label="Decide {row.label.toLowerCase()}"
							onclick={() => (at.deciding = at.deciding === row.id ? '' : row.id)}
							>{#if row.decided === null}decide{:else if typeof row.decided === 'number' && row.dimension}<b
									class="num">{session.show(row.decided, row.dimension)}</b
								>{:else}<b>{row.choices[String(row.decided)] ?? row.decided}</b>{/if}</button
						>
					</td>
					<td data-name="As left"><EnteredCell {at} {row} moment="left" /></td>
					<td class="why"><WhatItDoes {row} {open} take={() => void at.take(row)} /></td>
				</tr>
				{#if at.deciding === row.id}
					<tr class="deciding"
						><td colspan="7"
							><Decide
								{row}
								decide={(text, why) => at.put(row, 'decided', text, why)}
								leave={() => (at.deciding = '')}
							/></td
						></tr
					>
				{/if}
			{/each}
		{/each}
	</tbody>
</table>

<style>
	table {
		border-collapse: collapse;
		width: 100%;
		margin-top: 8px;
		font-size: var(--t3);
	}
	thead th {
		position: sticky;
		top: -12px;
		z-index: 1;
		background: var(--ground);
		font-size: var(--t1);
		color: var(--ink-3);
		font-weight: 600;
		text-align: left;
		padding: 7px 8px 5px 0;
		border-bottom: 1.5px solid var(--ink);
	}
	.group,
	tr[id] {
		scroll-margin-top: 42px;
	}
	.group th {
		text-align: left;
		font-size: var(--t2);
		font-weight: 650;
		color: var(--ink-2);
		padding: 14px 0 4px;
	}
	td {
		padding: 3px 8px 3px 0;
		border-bottom: 1px solid var(--rule);
		vertical-align: middle;
	}
	th.r,
	.r {
		text-align: right;
		padding-right: 10px;
	}
	.called {
		color: var(--ink);
		font-weight: 600;
		min-width: 110px;
	}
	.family {
		color: var(--ink-3);
		font-size: var(--t1);
		max-width: 100px;
	}
	.choice {
		white-space: normal;
	}
	.planned {
		font-weight: 650;
		white-space: nowrap;
		max-width: 150px;
	}
	.over {
		text-decoration: line-through;
		color: var(--ink-3);
	}
	.missing {
		white-space: normal;
		font-weight: 400;
		font-size: var(--t1);
		color: var(--unknown);
	}
	.decided button {
		min-height: 32px;
		padding: 2px 8px;
		color: var(--steel);
		border-radius: var(--r);
		font-size: var(--t2);
	}
	.decided b {
		white-space: nowrap;
		color: var(--ink);
		background: var(--well);
		padding: 3px 6px;
		border-radius: var(--r);
	}
	.deciding td {
		background: var(--well);
		padding-left: 12px;
	}
	[data-effect='stop'] .why {
		border-left: 3px solid var(--stop);
		padding-left: 8px;
	}
	.why {
		font-size: var(--t1);
		color: var(--ink-2);
		line-height: 1.3;
		min-width: 200px;
	}
	@media (max-width: 1000px) {
		.family {
			display: none;
		}
		th:nth-child(2):not([scope]) {
			display: none;
		}
	}
	@media (pointer: coarse) {
		.decided button,
		.why :global(button) {
			min-height: 44px;
			min-width: 44px;
		}
	}
	.planned small {
		display: block;
		font-weight: 400;
		color: var(--ink-3);
	}
	/* narrow: a card a setting, nothing to the side */
	@media (max-width: 600px) {
		table,
		tbody,
		.group,
		.group th,
		.deciding,
		.deciding td {
			display: block;
		}
		thead {
			display: none;
		}
		tr[id]:not(.group) {
			display: grid;
			grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
			gap: 4px 14px;
			padding: 12px 0;
			border-bottom: 1px solid var(--rule-strong);
		}
		td {
			padding: 0;
			border: 0;
			min-width: 0;
		}
		.r {
			padding: 0;
		}
		.family {
			display: block;
			grid-area: 2 / 1;
			max-width: none;
		}
		.decided {
			grid-area: 2 / 2;
		}
		.planned,
		.called {
			max-width: none;
		}
		td[data-name]::before {
			content: attr(data-name);
			display: block;
			font-size: var(--t1);
			color: var(--ink-3);
		}
		.why {
			grid-column: 1 / -1;
			min-width: 0;
		}
	}
</style>
