<script lang="ts">
	/** A table of numbers typed or pasted: a pump curve, a duty profile. */
	import { answer, api, ApiProblem, type Schemas } from '../api/client';
	import { openHolder } from '../line/context';
	import { session } from '../session.svelte';

	let { field, least = 3 }: { field: Schemas['FieldView']; least?: number } = $props();

	const page = openHolder();
	const columns = $derived(field.columns ?? []);
	let typed = $state<string[][] | null>(null);
	/** What the record held when it was typed: a correction at one touch, or somebody else's, shows at once. */
	let meant = $state.raw('');

	const kept = $derived((page.entry(field.path)?.value as number[][] | undefined) ?? []);
	const rows = $derived(
		(typed && meant === JSON.stringify(kept) ? typed : null) ??
			padded(
				kept.map((row) =>
					row.map((v, c) => session.units.number(v, columns[c]?.dimension, session.system, undefined, 6))
				)
			)
	);
	const problem = $derived(
		page.assessment?.problems.find((p) => p.field === field.path)?.message ?? unread(rows)
	);

	/** Curves can come out of a file: a table, or the network somebody calculated. */
	const fromFile = $derived(field.path === 'machine.curve' || field.path === 'machine.air_curve');
	let found = $state.raw<Schemas['FoundCurve'][]>([]);
	let fileProblem = $state('');

	async function open(files: FileList | null): Promise<void> {
		const file = files?.[0];
		if (!file) return;
		found = [];
		fileProblem = '';
		try {
			const curves = await answer(
				api.POST('/api/curves/file', {
					params: { query: { fan: field.path === 'machine.air_curve', units: session.system } },
					body: (await file.text()) as never,
					bodySerializer: (body) => body as never,
					headers: { 'Content-Type': 'text/plain' }
				})
			);
			if (curves.length === 1 && curves[0]) takeCurve(curves[0]);
			else found = curves;
		} catch (error) {
			fileProblem = error instanceof ApiProblem ? error.message : 'The file could not be read';
		}
	}

	function takeCurve(curve: Schemas['FoundCurve']): void {
		found = [];
		typed = null;
		page.set(field.path, curve.points);
	}

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
		meant = JSON.stringify(kept);
		if (next.some((r) => r.some((t) => t.trim()) && !full.includes(r)) && full.length === 0) return;
		const points = full.map((r) => r.map((t, c) => read(t, c) as number));
		meant = JSON.stringify(points);
		page.set(field.path, points.length ? points : undefined);
	}
</script>

<div class="block" id={field.path} tabindex="-1">
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
	<p class="say" class:bad={problem !== ''}>{session.words(problem || field.help)}</p>
	{#if fromFile}
		<p class="say file">
			<label
				>From a file: a table, or the .inp of a calculated network
				<input
					type="file"
					accept=".csv,.txt,.inp,text/csv,text/plain"
					onchange={(event) => {
						void open(event.currentTarget.files);
						event.currentTarget.value = '';
					}}
				/></label
			>
			{#if found.length}which one?{/if}
			{#each found as curve (curve.name)}
				<button type="button" onclick={() => takeCurve(curve)}
					>{curve.name} ({curve.points.length} points)</button
				>
			{/each}
			{#if fileProblem}<b role="alert">{fileProblem}</b>{/if}
		</p>
	{/if}
</div>

<style>
	.block {
		padding: 10px 0;
		border-bottom: 1px solid var(--rule);
	}
	th {
		font-size: var(--t1);
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
	.file {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 12px;
		align-items: center;
		padding-top: 4px;
	}
	.file label {
		position: relative;
		color: var(--steel);
		font-weight: 600;
		text-decoration: underline;
		min-height: 32px;
		display: inline-flex;
		align-items: center;
	}
	.file label:focus-within {
		outline: 2px solid var(--steel);
	}
	.file input {
		position: absolute;
		inset: 0;
		width: 100%;
		opacity: 0;
		cursor: pointer;
	}
	.file button {
		font: 600 var(--t2) var(--sans);
		color: var(--steel);
		background: none;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		padding: 4px 10px;
		min-height: 34px;
		cursor: pointer;
	}
	.file b {
		color: var(--stop);
	}
	.bad {
		color: var(--stop);
		font-weight: 600;
	}
</style>
