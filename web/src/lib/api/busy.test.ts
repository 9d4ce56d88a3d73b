/** The sign that the server is at work: only where one would notice, and never left standing. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { busy, NOTICED, noticed } from './busy.svelte';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});

it('shows what takes longer than one notices, and nothing quicker', async () => {
	const ends: Array<(answer: unknown) => void> = [];
	vi.stubGlobal('fetch', () => new Promise((resolve) => ends.push(resolve)));
	const quick = noticed('/quick');
	await vi.advanceTimersByTimeAsync(NOTICED - 1);
	ends[0]?.(new Response());
	await quick;
	await vi.advanceTimersByTimeAsync(NOTICED);
	expect(busy.count).toBe(0);
	const slow = [noticed('/one'), noticed('/two')];
	await vi.advanceTimersByTimeAsync(NOTICED);
	expect(busy.count).toBe(2);
	ends[1]?.(new Response());
	await slow[0];
	expect(busy.count).toBe(1);
	ends[2]?.(new Response());
	await slow[1];
	expect(busy.count).toBe(0);
});

it('ends with a request that fails', async () => {
	vi.stubGlobal('fetch', async () => {
		await new Promise((resolve) => setTimeout(resolve, 1000));
		throw new TypeError('no link');
	});
	const failed = noticed('/x').catch(() => 'failed');
	await vi.advanceTimersByTimeAsync(500);
	expect(busy.count).toBe(1);
	await vi.advanceTimersByTimeAsync(1000);
	expect(await failed).toBe('failed');
	expect(busy.count).toBe(0);
});
