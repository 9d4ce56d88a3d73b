<script lang="ts">
	/** The limits derived for this line: every reason with its own figure, the one that rules first. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import Num from './Num.svelte';

	let { limits, open }: { limits: Schemas['LimitView'][]; open: (key: string) => void } = $props();
	const ordered = $derived(
		limits.map((limit) => ({
			...limit,
			reasons: [...limit.reasons].sort((a, b) => Number(b.rules) - Number(a.rules))
		}))
	);
</script>

<section aria-label="Limits">
	<h3>Limits that follow</h3>
	<table>
		<tbody>
			{#each ordered as limit (limit.id)}
				<tr>
					<th scope="row">{limit.label}</th>
					<td>
						{#if limit.reasons.length}
							{#each limit.reasons as reason, i (i)}
								<p class:rules={reason.rules}>
									<Num figure={reason.figure} {open} />
									<span>{reason.words}</span>
								</p>
							{/each}
						{:else}<p class="say">{session.words(limit.missing)}</p>{/if}
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
</section>

<style>
	section {
		margin-top: 16px;
		max-width: 780px;
	}
	h3 {
		font-size: 13px;
		font-weight: 650;
		color: var(--ink-3);
		margin-bottom: 2px;
	}
	table {
		width: 100%;
		border-collapse: collapse;
	}
	th {
		text-align: left;
		vertical-align: top;
		font-size: 14px;
		font-weight: 400;
		color: var(--ink-2);
		padding: 7px 10px 7px 0;
		width: 150px;
	}
	td {
		padding: 5px 0;
	}
	tr {
		border-bottom: 1px solid var(--rule);
	}
	p {
		display: grid;
		grid-template-columns: 92px 1fr;
		gap: 10px;
		font-size: 13.5px;
		color: var(--ink-3);
		padding: 2px 0;
	}
	p.rules {
		color: var(--ink);
		font-weight: 600;
	}
	p.say {
		display: block;
	}
</style>
