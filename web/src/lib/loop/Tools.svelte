<script lang="ts">
	/** What else the bench works out, one tool at a time. */
	import Tabs from '../components/Tabs.svelte';
	import type { LinePage } from '../line/line-page.svelte';
	import DriveForms from './DriveForms.svelte';
	import FitLog from './FitLog.svelte';
	import type { LoopBench } from './loop-bench.svelte';
	import ModelRules from './ModelRules.svelte';
	import Robust from './Robust.svelte';
	import Seek from './Seek.svelte';
	import SleepFinder from './SleepFinder.svelte';
	import Staging from './Staging.svelte';
	import StepTest from './StepTest.svelte';

	let { bench, line }: { bench: LoopBench; line: LinePage } = $props();
	const loop = $derived(bench.loop);
	const tools = $derived(
		[
			{ id: 'robust', label: 'Many plants', when: loop?.loops },
			{ id: 'seek', label: 'Seek gains', when: loop?.loops },
			{ id: 'rules', label: 'Tuning rules', when: loop?.loops },
			{ id: 'forms', label: 'In the drive’s form', when: loop?.loops },
			{ id: 'sleep', label: 'Find sleep', when: loop?.sleeps },
			{ id: 'stages', label: 'How many run', when: loop?.stages },
			{ id: 'test', label: 'Step test on site', when: loop?.loops },
			{ id: 'fit', label: 'Fit to a log', when: loop?.loops && loop.fits.length > 0 }
		].filter((tool) => tool.when)
	);
	let chosen = $state('');
	const at = $derived(tools.find((t) => t.id === chosen)?.id ?? tools[0]?.id);
</script>

{#if tools.length}
	<section class="sheet">
		<Tabs tabs={tools} at={at ?? ''} choose={(id) => (chosen = id)} label="Tools of the bench">
			<div class="tool">
				{#if at === 'robust'}<Robust {bench} />
				{:else if at === 'seek'}<Seek {bench} />
				{:else if at === 'rules'}<ModelRules {bench} />
				{:else if at === 'forms'}<DriveForms {bench} />
				{:else if at === 'sleep'}<SleepFinder {bench} />
				{:else if at === 'stages'}<Staging {bench} />
				{:else if at === 'test'}<StepTest {line} />
				{:else if at === 'fit'}<FitLog {bench} />{/if}
			</div>
		</Tabs>
	</section>
{/if}

<style>
	section {
		margin-top: 12px;
	}
	.tool {
		padding: 10px 14px 14px;
	}
	.tool :global(p) {
		margin: 0 0 8px;
	}
</style>
