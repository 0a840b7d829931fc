import "fake-indexeddb/auto";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Autosave, retryAfter, typingPause } from "./autosave";
import { storedFor, waitingAt } from "./waiting";

const settled = () => vi.advanceTimersByTimeAsync(0);

beforeEach(() => void vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "Date"] }));
afterEach(() => void vi.useRealTimers());

/** A saver whose requests are answered by the test. */
function desk() {
	const requests: { value: string; answer: (e?: unknown) => Promise<void> }[] = [];
	const stored: (string | null)[] = [];
	const waiting = {
		find: async () => stored.at(-1) ?? undefined,
		save: async (v: string) => void stored.push(v),
		drop: async () => void stored.push(null),
	};
	const saver = new Autosave<string, string>({
		send: (value) =>
			new Promise((done, fail) => {
				requests.push({
					value,
					answer: async (e) => {
						if (e) fail(e);
						else done(`got ${value}`);
						await settled();
					},
				});
			}),
		canRetry: (e) => e === "gone",
		waiting,
	});
	return { saver, requests, stored };
}

test("what is typed is sent once, after a pause, and stored until the server has it", async () => {
	const { saver, requests, stored } = desk();
	for (const text of ["o", "oi", "oil"]) saver.put(text);
	expect(saver.view().state).toBe("waiting");
	await vi.advanceTimersByTimeAsync(typingPause - 1);
	expect(requests).toHaveLength(0);
	await vi.advanceTimersByTimeAsync(1);
	expect(requests.map((r) => r.value)).toEqual(["oil"]);
	expect(saver.view().state).toBe("saving");
	expect(stored.at(-1)).toBe("oil");
	await requests[0]!.answer();
	expect(saver.view()).toEqual({ state: "saved", fault: null });
	expect(stored.at(-1)).toBeNull();
});

test("one request at a time; what changes meanwhile goes with the next", async () => {
	const { saver, requests, stored } = desk();
	saver.put("one", 0);
	saver.put("two", 0);
	saver.put("three", 0);
	expect(requests).toHaveLength(1);
	await requests[0]!.answer();
	expect(requests.map((r) => r.value)).toEqual(["one", "three"]);
	expect(stored.at(-1), "the newer one is still stored").toBe("three");
	await requests[1]!.answer();
	expect(saver.view().state).toBe("saved");
});

test("without a network it tries again; what is typed meanwhile replaces what failed", async () => {
	const { saver, requests } = desk();
	saver.put("one", 0);
	await requests[0]!.answer("gone");
	expect(saver.view()).toEqual({ state: "not saved", fault: "gone" });
	await vi.advanceTimersByTimeAsync(retryAfter);
	expect(requests.map((r) => r.value)).toEqual(["one", "one"]);
	saver.put("two", 0);
	await requests[1]!.answer("gone");
	await vi.advanceTimersByTimeAsync(retryAfter);
	expect(requests[2]!.value).toBe("two");
	await requests[2]!.answer();
	expect(saver.view().state).toBe("saved");
});

test("a refusal is told and not sent again until something changes", async () => {
	const { saver, requests } = desk();
	saver.put("one", 0);
	await requests[0]!.answer("refused");
	await vi.advanceTimersByTimeAsync(10 * retryAfter);
	expect(requests).toHaveLength(1);
	expect(saver.view()).toEqual({ state: "not saved", fault: "refused" });
	saver.put("two", 0);
	await requests[1]!.answer();
	expect(saver.view()).toEqual({ state: "saved", fault: null });
});

test("while stopped nothing is sent, and flush waits for all that is under way", async () => {
	const { saver, requests } = desk();
	saver.stop();
	saver.put("one", 0);
	await saver.flush();
	expect(requests).toHaveLength(0);
	saver.resume();
	const flushed = saver.flush();
	saver.put("two");
	saver.hurry();
	await requests[0]!.answer();
	await requests[1]!.answer();
	await flushed;
	expect(requests.map((r) => r.value)).toEqual(["one", "two"]);
	saver.put("three");
	saver.forget();
	await vi.advanceTimersByTimeAsync(typingPause);
	expect(requests).toHaveLength(2);
	expect(saver.view().state).toBe("saved");
});

test("a reload brings back what was not sent, from the browser's own store", async () => {
	vi.useRealTimers();
	const sent: string[] = [];
	const saver = (fails: boolean) =>
		new Autosave<{ note: string }>({
			send: async (v) => {
				if (fails) throw "refused";
				sent.push(v.note);
			},
			canRetry: () => false,
			waiting: waitingAt("record of a treatment"),
		});
	const before = saver(true);
	before.put({ note: "left jaw tender" }, 0);
	await before.flush();
	await new Promise((done) => setTimeout(done, 20));
	const after = saver(false);
	expect(await after.restore()).toEqual({ note: "left jaw tender" });
	await after.flush();
	expect(sent).toEqual(["left jaw tender"]);
	await new Promise((done) => setTimeout(done, 20));
	expect(await waitingAt("record of a treatment").find()).toBeUndefined();
});

test("what waits longer than a link is valid is dropped at the next opening", async () => {
	vi.useRealTimers();
	await waitingAt("old").save("answers");
	expect(await waitingAt("old").find()).toBe("answers");
	const { openDB } = await import("idb");
	const db = await openDB("softpalm", 1);
	await db.put("waiting", { value: "answers", since: Date.now() - storedFor - 1 }, "old");
	db.close();
	vi.resetModules();
	const again = await import("./waiting");
	expect(await again.waitingAt("old").find()).toBeUndefined();
});
