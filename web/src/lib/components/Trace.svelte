<script lang="ts">
	/** Ten minutes of the loop: pressure above, speed and demand below, events named where they happen. */
	import { scaleLinear } from 'd3-scale';
	import { line as path } from 'd3-shape';
	import type { Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let { loop, height = 262 }: { loop: Schemas['LoopView']; height?: number } = $props();

	let width = $state(860);
	const M = { top: 40, right: 50, bottom: 22, left: 50 };

	const unit = $derived(session.units.unit('pressure', session.system));
	const p = $derived((v: number) => v / (unit?.factor ?? 1));
	const end = $derived(loop.times[loop.times.length - 1] ?? 600);
	const split = $derived(M.top + (height - M.top - M.bottom) * 0.52);
	const low = $derived(Math.min(...loop.pressure, loop.tuning.wake_at));
	const high = $derived(Math.max(...loop.pressure, loop.tuning.setpoint));
	const x = $derived(scaleLinear([0, end], [M.left, width - M.right]));
	const y = $derived(
		scaleLinear([p(low) - 0.08 * p(high - low), p(high) + 0.12 * p(high - low)], [split, M.top])
	);
	const base = $derived(loop.base_frequency ?? 50);
	const f = $derived(scaleLinear([0, base], [height - M.bottom, split + 14]));
	const most = $derived(Math.max(...loop.demand, 1e-9));
	const d = $derived(scaleLinear([0, most], [height - M.bottom, height - M.bottom - 44]));

	function drawn(values: number[], place: (v: number) => number): string {
		return (
			path<number>(
				(_, i) => x(loop.times[i] ?? 0),
				(v) => place(v)
			)(values) ?? ''
		);
	}

	const area = $derived(
		`${drawn(loop.demand, (v) => d(v))}L${x(end)},${d(0)}L${x(loop.times[0] ?? 0)},${d(0)}Z`
	);
	/** Names of events lifted where they would touch. */
	const events = $derived.by(() => {
		let last = -100;
		let level = 0;
		return loop.events.slice(0, 24).map((event) => {
			const at = x(event.time);
			level = at - last < 44 ? (level + 1) % 3 : 0;
			last = at;
			return { ...event, at, y: 11 + level * 12 };
		});
	});
	const minutes = $derived(Array.from({ length: Math.round(end / 120) + 1 }, (_, i) => i * 2));
</script>

<div bind:clientWidth={width}>
	<svg {width} {height} role="img" aria-label="Pressure, speed and demand over ten minutes">
		{#each minutes as minute (minute)}
			<path d="M{x(minute * 60)} {M.top}V{height - M.bottom}" stroke="var(--rule)" stroke-width=".8" />
			<text x={x(minute * 60)} y={height - 6} text-anchor="middle" class="tick">{minute} min</text>
		{/each}
		<path d={area} fill="var(--well)" />
		<rect
			x={M.left}
			width={Math.max(0, width - M.left - M.right)}
			y={y(p(loop.tuning.setpoint * 1.03))}
			height={Math.max(0, y(p(loop.tuning.setpoint * 0.97)) - y(p(loop.tuning.setpoint * 1.03)))}
			fill="var(--clear-wash)"
		/>
		<path
			d="M{M.left} {y(p(loop.tuning.setpoint))}H{width - M.right}"
			stroke="var(--clear)"
			stroke-dasharray="6 4"
		/>
		<path
			d="M{M.left} {y(p(loop.tuning.wake_at))}H{width - M.right}"
			stroke="var(--ink-3)"
			stroke-dasharray="1.5 4"
		/>
		<text x={width - M.right + 6} y={y(p(loop.tuning.wake_at)) + 4} class="side">wake</text>
		<text x={width - M.right + 6} y={y(p(loop.tuning.setpoint)) + 4} class="side held">set</text>
		{#each y.ticks(4) as tick (tick)}
			<text x={M.left - 7} y={y(tick) + 4} text-anchor="end" class="tick">{tick}</text>
		{/each}
		<text x={8} y="14" class="side">{session.units.symbol('pressure', session.system)}</text>
		<path
			d="M{M.left} {f(loop.tuning.low_limit)}H{width - M.right}"
			stroke="var(--steel)"
			stroke-dasharray="2 4"
			opacity=".7"
		/>
		<text x={width - M.right + 6} y={f(loop.tuning.low_limit) + 4} class="side steel"
			>{loop.tuning.low_limit.toFixed(1)}</text
		>
		<text x={width - M.right + 6} y={f(0) + 3} class="side steel">0 Hz</text>
		{#each events as event (event.time)}
			<path
				d="M{event.at} {event.y + 3}V{height - M.bottom}"
				stroke="var(--brass)"
				stroke-dasharray="1.5 3"
			/>
			<text x={event.at + 3} y={event.y} class="event">{event.name}</text>
		{/each}
		<path d={drawn(loop.frequency, (v) => f(v))} fill="none" stroke="var(--steel)" stroke-width="1.6" />
		<path d={drawn(loop.pressure, (v) => y(p(v)))} fill="none" stroke="var(--ink)" stroke-width="2" />
		<text x={M.left + 16} y={y(p(loop.tuning.setpoint * 1.03)) - 5} class="name">pressure</text>
		<text x={M.left + 16} y={f(base * 0.6)} class="name steel">speed</text>
		<text x={M.left + 16} y={height - M.bottom - 6} class="name quiet">demand</text>
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
	.side {
		font: 12px var(--sans);
		fill: var(--ink-3);
	}
	.held {
		fill: var(--clear);
	}
	.steel {
		fill: var(--steel);
	}
	.event {
		font: 12px var(--sans);
		fill: var(--brass);
	}
	.name {
		font: 650 13px var(--sans);
		fill: var(--ink);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.name.steel {
		fill: var(--steel);
	}
	.name.quiet {
		font-weight: 400;
		fill: var(--ink-2);
		stroke: none;
	}
</style>
