<script lang="ts">
	/** One reading to enter, the predicted figure in grey beneath it, the deviation by word and shape. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import { fits } from '../run/band';
	import { deviation as deviationOf } from '../run/waiting';
	import Mark from './Mark.svelte';
	import Num from './Num.svelte';

	let {
		reading,
		expected,
		kept,
		text,
		input,
		open,
		label,
		half,
		within
	}: {
		reading: Schemas['ReadingView'];
		expected?: Schemas['FigureView'] | null | undefined;
		kept?: Schemas['CellView'] | undefined;
		text: string;
		input: (text: string) => void;
		open: (key: string) => void;
		label: string;
		/** Half of the 95 % band round what is expected, and how far off is news. */
		half?: number | undefined;
		within?: number | undefined;
	} = $props();

	const read = $derived(
		text.trim() ? session.units.parse(text, reading.dimension, session.system) : undefined
	);
	const value = $derived(typeof read === 'number' ? read : kept?.value);
	const deviation = $derived(
		value !== undefined && expected ? deviationOf(reading, value, expected.value) : null
	);
	const off = $derived(value !== undefined && !fits(reading, value, expected?.value, within));
	const percent = $derived(
		deviation === null ? '' : `${deviation < 0 ? '−' : '+'}${Math.abs(deviation * 100).toFixed(1)} %`
	);
	const word = $derived(
		off && deviation !== null
			? `${Math.abs(deviation * 100).toFixed(Math.abs(deviation) < 0.095 ? 1 : 0)} % ${deviation < 0 ? 'low' : 'high'}`
			: ''
	);
	const plusMinus = $derived(
		half && expected && value === undefined
			? session.units.number(half, reading.dimension, session.system, undefined, 1)
			: ''
	);
	const placeholder = $derived(
		kept ? session.units.number(kept.value, reading.dimension, session.system, undefined, 4) : '–'
	);
</script>

<div class="cell" data-off={off} data-kept={kept !== undefined && text === ''}>
	<input
		aria-label={label}
		inputmode="decimal"
		autocomplete="off"
		value={text}
		{placeholder}
		aria-invalid={typeof read === 'string'}
		oninput={(event) => input(event.currentTarget.value)}
	/>
	<span class="under">
		{#if expected}<span class="foretold"
				><Num figure={{ ...expected, dimension: reading.dimension }} unit={false} {open} />{#if plusMinus}<i
						>±{plusMinus}</i
					>{/if}</span
			>{/if}
		{#if percent}<em data-severity={off ? 'caution' : 'clear'}
				>{#if off}<Mark severity="caution" size={11} />{/if}{word || percent}</em
			>{/if}
	</span>
</div>

<style>
	.cell {
		border: 1px solid var(--rule-strong);
		background: var(--paper);
		border-radius: var(--r);
		padding: 3px 7px 3px;
	}
	.cell:focus-within {
		outline: 2px solid var(--steel);
	}
	input {
		width: 100%;
		text-align: right;
		font: 650 var(--t4) var(--mono);
		background: none;
		border: 0;
		color: var(--ink);
		outline: none;
		min-height: 24px;
	}
	.cell[data-kept='true'] input::placeholder {
		color: var(--ink);
		opacity: 1;
	}
	.cell[data-off='true'] input,
	.cell[data-off='true'] input::placeholder {
		color: var(--caution);
	}
	input::placeholder {
		color: var(--ink-3);
	}
	.under {
		display: flex;
		justify-content: space-between;
		flex-direction: row-reverse;
		gap: 4px;
		font-size: var(--t1);
		color: var(--ink-3);
		min-height: 16px;
		line-height: 16px;
	}
	.foretold {
		white-space: nowrap;
	}
	.foretold i {
		font-style: normal;
		margin-left: 2px;
	}
	em {
		font-style: normal;
		font-size: var(--t1);
		color: var(--tone);
		display: inline-flex;
		align-items: center;
		gap: 3px;
		white-space: nowrap;
	}
</style>
