import { expect, test } from 'vitest';
import { ANGLE, letterSpot, pointsOf } from './curve-chart';

const BOX: [number, number][] = [
	[100, 50],
	[300, 50],
	[300, 250],
	[100, 250]
];

test('the letter of every kind of region stands within it', () => {
	for (const id of Object.keys(ANGLE)) {
		const [x, y] = letterSpot(id, BOX);
		expect(x, id).toBeGreaterThan(100);
		expect(x, id).toBeLessThan(300);
		expect(y, id).toBeGreaterThan(50);
		expect(y, id).toBeLessThan(250);
	}
});

test('letters of regions over the same ground do not cover each other', () => {
	const spots = Object.keys(ANGLE).map((id) => letterSpot(id, BOX));
	for (const [i, a] of spots.entries())
		for (const b of spots.slice(i + 1)) expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeGreaterThan(12);
});

test('a curve parts where the points end that were entered', () => {
	const curve = { flows: [0, 1, 2, 3], rises: [9, 8, 6, 3], known_to: 1.5 };
	expect(pointsOf(curve, false)).toEqual([
		[0, 9],
		[1, 8]
	]);
	expect(pointsOf(curve, true).map(([flow]) => flow)).toEqual([1, 2, 3]); // joined to what is known
	expect(pointsOf({ ...curve, known_to: null }, true)).toEqual([]);
});
