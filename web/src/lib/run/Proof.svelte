<script lang="ts">
	/** What proves the step in hand: each kind with its own way of entering. */
	import { untrack } from 'svelte';
	import ReadingCell from '../components/ReadingCell.svelte';
	import { session } from '../session.svelte';
	import { inSentence } from '../words';
	import Checks from './Checks.svelte';
	import Countdown from './Countdown.svelte';
	import OutOfBand from './OutOfBand.svelte';
	import type { Kind, RunSheet } from './run-sheet.svelte';
	import Schools from './Schools.svelte';
	import { outOf, type Step } from './waiting';

	let {
		sheet,
		step,
		busy,
		keep,
		open
	}: {
		sheet: RunSheet;
		step: Step;
		busy: boolean;
		keep: (kind: Kind, data?: Record<string, unknown>, note?: string, typed?: string, photo?: Blob) => void;
		open: (key: string) => void;
	} = $props();

	const shut = $derived(step.state === 'later' || step.state === 'held');
	const last = $derived(step.evidence.at(-1));
	let problem = $state('');
	/** An entry that lies out of its band and waits for a word. */
	let doubtful = $state.raw<{
		kind: Kind;
		data: Record<string, unknown>;
		typed: string;
		names: string[];
	} | null>(null);

	const text = (key: string) => sheet.texts[`${step.id}.${key}`] ?? '';
	const type = (key: string, value: string) => sheet.type(`${step.id}.${key}`, value);
	const usual = $derived(Object.keys(step.schools)[0] ?? '');
	const school = $derived(text('school') || String(last?.data['school'] ?? '') || usual);
	const readings = $derived(
		step.readings.map((r) => ({ ...r, expected: step.schools[school]?.expected ?? r.expected }))
	);
	/** Schools that are chosen beside the proof, and not by it. */
	const beside = $derived(
		Object.keys(step.schools).length > 1 && !(step.proof === 'choice' && usual in step.choices)
	);

	function ticked(prefix: string, key: string, kept?: Record<string, unknown>): boolean {
		const typed = text(`${prefix}${key}`);
		return typed ? typed === 'yes' : Boolean(kept?.[key]);
	}

	function ticks(prefix: string, kept?: Record<string, unknown>): Record<string, boolean> {
		return Object.fromEntries(
			Object.keys(step.items)
				.filter((key) => ticked(prefix, key, kept))
				.map((key) => [key, true])
		);
	}

	/** Numbers typed at a prefix; null where one cannot be read. */
	function numbers(prefix: string, columns: Step['readings']): Record<string, number> | null {
		const found: Record<string, number> = {};
		for (const column of columns) {
			const typed = text(`${prefix}${column.id}`).trim();
			if (!typed) continue;
			const read = session.units.parse(typed, column.dimension, session.system);
			if (typeof read === 'string') {
				problem = `${column.label}: ${read}`;
				return null;
			}
			found[column.id] = read;
		}
		return found;
	}

	/** Keep it, unless it lies out of its band: then ask first. */
	function offer(kind: Kind, data: Record<string, unknown>, typed: string): void {
		problem = '';
		const out = outOf(step, data);
		const columns = step.table?.columns ?? step.readings;
		if (out.length)
			doubtful = {
				kind,
				data,
				typed,
				names: columns.filter((c) => out.includes(c.id)).map((c) => inSentence(c.label))
			};
		else keep(kind, data, '', typed);
	}

	function keptAs(word: string): void {
		const waiting = doubtful;
		doubtful = null;
		if (waiting) keep(waiting.kind, waiting.data, word, waiting.typed);
	}

	/** Readings of this step: what is typed over what is kept; null while one is missing or cannot be read. */
	function allReadings(): Record<string, number> | null {
		problem = '';
		const typed = numbers('', step.readings);
		if (!typed) return null;
		const whole: Record<string, number> = {};
		for (const { id, label, optional } of step.readings) {
			const value = typed[id] ?? last?.data[id];
			if (typeof value === 'number') whole[id] = value;
			else if (!optional) {
				problem = `${label}: still to be read.`;
				return null;
			}
		}
		return whole;
	}

	function offerReadings(): void {
		const read = allReadings();
		if (read)
			offer('readings', { ...read, ...ticks('', last?.data), ...(beside ? { school } : {}) }, step.id);
	}

	const openRow = $derived.by(() => {
		const rows = step.table?.rows ?? [];
		const typedAt = rows.findIndex((_, i) => step.table?.columns.some((c) => text(`${i}.${c.id}`).trim()));
		if (typedAt >= 0) return typedAt;
		return rows.findIndex((r) => Object.keys(r.read).length === 0);
	});

	function offerRow(index: number): void {
		const row = step.table?.rows[index];
		if (!row || !step.table) return;
		const kept = Object.fromEntries(Object.entries(row.read).map(([id, cell]) => [id, cell.value]));
		const data = numbers(`${index}.`, step.table.columns);
		if (data) offer('row', { ...kept, ...data, reference: row.reference }, `${step.id}.${index}`);
	}

	const unitOf = (n: number) => step.evidence.find((e) => e.data['unit'] === n);
	const openUnit = $derived.by(() => {
		for (let n = 1; n <= step.units; n++) if (!unitOf(n)?.passed) return n;
		return 0;
	});
	let chosenUnit = $state(0);
	const unit = $derived(chosenUnit || openUnit || 1);

	function keepUnit(): void {
		const kept = unitOf(unit)?.data;
		const serial = text(`unit${unit}.serial`) || String(kept?.['serial'] ?? '');
		keep(
			'unit',
			{ unit, ...(serial ? { serial } : {}), ...ticks(`unit${unit}.`, kept) },
			'',
			`${step.id}.unit${unit}`
		);
		chosenUnit = 0;
	}

	let why = $state('');
	/** A choice whose school asks for a reason first. */
	let asking = $state('');

	function choose(id: string): void {
		const asks = step.schools[id]?.asks_why ?? step.schools[school]?.asks_why;
		if (asks && !why.trim()) {
			asking = id;
			return;
		}
		keep('choice', { choice: id, ...(beside ? { school } : {}) }, asks ? why : '', step.id);
		asking = '';
		why = '';
	}

	function keepTurns(choice: string): void {
		const read = allReadings();
		if (read) keep('turns', { ...read, choice }, '', step.id);
	}

	function photo(files: FileList | null): void {
		const file = files?.[0];
		if (file) keep('photo', { photo: crypto.randomUUID() }, '', '', file);
	}

	const at = $derived(step.id); // the step may be another object for the same id
	$effect(() => {
		void at;
		untrack(() => {
			problem = '';
			doubtful = null;
			asking = '';
			chosenUnit = 0;
		});
	});
