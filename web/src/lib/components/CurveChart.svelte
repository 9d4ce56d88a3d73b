<script lang="ts">
	/**
	 * Machine and system on true axes: several speeds, what is held, the duty point, and hatched where nobody should
	 * run. With `drag` the point follows finger, mouse or arrow keys.
	 */
	import { scaleLinear } from 'd3-scale';
	import { line as path } from 'd3-shape';
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import { ANGLE, letterSpot, pointsOf, WAYS } from './curve-chart';
	import Sentence from './Sentence.svelte';

	type Point = { flow: number; rise: number };
	let {
		curves,
		height = 250,
		at = null,
		drag,
		label = '',
		legend = true,
		open
	}: {
		curves: Schemas['CurvesView'];
		height?: number;
		at?: Point | null;
		drag?: ((point: Point) => void) | undefined;
		label?: string;
		legend?: boolean;
		open?: ((key: string) => void) | undefined;
	} = $props();

	let width = $state(420);
	let svg = $state<SVGSVGElement>();
	let dragging = $state(false);
	const M = { top: 22, right: 16, bottom: 30, left: 48 };

	const flowUnit = $derived(session.units.unit(curves.flow_dimension, session.system));
	const riseUnit = $derived(session.units.unit(curves.rise_dimension, session.system));
	const q = $derived((v: number) => v / (flowUnit?.factor ?? 1));
	const h = $derived((v: number) => v / (riseUnit?.factor ?? 1));

	const flows = $derived(curves.machine[0]?.flows ?? [0, 1]);
	const top = $derived(Math.max(...(curves.machine[0]?.rises ?? [1]), at ? at.rise : 0));
	const x = $derived(scaleLinear([0, q(flows[flows.length - 1] ?? 1)], [M.left, width - M.right]).nice(5));
	const y = $derived(scaleLinear([0, h(top) * 1.08], [height - M.bottom, M.top]).nice(4));

	/** The curve as a path: as far as its points go, or beyond them. */
	function drawn(curve: Schemas['CurveView'], beyond = false): string {
		const inside = pointsOf(curve, beyond)
			.map(([flow, rise]): [number, number] => [q(flow), h(rise)])
			.filter(([, rise]) => rise >= 0 && rise <= (y.domain()[1] ?? Infinity));
		return path<[number, number]>((p) => x(p[0]), (p) => y(p[1]))(inside) ?? ''; // prettier-ignore
	}

	const speeds = $derived(
		curves.machine.map((curve) => ({
			curve,
			d: drawn(curve),
			beyond: drawn(curve, true),
			at: [x(q(curve.flows[0] ?? 0)) + 5, y(h(curve.rises[0] ?? 0)) - 5] as const
		}))
	);
	const regions = $derived(
		(curves.regions ?? []).map((region, i) => {
			const points = region.flows.map((flow, n): [number, number] => [
				Math.min(x(q(flow)), width - M.right),
				y(h(Math.max(0, region.rises[n] ?? 0)))
			]);
			const name = 'abcdefgh'[i] ?? '';
			const spot = letterSpot(region.id, points);
			return {
				region,
				name,
				spot,
				d: `M${points.map((p) => p.map((v) => v.toFixed(1)).join(',')).join('L')}Z`
			};
		})
	);

	const duty = $derived(
		curves.duty_flow && curves.duty_rise
			? { flow: curves.duty_flow.value, rise: curves.duty_rise.value }
			: null
	);
	const shownPoint = $derived(at ?? duty);
	const spot = $derived(shownPoint ? { x: x(q(shownPoint.flow)), y: y(h(shownPoint.rise)) } : null);
	const text = $derived.by(() => {
		if (!shownPoint) return '';
		if (label) return label;
		const flow = session.show(shownPoint.flow, curves.flow_dimension);
		return curves.duty_power && !at ? `${flow}, ${session.show(curves.duty_power.value, 'power')}` : flow;
	});

	function move(event: PointerEvent): void {
		if (!dragging || !drag || !svg) return;
		const box = svg.getBoundingClientRect();
		place(event.clientX - box.left, event.clientY - box.top);
	}

	function place(px: number, py: number): void {
		const flow = Math.max(0, x.invert(Math.min(px, width - M.right))) * (flowUnit?.factor ?? 1);
		const rise = Math.max(0, y.invert(Math.max(py, M.top))) * (riseUnit?.factor ?? 1);
		drag?.({ flow, rise });
	}

	function keys(event: KeyboardEvent): void {
		const way = WAYS[event.key];
		if (!way || !spot || !drag) return;
		event.preventDefault();
		const far = event.shiftKey ? 12 : 3;
		place(spot.x + way[0] * far, spot.y + way[1] * far);
	}
</script>

