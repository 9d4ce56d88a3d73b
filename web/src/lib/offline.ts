/** What this device keeps of the server's answers, so that an opened line opens again without a link. */

/**
 * The cache that the service worker answers from when the server does not. Its name counts the shapes of the answers:
 * what an older application kept is not shown by a newer one.
 */
export const ANSWERS = 'mainspring-data-2';

/** Fetch what the run sheet of a line reads, once the service worker is there to keep it. */
export async function keepForNoLink(line: string): Promise<void> {
	const worker: ServiceWorkerContainer | undefined = navigator.serviceWorker;
	if (!worker) return;
	await worker.ready;
	if (!worker.controller)
		await new Promise((taken) => worker.addEventListener('controllerchange', taken, { once: true }));
	for (const path of ['/api/catalogue', `/api/lines/${line}`, `/api/lines/${line}/run`])
		await fetch(path).catch(() => undefined); // no link now: what was kept before stays
}

/** Keep an answer that came by another way, as it would be read at a path. */
export async function keepAnswer(path: string, body: unknown): Promise<void> {
	if (!('caches' in globalThis)) return;
	const kept = new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } });
	await (await caches.open(ANSWERS)).put(path, kept);
}
