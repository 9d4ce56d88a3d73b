<script lang="ts">
	/** The values being tried, each to be typed or slid, and what the model makes of the line. */
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';
	import type { LoopBench, Tuned } from './loop-bench.svelte';

	let { bench, tries, open }: { bench: LoopBench; tries: boolean; open: (key: string) => void } = $props();

	const loop = $derived(bench.loop);
	const hold = $derived(loop?.figures['hold_frequency']);

	const ROWS: { group: string; rows: { name: Tuned; label: string; dimension: string; hint?: string }[] }[] =
		[
			{
				group: 'Controller',
				rows: [
					{ name: 'setpoint', label: 'Setpoint', dimension: 'pressure' },
					{ name: 'gain', label: 'Gain', dimension: 'ratio', hint: '% of speed per % of range' },
					{ name: 'integral_time', label: 'Integral time', dimension: 'time' }
				]
			},
			{
				group: 'Rest at no demand',
				rows: [
					{
						name: 'low_limit',
						label: 'Low limit',
						dimension: 'frequency',
						hint: 'above what holds at no flow'
					},
					{ name: 'sleep_below', label: 'Sleep below', dimension: 'frequency' },
					{ name: 'sleep_delay', label: 'Sleep delay', dimension: 'time' },
					{ name: 'boost', label: 'Boost before sleep', dimension: 'pressure' },
					{ name: 'wake_at', label: 'Wake at', dimension: 'pressure' }
				]
			},
			{
				group: 'Ramps, 0 to full',
				rows: [
					{ name: 'ramp_up', label: 'Up', dimension: 'time' },
					{ name: 'ramp_down', label: 'Down', dimension: 'time' }
				]
			}
		];

	const FIGURES = [
		['setpoint_head', 'Head at the setpoint'],
		['duty_flow', 'Duty point, full speed'],
		['hold_speed', 'Speed ratio that only holds'],
		['hold_frequency', 'Holds at no flow'],
		['low_limit', 'Predicted low limit'],
		['sleep_below', 'Predicted sleep frequency']
	] as const;
</script>

<aside>
	<h2>{tries ? 'Settings tried' : 'Of this line'}</h2>
	{#each tries ? ROWS : [] as group (group.group)}
		<h3>{group.group}</h3>
		{#each group.rows as row (row.name)}
			<label class="row" data-moved={bench.tried[row.name] !== undefined}>
				<span
					>{row.label}{#if row.hint}<small>{row.hint}</small>{/if}</span
				>
				<span class="box"
					><input
						class="field"
						inputmode="decimal"
						aria-label={row.label}
						value={bench.texts[row.name] ??
							(loop && loop.times.length
								? session.units.number(loop.tuning[row.name], row.dimension, session.system, undefined, 4)
								: '')}
						oninput={(event) => bench.move(row.name, event.currentTarget.value, row.dimension)}
					/><i>{session.units.symbol(row.dimension, session.system)}</i></span
				>
			</label>
			{#if row.name === 'setpoint' && loop && loop.times.length}
				<input
					class="slider"
					type="range"
					aria-label="Setpoint, slide"
					min={loop.tuning.setpoint > 0 ? 50_000 : 0}
					max={Math.max(loop.tuning.setpoint * 1.2, 600_000)}
					step="5000"
					value={loop.tuning.setpoint}
					oninput={(event) => bench.slide(Number(event.currentTarget.value))}
				/>
			{/if}
		{/each}
	{/each}
	<h3>From the model</h3>
	{#each FIGURES as [name, label] (name)}
		{@const figure = loop?.figures[name]}
		<p class="row">
			<span>{label}</span>
			{#if figure}<span class="num"><Num {figure} {open} /></span>{:else}<small>not known yet</small>{/if}
		</p>
	{/each}
	{#if hold}<p class="say">
			At no demand the drive settles at <Num figure={hold} {open} />; read it on site and set the limits by
			what you read.
		</p>{/if}
</aside>

<style>
	aside {
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 12px 16px 24px;
		overflow: auto;
		position: relative;
	}
	aside h3 {
		margin-top: 10px;
	}
	.row {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
		padding: 3px 0;
		min-height: 36px;
		border-bottom: 1px solid var(--rule);
		font-size: 14px;
	}
	.row[data-moved='true'] {
		box-shadow: -8px 0 0 -5px var(--brass);
	}
	small {
		display: block;
		font-size: 12px;
		color: var(--ink-3);
	}
	.box {
		display: inline-flex;
		align-items: center;
		gap: 6px;
	}
	.box i {
		font-style: normal;
		font-size: 12.5px;
		color: var(--ink-3);
		min-width: 24px;
	}
	.field {
		width: 92px;
		text-align: right;
		min-height: 30px;
		padding: 3px 8px;
		font-size: 15px;
	}
	.slider {
		width: 100%;
		min-height: 28px;
		accent-color: var(--steel);
	}
</style>
