<script lang="ts">
	/** A loop that swings, by a relay or at its limit of stability: what was seen, and the gains that follow. */
	import { answer, api, type Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';
	import Rules from './Rules.svelte';

	let { bench, take }: { bench: LoopBench; take: (rule: Schemas['RuleView']) => void } = $props();
	let speed = $state('');
	let value = $state('');
	let period = $state('');
	let rules = $state.raw<Schemas['RuleView'][]>([]);
	let problem = $state('');
	const kind = $derived(
		bench.loop?.dimension === 'temperature' ? 'temperature_difference' : (bench.loop?.dimension ?? 'ratio')
	);
	const span = $derived(bench.loop?.span ?? 1);

	async function tune(): Promise<void> {
		const [hertz, swing, seconds] = (
			[
				[speed, 'frequency'],
				[value, kind],
				[period, 'time']
			] as const
		).map(([text, dimension]) => session.units.parse(text, dimension, session.system));
		if (typeof hertz !== 'number' || typeof swing !== 'number' || typeof seconds !== 'number')
			return void (problem =
				'Three numbers: by how much the speed goes up and down, the value, and how long a swing is.');
		try {
			const relay = hertz / (bench.loop?.base_frequency ?? 50) / 2;
			rules = await answer(
				api.POST('/api/loop/swing', {
					body: { relay, swing: swing / span / 2, hysteresis: 0, period: seconds }
				})
			);
			problem = '';
		} catch (error) {
			problem = (error as Error).message;
		}
	}
</script>

<p class="say">From top to bottom, as read off the display while it swings evenly.</p>
<p class="ask">
	<label>Speed swings by <input class="field" inputmode="decimal" bind:value={speed} /> Hz</label>
	<label
		>{bench.loop?.held ?? 'Value'} by <input class="field" inputmode="decimal" bind:value />
		{session.units.symbol(kind, session.system)}</label
	>
	<label>every <input class="field" inputmode="decimal" bind:value={period} /> s</label>
	<button type="button" class="act" onclick={() => void tune()}>Gains from it</button>
</p>
{#if problem}<p class="problem" role="alert">{session.words(problem)}</p>{/if}
{#if rules.length}<Rules {rules} begin_with="ultimate_calm" label="Try it" {take} />{/if}

<style>
	.ask {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 16px;
		align-items: center;
	}
	.field {
		width: 80px;
		text-align: right;
	}
</style>
