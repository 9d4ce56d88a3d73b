<script lang="ts">
	/** The line's history, read from the latest visit back: who did what, when, with which instrument. */
	import { answer, api, type Schemas } from '$lib/api/client';
	import { Reading } from '$lib/api/reading.svelte';
	import Mark from '$lib/components/Mark.svelte';
	import Sentence from '$lib/components/Sentence.svelte';
	import { openLine } from '$lib/line/context';
	import { asTitle, clock, date, day } from '$lib/words';

	const line = openLine();
	const reading = new Reading<Schemas['StoryView']>();
	const story = $derived(reading.value);

	$effect(() => {
		void line.version;
		void line.seq;
		const params = { path: { line_id: line.id } };
		return reading.read(() => answer(api.GET('/api/lines/{line_id}/story', { params })));
	});

	const MARKS: Record<string, string> = {
		done: 'clear',
		failed: 'stop',
		explained: 'caution',
		left_out: 'caution'
	};
	const WORDS: Record<string, string> = {
		failed: 'not proven',
		explained: 'explained',
		left_out: 'left out'
	};
</script>

<main class="story">
	<header>
		<h2>Story of this line</h2>
		<a class="act" data-quiet href="/line/{line.id}/run">To the run sheet</a>
	</header>
	{#if !story}
		<p class="say">{reading.problem || 'Reading …'}</p>
	{:else}
		{#each story.chapters as chapter, i (chapter.visit?.id ?? `before-${i}`)}
			<section>
				<h3>{chapter.visit ? asTitle(chapter.visit.purpose) : 'Before the first visit'}</h3>
				<p class="when">
					{#if chapter.visit}{day(chapter.visit.at)}, {clock(chapter.visit.at)}{chapter.visit.closed
							? ` to ${clock(chapter.visit.closed)}`
							: ', still open'}.{/if}
					{chapter.people.join(', ')}.
				</p>
				{#if chapter.visit?.instruments.length}
					<p class="say">
						With {#each chapter.visit.instruments as tool, n (n)}{n ? '; ' : ''}{tool.name}{#if tool.due},
								<span data-overdue={tool.overdue}
									>{tool.overdue ? 'calibration ended' : 'calibrated until'} {date(tool.due)}</span
								>{/if}{/each}.
					</p>
				{/if}
				<ol>
					{#each chapter.entries as entry, n (n)}
						<li data-state={entry.state}>
							<time class="num" datetime={entry.at}>{clock(entry.at)}</time>
							<span class="shape"
								>{#if MARKS[entry.state]}<Mark
										severity={MARKS[entry.state] ?? 'clear'}
										size={13}
									/>{/if}</span
							>
							<p>
								<b>{entry.title}</b>{#if WORDS[entry.state]}, {WORDS[
										entry.state
									]}{/if}{#if entry.told.length}: <Sentence parts={entry.told} />{/if}{#if entry.note}. “{entry.note}”{/if}
								<span class="by"
									>{entry.by}{entry.instrument ? `, ${entry.instrument.name}` : ''}{entry.received
										? `, ${entry.paper ? 'from paper, entered' : 'made without a link, sent'} ${clock(entry.received)}`
										: ''}</span
								>
							</p>
						</li>
					{/each}
				</ol>
			</section>
		{:else}
			<p class="say">Nothing has happened here yet.</p>
		{/each}
	{/if}
</main>

<style>
	.story {
		overflow: auto;
		padding: 18px 24px 40px;
	}
	header {
		display: flex;
		justify-content: space-between;
		align-items: center;
		max-width: 860px;
	}
	h2 {
		font-size: var(--t5);
		font-weight: 680;
	}
	section {
		max-width: 860px;
		margin-top: 18px;
		padding-top: 12px;
		border-top: 1.5px solid var(--ink);
	}
	h3 {
		font-size: var(--t4);
		font-weight: 650;
		color: var(--ink);
	}
	.when {
		color: var(--ink-2);
	}
	[data-overdue='true'] {
		color: var(--stop);
		font-weight: 600;
	}
	ol {
		margin-top: 8px;
	}
	li {
		display: grid;
		grid-template-columns: 52px 18px minmax(0, 1fr);
		align-items: baseline;
		padding: 5px 0;
		font-size: var(--t3);
	}
	li + li {
		border-top: 1px solid var(--rule);
	}
	li[data-state='changed'] {
		color: var(--ink-2);
	}
	time {
		font-size: var(--t2);
		color: var(--ink-3);
	}
	.by {
		color: var(--ink-3);
		font-size: var(--t2);
		padding-left: 8px;
		white-space: nowrap;
	}
</style>
