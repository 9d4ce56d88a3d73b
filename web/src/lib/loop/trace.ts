/** A trial drawn on a canvas: what is held above, speed in the middle, flow and power below. Fast enough to follow a slider. */
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { area as areaPath, line as linePath } from 'd3-shape';
import type { Schemas } from '../api/client';
import type { Loop } from './loop-bench.svelte';

type Scale = ScaleLinear<number, number>;

export interface Words {
	/** A number of what is held, in the reader's unit. */
	value: (v: number) => number;
	flow: (v: number) => number;
	power: (v: number) => number;
	unit: string;
	flowUnit: string;
	powerUnit: string;
	held: string;
	asked: string;
}

export interface Picture {
	loop: Loop;
	others: Loop[];
	spread: Schemas['SpreadView'] | null;
	/** Time looked at, or played up to. */
	at: number | null;
	/** Drawn up to this time, the rest faint. */
	upto: number | null;
	words: Words;
	width: number;
	height: number;
	ink: (name: string) => string;
}

export const MARGIN = { top: 46, right: 54, bottom: 24, left: 58 };
/** Shares of the height: what is held, speed, flow. */
const PANES = [0.46, 0.3, 0.24] as const;
const GAP = 14;
const DASHES = [
	[7, 4],
	[2, 3],
	[10, 3, 2, 3]
];

export interface Scales {
	x: Scale;
	value: Scale;
	speed: Scale;
	flow: Scale;
	power: Scale;
}

/** Time in words: seconds of a short trial, minutes, or hours of a long one. */
export function clock(seconds: number): string {
	if (seconds < 90) return `${Math.round(seconds)} s`;
	if (seconds < 5400) return `${trim(seconds / 60)} min`;
	return `${trim(seconds / 3600)} h`;
}

const trim = (v: number): string => String(Number(v.toFixed(1)));

/** Times that a scale is marked at. */
export function marks(end: number): number[] {
	const steps = [10, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 10800, 21600];
	const step = steps.find((s) => end / s <= 8) ?? 43_200;
	return Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step);
}

export function scales(p: Picture): Scales {
	const { loop, words, width, height } = p;
	const inner = height - MARGIN.top - MARGIN.bottom - 2 * GAP;
	const first = MARGIN.top + inner * PANES[0];
	const second = first + GAP + inner * PANES[1];
	const runs = [loop, ...p.others];
	const set = setpointOf(loop);
	const values = runs.flatMap((r) => [Math.min(...r.value), Math.max(...r.value)]);
	if (set !== null) values.push(set);
	if (p.spread) values.push(Math.min(...p.spread.low), Math.max(...p.spread.high));
	const low = words.value(Math.min(...values));
	const high = words.value(Math.max(...values));
	const room = Math.max(high - low, Math.abs(high) * 0.02, 1e-6) * 0.1;
	const head = 2.2 * room; // for its name
	return {
		x: scaleLinear([0, loop.duration], [MARGIN.left, width - MARGIN.right]),
		value: scaleLinear([low - room, high + head], [first, MARGIN.top]),
		speed: scaleLinear([0, (loop.base_frequency ?? 50) * 1.3], [second, first + GAP]),
		flow: scaleLinear(
			[0, words.flow(Math.max(...runs.flatMap((r) => [...r.flow, ...r.taken]), 1e-9)) * 1.45],
			[height - MARGIN.bottom, second + GAP]
		),
		power: scaleLinear(
			[0, words.power(Math.max(...runs.flatMap((r) => r.power), 1)) * 1.45],
			[height - MARGIN.bottom, second + GAP]
		)
	};
}

export function setpointOf(loop: Loop): number | null {
	return loop.knobs.find((k) => k.id === 'setpoint')?.value ?? null;
}

export function draw(ctx: CanvasRenderingContext2D, p: Picture): void {
	const s = scales(p);
	ctx.clearRect(0, 0, p.width, p.height);
	ctx.lineJoin = 'round';
	grid(ctx, p, s);
	band(ctx, p, s);
	areas(ctx, p, s);
	p.others.forEach((other, i) => run(ctx, p, s, other, DASHES[i % DASHES.length] ?? [], 0.55));
	run(ctx, p, s, p.loop, [], 1);
	happened(ctx, p, s);
	names(ctx, p, s);
	if (p.at !== null) upright(ctx, s.x(p.at), MARGIN.top - 6, p.height - MARGIN.bottom, p.ink('ink'), []);
}

