import { describe, expect, it } from "vitest";
import { byWeight, readable, textOf, useOf } from "./uses";

const empty = { measure: "drops", count: "", before: "", after: "", pack: null, short: "", override: "", slid: "", minute: "" } as const;

describe("what is typed of a product", () => {
	it("went as planned while nothing is typed", () => {
		expect(useOf("oil", { ...empty })).toEqual({ product: "oil", how: "as planned" });
		expect(useOf("oil", { ...empty, measure: byWeight })).toEqual({ product: "oil", how: "as planned" });
	});
	it("is counted in its measure, with a comma or a point", () => {
		expect(useOf("oil", { ...empty, measure: "mL", count: "3,2" })).toEqual({
			product: "oil",
			how: "counted",
			measure: "mL",
			count: "3.2",
		});
	});
	it("is weighed by one weight or two", () => {
		expect(useOf("oil", { ...empty, measure: byWeight, before: "186.42" })).toEqual({ product: "oil", how: "weighed", before: "186.42" });
	});
	it("keeps the pack in the hand and how long it slid", () => {
		expect(useOf("oil", { ...empty, pack: "p", slid: "beyond", minute: "30" })).toEqual({
			product: "oil",
			how: "as planned",
			pack: "p",
			slid: { kind: "beyond", minute: "30" },
		});
		expect(useOf("oil", { ...empty, slid: "at" })).toEqual({ product: "oil", how: "as planned" });
	});
	it("comes back from a record as it was typed, in the measure last used", () => {
		const choices = {
			product: "oil",
			measures: [{ measure: "drops", planned: "96" }],
			weighing: true,
			lastHow: "weighed",
			packs: [],
			short: "0",
			slides: true,
		};
		const use = { product: "oil", planned: "3.2", real: "3.2", how: "as planned" as const };
		expect(textOf(use, choices).measure).toBe(byWeight);
		expect(textOf({ ...use, how: "counted", measure: "mL", count: "3.50" }, choices)).toMatchObject({ measure: "mL", count: "3.5" });
	});
	it("is no number while letters stand in it", () => {
		expect(readable({ ...empty, count: "3.2.1" })).toBe(false);
		expect(readable({ ...empty, count: " 3.2 " })).toBe(true);
	});
});
