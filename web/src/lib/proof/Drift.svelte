<script lang="ts">
	/** Every visit's full-speed row against the baseline, drawn, and what that drift usually means. */
	import { scaleLinear } from 'd3-scale';
	import type { Schemas } from '../api/client';
	import Num from '../components/Num.svelte';
	import Sentence from '../components/Sentence.svelte';
	import { session } from '../session.svelte';
	import { date } from '../words';

	let { drift, open }: { drift: Schemas['DriftView']; open: (key: string) => void } = $props();

	let width = $state(680);
	const H = 200;
	const M = { left: 52, right: 90, top: 14, bottom: 26 };
	const names = $derived(Object.keys(drift.labels));
	const most = $derived(
		Math.max(0.1, ...drift.visits.flatMap((v) => Object.values(v.off).map((f) => Math.abs(f.value)))) * 1.15
	);
	const x = $derived(scaleLinear([0, Math.max(1, drift.visits.length)], [M.left, width - M.right]));
	const y = $derived(scaleLinear([-most, most], [H - M.bottom, M.top]));
	const lines = $derived(
		names
			.map((name) => ({
				name,
				points: [
					{ at: 0, off: 0 },
					...drift.visits.flatMap((v, i) => {
						const off = v.off[name];
						return off ? [{ at: i + 1, off: off.value }] : [];
					})
				]
			}))
			.filter((line) => line.points.length > 1)
	);
	/** Names at the line's end, moved apart where two would touch. */
	const ends = $derived.by(() => {
		const placed = lines
			.map((line) => ({ ...line, y: y(line.points.at(-1)?.off ?? 0) }))
			.sort((a, b) => a.y - b.y);
		for (let i = 1; i < placed.length; i++) {
			const above = placed[i - 1];
			const here = placed[i];
			if (above && here && here.y - above.y < 15) here.y = above.y + 15;
		}
		return placed;
	});
	const DASHES: Record<string, string> = { speed: '2 3', current: '7 4', power: '', pressure: '12 3 2 3' };
	const percent = (v: number): string => `${v > 0 ? '+' : ''}${(v * 100).toFixed(0)} %`;
</script>

{#if !drift.baseline}
	<p class="say">No baseline yet: it is read in the run sheet, at full speed.</p>
{:else if !drift.visits.length}
	<p class="say">
		The baseline was kept on {date(drift.baseline.at)} by {drift.baseline.by}. Later visits read the same row
		at the same opening, and are drawn here against it.
	</p>
{:else}
	<div bind:clientWidth={width}>
		<svg {width} height={H} role="img" aria-label="Drift of the full-speed row from the baseline, by visit">
			<rect
				x={M.left}
				y={y(0.05)}
				width={width - M.left - M.right}
				height={y(-0.05) - y(0.05)}
				class="scatter"
			/>
			<text x={M.left + 4} y={y(0.05) - 4} class="note">within what readings scatter</text>
			{#each y.ticks(5) as tick (tick)}
				<line x1={M.left} x2={width - M.right} y1={y(tick)} y2={y(tick)} class="grid" />
				<text x={M.left - 6} y={y(tick) + 4} class="tick">{percent(tick)}</text>
			{/each}
			{#each lines as line (line.name)}
				<path
					d={line.points.map((p, i) => `${i ? 'L' : 'M'}${x(p.at)},${y(p.off)}`).join('')}
					stroke-dasharray={DASHES[line.name]}
				/>
				{#each line.points as p (p.at)}<circle cx={x(p.at)} cy={y(p.off)} r="3.5" />{/each}
			{/each}
			{#each ends as end (end.name)}
				<text x={width - M.right + 8} y={end.y + 4} class="name">{drift.labels[end.name]}</text>
			{/each}
			<text x={x(0)} y={H - 8} class="when">baseline</text>
			{#each drift.visits as visit, i (visit.at)}<text x={x(i + 1)} y={H - 8} class="when"
					>{date(visit.at)}</text
				>{/each}
		</svg>
	</div>
{/if}
{#if drift.baseline}
	<table class="ledger">
		<thead>
			<tr
				><th>Visit</th>{#each names as name (name)}<th class="right">{drift.labels[name]}</th>{/each}<th
					>Usually means</th
				></tr
			>
		</thead>
		<tbody>
			{#each [drift.baseline, ...drift.visits] as visit, i (visit.at)}
				<tr>
					<th scope="row">{date(visit.at)}<small>{i ? visit.purpose : 'baseline'}, {visit.by}</small></th>
					{#each names as name (name)}
						<td class="right"
							>{#if visit.readings[name] !== undefined}<span class="num"
									>{session.show(visit.readings[name], drift.dimensions[name])}</span
								>{/if}
							{#if visit.off[name]}<small
									>{(visit.off[name]?.value ?? 0) > 0 ? '+' : ''}<Num
										figure={visit.off[name]!}
										{open}
									/></small
								>{/if}</td
						>
					{/each}
					<td class="said"
						>{i ? visit.means || 'Nothing has drifted.' : ''}{#if visit.learnt.length}
							<small
								>By all readings of that visit: {#each visit.learnt as said, n (n)}{n ? '; ' : ''}<Sentence
										parts={said}
										{open}
									/>{/each}.</small
							>{/if}</td
					>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}

<style>
	path {
		fill: none;
		stroke: var(--steel);
		stroke-width: 2;
	}
	circle {
		fill: var(--steel);
	}
	.scatter {
		fill: var(--well);
	}
	.grid {
		stroke: var(--rule);
	}
	.tick {
		text-anchor: end;
		font: var(--t1) var(--mono);
		fill: var(--ink-3);
	}
	.when {
		text-anchor: middle;
		font-size: var(--t1);
		fill: var(--ink-3);
	}
	.name {
		font-size: var(--t2);
		font-weight: 600;
		fill: var(--steel);
	}
	.note {
		font-size: var(--t1);
		fill: var(--ink-3);
	}
	table {
		margin-top: 6px;
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-3);
		font-weight: 400;
	}
</style>
