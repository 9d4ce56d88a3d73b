/** Long work on the server, told of as it goes; letting go of it stops it there. */
import { ApiProblem, reader, type Schemas } from '../api/client';

export interface Progress {
	done: number;
	of: number;
	/** How many wait before it. */
	before: number;
}

/** Begin work on a plain body and follow it to its end. */
export function follow<T>(
	path: string,
	body: Schemas['LoopDraft'],
	signal: AbortSignal,
	tell: (progress: Progress) => void
): Promise<T> {
	return followed<T>(path, JSON.stringify(body), 'application/json', signal, tell);
}

/**
 * Begin work on whatever is sent, a file also, and follow it to its end. Throws ApiProblem where it is refused, and
 * AbortError where it was stopped.
 */
export async function followed<T>(
	path: string,
	body: BodyInit,
	type: string,
	signal: AbortSignal,
	tell: (progress: Progress) => void
): Promise<T> {
	let got: Response;
	try {
		got = await fetch(path, {
			method: 'POST',
			headers: { 'Content-Type': type, 'X-Units': reader.units },
			body,
			signal
		});
	} catch (error) {
		if (error instanceof DOMException && error.name === 'AbortError') throw error;
		throw refused(0, 'The server does not answer.');
	}
	if (!got.ok || !got.body)
		throw refused(got.status, ((await got.json()) as Schemas['Problem']).detail ?? 'Refused.');
	for await (const [name, data] of events(got.body)) {
		if (name === 'progress') tell(data as Progress);
		else if (name === 'found') return data as T;
		else if (name === 'refused') throw refused(422, (data as { detail: string }).detail);
	}
	throw refused(0, 'It ended without an answer.');
}

function refused(status: number, detail: string): ApiProblem {
	return new ApiProblem(status, { title: detail, status, detail, errors: [], current: null });
}

/** Server-sent events as they come in, by name and data. */
export async function* events(body: ReadableStream<Uint8Array>): AsyncGenerator<[string, unknown]> {
	const from = body.getReader();
	const decoder = new TextDecoder();
	let text = '';
	for (;;) {
		const { done, value } = await from.read();
		text += decoder.decode(value, { stream: !done });
		let end = text.indexOf('\n\n');
		while (end >= 0) {
			const block = text.slice(0, end);
			text = text.slice(end + 2);
			const name = /^event: (.*)$/m.exec(block)?.[1] ?? '';
			yield [name, JSON.parse(/^data: (.*)$/m.exec(block)?.[1] ?? 'null')];
			end = text.indexOf('\n\n');
		}
		if (done) return;
	}
}
