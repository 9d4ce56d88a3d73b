<script lang="ts">
	/** The best of 500 tunings, each run for an hour, and what is traded for it; one is taken into the trial. */
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';
	import { LongWork } from './long-work.svelte';
	import Working from './Working.svelte';

	let { bench }: { bench: LoopBench } = $props();
	type Scored = Schemas['ScoredView'];
	const work = new LongWork<Schemas['SearchView']>('/api/loop/search');
	const found = $derived(work.found);
	$effect(() => () => work.stop());

	const gain = (s: Scored): number => s.moved['gain'] ?? bench.knob('gain')?.value ?? 0;
	const time = (s: Scored): number => s.moved['integral_time'] ?? bench.knob('integral_time')?.value ?? 0;
	const percent = (share: number): string => `${Math.round(100 * share)} %`;
	const reason = (s: Scored): string =>
		`Sought among ${found?.candidates} tunings: error ${percent(s.error)}, movement ${percent(s.movement)} of what it was; holds on ${s.holds} of ${found?.tried_on} plants.`;
	const rows = $derived(
		found
			? [
					{ name: 'Now', scored: found.present },
					...(found.stays ? [] : [{ name: 'Best', scored: found.best }]),
					...found.others
						.filter((o) => o !== found.best && o.moved['gain'] !== found.best.moved['gain'])
						.slice(0, 3)
						.map((scored) => ({ name: '', scored }))
				]
			: []
	);
	/** What the best gives and what it takes. */
	const traded = $derived.by(() => {
		if (!found || found.stays) return '';
		const { best, present } = found;
		const error = best.error / Math.max(present.error, 1e-9);
		const movement = best.movement / Math.max(present.movement, 1e-9);
		const less =
			error <= 1
				? `${percent(1 - error)} less away from the setpoint`
				: `${percent(error - 1)} more away from it`;
		const moves =
			movement <= 1
				? `the speed moves ${percent(1 - movement)} less`
				: `for it the speed moves ${percent(movement - 1)} more`;
		return `${less}; ${moves}; holds on ${best.holds} of ${found.tried_on} plants, now ${present.holds}.`;
	});
</script>

<p class="say">
	Gain and integral time, up to twelve times either way, each run for an hour; the likeliest also on plants
	that differ. Nothing is changed until you take one, and then only in this trial.
</p>
<p>
	<button type="button" class="act" onclick={() => void work.begin(bench.body)} disabled={work.runs}
		>Seek among 500</button
	>
</p>
<Working {work} label="Tunings tried" />
{#if found}
	<p class="verdict">
		{found.stays ? 'As it is: nothing better by more than a tenth.' : `Best: ${traded}`}
	</p>
	<table class="tool">
		<thead
			><tr
				><th></th><th class="r">Gain</th><th class="r">Integral time</th><th class="r">Error</th><th class="r"
					>Movement</th
				><th class="r">Holds on</th><th></th></tr
			></thead
		>
		<tbody>
			{#each rows as { name, scored }, i (i)}
				<tr data-best={name === 'Best'}>
					<td
						>{name}{#if scored.faults.length}<small>{scored.faults.join(', ')}</small>{/if}</td
					>
					<td class="r num">{gain(scored).toPrecision(3)}</td>
					<td class="r num">{session.show(time(scored), 'time')}</td>
					<td class="r num">{percent(scored.error)}</td>
					<td class="r num">{percent(scored.movement)}</td>
					<td class="r num">{scored.holds} of {found.tried_on}</td>
					<td
						>{#if name !== 'Now'}<button
								type="button"
								class="act"
								data-quiet
								onclick={() => bench.take(scored.moved, reason(scored))}>Try it</button
							>{/if}</td
					>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}

<style>
	.verdict {
		font-weight: 600;
	}
	[data-best='true'] td {
		background: var(--brass-wash);
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--caution);
	}
</style>
