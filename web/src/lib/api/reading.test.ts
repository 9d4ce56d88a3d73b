/** What is read comes by itself once the server is back; what is refused is said and not asked again. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { ApiProblem } from './client';
import { Again, Reading } from './reading.svelte';

const away = (status: number) => () =>
	Promise.reject(
		new ApiProblem(status, { title: 'x', status, detail: `status ${status}`, errors: [], current: null })
	);

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it.each([0, 503])('reads again after a status %i, and says so meanwhile', async (status) => {
	const at = new Reading<string>();
	const call = vi.fn(away(status)).mockImplementationOnce(away(status)).mockImplementationOnce(away(status));
	call.mockResolvedValue('there' as never);
	call.mockImplementationOnce(away(status)).mockImplementationOnce(away(status));
	at.read(call as never);
	await vi.advanceTimersByTimeAsync(0);
	expect([at.value, at.problem]).toEqual([null, `status ${status}`]);
	await vi.advanceTimersByTimeAsync(60_000);
	expect([at.value, at.problem]).toEqual(['there', '']);
	const calls = call.mock.calls.length;
	await vi.advanceTimersByTimeAsync(60_000);
	expect(call.mock.calls.length).toBe(calls);
});

it.each([404, 422, 500])('asks once where it is refused with %i', async (status) => {
	const at = new Reading<string>();
	const call = vi.fn(away(status));
	at.read(call as never);
	await vi.advanceTimersByTimeAsync(60_000);
	expect(call.mock.calls.length).toBe(1);
	expect(at.problem).toBe(`status ${status}`);
});

it('counts only the latest read, and none once it is stopped', async () => {
	const at = new Reading<string>();
	let first: (value: string) => void = () => undefined;
	at.read(() => new Promise((resolve) => (first = resolve)));
	const stop = at.read(() => Promise.resolve('second'));
	await vi.advanceTimersByTimeAsync(0);
	first('first');
	await vi.advanceTimersByTimeAsync(0);
	expect(at.value).toBe('second');
	stop();
	const call = vi.fn(away(0));
	at.read(call as never)();
	await vi.advanceTimersByTimeAsync(60_000);
	expect(call.mock.calls.length).toBe(1);
});

it('comes again for a page until it is answered, and no more for one that was left', async () => {
	const again = new Again();
	const tried: number[] = [];
	const full = new ApiProblem(503, { title: 'x', status: 503, detail: 'x', errors: [], current: null });
	const load = () => {
		const turn = again.begin();
		tried.push(turn);
		again.failed(turn, full, load);
	};
	load();
	await vi.advanceTimersByTimeAsync(1000 + 2000 + 4000);
	expect(tried.length).toBe(4);
	const late = again.begin();
	again.stop();
	again.failed(late, full, load); // it was under way when the page was left
	await vi.advanceTimersByTimeAsync(60_000);
	expect(tried.length).toBe(4);
	again.failed(again.begin(), new Error('refused'), load);
	await vi.advanceTimersByTimeAsync(60_000);
	expect(tried.length).toBe(4);
});