function grid(ctx: CanvasRenderingContext2D, p: Picture, s: Scales): void {
	ctx.font = p.ink('tick-font');
	ctx.textAlign = 'center';
	for (const at of marks(p.loop.duration)) {
		upright(ctx, s.x(at), MARGIN.top, p.height - MARGIN.bottom, p.ink('rule'), []);
		write(ctx, clock(at), s.x(at), p.height - 7, p.ink('ink-3'));
	}
	ctx.textAlign = 'right';
	for (const tick of s.value.ticks(5))
		write(ctx, String(tick), MARGIN.left - 7, s.value(tick) + 4, p.ink('ink-3'));
	for (const tick of [0, p.loop.base_frequency ?? 50])
		write(ctx, `${tick}`, MARGIN.left - 7, s.speed(tick) + 4, p.ink('steel'));
	for (const tick of s.flow.ticks(2).slice(1))
		write(ctx, String(tick), MARGIN.left - 7, s.flow(tick) + 4, p.ink('ink-3'));
	ctx.textAlign = 'left';
	for (const tick of s.power.ticks(2).slice(1))
		write(ctx, String(tick), p.width - MARGIN.right + 6, s.power(tick) + 4, p.ink('brass'));
}

/** The setpoint with what counts as held, and the low limit and the wake level where there are any. */
function band(ctx: CanvasRenderingContext2D, p: Picture, s: Scales): void {
	const set = setpointOf(p.loop);
	const right = p.width - MARGIN.right;
	if (p.spread) {
		const times = p.spread.times;
		ctx.fillStyle = p.ink('brass-wash');
		const shape = (low: number[], high: number[], place: (v: number) => number): void => {
			ctx.beginPath();
			areaPath<number>()
				.x((_, i) => s.x(times[i] ?? 0))
				.y0((_, i) => place(low[i] ?? 0))
				.y1((_, i) => place(high[i] ?? 0))
				.context(ctx)(times);
			ctx.fill();
		};
		shape(p.spread.low, p.spread.high, (v) => s.value(p.words.value(v)));
		shape(p.spread.slow, p.spread.fast, (v) => s.speed(v));
	}
	ctx.textAlign = 'left';
	ctx.font = p.ink('side-font');
	if (set !== null) {
		level(ctx, p, s.value(p.words.value(set)), p.ink('clear'), [6, 4]);
		write(ctx, 'set', right + 6, s.value(p.words.value(set)) + 4, p.ink('clear'));
	}
	for (const [id, name] of [
		['wake_at', 'wake'],
		['start_level', 'start'],
		['stop_level', 'stop'],
		['high_level', 'relay']
	] as const) {
		const at = p.loop.knobs.find((k) => k.id === id)?.value;
		const y = at === undefined ? NaN : s.value(p.words.value(at));
		if (!(y <= s.value.range()[0]! && y >= s.value.range()[1]!)) continue;
		level(ctx, p, y, p.ink('ink-3'), [1.5, 4]);
		write(ctx, name, right + 6, y + 4, p.ink('ink-3'));
	}
	const lowest =
		p.loop.knobs.find((k) => k.id === 'low_limit') ?? p.loop.knobs.find((k) => k.id === 'lowest');
	if (lowest) {
		level(ctx, p, s.speed(lowest.value), p.ink('steel'), [2, 4]);
		write(ctx, lowest.value.toFixed(1), right + 6, s.speed(lowest.value) + 4, p.ink('steel'));
	}
}

function areas(ctx: CanvasRenderingContext2D, p: Picture, s: Scales): void {
	const floor = s.flow(0);
	ctx.fillStyle = p.ink('well');
	ctx.beginPath();
	areaPath<number>()
		.x((_, i) => s.x(p.loop.times[i] ?? 0))
		.y0(floor)
		.y1((v) => s.flow(p.words.flow(v)))
		.context(ctx)(p.loop.taken);
	ctx.fill();
}

function run(
	ctx: CanvasRenderingContext2D,
	p: Picture,
	s: Scales,
	loop: Loop,
	dash: number[],
	strength: number
): void {
	const last = p.upto === null ? loop.times.length : loop.times.findIndex((t) => t > (p.upto ?? 0));
	const shown = last < 0 ? loop.times.length : last;
	const stroke = (values: number[], place: (v: number) => number, ink: string, width: number): void => {
		ctx.setLineDash(dash);
		ctx.strokeStyle = ink;
		ctx.lineWidth = width;
		for (const [from, to, alpha] of [
			[0, shown, strength],
			[shown, values.length, 0.15]
		] as const) {
			if (to - from < 2) continue;
			ctx.globalAlpha = alpha;
			ctx.beginPath();
			linePath<number>()
				.x((_, i) => s.x(loop.times[from + i] ?? 0))
				.y(place)
				.context(ctx)(values.slice(from, to));
			ctx.stroke();
		}
		ctx.globalAlpha = 1;
		ctx.setLineDash([]);
	};
	stroke(loop.flow, (v) => s.flow(p.words.flow(v)), p.ink('ink-2'), 1.2);
	stroke(loop.power, (v) => s.power(p.words.power(v)), p.ink('brass'), 1.2);
	stroke(loop.frequency, (v) => s.speed(v), p.ink('steel'), 1.7);
	stroke(loop.value, (v) => s.value(p.words.value(v)), p.ink('ink'), 2);
}