</script>

{#snippet cells()}
	<div class="readings" data-paired={step.proof === 'turns'}>
		{#each readings as reading (reading.id)}
			<div>
				<span class="called"
					>{reading.label}
					<i>{session.units.symbol(reading.dimension, session.system)}{reading.optional ? ', if read' : ''}</i
					></span
				>
				<ReadingCell
					{reading}
					expected={reading.expected}
					label={reading.label}
					kept={typeof last?.data[reading.id] === 'number'
						? {
								value: last.data[reading.id] as number,
								deviation: null,
								fits: !last.out.includes(reading.id)
							}
						: undefined}
					text={text(reading.id)}
					input={(value) => type(reading.id, value)}
					{open}
				/>
			</div>
		{/each}
	</div>
{/snippet}

{#snippet keeping(words: string, act: () => void, off: boolean)}
	{#if doubtful}
		<OutOfBand
			names={doubtful.names}
			explainable={!step.safety || step.table !== null}
			again={() => (doubtful = null)}
			keep={keptAs}
		/>
	{:else}
		<div class="actions">
			<button class="act" data-big disabled={busy || off} onclick={act}>{words}</button>
		</div>
	{/if}
{/snippet}

{#if beside}
	<Schools schools={step.schools} chosen={school} choose={(id) => type('school', id)} />
{/if}

{#if step.proof === 'countdown' && step.seconds}
	<Countdown {step} {busy} keep={(kind) => keep(kind)} />
{:else if step.proof === 'tick'}
	<div class="actions">
		<button class="act" data-big disabled={busy || shut} onclick={() => keep('tick')}
			>{step.state === 'done'
				? 'Done again'
				: step.state === 'stale'
					? 'Done again, with the new values'
					: 'Done'}</button
		>
	</div>
{:else if step.proof === 'choice'}
	<div class="actions">
		{#each Object.entries(step.choices) as [id, label], i (id)}
			<button
				class="act"
				data-big
				data-quiet={(step.right === '*' ? i > 0 : id !== step.right) ? true : undefined}
				aria-pressed={last?.data['choice'] === id}
				disabled={busy || shut}
				onclick={() => choose(id)}>{label}</button
			>
		{/each}
	</div>
	{#if asking}
		<div class="why">
			<label
				>Who decided it and why; it stays on this sheet
				<input class="field" bind:value={why} maxlength="2000" autocomplete="off" /></label
			>
			<button type="button" class="act" disabled={!why.trim()} onclick={() => choose(asking)}
				>Keep it so</button
			>
		</div>
	{/if}
{:else if step.proof === 'readings'}
	{@render cells()}
	{#if Object.keys(step.items).length}
		<Checks
			items={step.items}
			ticked={(key) => ticked('', key, last?.data)}
			tick={(key, on) => type(key, on ? 'yes' : 'no')}
		/>
	{/if}
	{@render keeping('Keep these readings', offerReadings, shut)}
{:else if step.proof === 'turns'}
	{@render cells()}
	<div class="actions">
		{#each Object.entries(step.choices) as [id, label] (id)}
			<button
				class="act"
				data-big
				data-quiet={id === 'first' ? true : undefined}
				disabled={busy || shut}
				onclick={() => keepTurns(id)}>{label}</button
			>
		{/each}
	</div>
{:else if step.proof === 'list'}
	<Checks
		items={step.items}
		ticked={(key) => ticked('', key, last?.data)}
		tick={(key, on) => type(key, on ? 'yes' : 'no')}
	/>
	<div class="actions">
		<button
			class="act"
			data-big
			disabled={busy || shut || Object.keys(ticks('', last?.data)).length === 0}
			onclick={() => keep('list', ticks('', last?.data), '', step.id)}
			>{Object.keys(ticks('', last?.data)).length === Object.keys(step.items).length
				? 'All seen'
				: 'Keep what was seen'}</button
		>
	</div>
{:else if step.proof === 'units'}
	<div class="units" role="group" aria-label="Units">
		{#each { length: step.units }, i (i)}
			{@const kept = unitOf(i + 1)}
			<button
				type="button"
				data-state={kept ? (kept.passed ? 'done' : 'failed') : 'open'}
				aria-pressed={unit === i + 1}
				onclick={() => (chosenUnit = i + 1)}
				><b class="num">{i + 1}</b>{kept ? (kept.passed ? 'done' : 'not yet') : 'open'}<i class="num"
					>{kept?.data['serial'] ?? ''}</i
				></button
			>
		{/each}
	</div>
	<label class="serial"
		>Serial number of unit {unit}
		<input
			class="field"
			autocomplete="off"
			maxlength="60"
			value={text(`unit${unit}.serial`) || String(unitOf(unit)?.data['serial'] ?? '')}
			oninput={(event) => type(`unit${unit}.serial`, event.currentTarget.value)}
		/></label
	>
	<Checks
		items={step.items}
		ticked={(key) => ticked(`unit${unit}.`, key, unitOf(unit)?.data)}
		tick={(key, on) => type(`unit${unit}.${key}`, on ? 'yes' : 'no')}
	/>
	<div class="actions">
		<button class="act" data-big disabled={busy || shut} onclick={keepUnit}>Keep unit {unit}</button>
	</div>
{:else if step.proof === 'photo'}
	<div class="actions">
		<label class="act" data-big data-off={shut}
			>Take the photo
			<input
				class="sr-only"
				type="file"
				accept="image/jpeg,image/png,image/webp"
				capture="environment"
				disabled={busy || shut}
				onchange={(event) => {
					photo(event.currentTarget.files);
					event.currentTarget.value = '';
				}}
			/></label
		>
	</div>
{:else if step.table}
	<table>
		<thead>
			<tr>
				<th class="l">{step.table.reference === 'frequency' ? 'Reference' : 'Point'}</th>
				{#each step.table.columns as column (column.id)}
					<th>{column.label} {session.units.symbol(column.dimension, session.system)}</th>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each step.table.rows as row, i (row.reference)}
				<tr data-open={i === openRow} data-passed={row.passed}>
					<td class="l num">{session.show(row.reference, step.table.reference)}</td>
					{#each step.table.columns as column (column.id)}
						<td>
							<ReadingCell
								reading={column}
								expected={row.expected[column.id]}
								kept={row.read[column.id]}
								label="{column.label} at {step.table.reference === 'frequency'
									? `${row.reference} Hz`
									: session.show(row.reference, step.table.reference)}"
								text={text(`${i}.${column.id}`)}
								input={(value) => type(`${i}.${column.id}`, value)}
								{open}
							/>
						</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
	{@render keeping(
		`Keep ${openRow >= 0 ? `the ${session.show(step.table.rows[openRow]?.reference ?? 0, step.table.reference)} row` : 'this row'}`,
		() => offerRow(openRow),
		shut || openRow < 0
	)}
	{#if Object.keys(step.table.errors).length}
		<p class="say note">
			{#each Object.entries(step.table.errors) as [name, figure], i (name)}{i ? '; ' : ''}{name.replace(
					'_',
					' '
				)}
				<button type="button" class="num" onclick={() => open(figure.key)}
					>{session.show(figure.value, figure.dimension)}</button
				>{/each} of span.
		</p>
	{/if}
	<p class="say note">
		{step.table.missing
			? `No prediction: ${step.table.missing}.`
			: step.table.columns.some((c) => c.span)
				? 'Errors in % of span.'
				: '* rests on an assumption; touch the figure to see which.'}
	</p>
{/if}

{#if step.state === 'failed' && step.wrong && !doubtful}
	<div class="hold">
		<b>{step.proof === 'readings' || step.table ? 'Out of band.' : 'Not proven.'}</b>
		{step.wrong}
	</div>
{/if}
{#if step.lacking.length && step.evidence.length && step.state !== 'failed' && !step.table && step.proof !== 'countdown'}
	<p class="say note">Still to be seen: {step.lacking.map(inSentence).join('; ')}.</p>
{/if}
{#if problem}<p class="problem" role="alert">{problem}</p>{/if}

<style>
	.readings {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
		gap: 12px;
		margin-top: 16px;
		max-width: 640px;
	}
	.readings[data-paired='true'] {
		grid-template-columns: repeat(2, minmax(150px, 220px));
	}
	.called {
		font-size: 13.5px;
		color: var(--ink-2);
	}
	.called i {
		font-style: normal;
		color: var(--ink-3);
	}
	table {
		border-collapse: collapse;
		width: 100%;
		margin-top: 14px;
	}
	th {
		font-weight: 600;
		color: var(--ink-3);
		font-size: 12.5px;
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
	tr[data-passed='false'] td.l {
		color: var(--stop);
	}
	.units {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(78px, 1fr));
		gap: 8px;
		margin-top: 14px;
		max-width: 640px;
	}
	.units button {
		display: grid;
		justify-items: start;
		padding: 7px 10px;
		min-height: 64px;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: var(--sheet);
		font-size: 12.5px;
		color: var(--ink-2);
		cursor: pointer;
	}
	.units b {
		font-size: 18px;
		color: var(--ink);
	}
	.units i {
		font-style: normal;
		font-size: 11.5px;
		color: var(--ink-3);
		min-height: 15px;
	}
	.units [aria-pressed='true'] {
		box-shadow: inset 0 -4px 0 var(--brass);
		border-color: var(--brass);
	}
	.units [data-state='done'] {
		border-left: 5px solid var(--clear);
	}
	.units [data-state='failed'] {
		border-left: 5px double var(--stop);
	}
	.serial,
	.why label {
		display: grid;
		gap: 3px;
		margin-top: 12px;
		max-width: 320px;
		font-size: 13.5px;
		color: var(--ink-2);
	}
	.serial .field,
	.why .field {
		min-height: 44px;
	}
	.why {
		display: flex;
		gap: 12px;
		align-items: end;
		max-width: 640px;
		margin-top: 4px;
	}
	.why label {
		flex: 1;
		max-width: none;
	}
	.why .field {
		font-family: var(--sans);
		font-weight: 500;
	}
	.why .act {
		min-height: 44px;
	}
	label.act {
		position: relative;
	}
	label.act:focus-within {
		outline: 2px solid var(--steel);
		outline-offset: 2px;
	}
	label.act[data-off='true'] {
		opacity: 0.45;
		cursor: not-allowed;
	}
	.note button {
		text-decoration: underline dotted var(--ink-3) 1px;
		text-underline-offset: 3px;
		color: var(--ink);
		min-height: 28px;
	}
	.note {
		margin-top: 6px;
	}
	.problem {
		color: var(--stop);
		font-weight: 600;
		margin-top: 12px;
	}
</style>
