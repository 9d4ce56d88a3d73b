<script lang="ts">
	/** A file as it was recognised, to be confirmed or put right before anything of it is kept. */
	import { session } from '../session.svelte';
	import type { LogColumn, MeasuredPage } from './measured-page.svelte';

	let { page }: { page: MeasuredPage } = $props();
	const look = $derived(page.look);
	const layout = $derived(page.layout);
	const DELIMITERS: Record<string, string> = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' };

	function unitsOf(quantity: string): string[] {
		return look?.quantities.find((q) => q.id === quantity)?.units ?? [];
	}

	function readAs(column: LogColumn, quantity: string): void {
		column.quantity = quantity;
		const dimension = look?.quantities.find((q) => q.id === quantity)?.dimension;
		if (!unitsOf(quantity).includes(column.unit))
			column.unit = session.units.symbol(dimension, session.system);
		if (quantity && !unitsOf(quantity).includes(column.unit)) column.unit = unitsOf(quantity)[0] ?? '';
	}
</script>

{#if look && layout}
	<section class="sheet" aria-label="Read a log">
		<header>
			<h2>{page.file?.name}</h2>
			<p class="say">
				{look.remembered
					? 'Laid out as one that was confirmed before.'
					: 'Recognised; look at it before it is read.'}
				Columns by {DELIMITERS[layout.delimiter]}, decimal {layout.decimal_comma ? 'comma' : 'point'}; times
				as
				<span class="num">{layout.time_format}</span>.
			</p>
		</header>
		{#each look.doubts as doubt (doubt)}<p class="doubt">{doubt}</p>{/each}
		<div class="wide">
			<table>
				<thead>
					<tr>
						{#each layout.times as time (time)}<th>Time</th>{/each}
						{#each layout.columns as column (column.at)}
							<th>
								<span>{column.name}</span>
								<select
									class="field"
									aria-label="{column.name} is read as"
									value={column.quantity}
									onchange={(event) => readAs(column, event.currentTarget.value)}
								>
									<option value="">left out</option>
									{#each look.quantities as quantity (quantity.id)}<option value={quantity.id}
											>{quantity.label}</option
										>{/each}
								</select>
								{#if column.quantity}
									<select class="field" aria-label="Unit of {column.name}" bind:value={column.unit}>
										{#each unitsOf(column.quantity) as unit (unit)}<option value={unit}>{unit}</option>{/each}
									</select>
								{/if}
							</th>
						{/each}
					</tr>
				</thead>
				<tbody>
					{#each look.rows as row, i (i)}
						<tr>
							{#each layout.times as time (time)}<td class="num">{row[time]}</td>{/each}
							{#each layout.columns as column (column.at)}<td class="num" data-out={!column.quantity}
									>{row[column.at]}</td
								>{/each}
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		<details>
			<summary>The dates are read wrong?</summary>
			<label
				>Times are written as
				<input class="field" bind:value={layout.time_format} />
				<span class="say">%d day, %m month, %Y year, %H hour, %M minute, %S second</span></label
			>
		</details>
		<footer>
			<span role="group" aria-label="This log is of">
				{#each [['before', 'Before the change'], ['after', 'Now']] as [id, label] (id)}
					<button
						type="button"
						class="act"
						data-quiet={page.side === id ? undefined : ''}
						aria-pressed={page.side === id}
						onclick={() => (page.side = id as 'before' | 'after')}>{label}</button
					>
				{/each}
			</span>
			<span class="gap"></span>
			<button type="button" class="act" data-quiet onclick={() => page.leave()}>Leave it</button>
			<button type="button" class="act" disabled={page.progress !== null} onclick={() => void page.read()}
				>{page.progress ? 'Reading …' : 'Read it and keep it'}</button
			>
		</footer>
		{#if page.progress}
			<progress value={page.progress.done} max={Math.max(1, page.progress.of)} aria-label="How far it is read"
			></progress>
		{/if}
	</section>
{/if}

<style>
	section {
		padding: 12px 16px;
		margin-top: 10px;
		border-left: 4px solid var(--brass);
	}
	.doubt {
		color: var(--caution);
		font-weight: 600;
		font-size: var(--t3);
		padding: 4px 0;
	}
	.wide {
		overflow-x: auto;
		margin: 8px 0;
	}
	table {
		border-collapse: collapse;
		font-size: var(--t2);
	}
	th {
		text-align: left;
		vertical-align: top;
		padding: 4px 12px 6px 0;
		font-weight: 600;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	th span {
		display: block;
		white-space: nowrap;
	}
	th select {
		display: block;
		font: 600 var(--t2) var(--sans);
		margin-top: 3px;
		width: 138px;
	}
	td {
		padding: 3px 12px 3px 0;
		border-top: 1px solid var(--rule);
		white-space: nowrap;
	}
	td[data-out='true'] {
		color: var(--ink-3);
		text-decoration: line-through;
	}
	footer {
		display: flex;
		gap: 10px;
		align-items: center;
		flex-wrap: wrap;
	}
	.gap {
		flex: 1;
	}
	details {
		margin-bottom: 10px;
	}
	summary {
		cursor: pointer;
		color: var(--steel);
		font-weight: 600;
		min-height: 30px;
	}
	progress {
		width: 100%;
		accent-color: var(--brass);
		margin-top: 8px;
	}
</style>
