<script lang="ts">
	/** One judgement as sentences: what, the numbers that show it, what to do. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import { sourceOf } from '../words';
	import Mark from './Mark.svelte';
	import Sentence from './Sentence.svelte';

	let {
		finding,
		open,
		apply,
		uphold,
		current = false,
		site = '',
		go,
		sheet = ''
	}: {
		finding: Schemas['FindingView'];
		open: (key: string) => void;
		apply?: ((fix: Schemas['FixView']) => void) | undefined;
		uphold?: ((path: string, why: string) => void) | undefined;
		current?: boolean;
		/** Id of the line's site, where its facts are entered. */
		site?: string;
		/** To the field of the record that answers it. */
		go?: ((path: string) => void) | undefined;
		/** Where the settings that answer it are decided. */
		sheet?: string;
	} = $props();

	let saying = $state(false);
	let why = $state('');

	/** The entry that may stand: doubted by the finding, or meant as it is. */
	const stands = $derived(finding.doubts || finding.meant);
	const here = $derived(finding.answers.filter((answer) => !answer.path.startsWith('site.')));

	function say(event: SubmitEvent): void {
		event.preventDefault();
		if (!why.trim()) return;
		uphold?.(stands, why);
		saying = false;
		why = '';
	}

	const WORD: Record<string, string> = { stop: 'Stop', caution: 'Caution', clear: 'Clear', unknown: '' };
	const title = $derived(
		WORD[finding.severity]
			? `${WORD[finding.severity]}: ${finding.title[0]?.toLowerCase() ?? ''}${finding.title.slice(1)}`
			: finding.title
	);
</script>

<article data-severity={finding.severity} data-current={current} id="finding-{finding.id}">
	<Mark severity={finding.severity} />
	<div>
		<h4>{session.words(title)}</h4>
		<p><Sentence parts={finding.because} {open} /></p>
		{#if finding.do.length}
			<p class="do">
				<Sentence parts={finding.do} {open} />
				{#if finding.fix && apply}
					{@const fix = finding.fix}
					<button type="button" onclick={() => apply(fix)}><Sentence parts={fix.label} /></button>
				{/if}
			</p>
		{/if}
		{#if go && here.length}
			<p class="answers">
				{finding.severity === 'unknown' ? 'Enter' : 'Answered by'}
				{#each here as answer, i (answer.path)}{i ? ', ' : ''}{#if answer.path.startsWith('settings.')}<a
							href="{sheet}#{answer.path.slice('settings.'.length)}">{answer.label.toLowerCase()}</a
						>{:else}<button type="button" onclick={() => go(answer.path)}>{answer.label.toLowerCase()}</button
						>{/if}{/each}
			</p>
		{/if}
		{#if site && finding.needs.some((path) => path.startsWith('site.'))}
			<a class="quiet" href="/site/{site}">Enter it at the site</a>
		{/if}
		{#if finding.upheld && stands && uphold}
			<button type="button" class="quiet" onclick={() => uphold(stands, '')}
				>{finding.doubts ? 'Doubt it again' : 'Take the reason back'}</button
			>
		{:else if stands && uphold}
			{#if saying}
				<form onsubmit={say}>
					<!-- svelte-ignore a11y_autofocus -->
					<input
						class="field"
						aria-label={finding.doubts ? 'Why the plate value stands' : 'Why it stays so'}
						placeholder={finding.doubts
							? 'Why it stands, e.g. read twice, photo taken'
							: 'Why it stays so, e.g. page 12 of its manual'}
						maxlength="300"
						bind:value={why}
						autofocus
					/>
					<button class="quiet">Keep it so</button>
					<button type="button" class="quiet" onclick={() => (saying = false)}>No</button>
				</form>
			{:else}
				<button type="button" class="quiet" onclick={() => (saying = true)}
					>{finding.doubts ? 'This is what the plate says' : 'It stays so, with a reason'}</button
				>
			{/if}
		{/if}
		{#if sourceOf(finding.source)}<p class="source">{sourceOf(finding.source)}</p>{/if}
	</div>
</article>

<style>
	article {
		display: grid;
		grid-template-columns: 24px 1fr;
		padding: 10px 0;
		border-bottom: 1px solid var(--rule);
	}
	article[data-current='true'] {
		box-shadow: -10px 0 0 -7px var(--steel);
	}
	article > :global(svg) {
		margin-top: 2px;
	}
	h4 {
		font-size: var(--t3);
		font-weight: 650;
		color: var(--tone);
	}
	p {
		font-size: var(--t2);
		line-height: 1.38;
		color: var(--ink-2);
	}
	.do {
		color: var(--steel);
		font-weight: 600;
		margin-top: 2px;
	}
	.do button {
		font: 650 var(--t2) var(--mono);
		color: var(--on-steel);
		background: var(--steel);
		border: 0;
		border-radius: var(--r);
		padding: 3px 9px;
		margin-left: 4px;
		min-height: 28px;
		cursor: pointer;
	}
	.answers button,
	.answers a {
		font: inherit;
		color: var(--ink-2);
		background: none;
		border: 0;
		padding: 3px 0;
		text-decoration: underline;
		text-decoration-color: var(--rule-2, var(--rule));
		text-underline-offset: 3px;
		cursor: pointer;
	}
	.quiet {
		font-size: var(--t1);
		color: var(--ink-3);
		background: none;
		border: 0;
		padding: 2px 8px 2px 0;
		min-height: 28px;
		text-decoration: underline;
		cursor: pointer;
	}
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 8px;
		padding: 4px 0;
	}
	form .field {
		flex: 1 1 100%;
		font: 500 var(--t3) var(--sans);
	}
	.source {
		font-size: var(--t1);
		color: var(--ink-3);
		margin-top: 1px;
	}
</style>
