/** Whether the server is at work for somebody who waits: a request under way for longer than one notices. */
export const NOTICED = 300;

class Busy {
	/** So many requests have been under way for longer than that. */
	count = $state(0);
}

export const busy = new Busy();

/** As `fetch`, looked up at each call so that a test can stand in for it, with the sign that it takes long. */
export async function noticed(request: Request | string, init?: RequestInit): Promise<Response> {
	let counted = 0;
	const timer = setTimeout(() => {
		counted = 1;
		busy.count++;
	}, NOTICED);
	try {
		return await globalThis.fetch(request, init);
	} finally {
		clearTimeout(timer);
		busy.count -= counted;
	}
}
