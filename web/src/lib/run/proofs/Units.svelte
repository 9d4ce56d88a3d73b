<script lang="ts">
	/** Each unit of several by itself, with its serial number. */
	import Checks from '../Checks.svelte';
	import type { ProofEntry } from '../proof-entry.svelte';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	const step = $derived(entry.step);
	const unitOf = (n: number) => step.evidence.find((e) => e.data['unit'] === n);
	const first = $derived(Array.from({ length: step.units }, (_, i) => i + 1).find((n) => !unitOf(n)?.passed));
	/** The unit that a person went to; 0 for the first that is open. */
	let chosen = $state(0);
	const unit = $derived(chosen || (first ?? 1));
	const at = $derived(step.id);
	$effect(() => {
		void at;
		chosen = 0;
	});

	function keep(): void {
		const kept = unitOf(unit)?.data;
		const serial = entry.text(`unit${unit}.serial`) || serialOf(unit);
		const data = { unit, ...(serial ? { serial } : {}), ...entry.ticks(`unit${unit}.`, kept) };
		entry.keep('unit', data, '', `${step.id}.unit${unit}`);
		chosen = 0;
	}

	function serialOf(n: number): string {
		const serial = unitOf(n)?.data['serial'];
		return typeof serial === 'string' ? serial : '';
	}
</script>

<div class="units" role="group" aria-label="Units">
	{#each { length: step.units }, i (i)}
		{@const kept = unitOf(i + 1)}
		<button
			type="button"
			data-state={kept ? (kept.passed ? 'done' : 'failed') : 'open'}
			aria-pressed={unit === i + 1}
			onclick={() => (chosen = i + 1)}
			><b class="num">{i + 1}</b>{kept ? (kept.passed ? 'done' : 'not yet') : 'open'}<i class="num"
				>{serialOf(i + 1)}</i
			></button
		>
	{/each}
</div>
<label class="serial"
	>Serial number of unit {unit}
	<input
		class="field"
		autocomplete="off"
		maxlength="60"
		value={entry.text(`unit${unit}.serial`) || serialOf(unit)}
		oninput={(event) => entry.type(`unit${unit}.serial`, event.currentTarget.value)}
	/></label
>
<Checks
	items={step.items}
	ticked={(key) => entry.ticked(`unit${unit}.`, key, unitOf(unit)?.data)}
	tick={(key, on) => entry.tick(`unit${unit}.`, key, on)}
/>
<div class="actions">
	<button class="act" data-big disabled={busy || entry.shut} onclick={keep}>Keep unit {unit}</button>
</div>

<style>
	.units {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(78px, 1fr));
		gap: 8px;
		margin-top: 14px;
		max-width: 640px;
	}
	.units button {
		display: grid;
		justify-items: start;
		padding: 7px 10px;
		min-height: 64px;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: var(--sheet);
		font-size: var(--t1);
		color: var(--ink-2);
		cursor: pointer;
	}
	.units b {
		font-size: var(--t4);
		color: var(--ink);
	}
	.units i {
		font-style: normal;
		font-size: var(--t1);
		color: var(--ink-3);
		min-height: 15px;
	}
	.units [aria-pressed='true'] {
		box-shadow: inset 0 -4px 0 var(--brass);
		border-color: var(--brass);
	}
	.units [data-state='done'] {
		border-left: 5px solid var(--clear);
	}
	.units [data-state='failed'] {
		border-left: 5px double var(--stop);
	}
	.serial {
		display: grid;
		gap: 3px;
		margin-top: 12px;
		max-width: 320px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.serial .field {
		min-height: 44px;
	}
</style>
