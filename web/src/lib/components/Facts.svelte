<script lang="ts">
	/** Figures one under the other, each with its name. */
	import type { Schemas } from '../api/client';
	import Num from './Num.svelte';

	let {
		rows,
		open
	}: {
		rows: { label: string; figure: Schemas['FigureView'] | undefined; digits?: number; note?: string }[];
		open?: (key: string) => void;
	} = $props();
</script>

{#each rows as row (row.label)}
	{#if row.figure}
		<p class="fact">
			<span
				>{row.label}{#if row.note}<small>{row.note}</small>{/if}</span
			><b data-loss={row.figure.value < 0 ? '' : undefined}
				><Num figure={row.figure} digits={row.digits} {open} /></b
			>
		</p>
	{/if}
{/each}

<style>
	b[data-loss] {
		color: var(--stop);
	}
</style>
