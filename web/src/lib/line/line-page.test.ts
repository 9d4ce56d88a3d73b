/** The open line without a browser: typing, saving, a conflict, a lost link. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { answering, type Call } from '../test-answers';
import { LinePage } from './line-page.svelte';

const kept = (revision: number, record: object) => ({
	id: 'l1',
	site_id: 's1',
	site_name: 'Site',
	site_units: 'si',
	tag: 'P-1',
	title: '',
	revision,
	record: { ...record, site: { altitude: { value: 10 } } },
	updated_at: '2026-01-01T00:00:00Z',
	stages: [],
	words: '',
	assessment: {
		findings: [],
		problems: [],
		figures: {},
		unknown: {},
		strip: { stations: [], joints: [], back: [] }
	}
});

let calls: Call[] = [];
let reply: (call: Call) => { status: number; body: unknown };

beforeEach(() => {
	localStorage.clear();
	vi.useFakeTimers();
	calls = answering((call) => reply(call));
});
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});

async function opened(): Promise<LinePage> {
	const page = new LinePage('l1');
	await page.load();
	return page;
}

const answers = (saved: { status: number; body: unknown }) => (call: Call) =>
	call.method === 'PUT'
		? saved
		: { status: 200, body: call.url.includes('assess') ? kept(1, {}).assessment : kept(1, {}) };

describe('an open line', () => {
	it('judges at once and saves after a short quiet, without the site', async () => {
		reply = answers({ status: 200, body: kept(2, { motor: { rated_speed: { value: 1445 } } }) });
		const page = await opened();
		page.set('motor.rated_speed', 1445, 'plate', '1445 r/min');
		expect(page.saving).toBe('waiting');
		expect(localStorage.getItem('mainspring.draft.l1')).toContain('1445');
		await vi.advanceTimersByTimeAsync(600);
		await page.flush();
		expect(page.saving).toBe('saved');
		expect(calls.some((c) => c.url.includes('/api/assess'))).toBe(true);
		const put = calls.find((c) => c.method === 'PUT');
		expect(put?.body['revision']).toBe(1);
		expect(put?.body['record']).toEqual({
			motor: { rated_speed: { value: 1445, provenance: 'plate', typed: '1445 r/min' } }
		});
		expect(localStorage.getItem('mainspring.draft.l1')).toBeNull();
	});

	it('keeps what was typed when the link is gone, and says so', async () => {
		reply = (call) =>
			call.method === 'GET' ? { status: 200, body: kept(1, {}) } : { status: 0, body: null };
		const page = await opened();
		page.set('motor.rated_speed', 1445);
		await vi.advanceTimersByTimeAsync(600);
		expect(page.saving).toBe('offline');
		reply = answers({ status: 200, body: kept(1, {}) });
		const again = await opened();
		expect(again.entry('motor.rated_speed')?.value).toBe(1445);
	});

	it('takes nobody else for itself: a refusal, or a save whose answer was lost, and then a reload', async () => {
		const saved = { motor: { poles: { value: 4 } } };
		reply = (call) =>
			call.method === 'GET'
				? { status: 200, body: kept(1, {}) }
				: call.method === 'PUT' &&
					  'rated_speed' in (call.body['record'] as typeof kept & { motor: object }).motor
					? {
							status: 422,
							body: {
								detail: 'no',
								current: null,
								errors: [{ field: 'motor.rated_speed', value: '-1', allowed: '0 up' }]
							}
						}
					: { status: 200, body: call.method === 'PUT' ? kept(2, saved) : kept(1, {}).assessment };
		const page = await opened();
		page.set('motor.rated_speed', -1);
		page.set('motor.poles', 4);
		await vi.advanceTimersByTimeAsync(600);
		await page.flush();
		expect(page.problem).toContain('not kept');
		reply = () => ({ status: 200, body: kept(2, saved) });
		const again = await opened();
		expect(again.conflict).toBeNull();
		expect(again.entry('motor.rated_speed')?.value).toBe(-1);

		localStorage.setItem(
			'mainspring.draft.l1',
			JSON.stringify({ revision: 1, tag: 'P-1', title: '', record: saved })
		);
		const third = await opened();
		expect([third.conflict, localStorage.getItem('mainspring.draft.l1')]).toEqual([null, null]);
	});

	it('shows the other version of a conflict and never decides by itself', async () => {
		const theirs = {
			revision: 5,
			tag: 'P-1',
			title: '',
			record: { motor: { rated_speed: { value: 1450 } } }
		};
		reply = answers({ status: 409, body: { detail: 'changed', current: theirs } });
		const page = await opened();
		page.set('motor.rated_speed', 1445);
		await vi.advanceTimersByTimeAsync(600);
		expect(page.conflict?.revision).toBe(5);
		expect(page.differences).toEqual(['motor.rated_speed']);
		reply = answers({ status: 200, body: kept(6, { motor: { rated_speed: { value: 1445 } } }) });
		page.keepMine();
		await vi.advanceTimersByTimeAsync(10);
		expect(calls.filter((c) => c.method === 'PUT').at(-1)?.body['revision']).toBe(5);
	});
});
