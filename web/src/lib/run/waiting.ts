/** The run sheet as it will stand when what waits on this device has been sent. The server judges again. */
import type { Schemas } from '../api/client';
import type { Entry } from './outbox';
import { fits } from './band';
import { asks, inForce, type Evidence, type Rules } from './counts';
import { judge } from './rules';
import { opensOthers, shutBy, stand } from './standing';

export type Run = Schemas['RunView'];
export type Step = Schemas['StepView'] & { waiting?: boolean };
type Reading = Schemas['ReadingView'];

export function withWaiting(run: Run, entries: readonly Entry[]): Run & { steps: Step[] } {
	if (entries.length === 0) return run;
	const steps: Step[] = structuredClone(run.steps);
	for (const entry of entries) {
		wake(run, steps);
		const index = steps.findIndex((s) => s.id === entry.step);
		const step = steps[index];
		if (!step) continue;
		const at = stands(steps)[index];
		if (at && !shutBy(step.rules, at, entry.kind, entry.told)) apply(step, entry);
	}
	wake(run, steps);
	stands(steps).forEach((at, i) => {
		const step = steps[i] as Step;
		step.state = at.state as Step['state'];
		if (at.mine.length < step.evidence.length) step.evidence = at.mine; // opened anew: nothing stands as ticked
		step.held_by = at.heldBy;
		step.lacking = at.lacking;
		step.wait_on_paper = at.waitOnPaper;
	});
	return { ...run, steps };
}

/** Put in what a wrong answer adds to the sheet, after the step that it waits for. */
function wake(run: Run, steps: Step[]): void {
	if (!steps.some((s) => opensOthers({ rules: s.rules, mine: s.evidence, changed: false }))) return;
	for (const asleep of run.asleep ?? []) {
		if (steps.some((s) => s.id === asleep.id)) continue;
		const before = steps.findIndex((s) => asleep.after.includes(s.id));
		steps.splice(before + 1, 0, structuredClone(asleep));
	}
}

const stands = (steps: readonly Step[]) =>
	stand(steps.map((s) => ({ rules: s.rules, mine: s.evidence, changed: s.changed.length > 0 })));

function apply(step: Step, entry: Entry): void {
	if (step.evidence.some((e) => e.id === entry.id)) return; // the server has told of it already
	const verdict = judge(step.rules, { ...entry, paper: entry.told, clock: null }, known(step));
	if ('why' in verdict) return; // the server will say so
	const made: Evidence = {
		id: entry.id,
		kind: entry.kind,
		data: verdict.data,
		by: entry.by,
		at: entry.at,
		passed: verdict.answer === 'passed',
		note: entry.note,
		out: verdict.out,
		instrument: entry.instrument ?? null,
		received: null,
		paper: entry.told,
		clock: null,
		device: entry.device ?? '',
		ran: entry.ran ?? 0
	};
	step.waiting = true;
	if (step.rules.forms[entry.kind]?.beside) {
		step.beside.push(made);
		return;
	}
	if (entry.kind === 'start')
		step.clock_ends = new Date(Date.parse(entry.at) + (step.seconds?.value ?? 0) * 1000).toISOString();
	step.evidence = inForce(step.rules, [...known(step), made]);
	step.changed = [];
	if (entry.kind === 'row') showRow(step, made);
}

/** What is known here of a step's evidence; the start of a wait that was ticked is told by when it ends. */
export function known(step: Step): Evidence[] {
	const [only] = step.evidence;
	const wait = asks(step.rules, 'wait')[0];
	if (!only || !wait || only.kind === wait.since || !step.clock_ends) return step.evidence;
	const began = new Date(Date.parse(step.clock_ends) - wait.seconds * 1000).toISOString();
	return [{ ...only, kind: wait.since, at: began, clock: null, passed: false }, only];
}

function showRow(step: Step, made: Evidence): void {
	const kept = step.table?.rows.find((r) => r.reference === made.data['reference']);
	if (!kept || !step.table) return;
	for (const column of step.table.columns) {
		const value = made.data[column.id];
		if (typeof value !== 'number') continue;
		const expected = kept.expected[column.id] ?? null;
		const rule = asks(step.rules, 'number').find((n) => n.id === column.id);
		kept.read[column.id] = {
			value,
			deviation: expected ? deviation(column, value, expected.value) : null,
			fits: !rule || fits(rule, value, expected?.value)
		};
	}
	Object.assign(kept, { id: made.id, by: made.by, at: made.at, passed: made.passed, note: made.note });
}

/** A deviation as a share of what is expected, or of the span where the reading has one. */
export function deviation(reading: Reading, value: number, expected: number): number | null {
	const scale = reading.span ?? Math.abs(expected);
	return scale > 1e-12 ? (value - expected) / scale : null;
}

/** The sheet with what a command changed on it; null where somebody else was in between, and it has to be read. */
export function patched(run: Run, kept: Schemas['KeptView']): Run | null {
	if (kept.seq === run.seq) return run;
	if (kept.before !== run.seq) return null;
	const changed = new Map(kept.steps.map((s) => [s.id, s]));
	return {
		seq: kept.seq,
		steps: run.steps.map((s) => changed.get(s.id) ?? s),
		standing: kept.standing,
		visit: kept.visit,
		asleep: run.asleep
	};
}

/** What lies out of its band, and whether a note may excuse it. */
export function doubts(
	rules: Rules,
	kind: string,
	data: Record<string, unknown>
): { out: string[]; explainable: boolean } {
	const verdict = judge(rules, { kind, data, note: '', at: '1970-01-01T00:00:00Z' });
	if ('why' in verdict || !verdict.out.length) return { out: [], explainable: true };
	return { out: verdict.out, explainable: verdict.explainable };
}
