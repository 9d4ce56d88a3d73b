<script lang="ts">
	/** What the owner is told, in plain words, as it is printed. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let { owner, lineId }: { owner: Schemas['OwnerView']; lineId: string } = $props();
	const parts = $derived(
		[
			['What was done', owner.saved],
			['How sure this is', owner.sure],
			['What it rests on', owner.rests],
			['What would make it surer', owner.surer]
		].filter(([, text]) => text)
	);
</script>

<article>
	{#if owner.headline}
		<p class="said">{session.words(owner.headline)}</p>
		{#each parts as [title, text] (title)}
			<h3>{title}</h3>
			<p>{session.words(text ?? '')}</p>
		{/each}
		{#if owner.not_counted.length}
			<h3>Not counted</h3>
			{#each owner.not_counted as text (text)}<p>{session.words(text)}</p>{/each}
		{/if}
		<p class="do">
			<a
				class="act"
				href="/api/lines/{lineId}/owner.pdf?units={session.system}&paper={session.units.system(session.system)
					?.paper}"
				target="_blank"
				rel="noopener">Print it: one page</a
			>
		</p>
	{:else}
		<p class="say">Nothing is known of a saving yet: enter the hours at each flow, or read a log.</p>
	{/if}
</article>

<style>
	article {
		max-width: 720px;
	}
	.said {
		font-size: var(--t5);
		line-height: 1.32;
		font-weight: 650;
		padding: 4px 0 10px;
	}
	h3 {
		padding-top: 10px;
		color: var(--steel);
		font-size: var(--t2);
	}
	.do {
		padding-top: 16px;
	}
</style>
