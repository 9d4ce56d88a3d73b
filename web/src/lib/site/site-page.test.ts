/** A site being changed: typed in the reader's units, kept whole, and safe against two people. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { session } from '../session.svelte';
import { answering } from '../test-answers';
import { UnitTable } from '../units';
import { SYSTEMS } from '../test-units';
import { SitePage } from './site-page.svelte';

const METRE = {
	id: 'length',
	units: [
		{ symbol: 'm', factor: 1, offset: 0, aliases: [] },
		{ symbol: 'ft', factor: 0.3048, offset: 0, aliases: [] }
	],
	si: 'm',
	us: 'ft',
	digits: 3,
	coarse: ''
};
const LEAD = {
	name: 'lead_plain',
	kind: 'quantity',
	dimension: 'length',
	label: 'Motor lead',
	more: true
} as never;
const MONEY = { name: 'currency', kind: 'text', label: 'Currency', more: false } as never;
const kept = (revision: number, name = 'North', entries = {}) => ({
	id: 's',
	name,
	units: 'si',
	revision,
	entries
});

beforeEach(() => {
	session.units = new UnitTable([METRE] as never, SYSTEMS);
	session.groups = [{ id: 'site', fields: [LEAD, MONEY] }] as never;
	localStorage.setItem('mainspring.units.s', 'us'); // chosen for this site on this device
});
afterEach(() => {
	localStorage.clear();
	session.atAllSites();
	vi.unstubAllGlobals();
});

async function opened(entries = {}): Promise<SitePage> {
	answering(() => ({ status: 200, body: kept(1, 'North', entries) }));
	const at = new SitePage('s');
	await at.load();
	return at;
}

it('takes a length in feet, keeps metres, and lets an empty field go to the trade', async () => {
	const at = await opened({ lead_plain: { value: 30.48, provenance: 'given' } });
	expect([at.text(LEAD), at.changed]).toEqual(['100', false]);
	const calls = answering(() => ({ status: 200, body: kept(2) }));
	at.type(LEAD, '200');
	at.type(MONEY, ' USD ');
	await at.keep();
	expect(calls[0]?.body).toMatchObject({
		revision: 1,
		entries: { lead_plain: { value: 60.96 }, currency: { value: 'USD' } }
	});
	expect([at.changed, at.text(LEAD)]).toEqual([false, '200']);
	const emptied = await opened();
	emptied.type(LEAD, '120');
	emptied.type(LEAD, '');
	expect(emptied.changed).toBe(false);
});

it('does not send what it could not read', async () => {
	const at = await opened();
	const calls = answering(() => ({ status: 200, body: kept(2) }));
	at.type(LEAD, 'long');
	expect(at.wrong['lead_plain']).toContain('Not read');
	await at.keep();
	expect(calls).toEqual([]);
});

it('keeps by itself after a short quiet, and one refusal holds back no other entry', async () => {
	vi.useFakeTimers();
	const at = await opened();
	const calls = answering((call) =>
		'lead_plain' in (call.body['entries'] as object)
			? {
					status: 422,
					body: {
						detail: 'not taken',
						current: null,
						errors: [{ field: 'site.lead_plain', value: '609.6', allowed: 'up to 150 m' }]
					}
				}
			: { status: 200, body: kept(2, 'North', call.body['entries'] as object) }
	);
	at.type(LEAD, '2000');
	at.type(MONEY, 'USD');
	await vi.advanceTimersByTimeAsync(2000);
	vi.useRealTimers();
	expect(calls.map((call) => call.body['entries'])).toEqual([
		{ lead_plain: { value: 609.6 }, currency: { value: 'USD' } },
		{ currency: { value: 'USD' } }
	]);
	expect([at.changed, at.text(LEAD), at.wrong['lead_plain']]).toEqual([
		false,
		'2000',
		'609.6 is not taken; allowed: up to 150 m'
	]);
});

it('saves again, on its own revision, what was typed while it was being kept', async () => {
	const at = await opened();
	const calls = answering((call) => {
		if (calls.length === 1) at.type(MONEY, 'EUR');
		return {
			status: 200,
			body: kept(calls.length + 1, 'North', call.body['entries'] as object)
		};
	});
	at.type(MONEY, 'USD');
	await at.keep();
	expect([at.changed, at.text(MONEY)]).toEqual([true, 'EUR']);
	await at.keep();
	expect(calls.map((call) => call.body['revision'])).toEqual([1, 2]);
	expect(at.changed).toBe(false);
});

it('shows beside the field what the server does not allow', async () => {
	const at = await opened();
	at.type(LEAD, '2000');
	answering(() => ({
		status: 422,
		body: {
			detail: 'not taken',
			current: null,
			errors: [{ field: 'site.lead_plain', value: '609.6', allowed: 'up to 150 m' }]
		}
	}));
	await at.keep();
	expect(at.wrong['lead_plain']).toBe('609.6 is not taken; allowed: up to 150 m');
});

it('two people on one site: mine over theirs, or theirs', async () => {
	const at = await opened();
	at.name = 'Mine';
	const calls = answering((call) =>
		call.body['revision'] === 3
			? { status: 200, body: kept(4, 'Mine') }
			: { status: 409, body: { detail: 'changed by somebody else', errors: [], current: kept(3, 'Theirs') } }
	);
	await at.keep();
	expect([at.theirs?.name, at.name]).toEqual(['Theirs', 'Mine']);
	await at.keepMine();
	expect(calls.at(-1)?.body).toMatchObject({ revision: 3, name: 'Mine' });
	expect([at.theirs, at.site?.revision]).toEqual([null, 4]);
	at.theirs = kept(9, 'Theirs') as never;
	at.takeTheirs();
	expect([at.name, at.changed]).toEqual(['Theirs', false]);
});
