/** A trip without a browser: nothing asked before a class is chosen, readings in any unit, the latest answer. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';
import { answering } from '../test-answers';
import { UnitTable } from '../units';
import { TripPage } from './trip-page.svelte';

const VOLTS = {
	id: 'voltage',
	units: [
		{ symbol: 'V', factor: 1, offset: 0, aliases: [], decimals: 2 },
		{ symbol: 'kV', factor: 1000, offset: 0, aliases: [], decimals: 2 }
	],
	si: 'V',
	us: 'V',
	digits: 3,
	coarse: ''
};
const page = () => new TripPage({ record: { motor: {} }, line: { site_id: 's' } } as unknown as LinePage);

beforeEach(() => {
	session.units = new UnitTable([VOLTS] as never);
});
afterEach(() => vi.unstubAllGlobals());

it('asks nothing before the class of trip is chosen', () => {
	const calls = answering(() => ({ status: 200, body: {} }));
	page().ask();
	expect(calls).toEqual([]);
});

it('sends what was read, and nothing for what is empty or not understood', async () => {
	const calls = answering(() => ({ status: 200, body: { causes: [{ id: 'ramp' }] } }));
	const at = page();
	at.kind = 'overvoltage';
	at.typed.bus_voltage = '0.78 kV';
	at.typed.current = 'much';
	at.ask();
	await vi.waitFor(() => expect(at.found?.causes.length).toBe(1));
	expect(calls[0]?.body).toMatchObject({
		kind: 'overvoltage',
		when: 'steady',
		frequency: null,
		current: null,
		site_id: 's'
	});
	expect(calls[0]?.body['bus_voltage']).toBeCloseTo(780, 6);
});

it('shows the causes of what was chosen last', async () => {
	answering((call) => ({ status: 200, body: { causes: [{ id: call.body['kind'] }] } }));
	const at = page();
	for (const kind of ['overvoltage', 'underload']) {
		at.kind = kind;
		at.ask();
	}
	await vi.waitFor(() => expect(at.found?.causes[0]?.id).toBe('underload'));
});

it('says what could not be answered', async () => {
	answering(() => ({ status: 422, body: { detail: 'kind: no such class', errors: [], current: null } }));
	const at = page();
	at.kind = 'magic';
	at.ask();
	await vi.waitFor(() => expect(at.problem).toBe('kind: no such class'));
	await at.load();
	expect(at.words).toBeNull();
});
