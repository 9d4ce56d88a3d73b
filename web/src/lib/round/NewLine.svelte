<script lang="ts">
	/** A new line, begun by what it does, on a site that is there or a new one; or the twin of a line. */
	import { goto } from '$app/navigation';
	import { session } from '../session.svelte';
	import { ART } from './application-art';
	import { TWIN, type RoundPage } from './round-page.svelte';

	let { at }: { at: RoundPage } = $props();

	const cards = $derived([
		...session.applications,
		...(at.every.length
			? [{ id: TWIN, label: 'Like one that is there', does: 'Its twin: plates and decisions, no evidence.' }]
			: [])
	]);
	// svelte-ignore state_referenced_locally
	let fresh = $state({
		site: at.sites[0]?.id ?? 'new',
		siteName: '',
		tag: '',
		title: '',
		application: '',
		model: ''
	});
	const twin = $derived(fresh.application === TWIN);

	async function make(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const id = await at.make(fresh);
		if (id) await goto(`/line/${id}/survey`);
	}
</script>

<form class="sheet new" onsubmit={(event) => void make(event)}>
	<fieldset>
		<legend>What does it do?</legend>
		{#each cards as card (card.id)}
			<label class="card" data-application={card.id}>
				<input type="radio" name="application" value={card.id} bind:group={fresh.application} required />
				<svg viewBox="0 0 96 56" aria-hidden="true">
					<!-- eslint-disable-next-line svelte/no-at-html-tags -->
					{@html ART[card.id] ?? ''}
				</svg>
				<span><b>{card.label}</b><small>{card.does}</small></span>
			</label>
		{/each}
	</fieldset>
	{#if fresh.application}
		<div class="named">
			{#if twin}
				<label
					>Like which
					<select class="field" bind:value={fresh.model} required>
						{#each at.every as line (line.id)}<option value={line.id}>{line.tag} {line.title}</option>{/each}
					</select>
				</label>
			{:else}
				<label
					>Site
					<select class="field" bind:value={fresh.site}>
						{#each at.sites as site (site.id)}<option value={site.id}>{site.name}</option>{/each}
						<option value="new">A new site …</option>
					</select>
				</label>
				{#if fresh.site === 'new'}
					<label>Name of the site <input class="field" bind:value={fresh.siteName} required /></label>
				{/if}
			{/if}
			<label>Tag <input class="field" bind:value={fresh.tag} required placeholder="CW-BST-3" /></label>
			<label
				>What it is <input class="field" bind:value={fresh.title} placeholder="cold-water booster" /></label
			>
			<button class="act">Make it</button>
		</div>
	{/if}
</form>

<style>
	.new {
		padding: 14px;
		margin-top: 12px;
	}
	fieldset {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(222px, 1fr));
		gap: 8px;
	}
	legend {
		font-weight: 650;
		padding-bottom: 8px;
	}
	.card {
		position: relative;
		display: grid;
		grid-template-columns: 84px minmax(0, 1fr);
		gap: 10px;
		align-items: center;
		min-height: 76px;
		padding: 8px 10px;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		cursor: pointer;
	}
	.card input {
		position: absolute;
		opacity: 0;
	}
	.card:hover {
		background: var(--steel-wash);
	}
	.card:has(:focus-visible) {
		outline: 2px solid var(--steel);
		outline-offset: 1px;
	}
	.card:has(:checked) {
		border-color: var(--brass);
		background: var(--brass-wash);
		box-shadow: inset 0 -4px 0 var(--brass);
	}
	svg {
		width: 84px;
		fill: none;
		stroke: var(--ink);
		stroke-width: 1.7;
		stroke-linejoin: round;
		stroke-linecap: round;
	}
	.card b {
		display: block;
		font-size: var(--t3);
		line-height: 1.25;
	}
	.card small {
		display: block;
		margin-top: 2px;
		font-size: var(--t1);
		line-height: 1.3;
		color: var(--ink-2);
	}
	.named {
		display: flex;
		gap: 12px;
		flex-wrap: wrap;
		align-items: end;
		margin-top: 14px;
	}
	.named label {
		display: grid;
		gap: 3px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.named :is(.act, .field) {
		min-height: 44px;
	}
</style>
