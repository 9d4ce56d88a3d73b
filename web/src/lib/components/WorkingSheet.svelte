<script lang="ts">
	/** A calculation sheet: symbol, formula, values with units, result, source, and the steps beneath. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import Formula from './Formula.svelte';
	import Self from './WorkingSheet.svelte';

	let { working, depth = 0 }: { working: Schemas['WorkingView']; depth?: number } = $props();

	const FIGURES = 5; // a working shows more than a result needs

	const shown = $derived(told(working.value, working.dimension));
	const si = $derived(session.units.show(working.value, working.dimension, 'si', undefined, FIGURES));

	function told(value: number, dimension: string | null, unit = ''): string {
		return session.units.show(value, dimension, session.system, unit || undefined, FIGURES);
	}

	function value(input: Schemas['WorkingInputView']): string {
		if (typeof input.value === 'number') return told(input.value, input.dimension);
		if (Array.isArray(input.value))
			return input.value
				.map((v) => session.units.number(v, input.dimension, session.system, undefined, FIGURES))
				.join('; ');
		return String(input.value ?? '–');
	}

	const beneath = $derived(working.inputs.filter((i) => i.step?.method_id || i.steps?.length));

	/** Go to a step worked further up in this sheet, opening what it is folded into. */
	function goTo(link: HTMLElement, number: number): void {
		let sheet = link.closest<HTMLElement>('[data-depth="0"]');
		let target = sheet?.querySelector<HTMLElement>(`[data-step="${number}"]`);
		for (let at = target?.parentElement; at && at !== sheet; at = at.parentElement)
			if (at instanceof HTMLDetailsElement) at.open = true;
		target?.scrollIntoView({ block: 'center' });
		target?.focus();
	}
</script>

{#snippet again(name: string, steps: Schemas['WorkingView'][])}
	<p class="again">
		{name}: as step{steps.length > 1 ? 's' : ''}
		{#each steps as { number, value, dimension }, i (i)}
			<button
				type="button"
				title={session.show(value, dimension)}
				onclick={(e) => goTo(e.currentTarget, number)}>{number}</button
			>
		{/each}
	</p>
{/snippet}

<section data-depth={depth} data-step={working.number || null} tabindex="-1">
	<h4>
		{#if working.number > 1}<span class="num">{working.number}</span>{/if}{working.title}
	</h4>
	{#if working.method_id}
		<div class="eq">
			<span><Formula text={working.symbol} /></span><span>= <Formula text={working.formula} /></span>
			{#if working.substituted.length}<span></span><span
					>= {#each working.substituted as piece, i (i)}{piece.text ??
							told(piece.value, piece.dimension ?? null, piece.unit)}{/each}</span
				>{/if}
			<span></span><span>= <b>{shown}</b>{shown !== si && depth === 0 ? `  (${si})` : ''}</span>
		</div>
		<dl>
			{#each working.inputs as input (input.name)}
				<dt class="num"><Formula text={input.symbol} /></dt>
				<dd>
					<b class="num">{value(input)}</b>
					{input.name}{#if input.step && !input.step.method_id}, <i data-provenance={input.step.provenance}
							>{input.step.provenance}{input.step.why ? `: ${input.step.why}` : ''}</i
						>{/if}
				</dd>
			{/each}
		</dl>
		<p class="source">{working.source}</p>
		{#each beneath as input (input.name)}
			{@const repeated = (input.steps ?? []).filter((s) => s.again)}
			{#if input.step?.again}
				{@render again(input.name, [input.step])}
			{:else if input.step?.method_id}
				<Self working={input.step} depth={depth + 1} />
			{/if}
			{#each (input.steps ?? []).filter((s) => !s.again) as member (member.number)}
				<details>
					<summary
						><b class="num">{session.show(member.value, member.dimension)}</b>
						{member.title.toLowerCase()}</summary
					>
					<Self working={member} depth={depth + 1} />
				</details>
			{/each}
			{#if repeated.length}{@render again(input.name, repeated)}{/if}
		{/each}
	{:else}
		<p class="num lone"><b>{shown}</b></p>
		<p class="source">
			{working.provenance === 'plate' ? 'read from the plate' : working.provenance}{working.why
				? `: ${working.why}`
				: ''}
		</p>
	{/if}
	{#if depth === 0 && working.assumptions.length}
		<p class="assumed"><b>Assumed.</b> {working.assumptions.join('; ')}</p>
	{/if}
</section>

<style>
	section {
		background: var(--well);
		border-radius: var(--r);
		padding: 12px 14px;
	}
	section[data-depth]:not([data-depth='0']) {
		border-left: 2px solid var(--rule-strong);
		border-radius: 0;
		padding: 8px 0 2px 12px;
		margin-top: 10px;
	}
	h4 {
		font-size: var(--t2);
		font-weight: 600;
		color: var(--ink-2);
		margin-bottom: 4px;
	}
	h4 .num {
		margin-right: 8px;
		color: var(--ink-3);
	}
	.again {
		margin-top: 8px;
		padding-left: 12px;
		border-left: 2px solid var(--rule-strong);
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.again button {
		min-width: 28px;
		min-height: 28px;
		color: inherit;
		text-decoration: underline;
		text-underline-offset: 3px;
	}
	.eq {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 0 8px;
		font: 500 var(--t3)/1.65 var(--mono);
		overflow-wrap: anywhere;
	}
	dl {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 1px 10px;
		margin-top: 6px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	dt {
		color: var(--ink-3);
	}
	dd b {
		color: var(--ink);
		font-weight: 600;
	}
	i[data-provenance='assumed'] {
		color: var(--caution);
	}
	details {
		margin-top: 6px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	summary {
		cursor: pointer;
		min-height: 28px;
	}
	.source {
		color: var(--ink-3);
		font-size: var(--t1);
		margin-top: 5px;
	}
	.lone {
		font-size: var(--t4);
	}
	.assumed {
		margin-top: 8px;
		font-size: var(--t2);
		color: var(--caution);
	}
</style>
