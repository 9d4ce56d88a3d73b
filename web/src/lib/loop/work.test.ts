/** Long work followed: progress, what was found, why it was refused, and letting go. */
import { afterEach, expect, it, vi } from 'vitest';
import { LongWork } from './long-work.svelte';
import { events } from './work';

afterEach(() => vi.unstubAllGlobals());

const stream = (...parts: string[]): ReadableStream<Uint8Array> =>
	new ReadableStream({
		start(to) {
			for (const part of parts) to.enqueue(new TextEncoder().encode(part));
			to.close();
		}
	});
const answers = (...parts: string[]): void =>
	void vi.stubGlobal('fetch', async () => new Response(stream(...parts), { status: 200 }));
const body = {} as never;

it('reads events that come in pieces', async () => {
	const found: unknown[] = [];
	const text = stream('event: progress\nda', 'ta: {"done":1}\n\nevent: found\n', 'data: {"holds":3}\n\n');
	for await (const event of events(text)) found.push(event);
	expect(found).toEqual([
		['progress', { done: 1 }],
		['found', { holds: 3 }]
	]);
});

it('tells how far it is and keeps what was found', async () => {
	answers('event: progress\ndata: {"done":4,"of":9,"before":0}\n\n', 'event: found\ndata: {"holds":3}\n\n');
	const work = new LongWork<{ holds: number }>('/x');
	const running = work.begin(body);
	expect(work.words).toBe('beginning');
	expect(await running).toEqual({ holds: 3 });
	expect(work.runs).toBe(false);
	expect(work.found?.holds).toBe(3);
});

it('says why it was refused, and when it ended without a word', async () => {
	answers('event: refused\ndata: {"detail":"no gains to seek"}\n\n');
	const work = new LongWork('/x');
	expect(await work.begin(body)).toBeNull();
	expect(work.problem).toBe('no gains to seek');
	answers('event: progress\ndata: {"done":0,"of":0,"before":2}\n\n');
	await work.begin(body);
	expect(work.problem).toContain('without an answer');
});

it('lets go of it: the server hears of it, and nothing comes of it here', async () => {
	let signal: AbortSignal | undefined;
	vi.stubGlobal(
		'fetch',
		(_: string, init: RequestInit) =>
			new Promise((_, reject) => {
				signal = init.signal ?? undefined;
				signal?.addEventListener('abort', () => reject(new DOMException('gone', 'AbortError')));
			})
	);
	const work = new LongWork('/x');
	const running = work.begin(body);
	work.stop();
	expect(await running).toBeNull();
	expect(signal?.aborted).toBe(true);
	expect([work.runs, work.problem]).toEqual([false, '']);
});
