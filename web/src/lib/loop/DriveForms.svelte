<script lang="ts">
	/** The gains in hand as drives of every form and unit want them. */
	import { answer, api, type Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';

	let { bench }: { bench: LoopBench } = $props();
	let found = $state.raw<Schemas['FormView'][]>([]);
	let problem = $state('');
	let full = $state(''); // Hz that the drive counts as 100 % output
	let range = $state(''); // what it counts as 100 % feedback, % of the sensor's range

	const base = $derived(bench.loop?.base_frequency ?? 50);
	const number = (text: string, usual: number): number =>
		text.trim() ? Number(text.replace(',', '.')) : usual;

	$effect(() => {
		const [gain, integral, derivative] = ['gain', 'integral_time', 'derivative_time'].map(
			(id) => bench.knob(id)?.value ?? 0
		) as [number, number, number];
		const body = {
			gain,
			integral_time: integral,
			derivative_time: derivative,
			output_share: number(full, base) / base,
			feedback_share: number(range, 100) / 100
		};
		answer(api.POST('/api/loop/forms', { body }))
			.then((forms) => {
				found = forms;
				problem = '';
			})
			.catch((error: unknown) => (problem = (error as Error).message));
	});
	const show = (v: number | null, digits = 3): string =>
		v === null ? '–' : String(Number(v.toPrecision(digits)));
	const minutes = (v: number | null): string => show(v === null ? null : v / 60);
</script>

<p class="say">
	Here a gain is % of full speed for each % of the sensor’s range. A drive that counts otherwise wants another
	number: say what it calls 100 %.
</p>
<p class="ask">
	<label
		>100 % output is <input class="field" inputmode="decimal" bind:value={full} placeholder={String(base)} /> Hz</label
	>
	<label
		>100 % feedback is <input class="field" inputmode="decimal" bind:value={range} placeholder="100" /> % of the
		range</label
	>
</p>
{#if problem}<p class="problem" role="alert">{session.words(problem)}</p>{/if}
<table class="tool">
	<thead
		><tr
			><th>Form</th><th class="r">Gain</th><th class="r">Band</th><th class="r">Integral</th><th class="r"
				>in min</th
			><th class="r">Repeats/min</th><th class="r">Derivative</th></tr
		></thead
	>
	<tbody>
		{#each found as form (form.id)}
			<tr>
				<td
					>{form.label}{#if form.why}<small>{session.words(form.why)}</small>{/if}</td
				>
				<td class="r num">{show(form.gain)}</td>
				<td class="r num"
					>{form.proportional_band === null ? '–' : `${show(100 * form.proportional_band)} %`}</td
				>
				<td class="r num"
					>{form.integral_gain !== null
						? `${show(form.integral_gain)} /s`
						: `${show(form.integral_time)} s`}</td
				>
				<td class="r num"
					>{form.integral_gain !== null
						? `${show(60 * form.integral_gain)} /min`
						: minutes(form.integral_time)}</td
				>
				<td class="r num">{show(form.repeats_per_minute)}</td>
				<td class="r num"
					>{form.derivative_gain !== null
						? `${show(form.derivative_gain)} s`
						: `${show(form.derivative_time)} s`}</td
				>
			</tr>
		{/each}
	</tbody>
</table>

<style>
	.ask {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 20px;
	}
	.field {
		width: 78px;
		text-align: right;
	}
	.r {
		text-align: right;
		white-space: nowrap;
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-2);
	}
</style>
