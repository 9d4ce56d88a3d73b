/** A stand-in for the server in tests of page state: each call is noted and answered by `reply`. */
import { vi } from 'vitest';

export interface Call {
	url: string;
	method: string;
	body: Record<string, unknown>;
}

export function answering(reply: (call: Call) => { status: number; body: unknown }): Call[] {
	const calls: Call[] = [];
	vi.stubGlobal('fetch', async (asked: Request | string, init?: RequestInit) => {
		const request = typeof asked === 'string' ? new Request(`http://x${asked}`, init) : asked;
		const text = await request.clone().text();
		const call = {
			url: request.url,
			method: request.method,
			body: text.startsWith('{') ? JSON.parse(text) : {}
		};
		calls.push(call);
		const { status, body } = reply(call);
		if (status === 0) throw new TypeError('no link');
		return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });
	});
	return calls;
}
