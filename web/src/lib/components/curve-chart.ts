/** What the chart of curves knows apart from the page: how regions are hatched and named, which way a key moves. */

/** Angle of the hatching of each kind of region, in degrees. */
export const ANGLE: Record<string, number> = {
	hold: 45,
	lowest: 45,
	too_little: -45,
	too_much: -45,
	rating: 90
};

/** Which way an arrow key moves the point, in pixels right and down. */
export const WAYS: Record<string, [number, number]> = {
	ArrowLeft: [-1, 0],
	ArrowRight: [1, 0],
	ArrowUp: [0, -1],
	ArrowDown: [0, 1]
};

/** Where the letter of a region stands: in it, and clear of the others. */
export function letterSpot(id: string, points: [number, number][]): [number, number] {
	const xs = points.map((p) => p[0]);
	const ys = points.map((p) => p[1]);
	const [left, right] = [Math.min(...xs), Math.max(...xs)];
	const [high, low] = [Math.min(...ys), Math.max(...ys)];
	if (id === 'too_little') return [left + (right - left) * 0.3, high + 30];
	if (id === 'too_much') return [right - (right - left) * 0.16, low - (low - high) * 0.35];
	if (id === 'rating') return [left + 22, high + 14];
	if (id === 'lowest') return [left + (right - left) * 0.52, high + 13];
	return [left + (right - left) * 0.42, low - 16];
}

/** The points of a curve as far as those that were entered go, or what is drawn on beyond them. */
export function pointsOf(
	curve: { flows: number[]; rises: number[]; known_to?: number | null },
	beyond: boolean
): [number, number][] {
	const points = curve.flows.map((flow, i): [number, number] => [flow, curve.rises[i] ?? 0]);
	const end = curve.known_to ?? Infinity;
	const last = curve.flows.findIndex((flow) => flow > end);
	if (last < 0) return beyond ? [] : points;
	return beyond ? points.slice(Math.max(0, last - 1)) : points.slice(0, last);
}
