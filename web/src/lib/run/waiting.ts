/** The run sheet as it will stand when what waits on this device has been sent. The server judges again. */
import type { Schemas } from '../api/client';
import type { Entry } from './outbox';

export type Run = Schemas['RunView'];
export type Step = Schemas['StepView'] & { waiting?: boolean };
type Evidence = Schemas['EvidenceView'];
type Reading = Schemas['ReadingView'];

const PROVEN = new Set(['done', 'stale', 'left_out']);

export function withWaiting(run: Run, entries: readonly Entry[]): Run & { steps: Step[] } {
	if (entries.length === 0) return run;
	const steps: Step[] = structuredClone(run.steps);
	for (const entry of entries) {
		const step = steps.find((s) => s.id === entry.step);
		if (step) apply(step, entry);
	}
	const proven = new Set(steps.filter((s) => PROVEN.has(s.state)).map((s) => s.id));
	for (const step of steps) {
		const waits = step.after.filter((id) => !proven.has(id));
		if (step.state === 'later' && waits.length === 0) step.state = step.stops.length ? 'held' : 'next';
		step.held_by = [
			...step.stops,
			...waits.map((id) => `“${steps.find((s) => s.id === id)?.title ?? id}” comes first`)
		];
	}
	return { ...run, steps };
}

function apply(step: Step, entry: Entry): void {
	const made: Evidence = {
		id: entry.id,
		kind: entry.kind,
		data: entry.data,
		by: entry.by,
		at: entry.at,
		passed: passes(step, entry),
		note: entry.note,
		out: outOf(step, entry.data),
		instrument: entry.instrument ?? null,
		received: null
	};
	step.waiting = true;
	if (entry.kind === 'note' || (entry.kind === 'photo' && step.proof !== 'photo')) {
		step.beside.push(made);
		return;
	}
	if (entry.kind === 'override') {
		step.evidence = [made];
		step.state = 'left_out';
		step.lacking = [];
		return;
	}
	if (entry.kind === 'start') {
		step.evidence = [made];
		step.clock_ends = new Date(Date.parse(entry.at) + (step.seconds?.value ?? 0) * 1000).toISOString();
		step.state = 'next';
		return;
	}
	if (entry.kind === 'row') row(step, made);
	else if (entry.kind === 'unit') {
		step.evidence = [...step.evidence.filter((e) => e.data['unit'] !== made.data['unit']), made].sort(
			(a, b) => Number(a.data['unit']) - Number(b.data['unit'])
		);
		step.lacking = step.lacking.filter((l) => l !== `unit ${String(made.data['unit'])}`);
	} else {
		step.evidence = [made];
		step.lacking = Object.entries(step.items)
			.filter(([key]) => step.proof !== 'units' && !made.data[key])
			.map(([, name]) => name);
	}
	const all = step.evidence.every((e) => e.passed);
	step.changed = [];
	step.state = !all ? 'failed' : step.lacking.length === 0 ? 'done' : 'next';
}

function row(step: Step, made: Evidence): void {
	step.evidence = [...step.evidence.filter((e) => e.data['reference'] !== made.data['reference']), made];
	const kept = step.table?.rows.find((r) => r.reference === made.data['reference']);
	if (!kept || !step.table) return;
	for (const column of step.table.columns) {
		const value = made.data[column.id];
		if (typeof value !== 'number') continue;
		const expected = kept.expected[column.id] ?? null;
		kept.read[column.id] = {
			value,
			deviation: expected ? deviation(column, value, expected.value) : null,
			fits: fits(column, value, expected?.value)
		};
	}
	Object.assign(kept, { id: made.id, by: made.by, at: made.at, passed: made.passed, note: made.note });
	const shown = Number(made.data['reference']);
	step.lacking = step.lacking.filter((l) => Math.abs(Number(l) - shown) > 1e-4 * Math.max(1, shown));
}

/** A deviation as a share of what is expected, or of the span where the reading has one. */
export function deviation(reading: Reading, value: number, expected: number): number | null {
	const scale = reading.span ?? Math.abs(expected);
	return scale > 1e-12 ? (value - expected) / scale : null;
}

/** Whether a reading lies in its band. */
export function fits(reading: Reading, value: number, expected?: number | null): boolean {
	if (reading.low != null && value < reading.low) return false;
	if (reading.high != null && value >= reading.high) return false;
	if (expected == null) return true;
	const off = Math.abs(value - expected);
	if (reading.band != null) return off <= reading.band * (1 + 1e-9);
	return reading.tolerance == null || off <= Math.max(reading.tolerance * Math.abs(expected), reading.least);
}

/** Readings of an entry that lie outside their band. */
export function outOf(step: Step, data: Record<string, unknown>): string[] {
	const school = step.schools[String(data['school'])];
	const at = step.table?.rows.find((r) => r.reference === data['reference']);
	const readings = step.table ? step.table.columns : step.readings;
	return readings
		.filter((r) => {
			const value = data[r.id];
			const expected = at ? at.expected[r.id]?.value : (school?.expected ?? r.expected)?.value;
			return typeof value === 'number' && !fits(r, value, expected);
		})
		.map((r) => r.id);
}

function passes(step: Step, entry: Entry): boolean {
	const { data, kind } = entry;
	if (kind === 'start') return false;
	if (kind === 'choice') return step.right === '*' || data['choice'] === step.right;
	if (kind === 'list' || kind === 'unit') return Object.keys(step.items).every((key) => data[key]);
	if (kind === 'turns') return data['choice'] === better(data);
	if (kind === 'row' || kind === 'readings') {
		const blocking =
			kind === 'readings' || step.readings.length > 0 || step.table?.columns.some((c) => c.band != null);
		const may = !step.safety || kind === 'row';
		return !blocking || outOf(step, data).length === 0 || (may && entry.note !== '');
	}
	return true;
}

/** The direction of rotation that gave more: by flow where both were read, else by pressure. */
export function better(data: Record<string, unknown>): string | null {
	for (const name of ['flow', 'pressure']) {
		const first = data[`first_${name}`];
		const second = data[`second_${name}`];
		if (typeof first !== 'number' || typeof second !== 'number') continue;
		if (Math.abs(first - second) > 0.05 * Math.max(Math.abs(first), Math.abs(second)))
			return first > second ? 'first' : 'second';
	}
	return null;
}
