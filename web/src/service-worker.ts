/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />
/// <reference types="@sveltejs/kit" />
/**
 * Keeps the application and the lines that were opened on this device, so that a run sheet opens in a pump house
 * without a link. Reads only: what is entered waits in the outbox (lib/run/outbox.ts) and is sent from the page.
 */
import { build, files, version } from '$service-worker';
import { ANSWERS, keepLatest } from './lib/offline';

const worker = self as unknown as ServiceWorkerGlobalScope;
/** The script that starts the screens; its name does not change with its content (web/no-inline.js). */
const BEGIN = '/_app/begin.js';
const SHELL = `mainspring-shell-${version}`;
/** How long a server may take before what is kept here is shown instead, in ms. */
const PATIENCE = 4000;
/** Answers worth keeping: what the screens of an opened line read. The stream is not: it says whether there is a link. */
const KEPT =
	/^\/api\/(catalogue|round|trips|lines\/[^/]+(\/(run|settings|proof|savings|story|readiness|photos(\/[^/]+)?))?)$/;

worker.addEventListener('install', (event) => {
	event.waitUntil(
		caches
			.open(SHELL)
			.then((cache) => cache.addAll(['/', BEGIN, ...build, ...files]))
			.then(() => worker.skipWaiting())
	);
});

worker.addEventListener('activate', (event) => {
	event.waitUntil(tidy().then(() => worker.clients.claim()));
});

async function tidy(): Promise<void> {
	for (const name of await caches.keys())
		if (name.startsWith('mainspring-') && name !== SHELL && name !== ANSWERS) await caches.delete(name);
	const wanted = new Set(['/', BEGIN, ...build, ...files]);
	const cache = await caches.open(SHELL);
	for (const request of await cache.keys())
		if (!wanted.has(new URL(request.url).pathname)) await cache.delete(request);
}

worker.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (request.method !== 'GET' || url.origin !== worker.location.origin) return;
	if (url.pathname.startsWith('/_app/immutable/')) event.respondWith(keptFirst(request));
	else if (request.mode === 'navigate' && !url.pathname.startsWith('/api/'))
		event.respondWith(freshFirst(request, SHELL, '/'));
	else if (KEPT.test(url.pathname)) event.respondWith(freshFirst(request, ANSWERS, url.pathname));
	else if (url.pathname === BEGIN || files.includes(url.pathname))
		event.respondWith(freshFirst(request, SHELL, url.pathname));
});

/** A file whose name changes with its content. */
async function keptFirst(request: Request): Promise<Response> {
	const kept = await caches.match(request);
	return kept ?? fetch(request);
}

/** Keep an answer once all of it is here: one that breaks off would take what was kept before with it. */
async function keepWhole(cache: Cache, key: string, answer: Response): Promise<void> {
	const body = await answer.arrayBuffer().catch(() => undefined);
	if (!body) return;
	const headers = new Headers(answer.headers);
	headers.delete('content-encoding'); // the body is plain by now
	headers.delete('content-length');
	await keepLatest(cache, key, new Response(body, { status: answer.status, headers }));
}

/** The server's answer, or what was kept of it where the server does not answer in time. */
async function freshFirst(request: Request, name: string, key: string): Promise<Response> {
	const cache = await caches.open(name);
	const fresh = fetch(request).then((answer) => {
		if (answer.ok) void keepWhole(cache, key, answer.clone());
		return answer;
	});
	const late = new Promise<undefined>((done) => setTimeout(() => done(undefined), PATIENCE));
	const answer = await Promise.race([fresh, late]).catch(() => undefined);
	if (answer && answer.status < 500) return answer;
	return (await cache.match(key)) ?? answer ?? fresh;
}
