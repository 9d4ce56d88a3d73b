<script lang="ts">
	/** The parameters in the order of the keypad, page by page; one touch goes to any. */
	import Mark from '../components/Mark.svelte';
	import { markOf, type KeypadPage } from './keypad-page.svelte';

	let { at }: { at: KeypadPage } = $props();

	const WORDS: Record<string, string> = {
		clear: 'read back',
		stop: 'differs',
		caution: 'taken, not read back',
		unknown: 'open'
	};
	let list: HTMLElement | undefined = $state();
	$effect(() => {
		void at.step?.setting;
		list?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' });
	});
</script>

<ol bind:this={list} aria-label="Parameters of this drive">
	{#each at.steps as step, i (step.setting)}
		{#if step.page && step.page !== at.steps[i - 1]?.page}<li class="page">{step.page}</li>{/if}
		<li>
			<button
				type="button"
				aria-current={step === at.step ? 'step' : undefined}
				onclick={() => at.go(step.setting)}
			>
				<b class="num">{step.number.replace(`${step.page} > `, '').replace(`${step.page}/`, '')}</b>
				<span>{step.called}</span>
				<em class="num">{step.text}</em>
				<span class="sign" title={WORDS[markOf(step)]}><Mark severity={markOf(step)} size={14} /></span>
			</button>
		</li>
	{/each}
</ol>

<style>
	ol {
		list-style: none;
		padding: 0 0 20px;
		margin: 0;
	}
	.page {
		font-size: var(--t2);
		font-weight: 650;
		color: var(--ink-3);
		padding: 10px 8px 3px;
	}
	button {
		width: 100%;
		display: grid;
		grid-template-columns: minmax(52px, auto) minmax(0, 1fr) auto 22px;
		gap: 8px;
		align-items: center;
		text-align: left;
		min-height: 36px;
		padding: 4px 8px 4px 12px;
		border-bottom: 1px solid var(--rule);
		font-size: var(--t3);
	}
	button[aria-current] {
		background: var(--brass-wash);
		box-shadow: inset 5px 0 0 var(--brass);
	}
	span {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	em {
		font-style: normal;
		font-weight: 600;
		max-width: 110px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.sign {
		display: grid;
		place-items: center;
	}
	@media (pointer: coarse) {
		button {
			min-height: 48px;
		}
	}
</style>
