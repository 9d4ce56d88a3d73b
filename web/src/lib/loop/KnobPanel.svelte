<script lang="ts">
	/** Every value that can be moved, by group: typed or slid; and what the model makes of the line. */
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';
	import { held, type Knob, type LoopBench } from './loop-bench.svelte';

	let { bench, open }: { bench: LoopBench; open: (key: string) => void } = $props();

	const loop = $derived(bench.loop);
	const knobs = $derived(loop?.knobs ?? []);
	const groups = $derived(knobs.map((k) => k.group).filter((group, i, all) => all.indexOf(group) === i));
	/** Groups that are folded until somebody wants them. */
	const FOLDED = ['Protection', 'What nobody knows for sure'];

	const FIGURES = [
		['setpoint_head', 'Head at the setpoint'],
		['duty_flow', 'Duty point, full speed'],
		['hold_frequency', 'Holds at no flow'],
		['low_limit', 'Predicted low limit'],
		['sleep_below', 'Predicted sleep frequency']
	] as const;
	const OF_SLEEP = ['hold_frequency', 'low_limit', 'sleep_below'];

	const shown = (knob: Knob): string =>
		bench.texts[knob.id] ?? session.units.number(knob.value, knob.dimension, session.system, undefined, 4);
	/** Where a slider stands, 0 to 1000. */
	const place = (knob: Knob): number =>
		1000 *
		(knob.by_ratio
			? Math.log(knob.value / knob.low) / Math.log(knob.high / knob.low)
			: (knob.value - knob.low) / (knob.high - knob.low));
	function slid(knob: Knob, to: number): void {
		const share = to / 1000;
		const value = knob.by_ratio
			? knob.low * (knob.high / knob.low) ** share
			: knob.low + share * (knob.high - knob.low);
		bench.slide(knob.id, held(value));
	}
</script>

{#snippet row(knob: Knob)}
	<label class="row" data-moved={bench.tried[knob.id] !== undefined}>
		<span
			>{knob.label}{#if knob.hint}<small>{session.words(knob.hint)}</small>{/if}</span
		>
		<span class="box"
			><input
				class="field"
				inputmode="decimal"
				aria-label={knob.label}
				value={shown(knob)}
				oninput={(event) => bench.move(knob, event.currentTarget.value)}
			/><i>{session.units.symbol(knob.dimension, session.system)}</i></span
		>
	</label>
	{#if knob.slides && knob.high > knob.low}
		<input
			class="slider"
			type="range"
			aria-label="{knob.label}, slide"
			min="0"
			max="1000"
			step="1"
			value={place(knob)}
			oninput={(event) => slid(knob, Number(event.currentTarget.value))}
		/>
	{/if}
{/snippet}

<aside>
	<h2>{loop?.knobs.length ? 'Settings tried' : 'Of this line'}</h2>
	{#each groups as group (group)}
		{@const own = knobs.filter((k) => k.group === group)}
		{#if FOLDED.includes(group)}
			<details open={own.some((k) => bench.tried[k.id] !== undefined)}>
				<summary><h3>{group}</h3></summary>
				{#each own as knob (knob.id)}{@render row(knob)}{/each}
			</details>
		{:else}
			<h3>{group}</h3>
			{#each own as knob (knob.id)}{@render row(knob)}{/each}
		{/if}
	{/each}
	<h3>From the model</h3>
	{#each FIGURES as [name, label] (name)}
		{@const figure = loop?.figures[name]}
		{#if figure && (loop?.sleeps || !OF_SLEEP.includes(name))}<p class="row">
				<span>{label}</span><span class="num"><Num {figure} {open} /></span>
			</p>{/if}
	{/each}
</aside>

<style>
	aside {
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 12px 16px 24px;
		overflow: auto;
		position: relative;
	}
	h3 {
		margin-top: 10px;
	}
	summary h3 {
		display: inline-block;
	}
	.row {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
		padding: 3px 0;
		min-height: 36px;
		border-top: 1px solid var(--rule);
		font-size: var(--t3);
	}
	.row[data-moved='true'] {
		box-shadow: -8px 0 0 -5px var(--brass);
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-3);
	}
	.box {
		display: inline-flex;
		align-items: center;
		gap: 6px;
	}
	.box i {
		font-style: normal;
		font-size: var(--t1);
		color: var(--ink-3);
		min-width: 24px;
	}
	.field {
		width: 88px;
		text-align: right;
		min-height: 30px;
		padding: 3px 8px;
		font-size: var(--t3);
	}
	.slider {
		display: block;
		width: 100%;
		height: 26px;
		margin: 0 0 2px;
		accent-color: var(--steel);
	}
</style>
