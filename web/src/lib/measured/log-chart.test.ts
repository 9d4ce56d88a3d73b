/** One axis under several logs, and how far a zoom reaches. */
import { expect, it } from 'vitest';
import { aligned, moved, zoomed } from './log-chart';

it('puts two logs on one axis, steps over what the other has and breaks at a hole', () => {
	const made = aligned(
		[
			{ times: [0, 10, 20], values: [1000, null, 3000] },
			{ times: [10, 30], values: [5000, 6000] }
		],
		(v) => v / 1000
	);
	expect(made[0]).toEqual([0, 10, 20, 30]);
	expect(made[1]).toEqual([1, null, 3, undefined]);
	expect(made[2]).toEqual([undefined, 5, undefined, 6]);
});

it('zooms about the middle and never beyond the whole', () => {
	const whole = { start: 0, end: 100 };
	expect(zoomed(whole, whole, 0.5)).toEqual({ start: 25, end: 75 });
	expect(zoomed({ start: 0, end: 20 }, whole, 2)).toEqual({ start: 0, end: 40 });
	expect(zoomed({ start: 90, end: 100 }, whole, 4)).toEqual({ start: 60, end: 100 });
	expect(zoomed(whole, whole, 2)).toEqual(whole);
});

it('moves by a share of what is shown, to the end and no further', () => {
	const whole = { start: 0, end: 100 };
	expect(moved({ start: 10, end: 30 }, whole, 0.25)).toEqual({ start: 15, end: 35 });
	expect(moved({ start: 75, end: 95 }, whole, 1)).toEqual({ start: 80, end: 100 });
	expect(moved({ start: 5, end: 25 }, whole, -1)).toEqual({ start: 0, end: 20 });
});
