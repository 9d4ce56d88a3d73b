<script lang="ts">
	/** What is looked at in one place: the figure, what it is held against, and what it means. */
	import type { Schemas } from '../api/client';
	import Mark from '../components/Mark.svelte';
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';

	let { place, open }: { place: Schemas['PlaceView']; open: (key: string) => void } = $props();

	const told = $derived(place.looks.filter((look) => look.severity !== 'unknown'));
	const wanting = $derived(place.looks.filter((look) => look.severity === 'unknown'));
</script>

{#if told.length}
	<table class="ledger">
		<thead
			><tr
				><th class="what">{place.label}</th><th class="right found">Found</th><th class="right found"
					>Against</th
				><th>What it means</th></tr
			></thead
		>
		<tbody>
			{#each told as look (look.id)}
				<tr>
					<th scope="row"><Mark severity={look.severity} /> {look.label}</th>
					<td class="right"
						>{#if look.figure}<b><Num figure={look.figure} {open} /></b>{/if}</td
					>
					<td class="right quiet"
						>{#if look.against}<Num figure={look.against} {open} />{/if}</td
					>
					<td class="said">{session.words(look.said)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}
{#if wanting.length}
	<details open={!told.length}>
		<summary>{wanting.length} not known yet</summary>
		{#each wanting as look (look.id)}
			<p class="say">
				<Mark severity="unknown" /> <b>{look.label}</b>: {session.words(look.said)}.
			</p>
		{/each}
	</details>
{/if}

<style>
	table {
		table-layout: fixed;
	}
	tbody th {
		white-space: nowrap;
	}
	.what {
		width: 232px;
	}
	.found {
		width: 124px;
	}
	.quiet {
		color: var(--ink-3);
	}
	details {
		padding: 8px 0;
	}
	summary {
		cursor: pointer;
		font-weight: 600;
		color: var(--steel);
		min-height: 32px;
	}
	details p {
		padding: 3px 0;
	}
</style>
