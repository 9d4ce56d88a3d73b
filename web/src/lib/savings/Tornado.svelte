<script lang="ts">
	/** What the answer hangs on: one thing after the other a fifth less and a fifth more, the most first. */
	import { scaleLinear } from 'd3-scale';
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let { savings, currency }: { savings: Schemas['SavingsView']; currency: string } = $props();

	type Measure = 'payback' | 'money' | 'saved';
	let wanted = $state<Measure>('payback');
	const WORDS: Record<Measure, string> = {
		payback: 'Payback',
		money: 'Money a year',
		saved: 'Energy a year'
	};
	const measures = $derived((['payback', 'money', 'saved'] as const).filter((m) => savings.figures[m]));
	const measure = $derived(measures.includes(wanted) ? wanted : (measures[0] ?? 'saved'));
	const middle = $derived(savings.figures[measure]?.value ?? 0);
	const bars = $derived(
		savings.tornado
			.flatMap((bar) => {
				const { low, high } = bar[measure];
				return low === null || high === null ? [] : [{ ...bar, at: [low, high] as const }];
			})
			.filter((bar) => Math.abs(bar.at[0] - bar.at[1]) > 1e-3 * Math.abs(middle))
			.sort((a, b) => Math.abs(b.at[0] - b.at[1]) - Math.abs(a.at[0] - a.at[1]))
	);
	let width = $state(700);
	const LEFT = 190;
	const ROW = 40;
	const ends = $derived([middle, ...bars.flatMap((b) => [...b.at])]);
	const x = $derived(scaleLinear([Math.min(...ends), Math.max(...ends)], [LEFT + 84, width - 84]));
	const told = (value: number): string =>
		measure === 'payback'
			? `${value.toFixed(1)} years`
			: measure === 'money'
				? `${session.units.number(value, 'money', session.system, undefined, 3)} ${currency}`
				: session.units.show(value, 'energy', session.system);
</script>

<div class="head">
	<h2>What the answer hangs on</h2>
	<span role="group" aria-label="Shown">
		{#each measures as one (one)}
			<button
				type="button"
				class="act"
				data-quiet={measure === one ? undefined : ''}
				aria-pressed={measure === one}
				onclick={() => (wanted = one)}>{WORDS[one]}</button
			>
		{/each}
	</span>
</div>
<p class="say">
	Each alone a fifth less and a fifth more; {WORDS[measure].toLowerCase()} is {told(middle)} as entered.
</p>
<div bind:clientWidth={width}>
	<svg
		{width}
		height={bars.length * ROW + 12}
		role="img"
		aria-label="What moves {WORDS[measure].toLowerCase()} most"
	>
		<line x1={x(middle)} x2={x(middle)} y1="0" y2={bars.length * ROW + 6} class="middle" />
		{#each bars as bar, i (bar.id)}
			{@const [low, high] = bar.at}
			<text x="0" y={i * ROW + 25} class="label">{bar.label}</text>
			{#each [[low, 'less'], [high, 'more']] as const as [value, way] (way)}
				<rect
					x={Math.min(x(value), x(middle))}
					y={i * ROW + 9}
					width={Math.abs(x(value) - x(middle))}
					height="22"
					class={way}
				/>
				{#if Math.abs(x(value) - x(middle)) > 2}
					<text
						x={x(value) + (value < middle ? -6 : 6)}
						y={i * ROW + 25}
						class="end"
						text-anchor={value < middle ? 'end' : 'start'}>{told(value)}</text
					>
				{/if}
			{/each}
		{/each}
	</svg>
</div>
<p class="say"><i class="swatch less"></i> a fifth less <i class="swatch more"></i> a fifth more</p>

<style>
	.head {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 12px;
		flex-wrap: wrap;
	}
	.act {
		min-height: 32px;
		padding: 4px 12px;
	}
	.middle {
		stroke: var(--ink);
		stroke-width: 1.5;
	}
	.label {
		font-size: var(--t3);
		fill: var(--ink);
	}
	.end {
		font: var(--t2) var(--mono);
		fill: var(--ink-2);
	}
	rect.less {
		fill: var(--rule-strong);
	}
	rect.more {
		fill: var(--steel);
	}
	.swatch {
		display: inline-block;
		width: 14px;
		height: 10px;
		margin-left: 10px;
	}
	.swatch.less {
		background: var(--rule-strong);
		margin-left: 0;
	}
	.swatch.more {
		background: var(--steel);
	}
</style>
