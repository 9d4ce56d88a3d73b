/** The loop bench without a browser: what is asked, moved, let go and taken into the plan. */
import { afterEach, expect, it, vi } from 'vitest';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';
import { answering } from '../test-answers';
import { UnitTable } from '../units';
import { LoopBench } from './loop-bench.svelte';

afterEach(() => vi.unstubAllGlobals());

const tuning = {
	setpoint: 4e5,
	gain: 2.386123456,
	integral_time: 4,
	low_limit: 42.46,
	sleep_below: 42.96,
	sleep_delay: 20,
	boost: 2e4,
	wake_at: 3.2e5,
	ramp_up: 10,
	ramp_down: 20
};
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
		body: { tuning: { ...tuning, ...(call.body['tried'] as object) } }
	}));
	const { at } = bench();
	at.move('setpoint', '4.5', 'pressure');
	at.ask();
	at.slide(5e5);
	at.ask();
	await vi.waitFor(() => expect(at.loop?.tuning.setpoint).toBe(5e5));
	expect(calls.at(-1)?.body).toMatchObject({ site_id: 's', tried: { setpoint: 5e5 } });
	expect(at.texts.setpoint).toBeUndefined(); // what was typed is not what was slid to
});

it('says what it could not read, and an empty text goes back to the plan', () => {
	const { at } = bench();
	at.move('setpoint', 'high', 'pressure');
	expect(at.problem).toContain('high: ');
	expect(at.moved).toBe(false);
	at.move('setpoint', '4.5', 'pressure');
	expect(at.tried.setpoint).toBeCloseTo(4.5e5, 6);
	at.move('setpoint', ' ', 'pressure');
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
	at.loop = { tuning } as never;
	at.slide(4.5e5);
	await at.propose();
	expect(at.changes?.map((c) => [c.setting, c.was])).toEqual([
		['pid.setpoint_1', 4e5],
		['pid.output_low', 42],
		['sleep.frequency', 42.5]
	]);
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
	at.slide(4.5e5);
	at.openWorking('line.setpoint_head');
	await session.working;
	expect(calls[0]?.body).toMatchObject({
		key: 'line.setpoint_head',
		record: { control: { setpoint: { value: 4.5e5 } } }
	});
});
