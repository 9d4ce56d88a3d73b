<script lang="ts">
	/** A log of the plant laid over the prediction; named parameters are fitted to it, within bounds. */
	import { scaleLinear } from 'd3-scale';
	import { line as path } from 'd3-shape';
	import { answer, api, type Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';

	let { bench }: { bench: LoopBench } = $props();
	let text = $state('');
	let output = $state<'Hz' | '%'>('Hz');
	let chosen = $state<string[]>(['demand']);
	let found = $state.raw<Schemas['FittedView'] | null>(null);
	let problem = $state('');
	let busy = $state(false);
	let width = $state(700);
	const H = 200;
	const names = $derived(
		(bench.loop?.fits ?? []).map((id) => ({
			id,
			label: id === 'demand' ? 'Demand' : (bench.knob(id)?.label ?? id)
		}))
	);

	async function fit(): Promise<void> {
		busy = true;
		try {
			found = await answer(
				api.POST('/api/loop/fit', {
					body: { ...bench.body, text, output, fit: [...chosen] } as Schemas['LogDraft']
				})
			);
			problem = '';
		} catch (error) {
			found = null;
			problem = (error as Error).message;
		} finally {
			busy = false;
		}
	}

	async function load(event: Event): Promise<void> {
		const file = (event.currentTarget as HTMLInputElement).files?.[0];
		if (file) text = await file.text();
	}

	function take(): void {
		if (!found) return;
		bench.take(Object.fromEntries(found.moved.filter((m) => m.id !== 'demand').map((m) => [m.id, m.now])));
	}

	const x = $derived(scaleLinear([0, found?.times.at(-1) ?? 1], [8, width - 8]));
	const all = $derived([...(found?.measured ?? []), ...(found?.before ?? []), ...(found?.after ?? [])]);
	const y = $derived(scaleLinear([Math.min(...all), Math.max(...all)], [H - 10, 10]));
	const drawn = (values: number[]): string =>
		path<number>(
			(_, i) => x(found?.times[i] ?? 0),
			(v) => y(v)
		)(values) ?? '';
	const apart = (v: number, kind: string): string =>
		session.show(v, kind === 'temperature' ? 'temperature_difference' : kind);
</script>

<label for="log"
	>Time, measured value in {session.units.symbol(bench.loop?.dimension, session.system)}, output: paste the
	logger’s table, or
	<input
		type="file"
		accept=".csv,.txt,text/csv"
		onchange={(event) => void load(event)}
		aria-label="Open a log"
	/></label
>
<textarea id="log" class="field" rows="4" bind:value={text}></textarea>
<div class="what">
	<span role="group" aria-label="Output is in">
		{#each ['Hz', '%'] as const as unit (unit)}
			<button
				type="button"
				class="act"
				data-quiet={output === unit ? undefined : ''}
				aria-pressed={output === unit}
				onclick={() => (output = unit)}>Output in {unit}</button
			>
		{/each}
	</span>
	<fieldset>
		<legend>Fit</legend>
		{#each names as name (name.id)}
			<label><input type="checkbox" bind:group={chosen} value={name.id} /> {name.label}</label>
		{/each}
	</fieldset>
	<button
		type="button"
		class="act"
		onclick={() => void fit()}
		disabled={busy || !text.trim() || !chosen.length}>{busy ? 'Fitting …' : 'Lay it over and fit'}</button
	>
</div>
{#if problem}<p class="problem" role="alert">{session.words(problem)}</p>{/if}
{#if found}
	<div bind:clientWidth={width}>
		<svg {width} height={H} role="img" aria-label="Log, prediction before and after the fit">
			<path d={drawn(found.measured)} class="read" />
			<path d={drawn(found.before)} class="before" />
			<path d={drawn(found.after)} class="after" />
		</svg>
	</div>
	<p>
		<span class="key before">before</span>
		{apart(found.error_before, found.dimension)} off, <span class="key after">after</span>
		<b class="num">{apart(found.error_after, found.dimension)}</b>
		off (rms); the log’s own noise is {apart(found.noise, found.dimension)}.
	</p>
	{#if found.leaves_much}<p class="doubt">
			Much is left that the model does not explain: something else moved, the demand most likely. Fit a
			stretch in which only the speed moved.
		</p>{/if}
	<table>
		<tbody>
			{#each found.moved as moved (moved.id)}
				<tr>
					<th scope="row">{moved.label}</th>
					<td class="num">{session.show(moved.was, moved.dimension)}</td><td>→</td>
					<td class="num"><b>{session.show(moved.now, moved.dimension)}</b></td>
					<td class="say"
						>{moved.at_bound
							? 'at the end of what is believable: not told by this log'
							: moved.within === null || moved.within > Math.abs(moved.now)
								? 'not told by this log'
								: `± ${session.show(moved.within, moved.dimension === 'temperature' ? 'temperature_difference' : moved.dimension)}`}</td
					>
				</tr>
			{/each}
		</tbody>
	</table>
	{#if found.moved.some((m) => m.id !== 'demand')}<p>
			<button type="button" class="act" onclick={take}>Go on with the fitted plant</button>
		</p>{/if}
{/if}

<style>
	label {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	textarea {
		width: 100%;
		font-size: var(--t2);
		margin-top: 6px;
	}
	.what {
		display: flex;
		flex-wrap: wrap;
		gap: 10px 16px;
		align-items: center;
		margin: 8px 0;
	}
	fieldset {
		border: 0;
		padding: 0;
		display: flex;
		flex-wrap: wrap;
		gap: 4px 14px;
	}
	legend {
		float: left;
		padding-right: 10px;
		font-size: var(--t2);
		font-weight: 600;
	}
	path {
		fill: none;
	}
	.read {
		stroke: var(--ink-3);
		stroke-width: 1.4;
	}
	path.before {
		stroke: var(--steel);
		stroke-width: 1.6;
		stroke-dasharray: 5 4;
	}
	path.after {
		stroke: var(--brass);
		stroke-width: 2.4;
	}
	.key {
		font-weight: 650;
	}
	.key.before {
		color: var(--steel);
	}
	.key.after {
		color: var(--brass);
	}
	th {
		text-align: left;
		font-weight: 600;
		padding-right: 14px;
	}
	td {
		padding: 3px 8px;
	}
	.doubt {
		color: var(--caution);
		font-weight: 600;
	}
</style>
