import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { pace } from "./pace";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** Drawn in no time. */
const atOnce = (then: () => void) => then();

test("the first value after a rest is passed on at once, the newest of the next ones when its time has come", () => {
	const seen: number[] = [];
	const p = pace(90, (n: number) => seen.push(n), atOnce);
	p.take(1);
	for (const n of [2, 3, 4]) {
		vi.advanceTimersByTime(20);
		p.take(n);
	}
	expect(seen).toEqual([1]);
	vi.advanceTimersByTime(29);
	expect(seen).toEqual([1]);
	vi.advanceTimersByTime(1);
	expect(seen).toEqual([1, 4]);
	vi.advanceTimersByTime(200);
	p.take(5);
	expect(seen).toEqual([1, 4, 5]);
});

test("values that come without rest are followed all the same", () => {
	const seen: number[] = [];
	const p = pace(90, (n: number) => seen.push(n), atOnce);
	for (let n = 1; n <= 60; n++) {
		p.take(n);
		vi.advanceTimersByTime(16);
	}
	expect(seen.length).toBeGreaterThan(8);
	expect(seen.length).toBeLessThan(13);
});

test("what was stopped passes nothing on until it is given something new", () => {
	const seen: number[] = [];
	const p = pace(90, (n: number) => seen.push(n), atOnce);
	p.take(1);
	p.take(2);
	p.stop();
	vi.advanceTimersByTime(200);
	expect(seen).toEqual([1]);
	p.take(3);
	expect(seen).toEqual([1, 3]);
});

test("what takes long to draw is drawn for a quarter of the time at most", () => {
	const seen: number[] = [];
	const p = pace(
		90,
		(n: number) => seen.push(n),
		(then) => void setTimeout(then, 100),
	);
	for (let n = 1; n <= 125; n++) {
		p.take(n);
		vi.advanceTimersByTime(16);
	}
	expect(seen.length).toBeGreaterThan(3);
	expect(seen.length).toBeLessThan(8); // two seconds, each 100 of 400 ms
});
