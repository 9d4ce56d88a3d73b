/** Series of logs as uPlot takes them, and how far a zoom reaches. */
import type { Schemas } from '../api/client';

export type Series = Schemas['SeriesView'];
export type Span = { start: number; end: number };
type Aligned = [number[], ...(number | null | undefined)[][]];

/** One axis of time under several series, each with holes where it has no reading. */
export function aligned(series: Series[], scale: (value: number) => number): Aligned {
	const times = [...new Set(series.flatMap((s) => s.times))].sort((a, b) => a - b);
	const at = new Map(times.map((time, i) => [time, i]));
	const columns = series.map((s) => {
		// undefined is stepped over, null breaks the line
		const column: (number | null | undefined)[] = Array.from({ length: times.length });
		s.times.forEach((time, i) => {
			const value = s.values[i];
			column[at.get(time) ?? 0] = value === null || value === undefined ? null : scale(value);
		});
		return column;
	});
	return [times, ...columns];
}

/** A span half as long or twice as long about its middle, within the whole. */
export function zoomed(now: Span, whole: Span, factor: number): Span {
	const middle = (now.start + now.end) / 2;
	const half = Math.min(((now.end - now.start) * factor) / 2, (whole.end - whole.start) / 2);
	const start = Math.max(whole.start, Math.min(middle - half, whole.end - 2 * half));
	return { start, end: start + 2 * half };
}

/** The span moved by a share of itself, within the whole. */
export function moved(now: Span, whole: Span, share: number): Span {
	const length = now.end - now.start;
	const start = Math.max(whole.start, Math.min(now.start + share * length, whole.end - length));
	return { start, end: start + length };
}
