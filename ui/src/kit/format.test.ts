import { expect, test } from "vitest";
import { clock, dayAfter, dayWords, inZone, length, money, newId } from "./format";

test("times, days and money as they are written", () => {
	for (const [seconds, want] of [
		[0, "0:00"],
		[59.4, "0:59"],
		[59.6, "1:00"],
		[125, "2:05"],
		[3600, "60:00"],
		[-5, "0:00"],
	] as const)
		expect(clock(seconds)).toBe(want);
	expect(length(89)).toBe("89 s");
	expect(length(90)).toBe("2 min");
	expect(length(45 * 60 + 20)).toBe("45 min");
	expect(dayWords("2026-11-24")).toBe("24 Nov 2026");
	expect(dayWords("")).toBe("");
	expect(dayAfter("2028-02-28", 1)).toBe("2028-02-29"); // a leap year
	expect(dayAfter("2027-02-28", 1)).toBe("2027-03-01");
	expect(dayAfter("2026-03-28", 1)).toBe("2026-03-29"); // a night of 23 hours
	expect(dayAfter("2027-01-01", -1)).toBe("2026-12-31");
	expect(money("1234.5", "EUR")).toBe("€1,234.50");
	expect(money("0", "GBP")).toBe("£0.00");
});

test("a moment is told in the studio's time, wherever the screen stands", () => {
	const lisbon = inZone("Europe/Lisbon");
	expect(lisbon.time("2026-11-24T09:05:00Z")).toBe("09:05");
	expect(lisbon.time("2026-07-24T09:05:00Z")).toBe("10:05"); // summer time
	expect(lisbon.day("2026-07-24T23:30:00Z")).toBe("2026-07-25"); // past midnight there
	const line = inZone("Pacific/Kiritimati"); // fourteen hours ahead
	expect(line.day("2026-11-24T10:00:00Z")).toBe("2026-11-25");
	expect(line.date("2026-11-24T10:00:00Z")).toMatch(/^Wed,? 25 Nov$/);
	expect(lisbon.time("2026-10-25T00:30:00Z")).toBe("01:30"); // before the clocks go back
	expect(lisbon.time("2026-10-25T01:30:00Z")).toBe("01:30"); // and after
});

test("new ids are UUIDs of version 7 and order by time (RFC 9562)", async () => {
	const ids: string[] = [];
	for (let i = 0; i < 5; i++) {
		ids.push(newId());
		await new Promise((done) => setTimeout(done, 3));
	}
	for (const id of ids) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
	expect([...ids].sort()).toEqual(ids);
	expect(new Set(ids).size).toBe(5);
	const ms = Number.parseInt(ids[0]!.slice(0, 8) + ids[0]!.slice(9, 13), 16);
	expect(Math.abs(Date.now() - ms)).toBeLessThan(5000);
});
