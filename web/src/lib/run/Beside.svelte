<script lang="ts">
	/** What may be said beside the proof: a note, a photo, or that the step is left out and why. */
	import { session } from '../session.svelte';
	import type { Kind } from './run-sheet.svelte';
	import type { Step } from './waiting';

	let {
		step,
		line,
		busy,
		behind,
		keep
	}: {
		step: Step;
		line: string;
		busy: boolean;
		/** Note what was changed for now and must be put back. */
		behind: (what: string) => void;
		keep: (kind: Kind, data?: Record<string, unknown>, note?: string, typed?: string, photo?: Blob) => void;
	} = $props();

	let saying = $state<'' | 'note' | 'temporary' | 'override'>('');
	let words = $state('');
	const LABELS = {
		note: 'Note',
		temporary: 'What is bridged, simulated, raised or set for now; it stays on the list until it is back',
		override: 'Why it is left out.'
	};
	const DOES = { note: 'Keep the note', temporary: 'Put it on the list', override: 'Leave it out' };
	const may = $derived(
		!step.safety && step.skip !== '' && step.state !== 'done' && step.state !== 'left_out'
	);

	function say(): void {
		if (!saying || !words.trim()) return;
		if (saying === 'temporary') behind(words);
		else keep(saying, {}, words);
		saying = '';
		words = '';
	}

	const at = $derived(step.id); // the step may be another object for the same id
	$effect(() => {
		void at;
		saying = '';
	});
</script>

{#each [...step.beside, ...(step.proof === 'photo' ? step.evidence : [])] as each (each.id)}
	{#if each.kind === 'note'}
		<p class="kept">“{each.note}” <span>{each.by}</span></p>
	{:else if each.kind === 'photo'}
		<a class="kept" href="/api/lines/{line}/photos/{each.data['photo']}" target="_blank" rel="noreferrer">
			<img
				src="/api/lines/{line}/photos/{each.data['photo']}"
				alt="Taken by {each.by} at “{step.title}”"
				loading="lazy"
			/>
		</a>
	{/if}
{/each}
{#if saying}
	<form
		onsubmit={(event) => {
			event.preventDefault();
			say();
		}}
	>
		<label
			>{LABELS[saying]}{saying === 'override' ? ` ${session.words(step.skip)}` : ''}
			<textarea class="field" rows="3" maxlength={saying === 'temporary' ? 200 : 2000} bind:value={words}
			></textarea>
		</label>
		<button class="act" data-quiet disabled={busy || !words.trim()}>{DOES[saying]}</button>
		<button type="button" class="act" data-quiet onclick={() => (saying = '')}>No</button>
	</form>
{:else}
	<p class="more">
		<button type="button" onclick={() => (saying = 'note')}>Add a note</button>
		{#if step.proof !== 'photo'}
			<label
				>Add a photo
				<input
					class="sr-only"
					type="file"
					accept="image/jpeg,image/png,image/webp"
					capture="environment"
					onchange={(event) => {
						const file = event.currentTarget.files?.[0];
						if (file) keep('photo', { photo: crypto.randomUUID() }, '', '', file);
						event.currentTarget.value = '';
					}}
				/></label
			>
		{/if}
		<button type="button" onclick={() => (saying = 'temporary')}>Changed for now</button>
		{#if may}<button type="button" onclick={() => (saying = 'override')}>Leave this step out</button>{/if}
	</p>
{/if}

<style>
	.kept {
		display: block;
		font-size: var(--t2);
		color: var(--ink-2);
		margin-top: 8px;
	}
	.kept span {
		color: var(--ink-3);
	}
	img {
		max-width: 100%;
		max-height: 180px;
		border-radius: var(--r);
		border: 1px solid var(--rule-strong);
	}
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		margin-top: 12px;
	}
	form label {
		flex: 1 0 100%;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	textarea {
		width: 100%;
		font-family: var(--sans);
		font-weight: 500;
	}
	form .act {
		min-height: 44px;
	}
	.more {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		margin-top: 10px;
	}
	.more button,
	.more label {
		position: relative;
		display: inline-flex;
		align-items: center;
		min-height: 44px;
		font-size: var(--t3);
		font-weight: 600;
		color: var(--steel);
		cursor: pointer;
	}
	.more label:focus-within {
		outline: 2px solid var(--steel);
	}
</style>
