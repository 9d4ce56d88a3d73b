import { describe, expect, it } from 'vitest';
import type { Entry } from './outbox';
import { better, fits, outOf, withWaiting, type Run, type Step } from './waiting';

const volts = { id: 'l1_l2', label: 'L1 to L2', dimension: 'voltage', low: 0, high: 50 };
const reading = (more: object) =>
	({ expected: null, low: null, high: null, tolerance: null, least: 0, band: null, span: null, optional: false, ...more }) as Step['readings'][0]; // prettier-ignore

function step(id: string, proof: string, more: Partial<Step> = {}): Step {
	return {
		id,
		title: id.replace('.', ' '),
		proof,
		state: 'next',
		after: [],
		stops: [],
		safety: true,
		readings: [],
		choices: {},
		right: '',
		items: {},
		units: 0,
		schools: {},
		seconds: null,
		clock_ends: null,
		table: null,
		evidence: [],
		changed: [],
		held_by: [],
		lacking: [],
		beside: [],
		...more
	} as unknown as Step;
}

const sheet = (...steps: Step[]) =>
	({ now: '', event: 1, steps, standing: [], visit: null }) as unknown as Run;

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
		...more
	};
}

/** State of the first step once the entries wait. */
function after(of: Step, ...entries: Entry[]): Step {
	return withWaiting(sheet(of), entries).steps[0] as Step;
}

const row = (reference: number, expected: number) => ({
	reference,
	id: '',
	by: '',
	at: null,
	passed: true,
	note: '',
	read: {},
	expected: { shown: { key: '', value: expected, dimension: 'pressure', assumed: false } }
});
const table = (column: object) =>
	step('signals.input', 'table', {
		lacking: ['0', '1'],
		table: {
			columns: [reading({ id: 'shown', label: 'Display', dimension: 'pressure', ...column })],
			rows: [row(0, 0), row(1, 10)],
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
		const later = step('a.b', 'tick', { state: 'later', after: ['a.a'], held_by: ['…'] });
		const held = step('a.c', 'tick', { state: 'later', after: ['a.a'], stops: ['Supply too high'] });
		const found = withWaiting(sheet(first, later, held), [entry(first, 'tick')]).steps;
		expect(found.map((s) => s.state)).toEqual(['done', 'next', 'held']);
		expect(found[0]?.waiting).toBe(true);
		expect(found[1]?.held_by).toEqual([]);
		expect(found[2]?.held_by).toEqual(['Supply too high']);
		expect(later.state).toBe('later'); // the server's own is not touched
	});

	it('starts a clock that ends when it should', () => {
		const clock = step('a.wait', 'countdown', {
			seconds: { key: '', value: 300, dimension: 'time', assumed: false }
		});
		const found = after(clock, entry(clock, 'start'));
		expect(found.state).toBe('next');
		expect(found.clock_ends).toBe('2026-03-02T09:05:00.000Z');
	});

	it('holds a guard on a reading out of its band, whatever is said', () => {
		const absence = step('isolate.absence', 'readings', { readings: [reading(volts)] });
		expect(after(absence, entry(absence, 'readings', { l1_l2: 0.3 })).state).toBe('done');
		expect(after(absence, entry(absence, 'readings', { l1_l2: 50 })).state).toBe('failed');
		expect(after(absence, entry(absence, 'readings', { l1_l2: 60 }, { note: 'old meter' })).state).toBe(
			'failed'
		);
		const other = { ...absence, safety: false };
		expect(after(other, entry(other, 'readings', { l1_l2: 60 }, { note: 'old meter' })).state).toBe('done');
	});

	it('wants the right choice, or any', () => {
		const turns = step('turn.rotation', 'choice', { choices: { right: 'R', wrong: 'W' }, right: 'right' });
		expect(after(turns, entry(turns, 'choice', { choice: 'right' })).state).toBe('done');
		expect(after(turns, entry(turns, 'choice', { choice: 'wrong' })).state).toBe('failed');
		const any = { ...turns, right: '*' };
		expect(after(any, entry(any, 'choice', { choice: 'wrong' })).state).toBe('done');
	});

	it('wants every item of a list and every unit', () => {
		const list = step('isolate.wiring', 'list', { items: { a: 'Torque', b: 'Shield' } });
		expect(after(list, entry(list, 'list', { a: true })).lacking).toEqual(['Shield']);
		expect(after(list, entry(list, 'list', { a: true, b: true })).state).toBe('done');
		const units = step('many.units', 'units', {
			units: 2,
			items: { a: 'Lamp' },
			lacking: ['unit 1', 'unit 2']
		});
		const [one, two] = [1, 2].map((unit) => entry(units, 'unit', { unit, a: true })) as [Entry, Entry];
		expect(after(units, one).state).toBe('next');
		expect(after(units, two, one).state).toBe('done');
	});

	it('keeps a row of a baseline as it is, and judges one of a signal', () => {
		const baseline = table({ tolerance: 0.1 });
		const off = after(baseline, entry(baseline, 'row', { reference: 1, shown: 13 }));
		expect(off.state).toBe('next'); // the first row is still to be read
		expect(off.table?.rows[1]?.read['shown']).toEqual({
			value: 13,
			deviation: expect.closeTo(0.3, 9),
			fits: false
		});
		const signal = table({ band: 0.2 });
		const both = (shown: number) =>
			after(
				signal,
				entry(signal, 'row', { reference: 0, shown: 0.1 }),
				entry(signal, 'row', { reference: 1, shown })
			);
		expect(both(10.2).state).toBe('done');
		expect(both(10.3).state).toBe('failed');
	});

	it('leaves a step out and puts notes and photos beside', () => {
		const cover = step('isolate.cover', 'photo', { safety: false });
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

describe('bands', () => {
	it.each([
		[{ low: 1 }, 0.99, null, false],
		[{ low: 1 }, 1, null, true],
		[{ high: 2 }, 2, null, false],
		[{ tolerance: 0.1 }, 11, 10, true],
		[{ tolerance: 0.1 }, 11.1, 10, false],
		[{ tolerance: 0.1, least: 0.5 }, 1.4, 1, true],
		[{ tolerance: 0.1, least: 0.5 }, 1.6, 1, false],
		[{ band: 0.1 }, 10.1, 10, true],
		[{ band: 0.1 }, 10.2, 10, false]
	])('%o: %d against %d fits: %s', (bounds, value, expected, verdict) => {
		expect(fits(reading({ ...volts, low: null, high: null, ...bounds }), value, expected)).toBe(verdict);
	});

	it('takes what the chosen school expects', () => {
		const figure = (value: number) => ({ key: '', value, dimension: 'pressure', assumed: false });
		const precharge = step('isolate.precharge', 'readings', {
			readings: [reading({ id: 'air', label: 'Air', dimension: 'pressure', tolerance: 0.05 })],
			schools: {
				share: { label: 'S', why: '', expected: figure(2.8), asks_why: false },
				below: { label: 'B', why: '', expected: figure(2.6), asks_why: false }
			}
		});
		expect(outOf(precharge, { school: 'share', air: 2.6 })).toEqual(['air']);
		expect(outOf(precharge, { school: 'below', air: 2.6 })).toEqual([]);
	});

	it('prefers flow to pressure when two directions are compared', () => {
		expect(better({ first_pressure: 3, second_pressure: 2 })).toBe('first');
		expect(better({ first_pressure: 3, second_pressure: 2, first_flow: 4, second_flow: 8 })).toBe('second');
		expect(better({ first_pressure: 3, second_pressure: 2.95 })).toBeNull();
	});
});
