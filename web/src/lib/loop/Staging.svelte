<script lang="ts">
	/** How many machines bring each flow with the least energy, and the speeds at which one comes and one goes. */
	import { scaleLinear } from 'd3-scale';
	import { answer, api, type Schemas } from '../api/client';
	import Sentence from '../components/Sentence.svelte';
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';

	let { bench }: { bench: LoopBench } = $props();
	let found = $state.raw<Schemas['StagesView'] | null>(null);
	let problem = $state('');
	let width = $state(620);
	const H = 220;
	const M = { top: 14, right: 30, bottom: 26, left: 48 };
	const open = (key: string): void => bench.openWorking(key);

	async function find(): Promise<void> {
		try {
			found = await answer(api.POST('/api/loop/stages', { body: bench.body }));
			problem = '';
		} catch (error) {
			problem = (error as Error).message;
		}
	}
	const factor = $derived(session.units.unit(found?.flow_dimension, session.system)?.factor ?? 1);
	const counts = $derived(
		[...new Set((found?.flows ?? []).flatMap((f) => f.ways.map((w) => w.count)))].sort()
	);
	const x = $derived(
		scaleLinear([0, (found?.flows.at(-1)?.flow ?? 1) / factor], [M.left, width - M.right]).nice(5)
	);
	const y = $derived(
		scaleLinear(
			[0, Math.max(...(found?.flows ?? []).flatMap((f) => f.ways.map((w) => w.power)), 1) / 1000],
			[H - M.bottom, M.top]
		).nice(4)
	);
	const curve = (count: number): string =>
		(found?.flows ?? [])
			.flatMap((f) => {
				const way = f.ways.find((w) => w.count === count);
				return way ? [`${x(f.flow / factor)},${y(way.power / 1000)}`] : [];
			})
			.join(' ');
	const best = $derived(
		(found?.flows ?? []).map((f) => ({ x: x(f.flow / factor), y: y((f.ways[0]?.power ?? 0) / 1000) }))
	);
	const last = (count: number): Schemas['FlowView'] | undefined =>
		(found?.flows ?? []).findLast((f) => f.ways.some((w) => w.count === count));
</script>

<p>
	<button type="button" class="act" onclick={() => void find()}>Work it out</button>
</p>
{#if problem}<p class="problem" role="alert">{session.words(problem)}</p>{/if}
{#if found}
	<div bind:clientWidth={width}>
		<svg {width} height={H} role="img" aria-label="Electrical power over flow, by how many machines run">
			{#each y.ticks(4) as tick (tick)}
				<path d="M{M.left} {y(tick)}H{width - M.right}" stroke="var(--rule)" />
				<text x={M.left - 6} y={y(tick) + 4} text-anchor="end">{tick}</text>
			{/each}
			{#each x.ticks(6) as tick (tick)}<text x={x(tick)} y={H - 8} text-anchor="middle">{tick}</text>{/each}
			<text x={width - M.right} y={H - 8} text-anchor="end"
				>{session.units.symbol(found.flow_dimension, session.system)}</text
			>
			<text x={8} y={12}>kW</text>
			{#each best as point, i (i)}<circle cx={point.x} cy={point.y} r="4.5" class="best" />{/each}
			{#each counts as count (count)}
				<polyline points={curve(count)} class="way" />
				{@const end = last(count)}
				{@const way = end?.ways.find((w) => w.count === count)}
				{#if end && way}<text class="count" x={x(end.flow / factor) + 4} y={y(way.power / 1000) - 8}
						>{count}</text
					>{/if}
			{/each}
		</svg>
	</div>
	<p class="say">
		The brass dots are the least power at each flow; the figure at each curve’s end is how many run.
	</p>
	<ul>
		{#each found.changes as change (change.count)}
			<li data-overlaps={change.overlaps}>
				<b>{change.count} machines.</b>
				<Sentence parts={change.words} {open} />
				{#if bench.knob('stage_on')}<button
						type="button"
						class="act"
						data-quiet
						onclick={() =>
							bench.take(change.moved, 'Least energy at each flow, by the machines’ own curves.')}
						>Try these speeds</button
					>{/if}
			</li>
		{/each}
	</ul>
	{#if found.at_top > found.at_best * 1.005}<p>
			Over these flows {Math.round(100 * (1 - found.at_best / found.at_top))} % less power than when another comes
			only at the highest speed.
		</p>{:else}<p>
			Here the fewest that can bring it are also the cheapest: let another come near the highest speed.
		</p>{/if}
{/if}

<style>
	svg {
		display: block;
	}
	text {
		font: var(--t1) var(--mono);
		fill: var(--ink-3);
	}
	.count {
		font: 650 var(--t2) var(--sans);
		fill: var(--ink);
	}
	.way {
		fill: none;
		stroke: var(--steel);
		stroke-width: 1.5;
	}
	.best {
		fill: var(--brass);
	}
	ul {
		padding-left: 18px;
		font-size: var(--t3);
		line-height: 1.5;
	}
</style>
