<script lang="ts">
	/** Power over what the periods are compared at: readings, curves with where their mean may lie, what is covered. */
	import { scaleLinear } from 'd3-scale';
	import { area, line as path } from 'd3-shape';
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let { claim, height = 300 }: { claim: Schemas['ClaimView']; height?: number } = $props();

	let width = $state(560);
	const id = $props.id();
	const M = { left: 46, right: 14, top: 24, bottom: 40 };
	const unit = $derived(session.units.unit(claim.dimension, session.system));
	const q = $derived((v: number) => (v - (unit?.offset ?? 0)) / (unit?.factor ?? 1));
	const kw = (v: number) => v / 1000;
	type Dot = [number, number];
	type Row = [number, number, number];
	const fits = $derived(claim.fits.map((f) => ({ ...f, cloud: f.cloud as Dot[], curve: f.curve as Row[] })));
	const all = $derived(fits.flatMap((f) => f.cloud));
	const low = $derived(Math.min(...claim.points.map((p) => q(p.at)), ...all.map((p) => q(p[0]))));
	const high = $derived(Math.max(...claim.points.map((p) => q(p.at)), ...all.map((p) => q(p[0]))));
	const x = $derived(scaleLinear([low, high], [M.left, width - M.right]).nice(6));
	const y = $derived(
		scaleLinear([0, Math.max(...all.map((p) => kw(p[1]))) * 1.08], [height - M.bottom, M.top]).nice(4)
	);
	const curve = $derived(
		path<Row>(
			(p) => x(q(p[0])),
			(p) => y(kw(p[1]))
		)
	);
	const band = $derived(
		area<Row>(
			(p) => x(q(p[0])),
			(p) => y(kw(p[1] - p[2])),
			(p) => y(kw(p[1] + p[2]))
		)
	);
	/** Neighbouring values without readings, as stretches to be hatched. */
	const wanting = $derived(
		claim.points.flatMap((point, i) => {
			if (point.covered || point.seconds <= 0) return [];
			const before = claim.points[i - 1];
			const next = claim.points[i + 1];
			const from = before ? (q(before.at) + q(point.at)) / 2 : x.domain()[0]!;
			const to = next ? (q(next.at) + q(point.at)) / 2 : x.domain()[1]!;
			return [{ from: x(from), to: x(to), why: point.why }];
		})
	);
	const middle = $derived.by(() => {
		const covered = claim.points.filter((p) => p.covered);
		return covered.reduce<(typeof covered)[number] | undefined>(
			(most, p) =>
				!most || p.seconds * (p.before - p.after) > most.seconds * (most.before - most.after) ? p : most,
			undefined
		);
	});
	/** The name of the difference stands where the lower curve does not come up to it. */
	const left = $derived(middle !== undefined && q(middle.at) > (low + high) / 2);
</script>

<div bind:clientWidth={width}>
	<svg {width} {height} role="img" aria-label="Power before and now, {claim.words}">
		<defs>
			<pattern id="{id}-h" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
				><line x1="0" y1="0" x2="0" y2="7" class="hatch" /></pattern
			>
		</defs>
		{#each y.ticks(4) as tick (tick)}
			<line x1={M.left} x2={width - M.right} y1={y(tick)} y2={y(tick)} class="grid" />
			<text x={M.left - 6} y={y(tick) + 4} class="tick end">{tick}</text>
		{/each}
		{#each x.ticks(6) as tick (tick)}<text x={x(tick)} y={height - M.bottom + 18} class="tick middle"
				>{tick}</text
			>{/each}
		<text x={M.left - 40} y="14" class="axis">kW</text>
		<text x={width - M.right} y={height - 6} class="axis end"
			>{claim.dimension ? session.units.symbol(claim.dimension, session.system) : ''}</text
		>
		{#each wanting as part (part.from)}
			<rect
				x={part.from}
				y={M.top}
				width={Math.max(0, part.to - part.from)}
				height={height - M.top - M.bottom}
				fill="url(#{id}-h)"
			/>
			<text
				x={Math.max(M.left + 90, Math.min((part.from + part.to) / 2, width - M.right - 90))}
				y={height - M.bottom - 8}
				class="why middle">{part.why}</text
			>
		{/each}
		{#each fits as fit, side (side)}
			<g class={side ? 'now' : 'before'}>
				{#each fit.cloud as point, i (i)}<circle cx={x(q(point[0]))} cy={y(kw(point[1]))} r="2" />{/each}
				<path d={band(fit.curve)} class="band" />
				<path d={curve(fit.curve)} class="curve" />
				{#if fit.curve[0]}
					<text x={x(q(fit.curve[0][0])) + 4} y={y(kw(fit.curve[0][1])) - (side ? -20 : 12)} class="name"
						>{side ? 'now' : 'before'}</text
					>
				{/if}
			</g>
		{/each}
		{#if middle}
			<line
				x1={x(q(middle.at))}
				x2={x(q(middle.at))}
				y1={y(kw(middle.before))}
				y2={y(kw(middle.after))}
				class="apart"
			/>
			<text
				x={x(q(middle.at)) + (left ? -8 : 8)}
				y={(y(kw(middle.before)) + y(kw(middle.after))) / 2 + (left ? -8 : 4)}
				class="apart-name"
				text-anchor={left ? 'end' : 'start'}
				>{session.show(middle.before - middle.after, 'input_power')} at {claim.dimension
					? session.show(middle.at, claim.dimension)
					: ''}</text
			>
		{/if}
	</svg>
</div>

<style>
	.grid {
		stroke: var(--rule);
	}
	.hatch {
		stroke: var(--rule-strong);
		stroke-width: 2;
	}
	.tick {
		font: var(--t1) var(--mono);
		fill: var(--ink-3);
	}
	.axis {
		font-size: var(--t1);
		fill: var(--ink-3);
	}
	.end {
		text-anchor: end;
	}
	.middle {
		text-anchor: middle;
	}
	.why {
		font-size: var(--t1);
		font-weight: 600;
		fill: var(--caution);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 4px;
	}
	circle {
		opacity: 0.28;
	}
	.before circle,
	.before .band {
		fill: var(--ink-3);
	}
	.now circle,
	.now .band {
		fill: var(--steel);
	}
	.band {
		opacity: 0.25;
	}
	.curve {
		fill: none;
		stroke-width: 2.2;
	}
	.before .curve {
		stroke: var(--ink-2);
	}
	.now .curve {
		stroke: var(--steel);
	}
	.name {
		font-size: var(--t2);
		font-weight: 650;
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 4px;
	}
	.before .name {
		fill: var(--ink-2);
	}
	.now .name {
		fill: var(--steel);
	}
	.apart {
		stroke: var(--clear);
		stroke-width: 2;
	}
	.apart-name {
		font-size: var(--t2);
		font-weight: 650;
		fill: var(--clear);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 5px;
	}
</style>
