<script lang="ts">
	/**
	 * The logs on one axis of time, thinned by the server so that no extreme is lost; a zoom asks anew for what it
	 * shows. Drag across to zoom in, double-click for all; the buttons and arrow keys do the same.
	 */
	import type uPlot from 'uplot';
	import { onMount, untrack } from 'svelte';
	import { answer, api, type Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import { aligned, moved, zoomed, type Span } from './log-chart';

	let {
		logs,
		lineId,
		height = 196
	}: { logs: Schemas['LogView'][]; lineId: string; height?: number } = $props();

	const quantities = $derived(
		[...new Map(logs.flatMap((l) => l.columns).map((c) => [c.quantity, c])).values()].filter(
			(c) => c.quantity !== 'running'
		)
	);
	let chosen = $state('power');
	const quantity = $derived(quantities.find((q) => q.quantity === chosen) ?? quantities[0]);
	const whole = $derived<Span>({
		start: Math.min(...logs.map((l) => l.start)),
		end: Math.max(...logs.map((l) => l.end))
	});
	let asked = $state.raw<Span | null>(null);
	const span = $derived(asked ?? whole);
	let holder = $state<HTMLDivElement>();
	let width = $state(800);
	let Plot = $state.raw<typeof uPlot | null>(null);
	/** What is drawn, with the logs that it is of: their number must be that of the series. */
	let drawn = $state.raw<{ logs: Schemas['LogView'][]; data: uPlot.AlignedData } | null>(null);
	let problem = $state('');

	onMount(async () => {
		const [made] = await Promise.all([import('uplot'), import('uplot/dist/uPlot.min.css')]);
		Plot = made.default;
	});

	$effect(() => {
		const column = quantity;
		if (!column) return;
		const { start, end } = span;
		const asking = logs;
		const unit = session.units.unit(column.dimension, session.system);
		const points = Math.min(4000, Math.max(400, Math.round(untrack(() => width) * 2)));
		let over = false;
		Promise.all(
			asking.map((log) =>
				log.columns.some((c) => c.quantity === column.quantity)
					? answer(
							api.GET('/api/lines/{line_id}/logs/{log_id}/series', {
								params: {
									path: { line_id: lineId, log_id: log.id },
									query: { quantity: column.quantity, start, end, points }
								}
							})
						)
					: Promise.resolve({ times: [], values: [] })
			)
		)
			.then((series) => {
				if (over) return;
				const data = aligned(series, (v) => (v - (unit?.offset ?? 0)) / (unit?.factor ?? 1));
				drawn = { logs: asking, data: data as uPlot.AlignedData };
				problem = '';
			})
			.catch((error: Error) => (problem = error.message));
		return () => {
			over = true;
		};
	});

	const TOKENS = ['--ink-3', '--rule', '--steel', '--well', '--brass-wash', '--brass', '--caution'];

	/** What is to be known of a stretch of time, under the lines: between both logs, and where there is no reading. */
	function bands(u: uPlot, shown: Schemas['LogView'][], font: string): void {
		const before = Math.max(...shown.filter((l) => l.side === 'before').map((l) => l.end));
		const now = Math.min(...shown.filter((l) => l.side === 'after').map((l) => l.start));
		if (before < now) band(u, before, now, 'drive fitted', '--brass-wash', '--brass', font);
		for (const found of shown.flatMap((l) => l.found)) {
			if (found.kind === 'gap')
				band(u, found.start, found.start + found.length, 'no data', '--well', '--caution', font);
			if (found.kind === 'stuck')
				band(u, found.start, found.start + found.length, 'stuck', '--well', '--caution', font);
		}
	}

	function band(
		u: uPlot,
		start: number,
		end: number,
		words: string,
		fill: string,
		ink: string,
		font: string
	) {
		const { left, top, width: wide, height: tall } = u.bbox;
		const from = Math.max(left, u.valToPos(start, 'x', true));
		const to = Math.min(left + wide, u.valToPos(end, 'x', true));
		if (to <= from) return;
		const ratio = window.devicePixelRatio;
		u.ctx.save();
		u.ctx.fillStyle = colour(fill);
		u.ctx.fillRect(from, top, Math.max(ratio, to - from), tall);
		u.ctx.font = font.replace('12px', `${12 * ratio}px`);
		u.ctx.fillStyle = colour(ink);
		const over = fill === '--brass-wash' ? 90 : 40; // the change itself is always named
		if (u.ctx.measureText(words).width < to - from + over * ratio)
			u.ctx.fillText(words, Math.min(from + 3 * ratio, left + wide - 60 * ratio), top + 12 * ratio);
		u.ctx.restore();
	}

	/** A token as the colour that a canvas understands. */
	function colour(token: string): string {
		const sample = holder?.parentElement?.querySelector(`[data-token='${token}']`);
		return sample ? getComputedStyle(sample).color : 'gray';
	}

	$effect(() => {
		if (!Plot || !holder || !drawn) return;
		const { logs: shown, data } = drawn;
		void session.mode;
		const Made = Plot;
		const axis = {
			stroke: colour('--ink-3'),
			grid: { stroke: colour('--rule'), width: 1 },
			ticks: { show: false }
		};
		const font = '12px "Atkinson Hyperlegible Mono Variable", monospace';
		const plot = new Made(
			{
				width,
				height,
				tzDate: (seconds) => Made.tzDate(new Date(seconds * 1000), 'Etc/UTC'), // the log's own clock
				legend: { show: false },
				cursor: { drag: { x: true, y: false, setScale: false }, points: { show: false } },
				scales: { x: { range: () => [span.start, span.end] } },
				axes: [
					{ ...axis, font, values: WHEN },
					{ ...axis, font, size: 52 }
				],
				series: [
					{},
					...shown.map((log) => ({
						stroke: colour(log.side === 'before' ? '--ink-3' : '--steel'),
						width: 1.3,
						spanGaps: false,
						points: { show: false }
					}))
				],
				hooks: {
					drawClear: [(u: uPlot) => bands(u, shown, font)],
					setSelect: [
						(u: uPlot) => {
							if (u.select.width < 4) return;
							asked = {
								start: u.posToVal(u.select.left, 'x'),
								end: u.posToVal(u.select.left + u.select.width, 'x')
							};
						}
					]
				}
			},
			data,
			holder
		);
		return () => plot.destroy();
	});

	function keys(event: KeyboardEvent): void {
		const done = {
			ArrowLeft: () => moved(span, whole, -0.25),
			ArrowRight: () => moved(span, whole, 0.25),
			ArrowUp: () => zoomed(span, whole, 0.5),
			ArrowDown: () => zoomed(span, whole, 2)
		}[event.key];
		if (!done) return;
		event.preventDefault();
		asked = done();
	}
	// step of the ticks in s, how a tick reads, and what is added where a year or a day begins
	const WHEN = [
		[86400 * 28, '{MMM}', '\n{YYYY}', null, null, null, null, null, 1],
		[86400, '{D} {MMM}', '\n{YYYY}', null, null, null, null, null, 1],
		[60, '{HH}:{mm}', '\n{D} {MMM}', null, '\n{D} {MMM}', null, null, null, 1],
		[1, '{HH}:{mm}:{ss}', '\n{D} {MMM}', null, '\n{D} {MMM}', null, null, null, 1]
	] as uPlot.Axis.Values;
	const zooms = $derived(asked !== null && (span.start > whole.start || span.end < whole.end));
</script>

{#each TOKENS as token (token)}<i hidden data-token={token} style:color="var({token})"></i>{/each}
<div class="head">
	<label
		>Shown
		<select class="field" bind:value={chosen}>
			{#each quantities as one (one.quantity)}<option value={one.quantity}
					>{one.label}, {session.units.symbol(one.dimension, session.system)}</option
				>{/each}
		</select></label
	>
	<span class="key before">before</span><span class="key now">now</span>
	<span class="gap"></span>
	<button type="button" class="act" data-quiet onclick={() => (asked = zoomed(span, whole, 0.5))}
		>Closer</button
	>
	<button
		type="button"
		class="act"
		data-quiet
		disabled={!zooms}
		onclick={() => (asked = zoomed(span, whole, 2))}>Further</button
	>
	<button type="button" class="act" data-quiet disabled={!zooms} onclick={() => (asked = null)}>All</button>
</div>
{#if problem}<p class="say">{problem}</p>{/if}
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
	class="plot"
	style:min-height="{height}px"
	bind:this={holder}
	bind:clientWidth={width}
	role="img"
	tabindex="0"
	aria-label="{quantity?.label ?? 'Log'} over time, before and now. Arrow keys move and zoom."
	onkeydown={keys}
	ondblclick={() => (asked = null)}
></div>

<style>
	.head {
		display: flex;
		align-items: center;
		gap: 10px;
		flex-wrap: wrap;
	}
	.head label {
		font-size: var(--t2);
		color: var(--ink-3);
	}
	select {
		font: 600 var(--t3) var(--sans);
	}
	.gap {
		flex: 1;
	}
	.act {
		min-height: 32px;
		padding: 4px 12px;
	}
	.key {
		font-size: var(--t2);
		font-weight: 650;
	}
	.key.before {
		color: var(--ink-3);
	}
	.key.now {
		color: var(--steel);
	}
	.plot {
		cursor: crosshair;
	}
</style>
