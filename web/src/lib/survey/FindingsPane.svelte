<script lang="ts">
	/** Beside the bench: the plate's photo, the findings here, and the stops elsewhere. */
	import { session } from '../session.svelte';
	import type { Schemas } from '../api/client';
	import Finding from '../components/Finding.svelte';
	import Mark from '../components/Mark.svelte';
	import PlatePhoto from '../components/PlatePhoto.svelte';
	import { SAID_ONCE } from '../words';
	import type { SurveyPage } from './survey-page.svelte';

	let { at, go }: { at: SurveyPage; go: (path: string) => void } = $props();

	const line = $derived(at.line);
	/** What is clear folds to one line, unless one steps through it. */
	const loud = $derived(at.here.filter((f) => f.severity !== 'clear'));
	const clear = $derived(at.here.filter((f) => f.severity === 'clear'));
	let unfolded = $state(false);
	const stepping = $derived(clear.some((f) => at.here.indexOf(f) === at.finding));
</script>

{#snippet judged(finding: Schemas['FindingView'])}
	<Finding
		{finding}
		apply={(fix) => line.set(fix.field, fix.value, 'plate')}
		uphold={(path, why) => line.uphold(path, why)}
		open={(key) => line.openWorking(key)}
		current={at.here.indexOf(finding) === at.finding}
		site={line.line?.site_id ?? ''}
		sheet={`/line/${line.id}/settings`}
		{go}
	/>
{/snippet}

<aside class="side" aria-label="Findings">
	{#if at.station !== 'system'}<PlatePhoto
			station={at.station}
			name={at.station === 'machine' ? at.name : (at.group?.label ?? '')}
		/>{/if}
	<header>
		<h2>
			{line.selected.includes('-')
				? `Joint ${line.selected.replace('-', ' – ')}`
				: `At the ${(at.group?.label ?? '').toLowerCase()} and its joints`}
		</h2>
		<span class="say"
			>{#each at.counts as [n, word], i (word)}{i ? ', ' : ''}<b
					data-severity={word}
					style:color="var(--tone)"
					>{n}
					{word === 'unknown' ? 'not known' : word}{n > 1 && (word === 'stop' || word === 'caution')
						? 's'
						: ''}</b
				>{/each}</span
		>
	</header>
	{#each loud as finding (finding.id)}{@render judged(finding)}{/each}
	{#if clear.length}
		<details open={unfolded || stepping} ontoggle={(event) => (unfolded = event.currentTarget.open)}>
			<summary><Mark severity="clear" /> {clear.length} checked and clear</summary>
			{#each clear as finding (finding.id)}{@render judged(finding)}{/each}
		</details>
	{:else if !loud.length}
		<p class="say">Nothing to judge here yet.</p>
	{/if}
	{#if at.here.length}<p class="say once">{SAID_ONCE}</p>{/if}
	{#if at.elsewhere.length}
		<p class="say other">
			{at.elsewhere.length}
			{at.elsewhere.length === 1 ? 'stop' : 'stops'} elsewhere:
			{#each at.elsewhere as finding, i (finding.id)}{i ? ', ' : ''}<button
					type="button"
					onclick={() => (line.selected = finding.place)}>{session.words(finding.title).toLowerCase()}</button
				>{/each}
		</p>
	{/if}
</aside>

<style>
	.side header {
		display: flex;
		align-items: baseline;
		justify-content: space-between;
		gap: 14px;
	}
	.side {
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 14px 16px 30px;
		overflow: auto;
		position: relative;
	}
	summary {
		display: flex;
		gap: 8px;
		align-items: center;
		min-height: 44px;
		color: var(--clear);
		font-weight: 600;
		cursor: pointer;
	}
	.once,
	.other {
		padding-top: 12px;
	}
	.once {
		font-size: var(--t1);
		color: var(--ink-3);
	}
	.other button {
		color: var(--stop);
		font-weight: 600;
		text-decoration: underline;
		background: none;
		border: 0;
		padding: 0;
		cursor: pointer;
	}
</style>