<div bind:clientWidth={width}>
	<svg
		bind:this={svg}
		{width}
		{height}
		role="img"
		aria-label="Curves of machine and system. Duty point {text || 'not known yet'}."
		onpointermove={move}
		onpointerup={() => (dragging = false)}
		onpointercancel={() => (dragging = false)}
	>
		<defs>
			{#each Object.entries(ANGLE) as [id, angle] (id)}
				<pattern
					id="hatch-{id}"
					width="8"
					height="8"
					patternUnits="userSpaceOnUse"
					patternTransform="rotate({angle})"
				>
					<path d="M0 0v8" stroke="var(--rule-strong)" stroke-width={id === 'hold' ? 1.4 : 0.9} />
				</pattern>
			{/each}
		</defs>
		{#each x.ticks(6) as tick (tick)}
			<path d="M{x(tick)} {M.top}V{height - M.bottom}" stroke="var(--rule)" stroke-width=".8" />
			<text x={x(tick)} y={height - M.bottom + 16} text-anchor="middle" class="tick">{tick}</text>
		{/each}
		{#each y.ticks(5) as tick (tick)}
			<path d="M{M.left} {y(tick)}H{width - M.right}" stroke="var(--rule)" stroke-width=".8" />
			<text x={M.left - 7} y={y(tick) + 4} text-anchor="end" class="tick">{tick}</text>
		{/each}
		<text x={M.left - 40} y="13" class="axis"
			>{session.units.symbol(curves.rise_dimension, session.system)} {curves.rise_name}</text
		>
		<text x={width - M.right} y={height - 2} text-anchor="end" class="axis"
			>{session.units.symbol(curves.flow_dimension, session.system)}</text
		>
		{#each regions as { region, d } (region.id)}
			<path {d} fill="url(#hatch-{region.id})" opacity=".75" data-region={region.id} />
		{/each}
		{#if curves.held}
			<path
				d="M{x(0)} {y(h(curves.held.value))}H{width - M.right}"
				stroke="var(--clear)"
				stroke-dasharray="5 4"
				stroke-width="1.3"
			/>
			<text x={width - M.right} y={y(h(curves.held.value)) - 5} text-anchor="end" class="held"
				>{session.show(curves.held.value, curves.rise_dimension)} held</text
			>
		{/if}
		{#if curves.system}
			<path d={drawn(curves.system)} fill="none" stroke="var(--steel)" stroke-width="1.7" />
		{/if}
		{#each speeds as { curve, d, beyond, at: where }, i (i)}
			<path
				d={beyond}
				fill="none"
				stroke={i === 0 ? 'var(--ink)' : 'var(--ink-3)'}
				stroke-width={i === 0 ? 1.4 : 1}
				stroke-dasharray="2 4"
				data-beyond
			/>
			<path
				{d}
				fill="none"
				stroke={i === 0 ? 'var(--ink)' : 'var(--ink-3)'}
				stroke-width={i === 0 ? 2 : 1.1}
				stroke-dasharray={i === 0 && curves.assumed ? '7 4' : undefined}
			/>
			<text x={where[0]} y={where[1]} class="speed">{curve.label_frequency} Hz</text>
		{/each}
		{#each regions as { region, name, spot: mark } (region.id)}
			<circle cx={mark[0]} cy={mark[1]} r="8.5" fill="var(--sheet)" stroke="var(--ink-3)" />
			<text x={mark[0]} y={mark[1] + 4} text-anchor="middle" class="letter">{name}</text>
		{/each}
		{#if spot}
			<text
				x={Math.min(Math.max(spot.x + 2, M.left + 4), width - M.right)}
				y={Math.max(spot.y - 15, 12)}
				text-anchor={spot.x > width * 0.6 ? 'end' : 'start'}
				class="duty">{text}</text
			>
			{#if drag}
				<circle
					class="handle"
					cx={spot.x}
					cy={spot.y}
					r="22"
					fill="transparent"
					tabindex="0"
					role="slider"
					aria-label="Duty point"
					aria-valuenow={Number(q(shownPoint?.flow ?? 0).toFixed(3))}
					aria-valuetext={text}
					onpointerdown={(event) => {
						dragging = true;
						event.currentTarget.setPointerCapture(event.pointerId);
					}}
					onpointermove={move}
					onkeydown={keys}
				/>
			{/if}
			<circle
				cx={spot.x}
				cy={spot.y}
				r={drag ? 8 : 6}
				fill={at ? 'var(--brass)' : 'var(--sheet)'}
				stroke="var(--steel)"
				stroke-width="2.2"
				pointer-events="none"
			/>
		{/if}
	</svg>
	{#if legend && (regions.length || speeds[0]?.beyond)}
		<ul>
			{#each regions as { region, name } (region.id)}
				<li><b>{name}</b> <span><Sentence parts={region.words} {open} /></span></li>
			{/each}
			{#if speeds[0]?.beyond}<li><b>· · ·</b> <span>drawn on beyond the last point</span></li>{/if}
			{#if curves.assumed}<li><b>– –</b> <span>shape assumed from the duty point</span></li>{/if}
		</ul>
	{/if}
</div>

<style>
	svg {
		display: block;
		touch-action: pan-y;
	}
	.handle {
		cursor: grab;
		touch-action: none;
		outline: none;
	}
	.handle:focus-visible {
		stroke: var(--steel);
		stroke-dasharray: 3 3;
	}
	.tick {
		font: var(--t1) var(--mono);
		fill: var(--ink-3);
	}
	.speed {
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.axis,
	.speed {
		font: var(--t1) var(--sans);
		fill: var(--ink-2);
	}
	.letter {
		font: 650 var(--t1) var(--sans);
		fill: var(--ink-2);
	}
	.held {
		font: var(--t1) var(--sans);
		fill: var(--clear);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.duty {
		font: 650 var(--t2) var(--sans);
		fill: var(--steel);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 4px;
	}
	ul {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 18px;
		padding: 4px 12px 8px;
		font-size: var(--t1);
		color: var(--ink-2);
	}
	li b {
		font-weight: 650;
		color: var(--ink);
		padding-right: 2px;
	}
</style>
