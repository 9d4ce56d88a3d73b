/**
 * Judging an entry by the rules that the server hands out with each step. The server judges by the same rules
 * (mainspring/core/procedure); both run through the cases in tests/data/judgement_cases.json.
 */
import type { Schemas } from '../api/client';

export type Rules = Schemas['RulesView'];
export type Evidence = Schemas['EvidenceView'];
type NumberRule = Schemas['NumberRuleView'];
type Band = Pick<NumberRule, 'low' | 'high' | 'tolerance' | 'least' | 'band'>;
type Data = Record<string, unknown>;

export interface Made {
	kind: string;
	data: Data;
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

/** `refused` cannot be taken, `held` not now; what is taken proves its step or fails it. */
export type Verdict =
	{ answer: 'passed' | 'failed'; data: Data; out: string[] } | { answer: 'refused' | 'held'; why: string };

const LARGEST = 1e9;
const SERIAL_LIMIT = 60;
const WHAT_LIMIT = 200;
const APART = 0.05;
const KINDS: Record<string, string[]> = {
	tick: ['tick'],
	countdown: ['start', 'tick'],
	choice: ['choice'],
	readings: ['readings'],
	table: ['row'],
	list: ['list'],
	picked: ['picked'],
	log: ['log'],
	put_back: ['temporary', 'back', 'tick'],
	units: ['unit'],
	turns: ['turns'],
	photo: ['photo']
};

class No extends Error {
	constructor(
		readonly answer: 'refused' | 'held',
		why: string
	) {
		super(why);
	}
}

const refuse = (why: string): never => {
	throw new No('refused', why);
};
const hold = (why: string): never => {
	throw new No('held', why);
};

/** What an entry is by the rules of its step; `mine` is the step's own evidence, in order. */
export function judge(rules: Rules, made: Made, mine: readonly Evidence[] = []): Verdict {
	try {
		return judged(rules, made, mine);
	} catch (error) {
		if (error instanceof No) return { answer: error.answer, why: error.message };
		throw error;
	}
}

function judged(rules: Rules, made: Made, mine: readonly Evidence[]): Verdict {
	const note = made.note.trim();
	if (made.kind === 'override') {
		if (!rules.skippable) hold(`“${rules.title}” guards people or machine: it cannot be overridden`);
		if (!note) refuse('Say why it is left out; it stays on the sheet with your name.');
		return taken(true, {});
	}
	if (made.kind === 'note') return note ? taken(true, {}) : refuse('Some words are wanted.');
	if (made.kind === 'photo') return photo(made.data);
	if (!KINDS[rules.proof]?.includes(made.kind))
		refuse(`This step is proven by ${KINDS[rules.proof]?.join(' or ') ?? rules.proof}.`);
	switch (made.kind) {
		case 'start':
			return taken(false, {});
		case 'tick':
			if (rules.proof === 'put_back') return allBack(rules, made.data, mine);
			if (rules.proof === 'countdown') waitedOut(rules, made, mine);
			return taken(true, {});
		case 'choice':
			return choice(rules, made.data, note);
		case 'readings':
			return readings(rules, made.data, note);
		case 'row':
			return row(rules, made.data, note);
		case 'list':
			return list(rules, made.data);
		case 'picked':
			return picked(rules, made.data);
		case 'log':
			return log(rules, made.data);
		case 'temporary':
			return temporary(made.data);
		case 'back':
			if (!stillOpen(mine).some((e) => e.id === made.data['of'])) refuse('That is not on the list any more.');
			return taken(true, { of: made.data['of'] });
		case 'unit':
			return unit(rules, made.data);
		default:
			return turns(rules, made.data);
	}
}

function taken(passed: boolean, data: Data, out: string[] = []): Verdict {
	return { answer: passed ? 'passed' : 'failed', data: out.length ? { ...data, out } : data, out };
}

function photo(data: Data): Verdict {
	const id = data['photo'];
	if (typeof id !== 'string' || id.length < 1 || id.length > 36) refuse('The photo is missing.');
	return taken(true, { photo: id });
}

function waitedOut(rules: Rules, end: Made, mine: readonly Evidence[]): void {
	const start = mine.findLast((e) => e.kind === 'start' && Date.parse(e.at) <= Date.parse(end.at));
	if (!start) return void hold('the clock has not been started');
	if (end.sure === false && !end.paper && start.device !== end.device)
		hold('no clock ran through this wait: this device was started anew without a link. Start the wait anew');
	const waited = secondsWaited(start, end);
	if (waited < 0) hold('the clock went back since the wait was started: start it anew');
	const left = Math.ceil((rules.seconds ?? 0) - waited);
	if (left > 0)
		hold(
			`${Math.floor(left / 60)} min ${String(left % 60).padStart(2, '0')} s left on the clock; the wait cannot be cut short`
		);
}

/** Seconds between the start of a wait and its end: as long as a clock saw it that ran through. */
function secondsWaited(start: Evidence, end: Made): number {
	const between = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 1000;
	const byWord = between(start.at, end.at);
	const byDevice = start.device && start.device === end.device ? (end.ran ?? 0) - (start.ran ?? 0) : null;
	if (!end.clock) {
		if (end.paper || byDevice === null) return byWord;
		return Math.min(byWord, byDevice);
	}
	const byClock = between(start.clock ?? start.received ?? start.at, end.clock);
	if (!end.received) return byClock;
	if (end.paper && start.paper) return byWord;
	return Math.min(byWord, byDevice ?? byClock);
}

function choice(rules: Rules, data: Data, note: string): Verdict {
	const chosen = data['choice'];
	if (typeof chosen !== 'string' || !rules.choices.includes(chosen))
		return refuse(`One of: ${rules.choices.join(', ')}.`);
	const schools = Object.keys(rules.schools);
	const isSchool = schools.length > 0 && same(schools, rules.choices);
	const kept: Data = { choice: chosen };
	if (isSchool) explained(rules, chosen, note);
	else if (schools.length) kept['school'] = school(rules, data, note);
	return taken(rules.right === '*' || rules.right === chosen, kept);
}

function school(rules: Rules, data: Data, note: string): string {
	const named = data['school'] ?? Object.keys(rules.schools)[0];
	if (typeof named !== 'string' || !(named in rules.schools))
		return refuse(`One way of doing it: ${Object.keys(rules.schools).join(', ')}.`);
	explained(rules, named, note);
	return named;
}

function explained(rules: Rules, name: string, note: string): void {
	const known = rules.schools[name];
	if (known?.asks_why && !note) refuse(`Say why: “${known.label}”. It stays on the sheet with your name.`);
}

function readings(rules: Rules, data: Data, note: string): Verdict {
	const kept: Data = {};
	let expected: (n: NumberRule) => number | null | undefined = (n) => n.expected;
	if (Object.keys(rules.schools).length) {
		const named = school(rules, data, note);
		kept['school'] = named;
		expected = () => rules.schools[named]?.expected;
	}
	const values = numbers(rules.numbers, data);
	const items = seen(rules, data);
	const out = outside(rules, values, expected);
	const passed = excused(rules, out, values, expected, note) && all(rules, items);
	return taken(passed, { ...kept, ...values, ...items }, out);
}

function row(rules: Rules, data: Data, note: string): Verdict {
	const found = rules.rows.find((r) => r.reference === data['reference']);
	if (!found) return refuse('There is no such row.');
	if (rules.numbers.every((n) => data[n.id] == null)) refuse('At least one reading is wanted.');
	const predicted = Object.keys(found.expected).length > 0;
	const wanted = rules.numbers.map((n) => ({ ...n, optional: n.optional || !predicted }));
	const values = numbers(wanted, data);
	const expected = (n: NumberRule) => found.expected[n.id];
	const out = outside(rules, values, expected);
	const passed = !rules.every_row || excused(rules, out, values, expected, note);
	return taken(passed, { reference: found.reference, ...values }, out);
}

function list(rules: Rules, data: Data): Verdict {
	if (Object.keys(data).some((key) => !(key in rules.items))) refuse('That is not on the list.');
	const items = seen(rules, data);
	if (!Object.keys(items).length) refuse('At least one of the list is to be seen.');
	return taken(all(rules, items), items);
}

function picked(rules: Rules, data: Data): Verdict {
	const verdict = list(rules, data);
	return 'why' in verdict ? verdict : taken(true, verdict.data);
}

function log(rules: Rules, data: Data): Verdict {
	const { trip, when } = data;
	if (typeof trip !== 'string' || !rules.choices.includes(trip)) refuse('What kind of trip was it?');
	if (typeof when !== 'string' || !(when in rules.items)) refuse('What was it doing when it tripped?');
	const texts: Data = {};
	for (const name of ['code', 'dated']) {
		const text = data[name] ?? '';
		if (typeof text !== 'string' || text.trim().length > SERIAL_LIMIT)
			return refuse(`Code and date: up to ${SERIAL_LIMIT} characters.`);
		if (text.trim()) texts[name] = text.trim();
	}
	return taken(true, { trip, when, ...texts, ...numbers(rules.numbers, data) });
}

function temporary(data: Data): Verdict {
	const what = data['what'];
	if (typeof what !== 'string' || !what.trim() || what.trim().length > WHAT_LIMIT)
		return refuse(`Say in up to ${WHAT_LIMIT} characters what is to be put back.`);
	return taken(true, { what: what.trim() });
}

/** Of what was changed for the work, what nobody has put back yet. */
export function stillOpen(mine: readonly Evidence[]): Evidence[] {
	const back = new Set(mine.filter((e) => e.kind === 'back').map((e) => e.data['of']));
	return mine.filter((e) => e.kind === 'temporary' && !back.has(e.id));
}

function allBack(rules: Rules, data: Data, mine: readonly Evidence[]): Verdict {
	const open = stillOpen(mine).map((e) => `“${String(e.data['what'])}” is not back yet`);
	if (open.length) hold(open.join('; '));
	const items = seen(rules, data);
	return taken(all(rules, items), items);
}

function unit(rules: Rules, data: Data): Verdict {
	const number = data['unit'];
	if (typeof number !== 'number' || !Number.isInteger(number) || number < 1 || number > rules.units)
		return refuse(`Unit 1 to ${rules.units}.`);
	const serial = data['serial'] ?? '';
	if (typeof serial !== 'string' || serial.trim().length > SERIAL_LIMIT)
		return refuse(`A serial number of up to ${SERIAL_LIMIT} characters.`);
	const items = seen(rules, data);
	return taken(all(rules, items), {
		unit: number,
		...(serial.trim() ? { serial: serial.trim() } : {}),
		...items
	});
}

function turns(rules: Rules, data: Data): Verdict {
	const values = numbers(rules.numbers, data);
	const left = data['choice'];
	if (typeof left !== 'string' || !rules.choices.includes(left))
		return refuse(`Direction left: ${rules.choices.join(', ')}.`);
	const more = better(values) ?? (left === 'first' && asForetold(rules, values) ? left : null);
	if (more === null && values['second_pressure'] === undefined)
		return refuse('Both directions read, or a pressure as wired that the model foretells.');
	if (more === null)
		return refuse('The two directions differ by less than 5 %: that tells nothing. Read both again.');
	return taken(left === more, { ...values, choice: left, better: more });
}

/** Whether only one direction was read, and it gives at full speed what the model foretells of this pump. */
function asForetold(rules: Rules, values: Record<string, number>): boolean {
	const rule = rules.numbers.find((n) => n.id === 'first_pressure' && n.expected != null);
	const read = values['first_pressure'];
	if (!rule || read === undefined || Object.keys(values).some((name) => name.startsWith('second_')))
		return false;
	return fits(rule, read, rule.expected);
}

/** The direction of rotation that gave more: by flow where both were read, else by pressure. */
export function better(data: Data): string | null {
	for (const name of ['flow', 'pressure']) {
		const first = data[`first_${name}`];
		const second = data[`second_${name}`];
		if (typeof first !== 'number' || typeof second !== 'number') continue;
		if (Math.abs(first - second) > APART * Math.max(Math.abs(first), Math.abs(second)))
			return first > second ? 'first' : 'second';
	}
	return null;
}

function numbers(wanted: readonly NumberRule[], data: Data): Record<string, number> {
	const found: Record<string, number> = {};
	for (const rule of wanted) {
		const value = data[rule.id];
		if (rule.optional && value == null) continue;
		if (typeof value !== 'number' || !(Math.abs(value) < LARGEST))
			return refuse(`${rule.label}: a reading is wanted.`);
		if (value < 0 && rule.positive) refuse(`${rule.label}: not below 0.`);
		found[rule.id] = value;
		if (rule.twice) again(rule, value, data[`${rule.id}.again`]);
	}
	return found;
}

function again(rule: NumberRule, value: number, second: unknown): void {
	if (typeof second !== 'number') return void refuse(`${rule.label}: read it a second time.`);
	if (Math.abs(second - value) > 1e-9 * Math.abs(value))
		refuse(`${rule.label}: the two readings are not the same number.`);
}

function seen(rules: Rules, data: Data): Record<string, number> {
	return Object.fromEntries(
		Object.keys(rules.items)
			.filter((key) => data[key] === true || data[key] === 1)
			.map((key) => [key, 1])
	);
}

const all = (rules: Rules, items: Data) => Object.keys(rules.items).every((key) => key in items);
const same = (a: readonly string[], b: readonly string[]) =>
	a.length === b.length && a.every((x) => b.includes(x));

/** Whether a number lies in its band. */
export function fits(rule: Band, value: number, expected?: number | null): boolean {
	if (rule.low != null && value < rule.low) return false;
	if (rule.high != null && value >= rule.high) return false;
	if (expected == null) return true;
	const off = Math.abs(value - expected);
	if (rule.band != null) return off <= rule.band * (1 + 1e-9);
	return rule.tolerance == null || off <= Math.max(rule.tolerance * Math.abs(expected), rule.least);
}

function outside(
	rules: Rules,
	values: Record<string, number>,
	expected: (n: NumberRule) => number | null | undefined
): string[] {
	return rules.numbers
		.filter((n) => n.id in values && !fits(n, values[n.id] as number, expected(n)))
		.map((n) => n.id);
}

/** Whether what is out of its band may be excused by a note, and is. */
function excused(
	rules: Rules,
	out: readonly string[],
	values: Record<string, number>,
	expected: (n: NumberRule) => number | null | undefined,
	note: string
): boolean {
	if (!out.length) return true;
	return mayExplain(rules, out, values, expected) && note !== '';
}

function mayExplain(
	rules: Rules,
	out: readonly string[],
	values: Data,
	expected: (n: NumberRule) => number | null | undefined
): boolean {
	return (
		rules.explains &&
		!rules.numbers.some((n) => {
			const should = expected(n);
			const value = values[n.id];
			return (
				out.includes(n.id) &&
				n.gross != null &&
				should != null &&
				typeof value === 'number' &&
				Math.abs(value - should) > n.gross
			);
		})
	);
}

/** What lies out of its band, and whether a note may excuse it. */
export function doubts(rules: Rules, kind: string, data: Data): { out: string[]; explainable: boolean } {
	const verdict = judge(rules, { kind, data, note: '', at: '1970-01-01T00:00:00Z' });
	const out = 'out' in verdict ? verdict.out : [];
	if (!out.length) return { out, explainable: true };
	const at = rules.rows.find((r) => r.reference === data['reference']);
	const named = String(data['school'] ?? Object.keys(rules.schools)[0]);
	const expected = (n: NumberRule) =>
		at ? at.expected[n.id] : rules.schools[named] ? rules.schools[named].expected : n.expected;
	return { out, explainable: mayExplain(rules, out, data, expected) };
}

/** Of a step's evidence in order, what counts now. */
export function inForce(rules: Rules, evidence: readonly Evidence[]): Evidence[] {
	const mine = evidence.filter((e) => KINDS[rules.proof]?.includes(e.kind) || e.kind === 'override');
	const last = mine.at(-1);
	if (last?.kind === 'override') return [last];
	const counting = mine.filter((e) => e.kind !== 'override');
	const part = { table: 'reference', units: 'unit' }[rules.proof];
	if (part) {
		const latest = new Map(counting.map((e) => [Number(e.data[part]), e]));
		return [...latest.entries()].sort(([a], [b]) => a - b).map(([, e]) => e);
	}
	if (rules.proof === 'countdown') {
		const start = counting.findLast((e) => e.kind === 'start');
		return last?.kind === 'tick' && start ? [last] : start ? [start] : [];
	}
	if (rules.proof === 'put_back')
		return [
			...counting.filter((e) => e.kind !== 'tick'),
			...counting.filter((e) => e.kind === 'tick').slice(-1)
		];
	return counting.slice(-1);
}

/** What is still to be proven, of a step made of parts. */
export function lacking(rules: Rules, mine: readonly Evidence[]): string[] {
	if (rules.proof === 'countdown') return mine.at(-1)?.kind === 'start' ? ['the wait'] : [];
	if (rules.proof === 'table') {
		const read = new Set(mine.map((e) => e.data['reference']));
		const wanted = rules.every_row ? rules.rows : rules.rows.slice(-1);
		return wanted.filter((r) => !read.has(r.reference)).map((r) => asShown(r.reference));
	}
	if (rules.proof === 'units') {
		const there = new Set(mine.map((e) => e.data['unit']));
		const serials = mine.map((e) => e.data['serial']).filter((s): s is string => typeof s === 'string');
		const twice = [...new Set(serials.filter((s, i) => serials.indexOf(s) !== i))].sort();
		const absent = Array.from({ length: rules.units }, (_, i) => i + 1).filter((n) => !there.has(n));
		return [...absent.map((n) => `unit ${n}`), ...twice.map((s) => `serial number ${s} stands at two units`)];
	}
	if (rules.proof === 'put_back') return notBack(rules, mine);
	const last = mine.at(-1);
	if ((rules.proof !== 'list' && rules.proof !== 'readings') || !last) return [];
	return Object.entries(rules.items)
		.filter(([key]) => !(key in last.data))
		.map(([, name]) => name);
}

function notBack(rules: Rules, mine: readonly Evidence[]): string[] {
	const tick = mine.findLast((e) => e.kind === 'tick');
	const open = stillOpen(mine).map((e) => String(e.data['what']));
	for (const [key, name] of Object.entries(rules.items)) if (!tick || !(key in tick.data)) open.push(name);
	const later = !tick || mine.some((e) => e.kind === 'temporary' && Date.parse(e.at) > Date.parse(tick.at));
	return open.length || !later ? open : ['the word that all is back'];
}

/** A reference in six figures without trailing noise, as the server writes it. */
function asShown(value: number): string {
	return String(Number(value.toPrecision(6)));
}

export interface Standing {
	rules: Rules;
	/** What counts now. */
	mine: readonly Evidence[];
	/** Whether what it rests on has changed. */
	changed: boolean;
}

export interface Stand {
	state: string;
	/** Of what was handed in, what counts where a step was opened anew. */
	mine: Evidence[];
	lacking: string[];
	heldBy: string[];
	waitOnPaper: string;
}

/** State of every step, and what each waits for. */
export function stand(steps: readonly Standing[]): Stand[] {
	const titles = new Map(steps.map((s) => [s.rules.step, s.rules.title]));
	const proven = new Set<string>();
	const onPaper = new Map<string, string>();
	let nextGiven = false;
	const wrong = steps.flatMap((s) => turnedWrong(s).map((at) => ({ at, opens: opensAnew(s.rules) })));
	return steps.map(({ rules, mine: every, changed }) => {
		const anew = wrong.filter((w) => w.opens.includes(rules.step)).map((w) => w.at);
		const mine = every.filter((e) => anew.every((at) => Date.parse(e.at) > at));
		const leftOut = mine.at(-1)?.kind === 'override';
		const open = leftOut ? [] : lacking(rules, mine);
		const complete = mine.length > 0 && open.length === 0 && mine.every((e) => e.passed);
		const gates = wrong.length
			? [...rules.after, ...opensAnew(rules), ...beforeIt(rules, wrong)]
			: rules.after;
		const first = gates
			.filter((id) => titles.has(id) && !proven.has(id))
			.map((id) => `“${titles.get(id) ?? id}” comes first`);
		let state = 'next';
		if (leftOut) state = 'left_out';
		else if (complete) state = changed ? 'stale' : 'done';
		else if (!first.length && mine.some((e) => !e.passed && e.kind !== 'start')) state = 'failed';
		else if (rules.stops.length && (!first.length || !nextGiven)) state = 'held';
		else if (rules.stops.length || first.length) state = 'later';
		if (complete || leftOut) proven.add(rules.step);
		else if (state === 'next' || state === 'held' || state === 'failed') nextGiven = true;
		if (rules.proof === 'countdown' && mine.some((e) => e.paper)) onPaper.set(rules.step, rules.title);
		const wait = rules.after.find((id) => onPaper.has(id));
		return {
			state,
			mine,
			lacking: open,
			heldBy: [...rules.stops, ...first],
			waitOnPaper: wait ? (onPaper.get(wait) ?? '') : ''
		};
	});
}

/** A sheet that a device kept from before this was told does not have it. */
function opensAnew(rules: Rules): string[] {
	return (rules.reopens as string[] | undefined) ?? [];
}

/** Of what was opened anew, what comes before a step of it: no power before it was said which leads were swapped. */
function beforeIt(rules: Rules, wrong: readonly { opens: string[] }[]): string[] {
	return wrong.flatMap((w) => w.opens.slice(0, Math.max(w.opens.indexOf(rules.step), 0)));
}

/** Whether a step's answer, in force, opens others anew. */
export const opensOthers = (step: Standing): boolean => turnedWrong(step).length > 0;

/** When a step's wrong answer, in force, was given; not where it is put right in the drive. */
function turnedWrong({ rules, mine }: Standing): number[] {
	if (!opensAnew(rules).length) return [];
	return mine.filter((e) => !e.passed && e.data['school'] !== 'drive').map((e) => Date.parse(e.at));
}

const OPEN = new Set(['next', 'failed', 'stale', 'done', 'left_out']);

/** Why a step may not be proven now; empty where it may. */
export function shutBy(rules: Rules, at: Stand, kind: string, paper: boolean): string {
	const beside = kind === 'note' || (kind === 'photo' && rules.proof !== 'photo');
	if (beside || kind === 'temporary' || kind === 'back' || kind === 'override') return '';
	if (rules.stops.length) return `held: ${rules.stops.join('; ')}`;
	if (!OPEN.has(at.state)) return at.heldBy.join('; ') || 'an earlier step comes first';
	if (at.waitOnPaper && !paper)
		return `${at.waitOnPaper} was entered from paper, which opens nothing that is done now: wait again`;
	return '';
}
