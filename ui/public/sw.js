// Keeps what a treatment needs in the browser, so that the room guide goes on without a network and across a reload.
// Screens come from the network where there is one; what the room was told is kept until somebody signs out, and no
// longer than a day.
const shell = "softpalm-shell";
const room = "softpalm-room";
const keptFor = 24 * 3_600_000;

const inRoom = /^\/visits\/[^/]+\/room$/;
const ofRoom = [/^\/api\/session$/, /^\/api\/library$/, /^\/api\/visits\/[^/]+\/(room|refits)$/];

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (e) => e.waitUntil(self.clients.claim()));
self.addEventListener("message", (e) => {
	if (e.data === "forget") e.waitUntil(caches.delete(room));
	if (Array.isArray(e.data?.keep)) e.waitUntil(Promise.allSettled(e.data.keep.map(fetched)));
});

/** Keeps what a room loaded before this worker looked after it. */
async function fetched(path) {
	if (/^\/(assets|tones)\//.test(path)) {
		const cache = await caches.open(shell);
		return (await cache.match(path)) ?? cache.add(path);
	}
	const answer = await fetch(path, { credentials: "same-origin" });
	if (!answer.ok) return undefined;
	return path.startsWith("/api/") ? keep(path, answer) : (await caches.open(shell)).put("/room", answer);
}

self.addEventListener("fetch", (e) => {
	const url = new URL(e.request.url);
	if (url.origin !== self.location.origin) return;
	if (e.request.mode === "navigate" && inRoom.test(url.pathname)) e.respondWith(page(e.request));
	else if (e.request.method === "GET" && /^\/(assets|tones)\//.test(url.pathname)) e.respondWith(asset(e));
	else if (e.request.method === "GET" && ofRoom.some((p) => p.test(url.pathname))) e.respondWith(told(e, e.request));
	else if (e.request.method === "POST" && url.pathname === "/api/drawings") e.respondWith(drawn(e));
});

/** The page of the room: from the network, else as it was last. */
async function page(request) {
	try {
		const answer = await fetch(request);
		if (answer.ok) await (await caches.open(shell)).put("/room", answer.clone());
		return answer;
	} catch (gone) {
		const was = await caches.match("/room", { cacheName: shell });
		if (was) return was;
		throw gone;
	}
}

/** Scripts, styles and fonts have the sum of their contents in their names: what was fetched once stays. Only a room's are kept. */
async function asset(e) {
	const was = await caches.match(e.request, { cacheName: shell });
	if (was) return was;
	const answer = await fetch(e.request);
	if (answer.ok && (await forRoom(e))) await (await caches.open(shell)).put(e.request, answer.clone());
	return answer;
}

/** What the server tells the room: from the network, else as it was told last. */
async function told(e, key, request = e.request) {
	try {
		const answer = await fetch(request);
		if (answer.ok && (await forRoom(e))) await keep(key, answer.clone());
		return answer;
	} catch (gone) {
		const was = await caches.match(key, { cacheName: room });
		if (was && Date.now() - Number(was.headers.get("x-kept-at")) < keptFor) return was;
		throw gone;
	}
}

/** Drawings are asked for with the steps they are of: the same steps have the same ones. */
async function drawn(e) {
	const asked = await e.request.clone().arrayBuffer();
	const sum = new Uint8Array(await crypto.subtle.digest("SHA-256", asked));
	return told(e, `/drawings/${[...sum].map((b) => b.toString(16).padStart(2, "0")).join("")}`);
}

async function keep(key, answer) {
	const headers = new Headers(answer.headers);
	headers.set("x-kept-at", String(Date.now()));
	const cache = await caches.open(room);
	await cache.put(key, new Response(await answer.blob(), { status: answer.status, headers }));
	for (const old of await cache.keys()) {
		const was = await cache.match(old);
		if (was && Date.now() - Number(was.headers.get("x-kept-at")) >= keptFor) await cache.delete(old);
	}
}

/** Whether a page of the room asks. */
async function forRoom(e) {
	const client = await self.clients.get(e.clientId);
	return client ? inRoom.test(new URL(client.url).pathname) : false;
}
