<script lang="ts">
	/** The logs of a line, and what was found wrong with each; nothing of it was repaired. */
	import type { Schemas } from '../api/client';
	import Mark from '../components/Mark.svelte';
	import { session } from '../session.svelte';
	import type { MeasuredPage } from './measured-page.svelte';

	let { page }: { page: MeasuredPage } = $props();
	const logs = $derived(page.view?.logs ?? []);
	const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });
	const on = (seconds: number): string => day.format(new Date(seconds * 1000));

	function long(seconds: number): string {
		if (seconds < 3600) return `${Math.round(seconds / 60)} min`;
		const hours = Math.floor(seconds / 3600);
		const minutes = Math.round((seconds % 3600) / 60);
		return minutes ? `${hours} h ${minutes}` : `${hours} h`;
	}
	const parts = (found: Schemas['FoundView']): string =>
		[found.start ? on(found.start) : '', found.length ? long(found.length) : ''].filter(Boolean).join(', ');
</script>

<h2>What was found in the files</h2>
{#each logs as log (log.id)}
	<article data-aside={log.aside}>
		<p class="named">
			<b>{log.side === 'before' ? 'Before' : 'Now'}</b>
			<span class="say">{log.name}, read by {log.by}</span>
		</p>
		<p class="row">
			<span>{on(log.start)} to {on(log.end)}, every {long(log.interval)}</span>
			<b class="num">{log.rows.toLocaleString('en').replaceAll(',', ' ')} rows</b>
		</p>
		{#if !log.aside}
			{#each log.found as found, i (i)}
				<p class="row">
					<span><Mark severity={found.severity} /> {session.words(found.text)}</span><span class="say"
						>{parts(found)}</span
					>
				</p>
			{:else}
				<p class="row"><span><Mark severity="clear" /> Nothing wrong was found.</span></p>
			{/each}
		{/if}
		<p class="do">
			<button type="button" onclick={() => void page.move(log.id, { aside: !log.aside })}
				>{log.aside ? 'Count it again' : 'Put it aside'}</button
			>
			<button
				type="button"
				onclick={() => void page.move(log.id, { side: log.side === 'before' ? 'after' : 'before' })}
				>Count as {log.side === 'before' ? 'now' : 'before'}</button
			>
			{#if log.columns.some((c) => c.quantity === 'flow' || c.quantity === 'air_flow')}
				<button type="button" onclick={() => void page.duty(log.id)}>Use its hours as the duty</button>
			{/if}
			<a href="/api/lines/{page.line.id}/logs/{log.id}/table?form=csv&units={session.system}">CSV</a>
			<a href="/api/lines/{page.line.id}/logs/{log.id}/table?form=parquet">Parquet</a>
		</p>
	</article>
{/each}

<style>
	article {
		padding: 6px 0;
		border-bottom: 1px solid var(--rule-strong);
	}
	article[data-aside='true'] {
		opacity: 0.6;
	}
	.named {
		display: flex;
		gap: 8px;
		align-items: baseline;
	}
	.row {
		display: flex;
		justify-content: space-between;
		gap: 10px;
		padding: 4px 0;
		font-size: var(--t3);
	}
	.row b {
		white-space: nowrap;
	}
	.row .say {
		white-space: nowrap;
	}
	.do {
		display: flex;
		gap: 4px 16px;
		flex-wrap: wrap;
		font-size: var(--t2);
	}
	.do button,
	.do a {
		font: 600 var(--t2) var(--sans);
		border: 0;
		background: none;
		padding: 4px 0;
		color: var(--steel);
		cursor: pointer;
		text-decoration: underline;
		text-underline-offset: 3px;
		min-height: 30px;
	}
</style>
