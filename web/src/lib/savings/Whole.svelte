<script lang="ts">
	/** What arrives of what is taken, before and now, and what the valve or damper took of it: in words. */
	import type { Schemas } from '../api/client';
	import Num from '../components/Num.svelte';

	let { savings, fan, open }: { savings: Schemas['SavingsView']; fan: boolean; open: (key: string) => void } =
		$props();
	const figures = $derived(savings.figures);
	const before = $derived(figures['efficiency_before']);
	const now = $derived(figures['efficiency_now']);
	const share = $derived((figures['throttled']?.value ?? 0) / (figures['before']?.value ?? 1));
	const LOST = $derived<Record<string, string>>({
		throttle: fan ? 'The damper took' : 'The valve took',
		vanes: 'The vanes took',
		bypass: 'The bypass took',
		on_off: 'Running at full flow took',
		nothing: 'Moving more than was needed took'
	});
</script>

{#if before && now}
	<p>
		Of what is taken, <b><Num figure={now} prose {open} /></b> now goes into moving the
		{fan ? 'air through its own ductwork' : 'water through its own pipework'}; before it was
		<b><Num figure={before} prose {open} /></b>. {LOST[savings.alternative]}
		<b>{(share * 100).toFixed(0)} %</b> of everything.
	</p>
{/if}

<style>
	p {
		font-size: var(--t3);
		padding: 4px 0 2px;
	}
</style>
