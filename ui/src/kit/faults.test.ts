import { expect, test } from "vitest";
import { ProblemError } from "../api/client";
import { asDecimal, decimal, differences, inWords, placeFaults } from "./faults";

const refused = (...errors: { path: string; message: string }[]) =>
	new ProblemError({
		type: "about:blank",
		title: "",
		status: 422,
		code: "does-not-fit",
		detail: "no",
		errors: errors.map((e) => ({ code: "c", ...e })),
	});

test("what the server refuses is said at its field", () => {
	const values = { name: "", packSize: "0", outcomes: [{ kind: "cap" }, { kind: "wait", days: "" }] };
	const at = (path: string) => placeFaults(refused({ path, message: "m" }), values);
	expect(at("/packSize")).toEqual([{ field: "packSize", message: "m" }]);
	expect(at("/name")).toEqual([{ field: "name", message: "m" }]);
	expect(at("/outcomes/1/days")).toEqual([{ field: "outcomes.1.days", message: "m" }]);
	expect(at("/outcomes/0/zones/3"), "inside a field").toEqual([{ field: "outcomes.0", message: "m" }]);
	expect(at("/other")).toEqual([]);
	expect(at("")).toEqual([]);
	expect(placeFaults(new Error("x"), values)).toEqual([]);
});

test("numbers are typed with a point or a comma", () => {
	for (const typed of ["0", "12", "12.5", "12,5", "0.001", "250000"]) expect(decimal.test(typed), typed).toBe(true);
	for (const typed of ["", "-1", "1.2345", "1.", ".5", "1e3", "twelve"]) expect(decimal.test(typed), typed).toBe(false);
	expect(asDecimal(" 3,2 ")).toBe("3.2");
});

test("two texts differ where they are read differently", () => {
	const mine = { name: "Ada", phone: "1", skin: ["dry", "mature"], note: "" };
	const theirs = { name: "Ada", phone: "2", skin: ["mature", "dry"], note: "cold hands" };
	expect(differences(mine, theirs, ["name", "phone", "skin", "note"])).toEqual(["phone", "note"]);
	expect(inWords(["b", "a"])).toBe("a, b");
	expect(inWords(undefined)).toBe("");
});
