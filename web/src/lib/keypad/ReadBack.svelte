<script lang="ts">
	/** What the display reads: typed, or touched where it is a choice; and why it is to read so. */
	import Sentence from '../components/Sentence.svelte';
	import { session } from '../session.svelte';
	import type { Key, KeypadPage } from './keypad-page.svelte';

	let {
		at,
		step,
		field = $bindable()
	}: { at: KeypadPage; step: Key; field?: HTMLInputElement | undefined } = $props();

	const shown = (value: number | string | null | undefined) =>
		value === null || value === undefined
			? ''
			: typeof value === 'number'
				? session.show(value, step.dimension)
				: (step.choices[value] ?? value);
</script>

<div class="boxes">
	<form
		onsubmit={(event) => {
			event.preventDefault();
			void at.keep();
		}}
	>
		<h3><label for="display">Read back from the display</label></h3>
		{#if Object.keys(step.choices).length}
			<div class="choices">
				{#each Object.entries(step.choices) as [id, words] (id)}
					<button
						type="button"
						class="act"
						data-quiet={id === step[at.moment] ? undefined : ''}
						aria-pressed={id === step[at.moment]}
						onclick={() => void at.keep(words)}>{words}</button
					>
				{/each}
			</div>
		{/if}
		<input
			id="display"
			class="field num"
			bind:this={field}
			bind:value={at.text}
			placeholder={step.left === null && at.moment === 'left' ? step.text : ''}
			autocomplete="off"
			inputmode={step.dimension === null ? 'text' : 'decimal'}
		/>
		{#if step.left !== null}<p class="say">As left: <b>{shown(step.left)}</b></p>{/if}
	</form>
	<div>
		<h3>Why {shown(step.wanted)}</h3>
		{#if step.decided}<p class="why">{step.decided}</p>
		{:else}<p class="why">
				<Sentence parts={step.reason} open={(key) => at.line.openWorking(key)} />
			</p>{/if}
		{#if step.found !== null}<p class="say">Found at {shown(step.found)}.</p>{/if}
	</div>
</div>

<style>
	.boxes {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		gap: 14px;
		margin-top: 12px;
	}
	.boxes > * {
		background: var(--sheet);
		border: 1px solid var(--rule);
		border-radius: var(--r);
		padding: 10px 14px 12px;
	}
	#display {
		width: 100%;
		font-size: var(--t6);
		font-weight: 650;
		text-align: right;
		min-height: 56px;
		border-width: 2px;
		margin-top: 4px;
	}
	#display::placeholder {
		color: var(--ink-3);
		opacity: 0.55;
	}
	.choices {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		margin: 4px 0 8px;
	}
	.choices button {
		min-height: 44px;
	}
	.why {
		font-size: var(--t3);
		margin-top: 2px;
	}
	@media (max-width: 600px) {
		.boxes {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
