import { describe, expect, it } from 'vitest';
import type { Entry } from './outbox';
import rulesText from '../../../../tests/data/judgement_rules.json?raw';
import type { Rules } from './counts';
import { patched, withWaiting, type Run, type Step } from './waiting';

const reading = (more: object) =>
	({ expected: null, low: null, high: null, tolerance: null, least: 0, band: null, span: null, optional: false, ...more }) as Step['readings'][0]; // prettier-ignore

/** Rules as the server hands them out, by the name of their step in tests/data/judgement_cases.json. */
const RULES = JSON.parse(rulesText) as Record<string, Rules>;

function step(id: string, like: string, more: Partial<Step> = {}, how: Partial<Rules> = {}): Step {
	const rules = { ...(RULES[like] as Rules), step: id, title: id.replace('.', ' '), ...how };
	return {
		id,
		title: rules.title,
		state: 'next',
		readings: [],
		items: {},
		seconds: null,
		clock_ends: null,
		table: null,
		evidence: [],
		changed: [],
		held_by: [],
		lacking: [],
		beside: [],
		wait_on_paper: '',
		...more,
		rules
	} as unknown as Step;
}

const sheet = (...steps: Step[]) =>
	({ seq: 1, steps, standing: [], visit: null, asleep: [] }) as unknown as Run;

function entry(at: Step, kind: Entry['kind'], data: Entry['data'] = {}, more: Partial<Entry> = {}): Entry {
	return {
		line: 'l',
		id: `${at.id}-${kind}-${JSON.stringify(data)}`,
		step: at.id,
		title: at.title,
		kind,
		data,
		by: 'Ana',
		note: '',
		at: '2026-03-02T09:00:00.000Z',
		told: false,
		instrument: null,
		seen: [],
		sheet: 1,
		...more
	};
}

/** State of the first step once the entries wait. */
function after(of: Step, ...entries: Entry[]): Step {
	return withWaiting(sheet(of), entries).steps[0] as Step;
}

const row = (reference: number, column: string, expected: number) => ({
	reference,
	id: '',
	by: '',
	at: null,
	passed: true,
	note: '',
	read: {},
	expected: { [column]: { key: '', value: expected, dimension: 'signal', assumed: false } }
});
const table = (like: string, column: string, ...rows: [number, number][]) =>
	step('signals.input', like, {
		table: {
			columns: [reading({ id: column, label: 'Display', dimension: 'signal' })],
			rows: rows.map(([at, expected]) => row(at, column, expected)),
			reference: 'percent',
			missing: '',
			pattern: null,
			errors: {}
		}
	} as unknown as Partial<Step>);

describe('what waits on the device stands on the sheet as the server will judge it', () => {
	it('does nothing where nothing waits', () => {
		const run = sheet(step('a.a', 'tick'));
		expect(withWaiting(run, [])).toBe(run);
	});

	it('opens the step behind a tick, and holds it where a stop is open', () => {
		const first = step('a.a', 'tick');
		const later = step('a.b', 'tick', { state: 'later', held_by: ['…'] }, { after: ['a.a'] });
		const held = step('a.c', 'tick', { state: 'later' }, { after: ['a.a'], stops: ['Supply too high'] });
		const found = withWaiting(sheet(first, later, held), [entry(first, 'tick')]).steps;
		expect(found.map((s) => s.state)).toEqual(['done', 'next', 'held']);
		expect(found[0]?.waiting).toBe(true);
		expect(found[1]?.held_by).toEqual([]);
		expect(found[2]?.held_by).toEqual(['Supply too high']);
		expect(later.state).toBe('later'); // the server's own is not touched
	});

	it('does not open what the server will not open: 12 mA for 4, with a note', () => {
		const signal = table('signal', 'up', [0, 0.004], [1, 0.02]);
		const next = step('loop.action', 'tick', { state: 'later' }, { after: ['signals.input'] });
		const found = withWaiting(sheet(signal, next), [
			entry(signal, 'row', { reference: 0, up: 0.012 }, { note: 'it is so' }),
			entry(signal, 'row', { reference: 1, up: 0.02 }),
			entry(next, 'tick')
		]).steps;
		expect(found.map((s) => s.state)).toEqual(['failed', 'later']);
		expect(found[1]?.evidence).toEqual([]);
	});

	it('starts a clock that ends when it should, and does not take its end early', () => {
		const clock = step('a.wait', 'wait', {
			seconds: { key: '', value: 300, dimension: 'time', assumed: false }
		});
		const started = entry(clock, 'start');
		expect(after(clock, started).state).toBe('next');
		expect(after(clock, started).clock_ends).toBe('2026-03-02T09:05:00.000Z');
		const tick = (at: string) => entry(clock, 'tick', {}, { at: `2026-03-02T09:${at}.000Z` });
		expect(after(clock, started, tick('04:59')).state).toBe('next');
		expect(after(clock, started, tick('05:00')).state).toBe('done');
	});

	it('shows a row with its deviation, and what it says', () => {
		const baseline = table('baseline', 'amps', [25, 4], [50, 10]);
		const off = after(baseline, entry(baseline, 'row', { reference: 50, amps: 13 }));
		expect(off.state).toBe('done');
		expect(off.table?.rows[1]?.read['amps']).toEqual({
			value: 13,
			deviation: expect.closeTo(0.3, 9) as number,
			fits: false
		});
	});

	it('leaves a step out and puts notes and photos beside', () => {
		const cover = step('isolate.cover', 'photo');
		expect(after(cover, entry(cover, 'override', {}, { note: 'no camera' })).state).toBe('left_out');
		expect(after(cover, entry(cover, 'photo', { photo: 'p' })).state).toBe('done');
		const tick = step('a.a', 'tick');
		const noted = after(
			tick,
			entry(tick, 'note', {}, { note: 'damp' }),
			entry(tick, 'photo', { photo: 'p' })
		);
		expect(noted.state).toBe('next');
		expect(noted.beside).toHaveLength(2);
	});
});

