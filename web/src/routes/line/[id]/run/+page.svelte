<script lang="ts">
	/** The run sheet: the safe order at the left, the step in hand large, its danger and what it means at the right. */
	import { SvelteDate } from 'svelte/reactivity';
	import { answer, api, type Schemas } from '$lib/api/client';
	import Mark from '$lib/components/Mark.svelte';
	import ReadingCell from '$lib/components/ReadingCell.svelte';
	import Sentence from '$lib/components/Sentence.svelte';
	import { openLine } from '$lib/line/context';
	import { session } from '$lib/session.svelte';

	type Step = Schemas['StepView'];

	const line = openLine();
	const open = (key: string) => line.openWorking(key);
	let run = $state.raw<Schemas['RunView'] | null>(null);
	let chosen = $state<string | null>(null);
	let problem = $state('');
	let busy = $state(false);
	let texts = $state<Record<string, string>>({});
	/** Server time less this device's: the server's clock rules. */
	let skew = $state(0);
	const now = new SvelteDate();

	function took(found: Schemas['RunView']): void {
		run = found;
		skew = new Date(found.now).getTime() - Date.now();
	}

	$effect(() => {
		void line.version;
		answer(api.GET('/api/lines/{line_id}/run', { params: { path: { line_id: line.id } } }))
			.then(took)
			.catch((error: Error) => (problem = error.message));
	});
	$effect(() => {
		const tick = setInterval(() => now.setTime(Date.now()), 250);
		return () => clearInterval(tick);
	});

	let list = $state<HTMLElement>();
	$effect(() => {
		void step?.id;
		const current = list?.querySelector<HTMLElement>('[aria-current]');
		if (list && current) list.scrollTop = current.offsetTop - list.clientHeight / 2;
	});

	const inHand = $derived(
		run?.steps.find((s) => s.state === 'stale' || s.state === 'failed') ??
			run?.steps.find((s) => s.state === 'next' || s.state === 'held')
	);
	const first = $derived(
		run?.steps.find((s) => s.state === 'next' || s.state === 'held' || s.state === 'failed')
	);
	const step = $derived(run?.steps.find((s) => s.id === chosen) ?? first ?? inHand ?? run?.steps.at(-1));
	const stale = $derived(run?.steps.filter((s) => s.changed.length) ?? []);
	const left = $derived(
		step?.clock_ends ? Math.max(0, (new Date(step.clock_ends).getTime() - now.getTime() - skew) / 1000) : 0
	);
	const done = $derived(run?.steps.filter((s) => s.state === 'done').length ?? 0);

	function clock(seconds: number): string {
		const whole = Math.ceil(seconds);
		return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
	}

	async function keep(
		kind: 'start' | 'tick' | 'choice' | 'readings' | 'row',
		data: Record<string, unknown> = {},
		typed = ''
	) {
		if (!step) return;
		busy = true;
		problem = '';
		const id = step.id;
		const was = step.state;
		try {
			took(
				await answer(
					api.POST('/api/lines/{line_id}/evidence', {
						params: { path: { line_id: line.id } },
						body: { id: crypto.randomUUID(), step: id, kind, data, by: session.who, note: '' }
					})
				)
			);
			// only what was sent: the next row may be half typed by now
			for (const key of Object.keys(texts)) if (typed && key.startsWith(`${typed}.`)) delete texts[key];
			const after = run?.steps.find((s) => s.id === id);
			if (kind !== 'start' && after?.state === 'done' && was !== 'done')
				chosen = null; // on to the next
			else chosen = id;
			await line.refresh();
		} catch (error) {
			problem = (error as Error).message;
		}
		busy = false;
	}

	/** Numbers of the texts typed at a prefix; null where one cannot be read. */
	function numbers(prefix: string, columns: Schemas['ReadingView'][]): Record<string, number> | null {
		const found: Record<string, number> = {};
		for (const column of columns) {
			const text = texts[`${prefix}.${column.id}`]?.trim();
			if (!text) continue;
			const read = session.units.parse(text, column.dimension, session.system);
			if (typeof read === 'string') {
				problem = `${column.label}: ${read}`;
				return null;
			}
			found[column.id] = read;
		}
		return found;
	}

	function keepReadings(of: Step): void {
		const data = numbers(of.id, of.readings);
		if (data) void keep('readings', data, of.id);
	}

	const openRow = $derived.by(() => {
		const rows = step?.table?.rows ?? [];
		const typedAt = rows.findIndex((_, i) =>
			Object.entries(texts).some(([k, t]) => k.startsWith(`${step?.id}.${i}.`) && t.trim())
		);
		if (typedAt >= 0) return typedAt;
		return rows.findIndex((r) => Object.keys(r.read).length === 0);
	});

	function keepRow(of: Step, index: number): void {
		const row = of.table?.rows[index];
		if (!row || !of.table) return;
		const kept = Object.fromEntries(Object.entries(row.read).map(([id, cell]) => [id, cell.value]));
		const data = numbers(`${of.id}.${index}`, of.table.columns);
		if (data) void keep('row', { ...kept, ...data, reference: row.reference }, `${of.id}.${index}`);
	}

	function mark(of: Step): string {
		const last = of.evidence.at(-1);
		if (of.state === 'stale') return 'stale';
		if (of.state === 'held') return 'held';
		if (of.table) {
			const read = of.table.rows.filter((r) => Object.keys(r.read).length).length;
			return read ? `${read} of ${of.table.rows.length}` : '';
		}
		if (of.state === 'done' && last)
			return new Date(last.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
		return '';
	}

	function keys(event: KeyboardEvent): void {
		const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
		if (typing || (event.key !== 'j' && event.key !== 'k') || !run || !step) return;
		const at = run.steps.indexOf(step) + (event.key === 'j' ? 1 : -1);
		chosen = run.steps[at]?.id ?? chosen;
	}

	function changedText(change: Schemas['ChangedView']): string {
		const said = (v: number | string | null) =>
			v === null ? 'nothing' : typeof v === 'number' ? session.show(v, change.dimension) : v;
		return `${change.label.toLowerCase()} was ${said(change.was)}, is ${said(change.now)}`;
	}
</script>

<svelte:window onkeydown={keys} />

{#if run && step}
	<div class="two">
		<nav class="list" aria-label="Steps" bind:this={list}>
			<p class="count">{done} of {run.steps.length} done</p>
			<a class="trip" href="/line/{line.id}/trip">It tripped: why?</a>
			{#each run.steps as each, i (each.id)}
				{#if i === 0 || each.phase !== run.steps[i - 1]?.phase}<h3>{each.phase_label}</h3>{/if}
				<button
					type="button"
					data-state={each.state}
					aria-current={each.id === step.id ? 'step' : undefined}
					onclick={() => (chosen = each.id)}
				>
					<span class="dot" aria-hidden="true"></span>{each.title}<span class="t num">{mark(each)}</span>
					<span class="sr-only">{each.state}</span>
				</button>
			{/each}
		</nav>
		<main class="work">
			<div>
				<h2>{step.title}</h2>
				<p class="what"><Sentence parts={step.what} {open} /></p>
				<p class="why">{step.why}</p>

				{#if step.state === 'later' || step.state === 'held'}
					<div class="hold" role="note">
						<b>{step.state === 'held' ? 'Held' : 'Not yet'}.</b>
						{step.held_by.join('; ')}
					</div>
				{/if}

				{#if step.proof === 'countdown' && step.seconds}
					<p class="clock num" data-running={left > 0} aria-live="off">
						{step.clock_ends ? clock(left) : clock(step.seconds.value)}
					</p>
					<div class="actions">
						<button
							class="act"
							data-big
							disabled={busy || step.state === 'later'}
							data-quiet={step.clock_ends ? true : undefined}
							onclick={() => keep('start')}
							>{step.clock_ends ? 'Start the clock again' : 'Isolator open: start the clock'}</button
						>
						<button
							class="act"
							data-big
							disabled={busy || !step.clock_ends || left > 0 || step.state === 'done'}
							onclick={() => keep('tick')}>The wait is over</button
						>
					</div>
				{:else if step.proof === 'tick'}
					<div class="actions">
						<button
							class="act"
							data-big
							disabled={busy || step.state === 'later' || step.state === 'held'}
							onclick={() => keep('tick')}
							>{step.state === 'done'
								? 'Done again'
								: step.state === 'stale'
									? 'Done again, with the new values'
									: 'Done'}</button
						>
					</div>
				{:else if step.proof === 'choice'}
					<div class="actions">
						{#each Object.entries(step.choices) as [id, label] (id)}
							<button
								class="act"
								data-big
								data-quiet={step.right !== '*' && id !== step.right ? true : undefined}
								disabled={busy || step.state === 'later' || step.state === 'held'}
								onclick={() => keep('choice', { choice: id })}>{label}</button
							>
						{/each}
					</div>
					{#if step.state === 'failed'}
						<div class="hold">
							<b>Not proven.</b>
							{step.id === 'turn.rotation'
								? 'Power off, lock, wait, measure; swap two motor leads at the drive; jog again. Swapping leads is right with a bypass too, reversing in the drive is not.'
								: 'Correct it, then prove it again.'}
						</div>
					{/if}
				{:else if step.proof === 'readings'}
					<div class="readings">
						{#each step.readings as reading (reading.id)}
							<div>
								<span class="called"
									>{reading.label} <i>{session.units.symbol(reading.dimension, session.system)}</i></span
								>
								<ReadingCell
									{reading}
									expected={reading.expected}
									label={reading.label}
									kept={typeof step.evidence.at(-1)?.data[reading.id] === 'number'
										? {
												value: step.evidence.at(-1)?.data[reading.id] as number,
												deviation: null,
												fits: true
											}
										: undefined}
									text={texts[`${step.id}.${reading.id}`] ?? ''}
									input={(text) => (texts[`${step.id}.${reading.id}`] = text)}
									{open}
								/>
							</div>
						{/each}
					</div>
					<div class="actions">
						<button
							class="act"
							data-big
							disabled={busy || step.state === 'later'}
							onclick={() => keepReadings(step)}>Keep these readings</button
						>
					</div>
					{#if step.state === 'failed'}
						<div class="hold">
							<b>Out of band.</b> Read again. If it stays, do not go on: find the cause.
						</div>
					{/if}
				{:else if step.table}
					<table>
						<thead>
							<tr>
								<th class="l">Reference</th>
								{#each step.table.columns as column (column.id)}
									<th>{column.label} {session.units.symbol(column.dimension, session.system)}</th>
								{/each}
							</tr>
						</thead>
						<tbody>
							{#each step.table.rows as row, i (row.reference)}
								<tr data-open={i === openRow}>
									<td class="l num">{session.show(row.reference, 'frequency')}</td>
									{#each step.table.columns as column (column.id)}
										<td>
											<ReadingCell
												reading={column}
												expected={row.expected[column.id]}
												kept={row.read[column.id]}
												label="{column.label} at {row.reference} Hz"
												text={texts[`${step.id}.${i}.${column.id}`] ?? ''}
												input={(text) => (texts[`${step.id}.${i}.${column.id}`] = text)}
												{open}
											/>
										</td>
									{/each}
								</tr>
							{/each}
						</tbody>
					</table>
					<div class="actions">
						<button
							class="act"
							data-big
							disabled={busy || step.state === 'later' || openRow < 0}
							onclick={() => keepRow(step, openRow)}
							>Keep {openRow >= 0 ? `the ${step.table.rows[openRow]?.reference} Hz row` : 'this row'}</button
						>
					</div>
					<p class="say note">
						{step.table.missing
							? `No prediction: ${step.table.missing}.`
							: '* rests on an assumption; touch the figure to see which.'}
					</p>
				{/if}
				{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
			</div>
			<aside>
				{#if step.danger}
					<div class="care">
						<b>Take care</b>
						<p>{step.danger}</p>
					</div>
				{/if}
				{#if step.table?.pattern}
					<div class="box" data-severity="caution">
						<Mark severity="caution" /> <b>What the readings fit</b>
						<p>{step.table.pattern}</p>
					</div>
				{/if}
				{#each stale as each (each.id)}
					<div class="box stale">
						<b>Stale: {each.title.toLowerCase()}</b>
						<p>
							It rested on values that changed: {each.changed.slice(0, 4).map(changedText).join('; ')}. Prove
							it again.
						</p>
						{#if each.id !== step.id}<button
								type="button"
								class="act"
								data-quiet
								onclick={() => (chosen = each.id)}>To that step</button
							>{/if}
					</div>
				{/each}
				{#each step.evidence.slice(-1) as kept (kept.at)}
					<p class="say by">
						{kept.passed ? 'Kept' : 'Entered'} by {kept.by}, {new Date(kept.at).toLocaleString('en-GB', {
							day: 'numeric',
							month: 'short',
							hour: '2-digit',
							minute: '2-digit'
						})}
					</p>
				{/each}
			</aside>
		</main>
	</div>
{:else}
	<p class="say" style:padding="20px">{problem || 'Opening the run sheet …'}</p>
{/if}

<style>
	.two {
		display: grid;
		grid-template-columns: 296px minmax(0, 1fr);
		min-height: 0;
	}
	.list {
		position: relative; /* what is hidden in it for screen readers must scroll with it */
		border-right: 1px solid var(--rule);
		background: var(--sheet);
		padding: 8px 0 24px;
		overflow: auto;
		font-size: 14.5px;
	}
	.trip {
		display: flex;
		align-items: center;
		min-height: 44px;
		padding: 0 16px;
		color: var(--steel);
		font-weight: 600;
	}
	.count {
		padding: 4px 16px 0;
		color: var(--ink-3);
		font-size: 12.5px;
	}
	.list h3 {
		padding: 11px 16px 3px;
	}
	.list button {
		display: grid;
		grid-template-columns: 22px minmax(0, 1fr) auto auto;
		gap: 8px;
		width: 100%;
		min-height: 44px;
		padding: 4px 16px;
		align-items: center;
		text-align: left;
		color: var(--ink-2);
		background: none;
		border: 0;
		cursor: pointer;
	}
	.list button[aria-current] {
		background: var(--brass-wash);
		color: var(--ink);
		font-weight: 650;
		box-shadow: inset 4px 0 0 var(--brass);
	}
	.list button[data-state='later'] {
		color: var(--ink-3);
	}
	.list button[data-state='stale'] {
		color: var(--caution);
	}
	.list button[data-state='held'],
	.list button[data-state='failed'] {
		color: var(--stop);
	}
	.dot {
		width: 14px;
		height: 14px;
		border-radius: 50%;
		border: 1.6px solid var(--rule-strong);
	}
	[data-state='done'] .dot {
		background: var(--clear);
		border-color: var(--clear);
	}
	[data-state='next'] .dot {
		border: 4px solid var(--brass);
	}
	[data-state='stale'] .dot {
		border: 1.8px dashed var(--caution);
	}
	[data-state='held'] .dot,
	[data-state='failed'] .dot {
		border-radius: 0;
		background: var(--stop);
		border-color: var(--stop);
	}
	.t {
		font-size: 12px;
		color: var(--ink-3);
		font-weight: 500;
	}
	.work {
		padding: 18px 24px 30px;
		display: grid;
		grid-template-columns: minmax(0, 1fr) 320px;
		gap: 24px;
		align-content: start;
		overflow: auto;
	}
	.work h2 {
		font-size: 24px;
		font-weight: 680;
		margin-bottom: 6px;
	}
	.what {
		font-size: 17px;
		max-width: 52ch;
	}
	.why {
		color: var(--ink-2);
		font-size: 14.5px;
		max-width: 56ch;
		margin-top: 4px;
	}
	.actions {
		display: flex;
		gap: 12px;
		margin-top: 18px;
		flex-wrap: wrap;
	}
	.clock {
		font-size: 64px;
		font-weight: 650;
		line-height: 1;
		margin-top: 18px;
		color: var(--ink-3);
	}
	.clock[data-running='true'] {
		color: var(--brass);
	}
	.hold {
		border-left: 5px solid var(--stop);
		background: var(--stop-wash);
		padding: 10px 14px;
		margin-top: 14px;
		border-radius: 0 var(--r) var(--r) 0;
		max-width: 60ch;
	}
	.readings {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
		gap: 12px;
		margin-top: 16px;
		max-width: 560px;
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
	.care {
		border-left: 5px solid var(--stop);
		background: var(--stop-wash);
		padding: 12px 14px;
		border-radius: 0 var(--r) var(--r) 0;
	}
	.care b {
		color: var(--stop);
		font-size: 15.5px;
	}
	.care p {
		font-size: 14.5px;
		margin-top: 3px;
	}
	.box {
		background: var(--sheet);
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		padding: 12px 14px;
		margin-top: 14px;
		font-size: 14px;
	}
	.box b {
		color: var(--caution);
	}
	.box p {
		color: var(--ink-2);
		margin-top: 4px;
	}
	.box .act {
		margin-top: 8px;
	}
	.stale {
		border: 1px dashed var(--caution);
	}
	.by {
		margin-top: 12px;
	}
	.note {
		margin-top: 6px;
	}
	.problem {
		color: var(--stop);
		font-weight: 600;
		margin-top: 12px;
	}
	@media (max-width: 1000px) {
		.two {
			grid-template-columns: 220px minmax(0, 1fr);
		}
		.work {
			grid-template-columns: minmax(0, 1fr);
			padding: 14px;
		}
		.work aside {
			grid-row: 1;
		}
	}
</style>
