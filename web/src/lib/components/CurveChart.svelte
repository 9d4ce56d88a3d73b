<script lang="ts">
	/** Pump curves at several speeds, the system, the held head, the duty point, and where no water moves. */
	import { scaleLinear } from 'd3-scale';
	import { line as path } from 'd3-shape';
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let { curves, height = 250 }: { curves: Schemas['CurvesView']; height?: number } = $props();

	let width = $state(420);
	const M = { top: 22, right: 16, bottom: 30, left: 44 };

	const flowUnit = $derived(session.units.unit('flow', session.system));
	const headUnit = $derived(session.units.unit('head', session.system));
	const q = $derived((v: number) => v / (flowUnit?.factor ?? 1));
	const h = $derived((v: number) => v / (headUnit?.factor ?? 1));

	const flows = $derived(curves.pump[0]?.flows ?? [0, 1]);
	const top = $derived(Math.max(...(curves.pump[0]?.heads ?? [1])));
	const x = $derived(scaleLinear([0, q(flows[flows.length - 1] ?? 1)], [M.left, width - M.right]).nice(5));
	const y = $derived(scaleLinear([0, h(top) * 1.08], [height - M.bottom, M.top]).nice(4));

	function drawn(curve: Schemas['CurveView']): string {
		const points = curve.flows
			.map((flow, i): [number, number] => [q(flow), h(curve.heads[i] ?? 0)])
			.filter(([, head]) => head >= 0 && head <= y.domain()[1]!);
		return (
			path<[number, number]>(
				(p) => x(p[0]),
				(p) => y(p[1])
			)(points) ?? ''
		);
	}

	const speeds = $derived(
		curves.pump.map((curve) => ({
			curve,
			d: drawn(curve),
			at: [x(q(curve.flows[0] ?? 0)) + 5, y(h(curve.heads[0] ?? 0)) - 5] as const
		}))
	);
	const duty = $derived(
		curves.duty_flow && curves.duty_head
			? { x: x(q(curves.duty_flow.value)), y: y(h(curves.duty_head.value)) }
			: null
	);
	const dutyText = $derived(
		curves.duty_flow
			? `${session.show(curves.duty_flow.value, 'flow')}${curves.duty_power ? `, ${session.show(curves.duty_power.value, 'power')}` : ''}`
			: ''
	);
	const forbidden = $derived.by(() => {
		if (!curves.no_flow) return '';
		const points = curves.no_flow.flows
			.map((flow, i): [number, number] => [x(q(flow)), y(h(Math.max(0, curves.no_flow?.heads[i] ?? 0)))])
			.filter((p) => p[1] <= y(0));
		return `M${x(0)},${y(0)}L${points.map((p) => p.join(',')).join('L')}L${points[points.length - 1]?.[0] ?? x(0)},${y(0)}Z`;
	});
</script>

<div bind:clientWidth={width}>
	<svg
		{width}
		{height}
		role="img"
		aria-label="Pump and system curves. Duty point {dutyText || 'not known yet'}."
	>
		<defs>
			<pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
				<path d="M0 0v7" stroke="var(--rule-strong)" stroke-width="1" />
			</pattern>
		</defs>
		{#each x.ticks(5) as tick (tick)}
			<path d="M{x(tick)} {M.top}V{height - M.bottom}" stroke="var(--rule)" stroke-width=".8" />
			<text x={x(tick)} y={height - M.bottom + 16} text-anchor="middle" class="tick">{tick}</text>
		{/each}
		{#each y.ticks(4) as tick (tick)}
			<path d="M{M.left} {y(tick)}H{width - M.right}" stroke="var(--rule)" stroke-width=".8" />
			<text x={M.left - 7} y={y(tick) + 4} text-anchor="end" class="tick">{tick}</text>
		{/each}
		<text x={M.left - 36} y="13" class="axis">{session.units.symbol('head', session.system)} head</text>
		<text x={width - M.right} y={height - 2} text-anchor="end" class="axis"
			>{session.units.symbol('flow', session.system)}</text
		>
		{#if forbidden}
			<path d={forbidden} fill="url(#hatch)" opacity=".7" />
			<text x={x(0) + 8} y={y(0) - 8} class="why"
				>below {session.show(curves.no_flow_frequency?.value ?? 0, 'frequency')} no water moves</text
			>
		{/if}
		{#if curves.held_head}
			<path
				d="M{x(0)} {y(h(curves.held_head.value))}H{width - M.right}"
				stroke="var(--clear)"
				stroke-dasharray="5 4"
				stroke-width="1.3"
			/>
			<text x={width - M.right} y={y(h(curves.held_head.value)) - 5} text-anchor="end" class="held"
				>{session.show(curves.held_head.value, 'head')} held</text
			>
		{/if}
		{#if curves.system}
			<path d={drawn(curves.system)} fill="none" stroke="var(--steel)" stroke-width="1.7" />
		{/if}
		{#each speeds as { curve, d, at }, i (i)}
			<path
				{d}
				fill="none"
				stroke={i === 0 ? 'var(--ink)' : 'var(--ink-3)'}
				stroke-width={i === 0 ? 2 : 1.1}
			/>
			<text x={at[0]} y={at[1]} class="speed">{curve.label_frequency} Hz</text>
		{/each}
		{#if duty}
			<circle cx={duty.x} cy={duty.y} r="6" fill="var(--sheet)" stroke="var(--steel)" stroke-width="2.2" />
			<text
				x={Math.min(duty.x + 2, width - M.right)}
				y={duty.y - 13}
				text-anchor={duty.x > width * 0.6 ? 'end' : 'start'}
				class="duty">{dutyText}</text
			>
		{/if}
	</svg>
</div>

<style>
	svg {
		display: block;
	}
	.tick {
		font: 12px var(--mono);
		fill: var(--ink-3);
	}
	.speed {
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.axis,
	.speed {
		font: 12px var(--sans);
		fill: var(--ink-2);
	}
	.why {
		font: 12px var(--sans);
		fill: var(--stop);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 4px;
	}
	.held {
		font: 12px var(--sans);
		fill: var(--clear);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.duty {
		font: 650 12.5px var(--sans);
		fill: var(--steel);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 4px;
	}
</style>
