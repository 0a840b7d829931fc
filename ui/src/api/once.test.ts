import { afterEach, expect, test, vi } from "vitest";
import { api } from "./client";
import { sendOnce } from "./once";

sendOnce();

afterEach(() => vi.unstubAllGlobals());

// A request whose answer was lost keeps its key, so that the server carries it out once;
// the same request after an answer is a new one.
test("a request that was not answered is repeated under its key", async () => {
	const keys: (string | null)[] = [];
	const answers = [
		() => Promise.reject(new TypeError("no network")),
		() => Promise.resolve(new Response("{}", { status: 503 })),
		() => Promise.resolve(Response.json({})),
		() => Promise.resolve(Response.json({})),
	];
	vi.stubGlobal("fetch", (request: Request) => {
		keys.push(request.headers.get("Idempotency-Key"));
		return answers[keys.length - 1]?.() ?? Promise.reject(new Error("one request too many"));
	});
	vi.stubGlobal("location", { origin: "http://studio.test", href: "http://studio.test/" });
	const retire = (key: string) => api.POST("/api/own-rules/retirement", { baseUrl: "http://studio.test", body: { id: key } as never });
	await expect(retire("a")).rejects.toThrow("no network");
	await retire("a");
	await retire("a");
	await retire("a");
	expect(keys[0]).toMatch(/.{8,}/);
	expect(keys[1]).toBe(keys[0]);
	expect(keys[2]).toBe(keys[0]);
	expect(keys[3]).not.toBe(keys[0]);
});
