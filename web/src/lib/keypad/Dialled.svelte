<script lang="ts">
	/** The parameter in hand, large: where it is, what to dial, what the display does not say by itself. */
	import { session } from '../session.svelte';
	import type { Key } from './keypad-page.svelte';

	let { step }: { step: Key } = $props();

	const notes = $derived(
		[
			step.stopped ? 'The drive takes it only while it stands.' : '',
			step.cycle ? 'It acts after the power was off and on.' : '',
			step.rounded && typeof step.holds === 'number'
				? `Rounded to what it can hold: ${session.show(step.holds, step.dimension)}, wanted ${session.show(Number(step.wanted), step.dimension)}.`
				: '',
			step.word ? `All bits together: ${step.word}, with ${step.siblings.join(', ').toLowerCase()}.` : '',
			step.doubt ? `The map is doubtful here: ${step.doubt}` : ''
		].filter(Boolean)
	);
	const long = $derived(step.fields.some((f) => f.text.length > 7));
</script>

<p class="way">{step.way || step.page}</p>
<div class="name">
	<b class="num" class:long={step.number.length > 8}>{step.number}</b>
	<h2>{step.called}</h2>
	<span title={step.definition}>{step.label.toLowerCase()}</span>
</div>
<div class="dial" class:bad={step.problem !== ''}>
	<small>{step.dimension === null ? 'choose' : 'dial'}</small>
	{#each step.fields as field, i (field.number)}
		{#if i > 0}<small class="then">then {field.number}</small>{/if}
		<b class="num" class:long>{field.text}</b>
	{/each}
	<i>{step.says}</i>
	{#if step.problem}<p role="alert">{step.problem}</p>{/if}
</div>
{#if step.moved}<p class="hidden" role="note">{step.moved}</p>{/if}
{#if step.hidden}<p class="hidden">{step.hidden}</p>{/if}
{#each notes as note (note)}<p class="note">{note}</p>{/each}

<style>
	.way {
		color: var(--ink-2);
		font-size: var(--t3);
		min-height: 21px;
	}
	.name {
		display: flex;
		flex-wrap: wrap;
		align-items: baseline;
		column-gap: 16px;
		margin-top: 2px;
	}
	.name b {
		font-size: var(--t6);
		line-height: 1.15;
		font-weight: 700;
	}
	.name b.long {
		font-size: var(--t5);
	}
	h2 {
		font-size: var(--t5);
		font-weight: 650;
	}
	.name span {
		color: var(--ink-2);
		font-size: var(--t4);
	}
	.dial {
		background: #1d2327;
		color: #f4efe2;
		border-radius: 6px;
		padding: 14px 22px 16px;
		margin-top: 10px;
		display: flex;
		flex-wrap: wrap;
		align-items: baseline;
		column-gap: 16px;
	}
	.dial.bad {
		outline: 3px solid var(--stop);
	}
	.dial small {
		flex-basis: 100%;
		font-size: var(--t3);
		color: #bcb6a6;
	}
	.dial small.then {
		flex-basis: auto;
	}
	.dial b {
		font-size: calc(2 * var(--t6));
		line-height: 1.1;
		font-weight: 700;
	}
	.dial b.long {
		font-size: var(--t6);
	}
	.dial i {
		font-style: normal;
		font-size: var(--t4);
		color: #d9d3c4;
	}
	.dial p {
		flex-basis: 100%;
		color: #ffb9a8;
		font-weight: 600;
	}
	.note,
	.hidden {
		margin-top: 6px;
		font-size: var(--t3);
		color: var(--ink-2);
	}
	.hidden {
		color: var(--caution);
		font-weight: 600;
	}
	@media (max-width: 600px) {
		.name b {
			font-size: var(--t6);
		}
		.dial b {
			font-size: calc(1.7 * var(--t6));
		}
	}
</style>
