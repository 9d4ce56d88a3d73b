<script lang="ts">
	/** Survey: one bench for the selected station, verdicts while typing. */
	import { tick } from 'svelte';
	import ChoiceField from '$lib/components/ChoiceField.svelte';
	import FamilyField from '$lib/components/FamilyField.svelte';
	import CurveBench from '$lib/components/CurveBench.svelte';
	import FlagsField from '$lib/components/FlagsField.svelte';
	import Limits from '$lib/components/Limits.svelte';
	import PointsField from '$lib/components/PointsField.svelte';
	import TextField from '$lib/components/TextField.svelte';
	import QuantityField from '$lib/components/QuantityField.svelte';
	import { openLine } from '$lib/line/context';
	import FindingsPane from '$lib/survey/FindingsPane.svelte';
	import { NAMES, SurveyPage } from '$lib/survey/survey-page.svelte';

	const line = openLine();
	const at = new SurveyPage(line);

	/** From the last field straight to the first of the next station, as one walks along the line. */
	async function walkOn(): Promise<void> {
		at.walkOn();
		await tick();
		document.querySelector<HTMLElement>('.fields input, .fields select')?.focus();
		document.querySelector('.bench')?.scrollTo({ top: 0 });
	}

	/** To the field that answers a finding, ready to be typed into. */
	async function go(path: string): Promise<void> {
		at.showField(path);
		await tick();
		const field = document.getElementById(path);
		field?.scrollIntoView({ block: 'center' });
		field?.focus();
	}

	function keys(event: KeyboardEvent): void {
		const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
		if (typing || (event.key !== 'j' && event.key !== 'k')) return;
		at.step(event.key === 'j' ? 1 : -1);
		document.getElementById(`finding-${at.here[at.finding]?.id}`)?.scrollIntoView({ block: 'nearest' });
	}
</script>

<svelte:window onkeydown={keys} />

<div class="two" style:--wide="372px" style:--narrow="270px">
	<main class="bench">
		<header>
			<h2>{at.name}</h2>
			<span class="say"
				>{at.read} of {at.needed.length} read.{at.next.length
					? ` Needed next: ${at.next.map((f) => f.label.toLowerCase()).join(', ')}`
					: ''}</span
			>
		</header>
		<div class="tabs" role="tablist">
			<button type="button" role="tab" aria-selected={!at.showMore} onclick={() => at.show(false)}
				>Asked first</button
			>
			<button
				type="button"
				role="tab"
				aria-selected={at.showMore}
				disabled={at.extra.length === 0}
				onclick={() => at.show(true)}
				>On demand <span>{at.readMore ? `${at.readMore} of ${at.extra.length}` : at.extra.length}</span
				></button
			>
		</div>
		{#key at.station + String(at.showMore)}
			<div class="fields" role="tabpanel" aria-label={at.name} aria-busy={!line.judged}>
				{#each at.sections as section (section.tab)}
					<h3>{section.tab}</h3>
					{#each section.fields as field (field.path)}
						{#if field.kind === 'quantity'}<QuantityField {field} />
						{:else if field.kind === 'choice'}<ChoiceField {field} />
						{:else if field.kind === 'family'}<FamilyField {field} />
						{:else if field.kind === 'flags'}<FlagsField {field} />
						{:else if field.kind === 'text'}<TextField {field} />
						{:else if field.kind === 'points'}<PointsField {field} />{/if}
					{/each}
				{:else}
					<p class="say none">
						{at.showMore
							? 'Nothing more to ask here.'
							: 'Nothing is asked here: the speed comes from outside.'}
					</p>
				{/each}
			</div>
		{/key}
		{#if at.following}
			<button type="button" class="act on" data-quiet onclick={() => void walkOn()}
				>Next: {NAMES[at.following]?.toLowerCase()}</button
			>
		{/if}
		{#if at.station === 'machine' || at.station === 'system'}
			<CurveBench />
			<Limits
				limits={line.assessment?.limits ?? []}
				open={(key) => line.openWorking(key)}
				sheet={`/line/${line.id}/settings`}
			/>
		{/if}
		{#if at.sheetKey}
			{@const key = at.sheetKey}
			<button type="button" class="act on" data-quiet onclick={() => line.openWorking(key)}
				>Show the working: {at.sheetName}</button
			>
		{/if}
	</main>
	<FindingsPane {at} go={(path) => void go(path)} />
</div>

<style>
	.bench {
		padding: 14px 20px 30px;
		overflow: auto;
		position: relative;
	}
	.bench header {
		display: flex;
		align-items: baseline;
		gap: 14px;
	}
	.tabs {
		display: flex;
		gap: 18px;
		margin: 8px 0 6px;
		border-bottom: 1px solid var(--rule);
	}
	.tabs button {
		background: none;
		border: 0;
		border-bottom: 2px solid transparent;
		color: var(--ink-2);
		padding: 6px 0;
		font-size: var(--t3);
		cursor: pointer;
		min-height: 34px;
	}
	.tabs button:disabled {
		opacity: 0.5;
		cursor: default;
	}
	.tabs span {
		font: 500 var(--t1) var(--mono);
		color: var(--ink-3);
		padding-left: 3px;
	}
	.fields h3 {
		font-size: var(--t2);
		font-weight: 650;
		color: var(--ink-3);
		padding: 12px 0 2px;
	}
	.fields {
		max-width: 860px;
	}
	.none {
		padding: 14px 0;
	}
	.on {
		margin-top: 14px;
	}
	.tabs button[aria-selected='true'] {
		color: var(--ink);
		font-weight: 650;
		border-bottom-color: var(--steel);
	}
</style>
