<script lang="ts">
	/** The line as known: what to expect by the plate and by what was read, what was learnt, what to read next. */
	import type { Schemas } from '../api/client';
	import Mark from '../components/Mark.svelte';
	import Num from '../components/Num.svelte';
	import Sentence from '../components/Sentence.svelte';
	import { session } from '../session.svelte';

	let {
		known,
		open,
		says = false,
		bare = false
	}: { known: Schemas['KnownView']; open: (key: string) => void; says?: boolean; bare?: boolean } = $props();
	const number = (figure: Schemas['FigureView']) =>
		session.units.number(figure.value, figure.dimension, session.system);
</script>

<section class="known" data-bare={bare} aria-label="By what was read">
	<h4>By what was read <span>{known.readings} readings</span></h4>
	{#if says && known.says}
		<p data-severity="caution">
			<Mark severity="caution" /> <b>{known.says.title}.</b>
			<Sentence parts={known.says.because} {open} />
			{known.says.do}
		</p>
	{:else if !known.fits}
		<p>They do not go with the record: until that is cleared all is told by the plate.</p>
	{/if}
	{#if known.expects.length}
		<table>
			<thead><tr><th class="l"></th><th>by the plate</th><th>by what was read</th><th>95 %</th></tr></thead>
			<tbody>
				{#each known.expects as each (each.id)}
					<tr>
						<td class="l">{each.label}</td>
						<td class="plate"><Num figure={each.plate} {open} /></td>
						<td><Num figure={each.known} {open} /></td>
						<td class="plate">{number(each.low)} to {number(each.high)}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
	{#if known.learnt.length}
		<p>
			The readings together say: {#each known.learnt as said, i (i)}{i ? '; ' : ''}<Sentence
					parts={said}
					{open}
				/>{/each}.
		</p>
	{:else if known.fits}
		<p>Nothing of the machine is otherwise than promised, as far as these readings tell.</p>
	{/if}
	{#if known.next.length}
		<p><b>To read next</b></p>
		<ul>
			{#each known.next as next (next.field || next.step)}
				<li><Sentence parts={next.said} {open} /></li>
			{/each}
		</ul>
	{/if}
</section>

<style>
	.known {
		margin-top: 16px;
		border-top: 1px solid var(--rule);
		padding-top: 10px;
		font-size: var(--t3);
	}
	.known[data-bare='true'] {
		border-top: 0;
		margin-top: 0;
	}
	h4 {
		font-weight: 650;
		font-size: var(--t3);
	}
	h4 span {
		font-weight: 400;
		color: var(--ink-3);
		margin-left: 6px;
	}
	table {
		border-collapse: collapse;
		margin-top: 6px;
	}
	th {
		font-weight: 600;
		font-size: var(--t1);
		color: var(--ink-3);
		text-align: right;
		padding: 2px 14px 2px 0;
	}
	td {
		text-align: right;
		padding: 3px 14px 3px 0;
		white-space: nowrap;
	}
	.l {
		text-align: left;
	}
	.plate {
		color: var(--ink-3);
	}
	ul {
		margin: 2px 0 0 18px;
		list-style: disc;
		max-width: 68ch;
	}
	p {
		margin-top: 8px;
		max-width: 68ch;
	}
</style>
