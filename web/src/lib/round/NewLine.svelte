<script lang="ts">
	/** A new line, on a site that is there or a new one. */
	import { goto } from '$app/navigation';
	import { session } from '../session.svelte';
	import type { RoundPage } from './round-page.svelte';

	let { at }: { at: RoundPage } = $props();

	const APPLICATIONS = $derived(
		Object.entries(
			session.groups.find((g) => g.id === 'line')?.fields.find((f) => f.name === 'application')?.choices ?? {}
		)
	);
	// svelte-ignore state_referenced_locally
	let fresh = $state({
		site: at.sites[0]?.id ?? 'new',
		siteName: '',
		tag: '',
		title: '',
		application: 'booster'
	});

	async function make(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const id = await at.make(fresh);
		if (id) await goto(`/line/${id}/survey`);
	}
</script>

<form class="sheet new" onsubmit={(event) => void make(event)}>
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
	<label>Tag <input class="field" bind:value={fresh.tag} required placeholder="CW-BST-3" /></label>
	<label>What it is <input class="field" bind:value={fresh.title} placeholder="cold-water booster" /></label>
	<label
		>Application
		<select class="field" bind:value={fresh.application}>
			{#each APPLICATIONS as [id, label] (id)}<option value={id}>{label}</option>{/each}
		</select>
	</label>
	<button class="act">Make it</button>
</form>

<style>
	.new {
		display: flex;
		gap: 12px;
		flex-wrap: wrap;
		align-items: end;
		padding: 14px;
		margin-top: 12px;
	}
	.new label {
		display: grid;
		gap: 3px;
		font-size: 13px;
		color: var(--ink-2);
	}
</style>
