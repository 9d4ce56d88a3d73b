<script lang="ts">
	/** An entry that the server did not take: what it was, why, what others kept, and the person decides. */
	import { session } from '../session.svelte';
	import { inSentence } from '../words';
	import type { Entry } from './outbox';
	import { RunSheet } from './run-sheet.svelte';

	let { sheet, entry }: { sheet: RunSheet; entry: Entry } = $props();

	const theirs = $derived(RunSheet.theirs(entry));
	const step = $derived(sheet.run?.steps.find((s) => s.id === entry.step));

	function told(data: Record<string, unknown>): string {
		const readings = [...(step?.readings ?? []), ...(step?.table?.columns ?? [])];
		const words = readings
			.filter((r) => typeof data[r.id] === 'number')
			.map((r) => `${inSentence(r.label)} ${session.show(data[r.id] as number, r.dimension)}`);
		if (typeof data['choice'] === 'string') words.push(step?.choices[data['choice']] ?? data['choice']);
		const items = Object.keys(step?.items ?? {});
		if (items.length) words.push(`${items.filter((key) => data[key]).length} of ${items.length} seen`);
		const at =
			typeof data['reference'] === 'number'
				? `at ${session.show(data['reference'], step?.table?.reference)}: `
				: data['unit']
					? `unit ${String(data['unit'])}: `
					: '';
		return at + (words.join(', ') || 'done');
	}
</script>

<section class="refused" role="alert">
	<p>
		<b>Not taken: {inSentence(entry.title)}.</b>
		{entry.refused?.problem.detail}.
	</p>
	<dl>
		<dt>Here, {entry.by}</dt>
		<dd>{told(entry.data)}{entry.note ? `; “${entry.note}”` : ''}</dd>
		{#each theirs as each (each.id)}
			<dt>There, {each.by}</dt>
			<dd>{told(each.data)}{each.note ? `; “${each.note}”` : ''}</dd>
		{/each}
	</dl>
	<div>
		<button type="button" class="act" onclick={() => void sheet.insist(entry)}
			>{theirs.length ? 'Keep mine too' : 'Try it again'}</button
		>
		<button type="button" class="act" data-quiet onclick={() => void sheet.letGo(entry)}>Discard mine</button>
	</div>
</section>

<style>
	.refused {
		border: 1px solid var(--caution);
		border-left-width: 5px;
		background: var(--caution-wash);
		border-radius: var(--r);
		padding: 12px 14px;
		margin-bottom: 16px;
	}
	dl {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 2px 12px;
		margin: 8px 0;
		font-size: var(--t3);
	}
	dt {
		color: var(--ink-2);
	}
	div {
		display: flex;
		gap: 10px;
	}
	.act {
		min-height: 44px;
	}
</style>
