<script lang="ts">
	/** The model stepped by hand at a small and at a large demand: the process there, and every rule's gains on it. */
	import { answer, api, type Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';
	import Rules from './Rules.svelte';
	import Swing from './Swing.svelte';

	let { bench }: { bench: LoopBench } = $props();
	let found = $state.raw<Schemas['ModelView'][]>([]);
	let problem = $state('');
	let at = $state(0);

	async function step(): Promise<void> {
		try {
			found = await answer(api.POST('/api/loop/model', { body: bench.body }));
			problem = '';
		} catch (error) {
			problem = (error as Error).message;
		}
	}
	const model = $derived(found[at]);
	const gains = (rule: Schemas['RuleView']): Record<string, number> => ({
		gain: Number(rule.gain.toPrecision(3)),
		integral_time: Number(rule.integral_time.toPrecision(3)),
		...(rule.derivative_time ? { derivative_time: Number(rule.derivative_time.toPrecision(3)) } : {})
	});
	const where = $derived(
		model?.time_constant
			? `the model stepped at ${Math.round(100 * model.demand)} % of full`
			: 'the pit and its sensor'
	);
</script>

<p class="say">
	{bench.loop?.plant === 'level'
		? 'A level never settles by itself: let the pit take the swings, or hold it, by its area and the sensor’s range.'
		: 'A machine gives more for each hertz at little demand than at much: tune where it gives most. On a plant that nobody has measured begin with the calm one, and change one thing at a time.'}
</p>
<p><button type="button" class="act" onclick={() => void step()}>Step the model</button></p>
{#if problem}<p class="problem" role="alert">{session.words(problem)}</p>{/if}
{#if found.length > 1}
	<p role="group" aria-label="At which demand">
		{#each found as each, i (each.demand)}
			<button
				type="button"
				class="act"
				data-quiet={at === i ? undefined : ''}
				aria-pressed={at === i}
				onclick={() => (at = i)}>At {Math.round(100 * each.demand)} % of full</button
			>
		{/each}
	</p>
{/if}
{#if model?.missing}<p class="say">{session.words(model.missing)}</p>
{:else if model}
	{#if model.time_constant}<p>
			Gain <b class="num">{Math.abs(model.process_gain).toPrecision(3)}</b> % of range per % of speed, time
			constant
			<b class="num">{session.show(model.time_constant, 'time')}</b>, dead time
			<b class="num">{session.show(model.dead_time, 'time')}</b>{model.process_gain < 0
				? '; more speed lowers it'
				: ''}.
		</p>{/if}
	<Rules
		rules={model.rules}
		begin_with={model.time_constant ? 'simc_slow' : 'averaging'}
		label="Try it"
		derivative
		take={(rule) => bench.take(gains(rule), `${rule.label}, on ${where}.`)}
	/>
{/if}
<details>
	<summary>From a loop that swings</summary>
	<Swing {bench} take={(rule) => bench.take(gains(rule), `${rule.label}, from a loop that swings.`)} />
</details>

<style>
	[role='group'] {
		display: flex;
		gap: 8px;
	}
</style>