/** Events named where they happen, lifted where they would touch; those of one kind in a crowd only once. */
function happened(ctx: CanvasRenderingContext2D, p: Picture, s: Scales): void {
	ctx.font = p.ink('side-font');
	ctx.textAlign = 'left';
	const ends = [-1e9, -1e9, -1e9]; // where the last name of each row ends
	for (const event of crowdless(p.loop, s.x)) {
		const x = s.x(event.time);
		const free = ends.findIndex((end) => x > end + 6);
		const row = free < 0 ? ends.indexOf(Math.min(...ends)) : free;
		ends[row] = x + ctx.measureText(event.name).width;
		upright(ctx, x, MARGIN.top - 8, p.height - MARGIN.bottom, p.ink('brass'), [1.5, 3]);
		write(ctx, event.name, Math.min(x + 3, p.width - 60), 12 + row * 13, p.ink('brass'));
	}
}

/** At most so many events that their names can be read: of a crowd of one kind the first, with how many. */
export function crowdless(loop: Loop, x: Scale): { time: number; name: string }[] {
	const found: { time: number; name: string; many: number }[] = [];
	for (const event of loop.events) {
		const before = found.findLast((f) => f.name === event.name);
		if (before && x(event.time) - x(before.time) < 110) before.many += 1;
		else found.push({ ...event, many: 1 });
	}
	return found
		.slice(0, 24)
		.map((f) => ({ time: f.time, name: f.many > 1 ? `${f.name} ×${f.many}` : f.name }));
}

function names(ctx: CanvasRenderingContext2D, p: Picture, s: Scales): void {
	ctx.textAlign = 'left';
	ctx.font = p.ink('name-font');
	const x = MARGIN.left + 8;
	halo(ctx, p, `${p.words.held}, ${p.words.unit}`, x, s.value.range()[1]! + 12, p.ink('ink'));
	halo(ctx, p, 'speed, Hz', x, s.speed.range()[1]! + 12, p.ink('steel'));
	halo(ctx, p, `flow, ${p.words.flowUnit}`, x, s.flow.range()[1]! + 12, p.ink('ink-2'));
	halo(ctx, p, `${p.words.asked} shaded`, x + 90, s.flow.range()[1]! + 12, p.ink('ink-3'));
	halo(ctx, p, `shaft power, ${p.words.powerUnit}`, x + 210, s.flow.range()[1]! + 12, p.ink('brass'));
}

function halo(
	ctx: CanvasRenderingContext2D,
	p: Picture,
	text: string,
	x: number,
	y: number,
	ink: string
): void {
	ctx.strokeStyle = p.ink('sheet');
	ctx.lineWidth = 4;
	ctx.strokeText(text, x, y);
	write(ctx, text, x, y, ink);
}

function write(ctx: CanvasRenderingContext2D, text: string, x: number, y: number, ink: string): void {
	ctx.fillStyle = ink;
	ctx.fillText(text, x, y);
}

function level(ctx: CanvasRenderingContext2D, p: Picture, y: number, ink: string, dash: number[]): void {
	ctx.strokeStyle = ink;
	ctx.lineWidth = 1;
	ctx.setLineDash(dash);
	ctx.beginPath();
	ctx.moveTo(MARGIN.left, y);
	ctx.lineTo(p.width - MARGIN.right, y);
	ctx.stroke();
	ctx.setLineDash([]);
}

function upright(
	ctx: CanvasRenderingContext2D,
	x: number,
	from: number,
	to: number,
	ink: string,
	dash: number[]
): void {
	ctx.strokeStyle = ink;
	ctx.lineWidth = 1;
	ctx.setLineDash(dash);
	ctx.beginPath();
	ctx.moveTo(x, from);
	ctx.lineTo(x, to);
	ctx.stroke();
	ctx.setLineDash([]);
}

/** The row of a trial at a time. */
export function rowAt(loop: Loop, time: number): number {
	let low = 0;
	let high = loop.times.length - 1;
	while (low < high) {
		const middle = (low + high + 1) >> 1;
		if ((loop.times[middle] ?? 0) <= time) low = middle;
		else high = middle - 1;
	}
	return low;
}
