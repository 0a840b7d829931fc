import type { Middleware } from "openapi-fetch";
import { newId } from "../kit/format";
import { api } from "./client";

// A request whose answer never came is sent again under the same key, so that it is
// carried out once; one that was answered is forgotten, and the next is a new one.
const unanswered = new Map<string, string>();

const withKey: Middleware = {
	async onRequest({ request }) {
		if (request.method !== "POST") return request;
		const what = `${request.url}\n${await request.clone().text()}`;
		const key = unanswered.get(what) ?? newId();
		unanswered.set(what, key);
		request.headers.set("Idempotency-Key", key);
		return request;
	},
	onResponse({ request, response }) {
		if (response.status < 500) forget(request);
	},
	onError({ request, error }) {
		if (error instanceof DOMException && error.name === "AbortError") forget(request);
	},
};

function forget(request: Request) {
	const key = request.headers.get("Idempotency-Key");
	for (const [what, k] of unanswered) if (k === key) unanswered.delete(what);
}

/** From now on every request that does something carries a key. The client's own pages do not need it: only those who sign in send keys. */
export function sendOnce() {
	api.use(withKey);
}
