/** The settings sheet without a browser: typed, kept, refused, and met by somebody else. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';
import { answering } from '../test-answers';
import { UnitTable } from '../units';
import { SettingsPage } from './settings-page.svelte';

const TIME = {
	id: 'time',
	units: [
		{ symbol: 's', factor: 1, offset: 0, aliases: [], decimals: 2 },
		{ symbol: 'min', factor: 60, offset: 0, aliases: [], decimals: 2 }
	],
	si: 's',
	us: 's',
	digits: 3,
	coarse: ''
};
const RAMP = {
	id: 'ramps.up',
	label: 'Ramp up',
	dimension: 'time',
	found: null,
	left: 10,
	choices: {}
} as never;
const STOP = {
	id: 'stop.mode',
	label: 'Stop',
	dimension: null,
	found: null,
	left: 'coast',
	choices: {}
} as never;
const SHEET = { rows: [RAMP, STOP], set_count: 2 };

let refreshed = 0;
const page = () =>
	new SettingsPage({ id: 'l1', refresh: async () => void (refreshed += 1) } as unknown as LinePage);

beforeEach(() => {
	refreshed = 0;
	session.units = new UnitTable([TIME] as never);
});
afterEach(() => vi.unstubAllGlobals());

it('keeps what was typed in any unit, with what was seen there', async () => {
	const calls = answering(() => ({ status: 200, body: SHEET }));
	const at = page();
	at.type(RAMP, 'left', '2 min');
	expect(at.text(RAMP, 'left')).toBe('2 min');
	await at.put(RAMP, 'left', '2 min');
	expect(calls[0]?.body).toMatchObject({ value: 120, seen: 10, by: session.by });
	expect(at.text(RAMP, 'left')).toBe('10'); // as the answer has it
	expect([at.text(RAMP, 'found'), at.text(STOP, 'left'), refreshed]).toEqual(['', 'coast', 1]);
});

it('takes a value away with an empty text', async () => {
	const calls = answering(() => ({ status: 200, body: SHEET }));
	await page().put(STOP, 'left', ' ');
	expect(calls[0]?.body['value']).toBeNull();
});

it('does not send what it cannot read, and keeps it as typed', async () => {
	const calls = answering(() => ({ status: 200, body: SHEET }));
	const at = page();
	at.type(RAMP, 'left', 'soon');
	await at.put(RAMP, 'left', 'soon');
	expect(calls).toEqual([]);
	expect(at.problem).toContain('Ramp up: ');
	expect(at.text(RAMP, 'left')).toBe('soon');
});

it('reads the sheet again when somebody else entered something', async () => {
	const calls = answering((call) =>
		call.method === 'PUT'
			? { status: 409, body: { detail: 'Ben entered 12 s', errors: [], current: { value: 12, by: 'Ben' } } }
			: { status: 200, body: SHEET }
	);
	const at = page();
	await at.put(RAMP, 'left', '11');
	expect(calls.map((c) => c.method)).toEqual(['PUT', 'GET']);
	expect(at.problem).toBe('Ramp up: Ben entered 12 s');
});

it('says why the plan could not be taken', async () => {
	answering(() => ({
		status: 503,
		body: { detail: 'the database does not answer', errors: [], current: null }
	}));
	const at = page();
	await at.takePlan();
	expect([at.problem, at.sheet]).toEqual(['the database does not answer', null]);
	await at.load();
	expect(at.problem).toBe('the database does not answer');
});
