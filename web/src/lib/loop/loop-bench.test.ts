/** The loop bench without a browser: what is asked, moved, let go and taken into the plan. */
import { afterEach, expect, it, vi } from 'vitest';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';
import { answering } from '../test-answers';
import { UnitTable } from '../units';
import { held, LoopBench } from './loop-bench.svelte';

afterEach(() => vi.unstubAllGlobals());

const knob = (id: string, value: number, setting: string, dimension = 'pressure') => ({
	id,
	label: id,
	group: 'Controller',
	dimension,
	value,
	low: 0,
	high: 1e6,
	by_ratio: false,
	slides: true,
	hint: '',
	setting
});
const knobs = [
	knob('setpoint', 4e5, 'pid.setpoint_1'),
	knob('gain', 2.386123456, 'pid.gain', 'gain'),
	knob('low_limit', 42.46, 'pid.output_low', 'frequency'),
	knob('sleep_below', 42.96, 'sleep.frequency', 'frequency'),
	knob('tank_volume', 0.2, '', 'volume')
];
const trial = (more: object = {}) => ({ knobs, times: [0, 1], duration: 600, ...more });
const SETPOINT = { id: 'setpoint', dimension: 'pressure' };
const BAR = {
	id: 'pressure',
	units: [
		{ symbol: 'Pa', factor: 1, offset: 0, aliases: [] },
		{ symbol: 'bar', factor: 1e5, offset: 0, aliases: [] }
	],
	si: 'bar',
	us: 'bar',
	digits: 3,
	coarse: ''
};

function bench(): { at: LoopBench; refresh: ReturnType<typeof vi.fn> } {
	session.units = new UnitTable([BAR] as never);
	const refresh = vi.fn(async () => undefined);
	const line = {
		id: 'l',
		record: { control: { setpoint: { value: 4e5 } } },
		line: { site_id: 's' },
		refresh
	};
	return { at: new LoopBench(line as unknown as LinePage), refresh };
}

it('asks with what is moved, and only the latest answer counts', async () => {
	const calls = answering((call) => ({
		status: 200,
		body: trial({ profile: (call.body['tried'] as Record<string, number>)['setpoint'] })
	}));
	const { at } = bench();
	at.move(SETPOINT, '4.5');
	at.ask();
	at.slide('setpoint', 5e5);
	at.ask();
	await vi.waitFor(() => expect(at.loop?.profile).toBe(5e5));
	expect(calls.at(-1)?.body).toMatchObject({ site_id: 's', tried: { setpoint: 5e5 } });
	expect(at.texts['setpoint']).toBeUndefined(); // what was typed is not what was slid to
});

it('says what it could not read, and an empty text goes back to the plan', () => {
	const { at } = bench();
	at.move(SETPOINT, 'high');
	expect(at.problem).toContain('high: ');
	expect(at.moved).toBe(false);
	at.move(SETPOINT, '4.5');
	expect(at.tried['setpoint']).toBeCloseTo(4.5e5, 6);
	at.move(SETPOINT, ' ');
	expect(at.moved).toBe(false);
});

it('shows old and new of what was touched, and decides only that', async () => {
	const row = (id: string, label: string, planned: number) => ({
		id,
		label,
		dimension: 'pressure',
		planned: { value: planned },
		decided: null,
		left: null
	});
	const rows = [
		row('pid.setpoint_1', 'Setpoint', 4e5),
		row('pid.output_low', 'Controller low limit', 42),
		row('sleep.frequency', 'Sleep below', 42.5),
		row('pid.gain', 'Gain', 2)
	];
	const calls = answering(() => ({ status: 200, body: { rows } }));
	const { at, refresh } = bench();
	await at.propose();
	expect(at.changes).toBeNull(); // nothing was tried yet
	at.loop = trial() as never;
	at.slide('setpoint', 4.5e5);
	await at.propose();
	expect(at.changes?.map((c) => [c.setting, c.was])).toEqual([
		['pid.setpoint_1', 4e5],
		['pid.output_low', 42],
		['sleep.frequency', 42.5]
	]);
	session.who = 'Ana';
	await at.decide();
	const put = calls.filter((c) => c.method === 'PUT');
	expect(put).toHaveLength(3);
	expect(put[0]?.body).toMatchObject({ why: 'Tried on the loop bench.' });
	expect(refresh).toHaveBeenCalled();
	expect(at.moved).toBe(false);
});

it('opens the working of a trial with the setpoint being tried', async () => {
	const calls = answering(() => ({ status: 200, body: { title: 'Head' } }));
	const { at } = bench();
	at.slide('setpoint', 4.5e5);
	at.openWorking('line.setpoint_head');
	await session.working;
	expect(calls[0]?.body).toMatchObject({
		key: 'line.setpoint_head',
		tried: { setpoint: 4.5e5 }
	});
});

it('keeps at most three runs beside the one in hand, named by what differs', () => {
	const { at } = bench();
	at.keep();
	expect(at.kept).toHaveLength(0); // nothing ran yet
	at.loop = trial() as never;
	for (const setpoint of [4.1e5, 4.2e5, 4.3e5, 4.4e5]) {
		at.slide('setpoint', setpoint);
		at.keep();
	}
	expect(at.kept.map((k) => k.name)).toEqual(['setpoint 4.1 bar', 'setpoint 4.2 bar', 'setpoint 4.3 bar']);
	at.drop(at.kept[1]!);
	expect(at.kept).toHaveLength(2);
});

it('decides nothing for a value that is no setting of the drive', async () => {
	answering(() => ({ status: 200, body: { rows: [] } }));
	const { at } = bench();
	at.loop = trial() as never;
	at.take({ tank_volume: 0.3 });
	await at.propose();
	expect(at.changes).toEqual([]);
	expect(held(0.123456)).toBe(0.1235); // at the digits that a drive can hold
});

it('says how a tool found what is decided, until somebody moves it by hand', async () => {
	answering(() => ({ status: 200, body: { rows: [] } }));
	const { at } = bench();
	at.loop = trial() as never;
	at.take({ gain: 3 }, 'Sought among 500.');
	await at.propose();
	expect(at.why).toBe('Sought among 500.');
	at.slide('gain', 4);
	await at.propose();
	expect(at.why).toBe('Tried on the loop bench.');
});
