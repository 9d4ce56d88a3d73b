<script lang="ts">
	/** What was changed for the work: each back as it belongs, then the word that nothing is left. */
	import Checks from '../Checks.svelte';
	import type { ProofEntry } from '../proof-entry.svelte';
	import { notBack } from '../counts';
	import { moment } from '../../words';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	const open = $derived(notBack(entry.step.rules, entry.step.evidence));
	const tick = $derived(entry.step.evidence.findLast((e) => e.kind === 'tick'));
	const seen = $derived(entry.ticks('', tick?.data));
	const whole = $derived(Object.keys(seen).length === Object.keys(entry.step.items).length);
</script>

{#if open.length}
	<ul class="sheet">
		{#each open as each (each.id)}
			<li>
				<span><b>{each.data['what']}</b> <i>{each.by}, {moment(each.at)}</i></span>
				<button
					type="button"
					class="act"
					disabled={busy}
					onclick={() => entry.keep('back', { of: each.id }, '', '')}>It is back</button
				>
			</li>
		{/each}
	</ul>
{/if}
{#if Object.keys(entry.step.items).length}
	<Checks
		items={entry.step.items}
		ticked={(key) => entry.ticked('', key, tick?.data)}
		tick={(key, on) => entry.tick('', key, on)}
	/>
{/if}
<div class="actions">
	<button
		class="act"
		data-big
		disabled={busy || entry.shut || open.length > 0 || !whole}
		onclick={() => entry.keep('tick', seen, '', entry.step.id)}>Nothing is left behind</button
	>
</div>

<style>
	ul {
		margin-top: 14px;
		max-width: 640px;
	}
	li {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 12px;
		min-height: 56px;
		padding: 6px 14px;
	}
	li + li {
		border-top: 1px solid var(--rule);
	}
	li i {
		display: block;
		font-style: normal;
		font-size: var(--t2);
		color: var(--ink-3);
	}
	li .act {
		min-height: 44px;
		flex: none;
	}
</style>
