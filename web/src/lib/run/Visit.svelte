<script lang="ts">
	/** The visit in hand: what for, by whom, with which instruments, and its end. */
	import { session } from '../session.svelte';
	import { asTitle, date, moment } from '../words';
	import type { RunSheet } from './run-sheet.svelte';

	let { sheet, close }: { sheet: RunSheet; close: () => void } = $props();

	const PURPOSES = ['start-up', 'fault call', 're-check', 'replacement'] as const;
	const visit = $derived(sheet.run?.visit ?? null);
	let name = $state('');
	let due = $state('');
	let problem = $state('');

	async function put(more: Partial<Parameters<RunSheet['putVisit']>[1]>, id = visit?.id): Promise<void> {
		problem = '';
		try {
			const kept = visit?.instruments ?? [];
			const entry = {
				purpose: (visit?.purpose ?? 'start-up') as (typeof PURPOSES)[number],
				instruments: kept,
				note: visit?.note ?? '',
				closed: false,
				...more
			};
			await sheet.putVisit(id ?? crypto.randomUUID(), entry, kept);
		} catch (error) {
			problem = (error as Error).message;
		}
	}

	/** A visit begins; one in hand is never made another. */
	function begin(purpose: (typeof PURPOSES)[number]): void {
		if (purpose !== visit?.purpose) void put({ purpose, note: '' }, crypto.randomUUID());
	}

	function add(event: SubmitEvent): void {
		event.preventDefault();
		if (!name.trim()) return;
		const tools = [...(visit?.instruments ?? []), { name: name.trim(), due: due || null, overdue: false }];
		if (!sheet.instrument) sheet.measuresWith(name.trim());
		name = '';
		due = '';
		void put({ instruments: tools });
	}
</script>

<section class="visit" aria-label="Visit">
	<header>
		<h2>{visit ? `${asTitle(visit.purpose)}, since ${moment(visit.at)}` : 'No visit in hand'}</h2>
		<button type="button" class="act" data-quiet onclick={close}>Back to the step</button>
	</header>
	<fieldset>
		<legend>What for</legend>
		{#each PURPOSES as purpose (purpose)}
			<button
				type="button"
				class="act"
				data-quiet={visit?.purpose === purpose ? undefined : true}
				aria-pressed={visit?.purpose === purpose}
				onclick={() => begin(purpose)}>{asTitle(purpose)}</button
			>
		{/each}
		{#if visit}<p class="say">Another one begins a visit of its own; what this one proved stays.</p>{/if}
	</fieldset>
	<h3>Instruments on this visit</h3>
	<ul>
		{#each visit?.instruments ?? [] as tool, i (i)}
			<li data-overdue={tool.overdue}>
				<label
					><input
						type="radio"
						name="instrument"
						checked={sheet.instrument === tool.name}
						onchange={() => sheet.measuresWith(tool.name)}
					/><b>{tool.name}</b>
					<span
						>{tool.due
							? `${tool.overdue ? 'calibration ended' : 'calibrated until'} ${date(tool.due)}`
							: 'calibration not known'}</span
					></label
				>
				<button
					type="button"
					aria-label="Take {tool.name} off"
					onclick={() => void put({ instruments: visit?.instruments.filter((_, at) => at !== i) ?? [] })}
					>Take off</button
				>
			</li>
		{:else}
			<li class="say">None named. A reading then stands as the drive's display gave it.</li>
		{/each}
	</ul>
	<form onsubmit={add}>
		<label>Instrument <input class="field" bind:value={name} maxlength="200" autocomplete="off" /></label>
		<label>Calibrated until <input class="field" type="date" bind:value={due} /></label>
		<button class="act" data-quiet disabled={!name.trim()}>Add it</button>
	</form>
	<h3>Entries from paper</h3>
	<label class="paper"
		>Made on
		<input class="field" type="datetime-local" step="1" bind:value={sheet.told} />
		<span class="say"
			>{sheet.told
				? 'What is kept now carries this time, and that it was typed in later.'
				: 'Empty: each entry carries the time it is kept.'}</span
		></label
	>
	{#if visit}
		<div class="end">
			<button type="button" class="act" onclick={() => void put({ closed: true })}>End the visit</button>
			<span class="say">The next entry opens another.</span>
		</div>
	{/if}
	{#if problem || !session.reachable}
		<p class="problem" role="alert">{problem || 'No link: the visit can be changed when it is back.'}</p>
	{/if}
</section>

<style>
	.visit {
		max-width: 760px;
		display: grid;
		gap: 12px;
		align-content: start;
	}
	header {
		display: flex;
		justify-content: space-between;
		gap: 16px;
	}
	fieldset {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
	}
	legend {
		font-size: var(--t1);
		font-weight: 600;
		color: var(--ink-3);
		padding-bottom: 4px;
	}
	fieldset .act,
	header .act,
	form .act,
	.end .act {
		min-height: 44px;
	}
	ul {
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: var(--sheet);
	}
	li {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 12px;
		min-height: 48px;
		padding: 4px 14px;
	}
	li + li {
		border-top: 1px solid var(--rule);
	}
	li label {
		display: flex;
		flex-wrap: wrap;
		align-items: baseline;
		gap: 10px;
		cursor: pointer;
	}
	li span {
		font-size: var(--t2);
		color: var(--ink-3);
	}
	li[data-overdue='true'] span {
		color: var(--stop);
		font-weight: 600;
	}
	li button {
		color: var(--steel);
		font-weight: 600;
		min-height: 44px;
	}
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 12px;
		align-items: end;
	}
	form label {
		display: grid;
		gap: 3px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	form label:first-child {
		flex: 1 1 260px;
	}
	.field {
		min-height: 44px;
	}
	.paper {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
		align-items: center;
		font-size: var(--t2);
	}
	.end {
		display: flex;
		gap: 12px;
		align-items: center;
		border-top: 1px solid var(--rule);
		padding-top: 14px;
	}
</style>
