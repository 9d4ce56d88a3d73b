<script lang="ts">
	/**
	 * One field of the record: takes a number with or without a unit, says what it understood, offers the likelier
	 * value. The unit at its end switches for this field alone.
	 */
	import type { Schemas } from '../api/client';
	import { openLine } from '../line/context';
	import { session } from '../session.svelte';
	import FieldRow from './FieldRow.svelte';
	import Sentence from './Sentence.svelte';

	let { field }: { field: Schemas['FieldView'] } = $props();

	const page = openLine();
	let chosen = $state<string | undefined>();
	let typed = $state<string | null>(null);

	const entry = $derived(page.entry(field.path));
	const value = $derived(typeof entry?.value === 'number' ? entry.value : undefined);
	const shown = $derived(
		value === undefined ? '' : session.units.number(value, field.dimension, session.system, chosen, 7)
	);
	const symbol = $derived(session.units.symbol(field.dimension, session.system, chosen));
	const unread = $derived.by(() => {
		if (typed === null || typed.trim() === '') return '';
		const read = session.units.parse(typed, field.dimension ?? '', session.system, chosen);
		return typeof read === 'string' ? read : '';
	});
	const refused = $derived(page.assessment?.problems.find((p) => p.field === field.path));
	const finding = $derived(
		page.assessment?.findings.find((f) => f.severity === 'stop' && f.fix?.field === field.path) ??
			page.assessment?.findings.find((f) => f.severity === 'caution' && f.fix?.field === field.path)
	);
	const bad = $derived(unread !== '' || refused !== undefined || finding?.severity === 'stop');
	const other = $derived.by(() => {
		if (value === undefined || !field.dimension) return '';
		if (typed !== null && session.units.typedUnit(typed, field.dimension))
			return `= ${session.units.show(value, field.dimension, session.system, chosen)}`;
		const across = session.system === 'si' ? 'us' : 'si';
		const text = session.units.show(value, field.dimension, across);
		return text === session.units.show(value, field.dimension, session.system, chosen) ? '' : text;
	});

	const otherReading = $derived(
		typed === null
			? undefined
			: session.units.otherReading(typed, field.dimension ?? '', session.system, chosen)
	);

	function input(text: string): void {
		typed = text;
		if (text.trim() === '') {
			page.set(field.path, undefined);
			return;
		}
		const read = session.units.parse(text, field.dimension ?? '', session.system, chosen);
		if (typeof read !== 'number') return;
		const withUnit = session.units.typedUnit(text, field.dimension ?? '') ? text : `${text} ${symbol}`;
		page.set(field.path, read, field.provenance, withUnit.trim());
	}

	function leave(): void {
		if (unread === '' && !otherReading) typed = null; // what may be read two ways stays until it is said which
	}

	function nextUnit(): void {
		const dimension = session.units.dimension(field.dimension);
		const usual = session.units.unit(field.dimension, session.system)?.factor ?? 1;
		const shown = dimension ? session.units.shown(dimension) : [];
		// only units of its size: a tap beside a motor's kilowatts is never meant as megawatts
		const units = (dimension?.units ?? []).filter(
			(u) => Math.abs(Math.log10(u.factor / usual)) < 2.1 || shown.includes(u.symbol)
		);
		const at = units.findIndex((u) => u.symbol === (symbol || '–'));
		chosen = units[(at + 1) % units.length]?.symbol;
		typed = null;
	}
</script>

<FieldRow path={field.path} label={field.label}>
	<span class="entry" data-bad={bad}>
		<input
			id={field.path}
			inputmode="decimal"
			autocomplete="off"
			value={typed ?? shown}
			placeholder="–"
			aria-invalid={bad}
			aria-describedby="{field.path}-say"
			oninput={(event) => input(event.currentTarget.value)}
			onblur={leave}
		/>
		<button type="button" tabindex="-1" onclick={nextUnit} title="Another unit for this field"
			>{symbol || '–'}</button
		>
	</span>
	{#snippet say()}
		{#if unread}<b>Not read: {unread}.</b>
		{:else if refused}<b>{session.words(refused.message)}.</b>
		{:else if otherReading && value !== undefined}
			understood {session.units.show(value, field.dimension, session.system, chosen)}
			<button type="button" class="fix" onclick={() => input(otherReading)}>{otherReading}?</button>
		{:else if finding?.fix}
			{@const fix = finding.fix}
			<b data-severity={finding.severity}>{session.words(finding.title)}.</b>
			<button
				type="button"
				class="fix"
				onclick={() => {
					typed = null;
					page.set(fix.field, fix.value, field.provenance);
				}}><Sentence parts={fix.label} /></button
			>
		{:else if value === undefined}{session.words(field.help)}
		{:else if typed !== null && other}understood {other}
		{:else}{other || session.words(field.help)}{/if}
	{/snippet}
</FieldRow>

<style>
	.entry {
		display: flex;
		background: var(--paper);
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
	}
	.entry:focus-within {
		outline: 2px solid var(--steel);
		outline-offset: -1px;
	}
	.entry[data-bad='true'] {
		border-color: var(--stop);
		outline: 1px solid var(--stop);
	}
	input {
		flex: 1;
		min-width: 0;
		font: 600 var(--t4) var(--mono);
		color: var(--ink);
		background: none;
		border: 0;
		padding: 5px 9px;
		outline: none;
		min-height: 32px;
	}
	.entry button {
		font: 500 var(--t2) var(--sans);
		color: var(--ink-3);
		background: none;
		border: 0;
		border-left: 1px solid var(--rule);
		padding: 0 8px;
		min-width: 40px;
		cursor: pointer;
	}
	b {
		color: var(--stop);
		font-weight: 650;
	}
	b[data-severity] {
		color: var(--tone);
	}
	.fix {
		font: 650 var(--t3) var(--mono);
		color: var(--steel);
		background: none;
		border: 0;
		border-bottom: 1.5px solid var(--steel);
		padding: 2px;
		cursor: pointer;
		min-height: 28px;
	}
</style>
