/** An entry as it is made, and how long a wait lasted by the clocks that saw it (mainspring/core/procedure/waited.py). */
import type { Evidence } from './counts';

/** An entry as it is made on this device. */
export interface Made {
	kind: string;
	data: Record<string, unknown>;
	note: string;
	/** When it was made, as told or seen. */
	at: string;
	/** When the server was told, where that is not when it was made. */
	received?: string | null;
	/** When the server took it; a device has no such clock. */
	clock?: string | null;
	paper?: boolean;
	/** One run of the application on the device that made it, and its seconds: a clock that nobody can set. */
	device?: string;
	ran?: number;
	/** False where this run has not heard the server's time: its clock on the wall may have been set. */
	sure?: boolean;
}

/** Seconds between the start of a wait and its end: as long as a clock saw it that ran through. */
export function secondsWaited(start: Evidence, end: Made): number {
	const between = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 1000;
	const byWord = between(start.at, end.at);
	const byDevice = start.device && start.device === end.device ? (end.ran ?? 0) - (start.ran ?? 0) : null;
	if (!end.clock) return end.paper || byDevice === null ? byWord : Math.min(byWord, byDevice);
	const byClock = between(start.clock ?? start.received ?? start.at, end.clock);
	if (!end.received) return byClock;
	return end.paper && start.paper ? byWord : Math.min(byWord, byDevice ?? byClock);
}
