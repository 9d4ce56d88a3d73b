<script lang="ts">
	/** A row of readings at each of several points, the predicted figure under each. */
	import ReadingCell from '../../components/ReadingCell.svelte';
	import { session } from '../../session.svelte';
	import type { ProofEntry } from '../proof-entry.svelte';
	import Keeping from '../Keeping.svelte';
	import Known from '../../proof/Known.svelte';

	let { entry, busy, open }: { entry: ProofEntry; busy: boolean; open: (key: string) => void } = $props();

	const HEADS: Record<string, string> = { frequency: 'Reference', count: 'Drive' };
	const table = $derived(entry.step.table);
	const columns = $derived(table?.columns ?? []);
	const rows = $derived(table?.rows ?? []);
	/** The row in hand: the first with something typed, else the first that is not read. */
	const current = $derived.by(() => {
		const typed = rows.findIndex((_, i) => columns.some((c) => entry.text(`${i}.${c.id}`).trim()));
		if (typed >= 0) return typed;
		return chosen >= 0 ? chosen : rows.findIndex((r) => r.asked && Object.keys(r.read).length === 0);
	});
	/** The row that a person went to, where one at a time is shown. */
	let chosen = $state(-1);
	const at = $derived(entry.step.id);
	$effect(() => {
		void [at, entry.step.evidence.length];
		chosen = -1;
	});
	const shown = (reference: number) => session.show(reference, table?.reference);

	function offer(): void {
		const row = rows[current];
		if (!row) return;
		const kept = Object.fromEntries(Object.entries(row.read).map(([id, cell]) => [id, cell.value]));
		const data = entry.numbers(`${current}.`, columns);
		if (data)
			entry.offer('row', { ...kept, ...data, reference: row.reference }, `${entry.step.id}.${current}`);
	}
</script>

{#if table}
	<table>
		<thead>
			<tr>
				<th class="l">{HEADS[table.reference] ?? 'Point'}</th>
				{#each columns as column (column.id)}
					<th>{column.label} {session.units.symbol(column.dimension, session.system)}</th>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each rows as row, i (row.reference)}
				<tr data-open={i === current} data-passed={row.passed}>
					<td class="l num"
						><button type="button" class="go num" onclick={() => (chosen = i)}>{shown(row.reference)}</button
						></td
					>
					{#if !row.asked && !Object.keys(row.read).length}
						<td class="say" colspan={columns.length}>below the lowest speed in force</td>
					{:else}{#each columns as column (column.id)}
							<td data-label="{column.label} {session.units.symbol(column.dimension, session.system)}">
								<ReadingCell
									reading={column}
									expected={row.expected[column.id]}
									half={row.half[column.id]}
									within={row.within[column.id]}
									kept={row.read[column.id]}
									label="{column.label} at {table.reference === 'frequency'
										? `${row.reference} Hz`
										: shown(row.reference)}"
									text={entry.text(`${i}.${column.id}`)}
									input={(value) => entry.type(`${i}.${column.id}`, value)}
									{open}
								/>
							</td>
						{/each}{/if}
				</tr>
			{/each}
		</tbody>
	</table>
	<Keeping
		{entry}
		words="Keep {current >= 0 ? `the ${shown(rows[current]?.reference ?? 0)} row` : 'this row'}"
		off={busy || entry.shut || current < 0}
		act={offer}
	/>
	{#if table.known?.readings}<Known known={table.known} {open} />{/if}
	{#if Object.keys(table.errors).length}
		<p class="say note">
			{#each Object.entries(table.errors) as [name, figure], i (name)}{i ? '; ' : ''}{name.replace('_', ' ')}
				<button type="button" class="num" onclick={() => open(figure.key)}
					>{session.show(figure.value, figure.dimension)}</button
				>{/each} of span.
		</p>
	{/if}
	<p class="say note" hidden={table.reference === 'count'}>
		{table.missing
			? `${Object.keys(rows[0]?.expected ?? {}).length ? 'Only the speed is foretold' : 'No prediction'}: ${session.words(table.missing)}.`
			: columns.some((c) => c.span)
				? 'Errors in % of span.'
				: '* rests on an assumption; touch the figure to see which.'}
	</p>
{/if}

<style>
	table {
		border-collapse: collapse;
		width: 100%;
		margin-top: 14px;
	}
	th {
		font-weight: 600;
		color: var(--ink-3);
		font-size: var(--t1);
		text-align: right;
		padding: 4px 10px 5px;
		border-bottom: 1.5px solid var(--ink);
	}
	.l {
		text-align: left;
		padding-left: 4px;
		white-space: nowrap;
	}
	td {
		padding: 2px 3px;
	}
	tr[data-open='true'] td.l {
		font-weight: 650;
		box-shadow: inset 3px 0 0 var(--brass);
		padding-left: 9px;
	}
	td.say {
		padding: 8px 10px;
		text-align: right;
		color: var(--ink-3);
	}
	tr[data-passed='false'] td.l {
		color: var(--stop);
	}
	.go {
		color: inherit;
		min-height: 40px;
	}
	/* On a phone one row at a time: the others are what one goes to. */
	@media (max-width: 600px) {
		table,
		tbody {
			display: block;
		}
		tbody {
			display: flex;
			flex-wrap: wrap;
			gap: 6px;
		}
		thead {
			display: none;
		}
		tr {
			display: block;
			border: 1px solid var(--rule-strong);
			border-radius: var(--r);
			background: var(--sheet);
		}
		tr:not([data-open='true']) td:not(.l) {
			display: none;
		}
		tr td.l {
			padding: 0 12px;
		}
		tr[data-open='true'] {
			flex: 1 0 100%;
			order: 1;
			border-color: var(--brass);
			background: none;
		}
		tr[data-open='true'] td:not(.l) {
			display: grid;
			grid-template-columns: minmax(0, 1fr) 172px;
			align-items: center;
			padding: 6px 10px;
			border-top: 1px solid var(--rule);
		}
		td[data-label]::before {
			content: attr(data-label);
			font-weight: 600;
		}
	}
	.note {
		margin-top: 6px;
	}
	.note button {
		text-decoration: underline dotted var(--ink-3) 1px;
		text-underline-offset: 3px;
		color: var(--ink);
		min-height: 28px;
	}
</style>
