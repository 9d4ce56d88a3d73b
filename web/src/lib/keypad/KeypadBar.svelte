<script lang="ts">
	/** How the keypad is read: before or after setting, in which language, and what its keys do. */
	import type { KeypadPage } from './keypad-page.svelte';

	let { at }: { at: KeypadPage } = $props();

	const MOMENTS = { found: 'As found', left: 'As left' } as const;
	const view = $derived(at.view);
</script>

<div class="bar">
	<span role="group" aria-label="What is read">
		{#each Object.entries(MOMENTS) as [moment, words] (moment)}
			<button
				type="button"
				aria-pressed={at.moment === moment}
				onclick={() => (at.moment = moment as keyof typeof MOMENTS)}>{words}</button
			>
		{/each}
	</span>
	{#if (view?.languages.length ?? 0) > 1}
		<select
			class="field"
			aria-label="Language of the display"
			value={at.language || view?.languages[0]}
			onchange={(event) => {
				at.language = event.currentTarget.value;
				void at.load();
			}}
		>
			{#each view?.languages ?? [] as language (language)}<option value={language}>{language}</option>{/each}
		</select>
	{/if}
	<button type="button" class="only" aria-pressed={at.onlyOpen} onclick={() => (at.onlyOpen = !at.onlyOpen)}
		>Only what is open or differs</button
	>
</div>
{#if view && Object.keys(view.keys).length}
	<details>
		<summary>How it is reset, saved, copied, locked</summary>
		{#each Object.entries(view.keys) as [what, how] (what)}<p><b>{what}.</b> {how}</p>{/each}
	</details>
{/if}

<style>
	.bar {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
	}
	[role='group'] {
		display: flex;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
	}
	button {
		padding: 6px 12px;
		min-height: 36px;
		font-size: var(--t2);
		color: var(--ink-2);
		border-radius: var(--r);
	}
	button[aria-pressed='true'] {
		background: var(--brass-wash);
		color: var(--ink);
		font-weight: 650;
	}
	.only {
		flex: 1;
		border: 1px solid var(--rule-strong);
	}
	.field {
		font: 600 var(--t3) var(--sans);
	}
	details {
		font-size: var(--t2);
		color: var(--ink-2);
		padding: 8px 4px 2px;
	}
	@media (pointer: coarse) {
		button {
			min-height: 46px;
		}
	}
</style>
