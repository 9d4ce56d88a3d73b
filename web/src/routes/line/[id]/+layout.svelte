<script lang="ts">
	/** Everything of one line stands under its strip. */
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { MediaQuery } from 'svelte/reactivity';
	import type { LayoutProps } from './$types';
	import Stages from '$lib/components/Stages.svelte';
	import Strip from '$lib/components/Strip.svelte';
	import StripMarks from '$lib/components/StripMarks.svelte';
	import TopBar from '$lib/components/TopBar.svelte';
	import { provideLine } from '$lib/line/context';
	import { LinePage } from '$lib/line/line-page.svelte';
	import { keepForNoLink } from '$lib/offline';
	import { session } from '$lib/session.svelte';

	let { children }: LayoutProps = $props();

	// the id apart: going to another stage must not open the line anew and forget what is in hand
	const id = $derived(page.params['id'] ?? '');
	const line = $derived(new LinePage(id));
	const ready = $derived(line.load());
	$effect(() => line.watch());
	let kept = $state(''); // the line that opens on this device without a link
	$effect(() => {
		const opened = id;
		void keepForNoLink(opened).then((all) => (kept = all ? opened : ''));
	});
	provideLine(() => line);

	const phone = new MediaQuery('max-width: 600px');
	const stage = $derived(page.url.pathname.split('/')[3] ?? 'survey');
	const STATIONS = ['supply', 'drive', 'motor', 'machine', 'system', 'sensor'];

	function select(place: string): void {
		line.selected = place;
		if (stage !== 'survey') void goto(`/line/${line.id}/survey`);
	}

	function keys(event: KeyboardEvent): void {
		const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
		if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
		const station = STATIONS[Number(event.key) - 1];
		if (station) select(station);
	}

	function label(path: string): string {
		const [group, name] = path.split('.');
		return session.groups.find((g) => g.id === group)?.fields.find((f) => f.name === name)?.label ?? path;
	}

	const SAID = {
		saved: 'Saved',
		waiting: 'Saving …',
		saving: 'Saving …',
		offline: 'Kept on this device'
	};
</script>

<svelte:window onkeydown={keys} onpagehide={() => void line.flush()} />
<svelte:head><title>{line.tag ? `${line.tag} · ` : ''}Mainspring</title></svelte:head>

{#await ready}
	<p class="say wait">Opening the line …</p>
{:then}
	<div class="whole">
		<TopBar>
			<div class="named">
				<a class="site" href="/site/{line.line?.site_id}" title="Site facts">{line.line?.site_name}</a>
				<h1><span class="num">{line.tag}</span> {line.title}</h1>
			</div>
			{#snippet end()}
				<span
					class="saved"
					data-state={session.reachable ? line.saving : 'offline'}
					data-kept={kept === id}
					title={kept === id ? 'This line opens on this device without a link' : undefined}
					role="status">{session.reachable || line.saving === 'offline' ? SAID[line.saving] : 'No link'}</span
				>
				<Stages
					stages={line.line?.stages ?? []}
					href={(id) => `/line/${line.id}/${id}`}
					current={stage === 'keypad' ? 'settings' : stage}
				/>
			{/snippet}
		</TopBar>
		{#if line.assessment && stage !== 'savings' && stage !== 'keypad'}
			{@const selected = stage === 'survey' ? line.selected : ''}
			{#if phone.current}<StripMarks strip={line.assessment.strip} {selected} {select} />
			{:else}<Strip
					strip={line.assessment.strip}
					{selected}
					{select}
					slim={stage === 'settings' || stage === 'run' || stage === 'proof'}
				/>{/if}
		{/if}
		{#if line.conflict}
			<section class="conflict" role="alert">
				<b>Somebody else saved this line in between.</b>
				{#if line.differences.length}
					They differ in {line.differences.slice(0, 4).map(label).join(', ')}{line.differences.length > 4
						? ` and ${line.differences.length - 4} more`
						: ''}.
				{/if}
				<button class="act" onclick={() => line.keepMine()}>Keep what I typed</button>
				<button class="act" data-quiet onclick={() => void line.takeTheirs()}>Take theirs</button>
			</section>
		{:else if line.problem}
			<section class="conflict" role="alert">{line.problem}</section>
		{/if}
		<div class="body">{@render children()}</div>
	</div>
{:catch error}
	<main class="wait">
		<h1>This line cannot be opened</h1>
		<p class="say">{error.message}</p>
		<a class="act" href="/">To the round</a>
	</main>
{/await}

<style>
	.whole {
		min-width: 0;
		display: flex;
		flex-direction: column;
		min-height: 0;
	}
	.whole > :global(header) {
		height: 48px;
		flex: none;
	}
	.body {
		flex: 1;
		min-height: 0;
		display: grid;
		grid-template-columns: minmax(0, 1fr);
	}
	.named {
		display: grid;
		min-width: 60px;
		overflow: hidden;
	}
	.site {
		color: var(--ink-3);
		font-size: var(--t1);
		line-height: 14px;
		text-decoration: none;
		white-space: nowrap;
		min-height: 0 !important; /* the line's own name stands close below it */
	}
	h1 {
		font-size: var(--t4);
		font-weight: 650;
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
		line-height: 21px;
	}
	.saved {
		font-size: var(--t1);
		color: var(--ink-3);
		white-space: nowrap;
	}
	.saved[data-state='offline'] {
		color: var(--caution);
		font-weight: 600;
	}
	.conflict {
		display: flex;
		gap: 12px;
		align-items: center;
		flex-wrap: wrap;
		padding: 8px 20px;
		background: var(--caution-wash);
		border-bottom: 1px solid var(--caution);
	}
	.wait {
		padding: 40px;
		display: grid;
		gap: 12px;
		justify-items: start;
		align-content: start;
	}
	@media (max-width: 1000px) {
		.site {
			display: none;
		}
	}
	@media (max-width: 600px) {
		.whole > :global(header) {
			height: auto;
		}
		.named {
			flex: 1 1 0;
		}
		.saved {
			display: none;
		}
		.saved[data-state='offline'] {
			display: block;
		}
	}
</style>
