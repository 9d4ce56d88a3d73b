/** What this device keeps of the server's answers, so that an opened line opens again without a link. */

/**
 * The cache that the service worker answers from when the server does not. Its name counts the shapes of the answers:
 * what an older application kept is not shown by a newer one.
 */
export const ANSWERS = 'mainspring-data-4';

/** Fetch and keep what the run sheet of a line reads, once the service worker is there; says whether all is kept now. */
export async function keepForNoLink(line: string): Promise<boolean> {
	const worker: ServiceWorkerContainer | undefined = navigator.serviceWorker;
	if (!worker) return false;
	await worker.ready;
	if (!worker.controller)
		await new Promise((taken) => worker.addEventListener('controllerchange', taken, { once: true }));
	try {
		for (const path of ['/api/catalogue', `/api/lines/${line}`, `/api/lines/${line}/run`])
			await keepAnswer(path, await whole(path));
		return true;
	} catch {
		return false; // no link now: what was kept before stays
	}
}

async function whole(path: string): Promise<unknown> {
	const answer = await fetch(path);
	if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
	return answer.json();
}

/** Keep an answer that came by another way, as it would be read at a path. */
export async function keepAnswer(path: string, body: unknown): Promise<void> {
	if (!('caches' in globalThis)) return;
	const kept = new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } });
	await keepLatest(await caches.open(ANSWERS), path, kept);
}

/** Keep an answer unless a later one of the same line is kept: two that cross may arrive in either order. */
export async function keepLatest(cache: Cache, key: string, answer: Response): Promise<void> {
	const kept = await cache.match(key);
	if (kept && (await seqOf(kept)) > (await seqOf(answer.clone()))) return;
	await cache.put(key, answer);
}

async function seqOf(answer: Response): Promise<number> {
	if (!answer.headers.get('content-type')?.includes('json')) return 0;
	const body = (await answer.json().catch(() => null)) as { seq?: number } | null;
	return body?.seq ?? 0;
}
