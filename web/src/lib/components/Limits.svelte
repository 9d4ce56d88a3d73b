<script lang="ts">
	/** The limits derived for this line: every reason with its own figure, the one that rules first. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import Num from './Num.svelte';

	let {
		limits,
		open,
		sheet
	}: {
		limits: Schemas['LimitView'][];
		open: (key: string) => void;
		/** Path of the settings sheet. */ sheet?: string;
	} = $props();
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
						{#if limit.in_force}
							<p class="rules"><Num figure={limit.in_force} {open} /><span>{limit.why}</span></p>
						{/if}
						{#if limit.reasons.length}
							{#each limit.reasons as reason, i (i)}
								<p class:rules={reason.rules && !limit.in_force}>
									<Num figure={reason.figure} {open} />
									<span>{reason.words}</span>
								</p>
							{/each}
						{:else}<p class="say">{session.words(limit.missing)}</p>{/if}
					</td>
					{#if sheet}<td class="decide"
							><a href="{sheet}#{limit.setting}" aria-label="Decide {limit.label.toLowerCase()}">decide</a
							></td
						>{/if}
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
	.decide a {
		display: inline-flex;
		min-height: 32px;
		align-items: center;
		color: var(--steel);
		padding: 0 8px;
	}
	h3 {
		font-size: var(--t2);
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
		font-size: var(--t3);
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
		font-size: var(--t2);
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
