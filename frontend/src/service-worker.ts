/// <reference types="@sveltejs/kit" />
/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />
import { build, files, version } from '$service-worker';

/** Opens the page without a line: the built files are kept, answers that do not change are kept as they come. */
const self = globalThis.self as unknown as ServiceWorkerGlobalScope;
const SHELL = `cinder-${version}`;
const DATA = 'cinder-data';
const ASSETS = new Set([...build, ...files]);

self.addEventListener('install', (event) => {
	event.waitUntil(
		caches
			.open(SHELL)
			.then((cache) => cache.addAll(['/', ...ASSETS]))
			.then(() => self.skipWaiting())
	);
});

self.addEventListener('activate', (event) => {
	const old = caches
		.keys()
		.then((keys) => Promise.all(keys.filter((key) => key !== SHELL && key !== DATA).map((key) => caches.delete(key))));
	event.waitUntil(old.then(() => self.clients.claim()));
});

async function freshOrKept(request: Request, name: string, key: string | Request = request): Promise<Response> {
	const cache = await caches.open(name);
	try {
		const answer = await fetch(request);
		if (answer.ok) await cache.put(key, answer.clone());
		return answer;
	} catch (error) {
		const kept = await cache.match(key);
		if (kept) return kept;
		throw error;
	}
}

async function keptOrFresh(request: Request, name: string): Promise<Response> {
	const cache = await caches.open(name);
	const kept = await cache.match(request);
	if (kept) return kept;
	const answer = await fetch(request);
	if (answer.ok) await cache.put(request, answer.clone());
	return answer;
}

self.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (request.method !== 'GET' || url.origin !== location.origin) return;
	if (request.mode === 'navigate') {
		if (url.pathname.startsWith('/api/') || url.pathname.startsWith('/pair/') || url.pathname === '/certificate')
			return;
		event.respondWith(freshOrKept(request, SHELL, '/'));
	} else if (ASSETS.has(url.pathname)) event.respondWith(keptOrFresh(request, SHELL));
	else if (url.pathname.startsWith('/api/photos/')) event.respondWith(keptOrFresh(request, DATA));
	else if (url.pathname === '/api/library' || url.pathname === '/api/jobs')
		event.respondWith(freshOrKept(request, DATA));
});
