<script lang="ts">
	/** The round: every line on every site, what needs attention first. */
	import { goto } from '$app/navigation';
	import TopBar from '$lib/components/TopBar.svelte';
	import NewLine from '$lib/round/NewLine.svelte';
	import { KINDS, LABELS, RoundPage } from '$lib/round/round-page.svelte';
	import RoundRow from '$lib/round/RoundRow.svelte';
	import { session } from '$lib/session.svelte';
	import { day } from '$lib/words';

	const at = new RoundPage();
	const stages = $derived(at.round?.stages ?? {});
	let making = $state(false);

	session.atAllSites();
	$effect(() => at.load());
	$effect(() => {
		void [at.wanted, at.only];
		at.fromTheTop();
	});

	/** Draws more when it comes into sight. */
	function further(node: HTMLElement): { destroy: () => void } {
		const watcher = new IntersectionObserver(
			(seen) => {
				if (seen.some((s) => s.isIntersecting)) at.more();
			},
			{ rootMargin: '600px' }
		);
		watcher.observe(node);
		return { destroy: () => watcher.disconnect() };
	}

	async function take(files: FileList | null): Promise<void> {
		const id = files?.[0] && (await at.take(files[0]));
		if (id) await goto(`/line/${id}/survey`);
	}
</script>

<svelte:head><title>The round · Mainspring</title></svelte:head>

<div class="whole">
	<TopBar>
		<h1>The round</h1>
		<span class="quiet">{day(new Date())}</span>
	</TopBar>
	<main>
		<div class="tools">
			<input
				class="field find"
				placeholder="Find a tag, a site, a finding …"
				aria-label="Find"
				bind:value={at.wanted}
			/>
			{#each Object.keys(LABELS) as kind (kind)}
				{@const k = kind as keyof typeof LABELS}
				<button type="button" class="chip" aria-pressed={at.only === k} onclick={() => (at.only = k)}
					>{LABELS[k]} <b class="num">{at.every.filter(KINDS[k]).length}</b></button
				>
			{/each}
			<span class="gap"></span>
			<label class="act" data-quiet
				>Import<input
					type="file"
					accept="application/json,.json"
					class="sr-only"
					onchange={(event) => void take(event.currentTarget.files)}
				/></label
			>
			<button type="button" class="act" onclick={() => (making = !making)}>New line</button>
		</div>
		{#if at.problem}<p class="problem" role="alert">{at.problem}</p>
		{:else if !at.round}<p class="say">Looking at every line …</p>{/if}
		{#if making && at.round}
			<!-- not before the sites are there to choose from -->
			<NewLine {at} />
		{/if}
		{#each at.drawn as { site, lines } (site.id)}
			<section>
				<h2>
					{site.name}
					<span
						>{site.lines.length}
						{site.lines.length === 1 ? 'line' : 'lines'}{site.stops
							? `, ${site.stops} ${site.stops === 1 ? 'stop' : 'stops'} open`
							: ''}{session.units.known(site.units) === 'si'
							? ''
							: `, ${session.units.system(session.units.known(site.units))?.label} units`}{site.saved
							? `, ${session.show(site.saved, 'energy')} a year modelled`
							: ''}{site.measured ? `, ${session.show(site.measured, 'energy')} measured` : ''}</span
					>
					<a class="site" href="/site/{site.id}">Site facts</a>
				</h2>
				<ul class="sheet">
					{#each lines as line (line.id)}
						<li>
							<RoundRow {line} {stages} />
						</li>
					{/each}
				</ul>
				{#if !lines.length}<p class="say">No lines here yet.</p>{/if}
			</section>
		{:else}
			{#if at.round}
				<p class="say">
					{at.every.length
						? 'Nothing is called so, here or among what you filter by.'
						: 'No lines yet. “New line” begins one: nameplates first, power later.'}
				</p>
			{/if}
		{/each}
		{#key at.most}
			{#if at.count > at.most}<p class="say" use:further>{at.count - at.most} more</p>{/if}
		{/key}
	</main>
</div>

<style>
	.whole {
		display: grid;
		grid-template-rows: 48px minmax(0, 1fr);
		min-height: 0;
	}
	@media (max-width: 600px) {
		.whole {
			grid-template-rows: auto minmax(0, 1fr);
		}
		.quiet {
			display: none;
		}
		main {
			padding: 12px 12px 30px;
		}
	}
	h1 {
		font-size: var(--t4);
		font-weight: 650;
	}
	.quiet {
		color: var(--ink-3);
	}
	main {
		overflow: auto;
		position: relative;
		padding: 14px 20px 30px;
	}
	.tools {
		display: flex;
		gap: 10px;
		align-items: center;
		flex-wrap: wrap;
	}
	.find {
		flex: 0 1 380px;
		font-family: var(--sans);
		font-weight: 400;
		min-height: 38px;
	}
	.gap {
		flex: 1;
	}
	.chip {
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: none;
		color: var(--ink-2);
		padding: 6px 11px;
		min-height: 36px;
		cursor: pointer;
	}
	.chip[aria-pressed='true'] {
		background: var(--ink);
		color: var(--sheet);
	}
	.problem {
		margin-top: 10px;
	}
	section {
		margin-top: 20px;
	}
	h2 span {
		font-weight: 400;
		font-size: var(--t2);
		color: var(--ink-3);
		margin-left: 10px;
	}
	.site {
		font-size: var(--t2);
		font-weight: 600;
		color: var(--steel);
		margin-left: 10px;
	}
	ul {
		margin-top: 9px;
	}
	li + li {
		border-top: 1px solid var(--rule);
	}
</style>
