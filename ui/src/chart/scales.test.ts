import { expect, test } from "vitest";
import { bodyDown, daysAcross, linear, momentTicks, monthTicks, secondsAcross } from "./scales";

test("time runs across and back", () => {
	const x = secondsAcross(60, 120, 92, 692);
	expect([x(60), x(90), x(120)]).toEqual([92, 392, 692]);
	expect(x.invert(392)).toBe(90);
});

test("what has no length lies in the middle", () => {
	expect(linear([3, 3], [0, 100])(3)).toBe(50);
	expect(linear([0, 10], [7, 7]).invert(7)).toBe(5);
	expect(linear([-2, 2], [100, 0])(3)).toBe(-25);
});

test("the body runs down, and what lies beyond is drawn at the end", () => {
	const y = bodyDown(19.5, -17, 4, 104);
	expect(y(19.5)).toBe(4);
	expect(y(-17)).toBe(104);
	expect(y(40)).toBe(4);
	expect(y(1.25)).toBeCloseTo(54);
});

test("moments are round and far enough apart to be read", () => {
	for (const [from, to, pixels] of [
		[0, 45 * 60, 900],
		[0, 45 * 60, 500],
		[0, 60, 900],
		[130, 170, 600],
		[0, 2 * 3600, 700],
	] as const) {
		const ticks = momentTicks(from, to, pixels, 46);
		expect(ticks.length).toBeGreaterThan(1);
		const step = ticks[1]! - ticks[0]!;
		expect([1, 5, 15, 30, 60, 300, 900, 1800, 3600]).toContain(step);
		expect((step / (to - from)) * pixels).toBeGreaterThanOrEqual(46);
		for (const t of ticks) expect(t % step).toBe(0);
	}
	expect(momentTicks(0, 60, 20, 46).length).toBeLessThanOrEqual(2);
});

test("months are their first days, over a leap year too", () => {
	const at = (day: string) => Date.parse(`${day}T00:00:00Z`);
	expect(monthTicks(at("2027-12-20"), at("2028-04-03"), 8).map((t) => new Date(t).toISOString().slice(0, 10))).toEqual([
		"2028-01-01",
		"2028-02-01",
		"2028-03-01",
		"2028-04-01",
	]);
	expect(monthTicks(at("2024-01-01"), at("2028-01-01"), 8).length).toBeLessThanOrEqual(9);
	const x = daysAcross("2026-11-01", "2026-11-11");
	expect(x(at("2026-11-06"))).toBe(50);
});
