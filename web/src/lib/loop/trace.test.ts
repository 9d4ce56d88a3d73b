/** The trial's picture without a canvas: scales, marks, crowds of events, and the row at a time. */
import { expect, it } from 'vitest';
import { scaleLinear } from 'd3-scale';
import type { Loop } from './loop-bench.svelte';
import { clock, crowdless, draw, marks, rowAt, scales, type Picture } from './trace';

const loop = {
	times: [0, 10, 20, 30],
	value: [4e5, 3.8e5, 4.1e5, 4e5],
	frequency: [45, 47, 46, 45],
	flow: [0.005, 0.006, 0.005, 0.005],
	taken: [0.005, 0.006, 0.006, 0.005],
	power: [3000, 3500, 3200, 3000],
	running: [1, 1, 2, 1],
	knobs: [
		{ id: 'setpoint', value: 4e5 },
		{ id: 'wake_at', value: 3.9e5 },
		{ id: 'low_limit', value: 41 }
	],
	events: [
		{ time: 5, name: 'boost' },
		{ time: 8, name: 'another' },
		{ time: 9, name: 'another' },
		{ time: 29, name: 'another' }
	],
	duration: 40,
	base_frequency: 50
} as unknown as Loop;

const picture = (more: Partial<Picture> = {}): Picture => ({
	loop,
	others: [],
	spread: null,
	at: null,
	upto: null,
	words: {
		value: (v) => v / 1e5,
		flow: (v) => v * 1000,
		unit: 'bar',
		flowUnit: 'L/s',
		power: (v) => v / 1000,
		powerUnit: 'kW',
		held: 'pressure',
		asked: 'demand'
	},
	width: 800,
	height: 330,
	ink: () => '#000',
	...more
});

it('gives room to what is held, kept runs and the band of many plants alike', () => {
	const alone = scales(picture());
	const low = { ...loop, value: [2e5, 2e5, 2e5, 2e5] };
	expect(alone.value.domain()[0]).toBeGreaterThan(3.7);
	expect(scales(picture({ others: [low] })).value.domain()[0]).toBeLessThan(2);
	const spread = {
		low: [1e5],
		high: [6e5],
		times: [0],
		slow: [40],
		fast: [50],
		draws: 1,
		holds: 1,
		faults: {}
	};
	expect(scales(picture({ spread })).value.domain()[1]).toBeGreaterThan(6);
});

it('tells times as people do, and marks no more than can be read', () => {
	expect([30, 90, 600, 7200, 86_400].map(clock)).toEqual(['30 s', '1.5 min', '10 min', '2 h', '24 h']);
	for (const end of [40, 600, 3600, 86_400, 172_800]) expect(marks(end).length).toBeLessThanOrEqual(9);
});

it('names a crowd of one kind once, with how many', () => {
	const x = scaleLinear([0, 40], [0, 800]);
	expect(crowdless(loop, x).map((e) => e.name)).toEqual(['boost', 'another ×2', 'another']);
});

it('finds the row at a time, also beyond both ends', () => {
	expect([-5, 0, 9.9, 10, 31, 99].map((t) => rowAt(loop, t))).toEqual([0, 0, 0, 1, 3, 3]);
});

it('draws every part once: three panes, both limits, the events, and where one looks', () => {
	const said: string[] = [];
	let strokes = 0;
	const ctx = new Proxy({} as CanvasRenderingContext2D, {
		get: (_, name) => {
			if (name === 'fillText') return (text: string) => said.push(text);
			if (name === 'measureText') return () => ({ width: 30 });
			if (name === 'stroke') return () => (strokes += 1);
			return () => undefined;
		},
		set: () => true
	});
	draw(ctx, picture({ at: 20 }));
	expect(said).toEqual(
		expect.arrayContaining(['set', 'wake', '41.0', 'boost', 'pressure, bar', 'flow, L/s'])
	);
	const before = strokes;
	draw(ctx, picture({ at: 20, upto: 15 })); // played half way: each line in two parts
	expect(strokes - before).toBeGreaterThan(before);
});
