<script lang="ts">
	/** A figure in the reader's units; touching it opens its working. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let {
		figure,
		open,
		unit = true,
		prose = false,
		rough = false,
		digits
	}: {
		figure: Schemas['FigureView'];
		open?: ((key: string) => void) | undefined;
		unit?: boolean;
		/** Inside a sentence: in the sentence's own face. */
		prose?: boolean;
		/** No more of its digits than can be believed, also before the point: 24 500 and not 24 467. */
		rough?: boolean;
		digits?: number;
	} = $props();

	const number = $derived(
		session.units.number(
			rough
				? session.units.rounded(figure.value, figure.dimension, session.system, digits ?? 2)
				: figure.value,
			figure.dimension,
			session.system,
			undefined,
			digits
		)
	);
	const symbol = $derived(unit ? session.units.symbol(figure.dimension, session.system) : '');
</script>

{#if open}
	<button
		type="button"
		class="num"
		data-assumed={figure.assumed}
		data-prose={prose}
		title={figure.assumed ? 'Rests on an assumption. Show the working' : 'Show the working'}
		onclick={() => open(figure.key)}
		>{number}{#if symbol}<i>{symbol}</i>{/if}{figure.assumed ? '*' : ''}</button
	>
{:else}<span class="num" data-assumed={figure.assumed} data-prose={prose}
		>{number}{#if symbol}<i>{symbol}</i>{/if}{figure.assumed ? '*' : ''}</span
	>{/if}

<style>
	button {
		font: inherit;
		font-family: var(--mono);
		font-size: 0.96em;
		color: inherit;
		background: none;
		border: 0;
		padding: 0;
		cursor: pointer;
		text-decoration: underline dotted var(--ink-3) 1px;
		text-underline-offset: 3px;
		white-space: nowrap;
	}
	[data-prose='true'] {
		font-family: inherit;
		font-size: 1em;
		text-decoration-color: var(--rule-strong);
	}
	button:hover {
		color: var(--steel);
	}
	i {
		font-style: normal;
		font-family: var(--sans);
		font-size: 0.94em;
		padding-left: 0.28em;
	}
	span {
		font-size: 0.96em;
		white-space: nowrap;
	}
</style>
