<script lang="ts">
	/** A table of numbers typed or pasted: a pump curve, a duty profile. */
	import type { Schemas } from '../api/client';
	import { openLine } from '../line/context';
	import { session } from '../session.svelte';

	let { field, least = 3 }: { field: Schemas['FieldView']; least?: number } = $props();

	const page = openLine();
	const columns = $derived(field.columns ?? []);
	let typed = $state<string[][] | null>(null);

	const kept = $derived((page.entry(field.path)?.value as number[][] | undefined) ?? []);
	const rows = $derived(
		typed ??
			padded(
				kept.map((row) =>
					row.map((v, c) => session.units.number(v, columns[c]?.dimension, session.system, undefined, 6))
				)
			)
	);
	const problem = $derived(
		page.assessment?.problems.find((p) => p.field === field.path)?.message ?? unread(rows)
	);

	function padded(filled: string[][]): string[][] {
		const blank = () => columns.map(() => '');
		const wanted = Math.max(least, filled.length + 1);
		return [...filled, ...Array.from({ length: wanted - filled.length }, blank)];
	}

	function read(text: string, column: number): number | string {
		return session.units.parse(text, columns[column]?.dimension ?? 'count', session.system);
	}

	function unread(all: string[][]): string {
		for (const [i, row] of all.entries())
			for (const [c, text] of row.entries())
				if (text.trim() && typeof read(text, c) === 'string') return `row ${i + 1}: “${text}” is no number`;
		return '';
	}

	function change(row: number, column: number, text: string): void {
		const next = rows.map((r, i) => (i === row ? r.map((t, c) => (c === column ? text : t)) : r));
		keep(next);
	}

	function paste(event: ClipboardEvent, row: number, column: number): void {
		const text = event.clipboardData?.getData('text') ?? '';
		const pasted = text
			.trim()
			.split(/\r?\n/)
			.map((line) => line.split(/[\t;]| {2,}/));
		if (pasted.length < 2 && (pasted[0]?.length ?? 0) < 2) return;
		event.preventDefault();
		const next = padded(rows.filter((r) => r.some((t) => t.trim())));
		pasted.forEach((cells, i) => {
			next[row + i] ??= columns.map(() => '');
			cells.forEach((cell, c) => {
				const target = next[row + i];
				if (target && column + c < columns.length) target[column + c] = cell.trim();
			});
		});
		keep(next);
	}

	function keep(next: string[][]): void {
		typed = padded(next.filter((r, i) => r.some((t) => t.trim()) || i < next.length - 1));
		const full = next.filter((r) => r.every((t, c) => t.trim() && typeof read(t, c) === 'number'));
		if (next.some((r) => r.some((t) => t.trim()) && !full.includes(r)) && full.length === 0) return;
		page.set(field.path, full.length ? full.map((r) => r.map((t, c) => read(t, c) as number)) : undefined);
	}
</script>

<div class="block">
	<h3>{field.label}</h3>
	<table>
		<thead>
			<tr>
				{#each columns as column (column.name)}
					<th>{column.label} <span>{session.units.symbol(column.dimension, session.system)}</span></th>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each rows as row, i (i)}
				<tr>
					{#each row as text, c (c)}
						<td>
							<input
								class="field"
								aria-label="{columns[c]?.label}, row {i + 1}"
								inputmode="decimal"
								value={text}
								oninput={(event) => change(i, c, event.currentTarget.value)}
								onpaste={(event) => paste(event, i, c)}
								onblur={() => {
									if (
										!unread(rows) &&
										rows.every((r) => r.every((t) => t.trim()) || r.every((t) => !t.trim()))
									)
										typed = null;
								}}
							/>
						</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="say" class:bad={problem !== ''}>{problem || field.help}</p>
</div>

<style>
	.block {
		padding: 10px 0;
		border-bottom: 1px solid var(--rule);
	}
	th {
		font-size: 12.5px;
		font-weight: 600;
		color: var(--ink-3);
		text-align: right;
		padding: 4px 8px;
	}
	td {
		padding: 2px 4px 2px 0;
	}
	input {
		width: 120px;
		text-align: right;
	}
	.bad {
		color: var(--stop);
		font-weight: 600;
	}
</style>
