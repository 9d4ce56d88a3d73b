<script lang="ts">
	/** A wait that nobody can cut short: the server's clock, shown large. */
	import { SvelteDate } from 'svelte/reactivity';
	import { session } from '../../session.svelte';
	import type { ProofEntry } from '../proof-entry.svelte';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	const step = $derived(entry.step);

	const now = new SvelteDate(session.now());
	$effect(() => {
		const tick = setInterval(() => now.setTime(session.now()), 250);
		return () => clearInterval(tick);
	});
	const left = $derived(
		step.clock_ends ? Math.max(0, (Date.parse(step.clock_ends) - now.getTime()) / 1000) : 0
	);

	function clock(seconds: number): string {
		const whole = Math.ceil(seconds);
		return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
	}
</script>

<p class="clock num" data-running={left > 0} aria-live="off">
	{step.clock_ends ? clock(left) : clock(step.seconds?.value ?? 0)}
</p>
<div class="actions">
	<button
		class="act"
		data-big
		disabled={busy || entry.shut}
		data-quiet={step.clock_ends ? true : undefined}
		onclick={() => entry.keep('start')}
		>{step.clock_ends ? 'Start the clock again' : 'Isolator open: start the clock'}</button
	>
	<button
		class="act"
		data-big
		disabled={busy || !step.clock_ends || left > 0 || step.state === 'done'}
		onclick={() => entry.keep('tick')}>The wait is over</button
	>
</div>

<style>
	.clock {
		font-size: calc(2 * var(--t6));
		font-weight: 650;
		line-height: 1;
		margin-top: 18px;
		color: var(--ink-3);
	}
	.clock[data-running='true'] {
		color: var(--brass);
	}
</style>
