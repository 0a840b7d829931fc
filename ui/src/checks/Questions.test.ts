import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { complete, togglePlace } from "./Questions";

type Rule = Parameters<typeof complete>[0];
const pack = JSON.parse(readFileSync("../internal/craft/contraindication/trade-pack.json", "utf8")) as { rules: Rule[] };

test("an answer is complete with what its rule asks", () => {
	const rule = (asks: Rule["asks"], more: Partial<Rule> = {}) => ({ ...pack.rules[0]!, asks, ...more }) as Rule;
	expect(complete(rule("yes-no"), undefined)).toBe(false);
	expect(complete(rule("date"), { yes: false })).toBe(true);
	expect(complete(rule("zones"), { yes: false, unsure: true })).toBe(true); // for the client; the practitioner asks
	expect(complete(rule("date"), { yes: true })).toBe(false);
	expect(complete(rule("date"), { yes: true, still: true })).toBe(false); // a peel cannot go on
	expect(complete(rule("date", { mayLast: true }), { yes: true, still: true })).toBe(true);
	expect(complete(rule("date-and-zones"), { yes: true, day: "2026-11-01" })).toBe(false);
	const marked = togglePlace({ yes: true, day: "2026-11-01" }, { zone: "chin", side: "both" });
	expect(complete(rule("date-and-zones"), marked)).toBe(true);
	expect(togglePlace(marked, { zone: "chin", side: "both" }).zones).toEqual([]);
});