describe('what a command changed', () => {
	const [one, two] = [step('a.a', 'tick'), step('a.b', 'tick')];
	const done = { ...one, state: 'done' } as Step;
	const kept = (before: number, seq: number) =>
		({ before, seq, steps: [done], standing: [], visit: null }) as Parameters<typeof patched>[1];

	it('is laid over the sheet it was made on', () => {
		expect(patched(sheet(one, two), kept(1, 2))).toEqual({
			seq: 2,
			steps: [done, two],
			standing: [],
			visit: null,
			asleep: []
		});
	});

	it('is not laid over a sheet that somebody else has changed since', () => {
		expect(patched(sheet(one, two), kept(2, 3))).toBeNull();
	});
});

it('asks at once which leads were swapped, before the server is told that it turned the wrong way', () => {
	const reopens = ['a.lock', 'a.dead', 'a.swap', 'b.power'];
	const lock = step('a.lock', 'tick');
	const dead = step('a.dead', 'tick', {}, { after: ['a.lock'] });
	const power = step('b.power', 'tick', {}, { after: ['a.dead'] });
	const turn = step('b.turn', 'rotation', {}, { after: ['b.power'], reopens }); // prettier-ignore
	const swap = step('a.swap', 'any', { after: ['a.dead'] }, { after: ['a.dead'] });
	const run = { ...sheet(lock, dead, power, turn), asleep: [swap] } as Run;
	const at = (minute: number) => ({ at: `2026-03-02T09:0${minute}:00.000Z` });
	const first = [
		entry(lock, 'tick', {}, at(0)),
		entry(dead, 'tick', {}, at(1)),
		entry(power, 'tick', {}, at(2))
	];
	const states = (entries: Entry[]) => withWaiting(run, entries).steps.map((s) => `${s.id} ${s.state}`);
	expect(states(first)).toEqual(['a.lock done', 'a.dead done', 'b.power done', 'b.turn next']);
	const wrong = [...first, entry(turn, 'choice', { choice: 'wrong' }, at(3))];
	expect(states(wrong)).toEqual([
		'a.lock next',
		'a.dead later',
		'a.swap later',
		'b.power later',
		'b.turn later'
	]);
	const again = [...wrong, entry(lock, 'tick', { n: 2 }, at(4)), entry(dead, 'tick', { n: 2 }, at(5))];
	expect(states(again).slice(2)).toEqual(['a.swap next', 'b.power later', 'b.turn later']);
	const swapped = [
		...again,
		entry(swap, 'choice', { choice: 'a' }, at(6)),
		entry(power, 'tick', { n: 2 }, at(7))
	];
	const back = [...swapped, entry(turn, 'choice', { choice: 'right' }, at(8))];
	expect(states(back)).toEqual(reopens.map((id) => `${id} done`).concat('b.turn done'));
});
