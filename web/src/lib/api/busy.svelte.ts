/** Whether the server is at work for somebody who waits: a request under way for longer than one notices. */
export const NOTICED = 300;

class Busy {
	/** So many requests have been under way for longer than that. */
	count = $state(0);

	/** A request begins; call what comes back when it ends, however it ends. */
	begin(): () => void {
		let counted = false;
		let ended = false;
		const timer = setTimeout(() => {
			counted = true;
			this.count++;
		}, NOTICED);
		return () => {
			if (ended) return;
			ended = true;
			clearTimeout(timer);
			if (counted) this.count--;
		};
	}
}

export const busy = new Busy();

/** As `fetch`, with the sign that it takes long. */
export async function noticed(request: Request | string, init?: RequestInit): Promise<Response> {
	const end = busy.begin();
	try {
		return await globalThis.fetch(request, init);
	} finally {
		end();
	}
}
