import { expect, test } from "vitest";
import type { Protocol, Step } from "./engine";
import { asNew, insertAfter, leaveRound, makeRound, moveSteps, removeSteps, withPressure } from "./ops";

const step = (id: string, phase = "work", more: Partial<Step> = {}) => ({ id, stroke: "cheek-scoop", phase, ...more }) as Step;
const plan = (...steps: Step[]) => ({ steps, rounds: [] }) as unknown as Protocol;
const order = (p: Protocol | null) => p?.steps.map((s) => s.id).join("");

test("steps are put in, taken out and moved, and change phase at its border", () => {
	const p = plan(step("a"), step("b"), step("c"), step("d", "close"));
	expect(order(insertAfter(p, "b", [step("x"), step("y")]))).toBe("abxycd");
	expect(order(insertAfter(p, undefined, [step("x")]))).toBe("abcdx");
	expect(order(removeSteps(p, ["a", "c"]))).toBe("bd");
	expect(order(moveSteps(p, ["b"], 1))).toBe("acbd");
	expect(order(moveSteps(p, ["b", "c"], -1))).toBe("bcad");
	expect(order(moveSteps(p, ["a"], -1))).toBe("abcd"); // already first
	const over = moveSteps(p, ["c"], 1); // over the border of the phase, in its place
	expect(order(over)).toBe("abcd");
	expect(over.steps[2]!.phase).toBe("close");
	expect(order(moveSteps(p, ["nobody"], 1))).toBe("abcd");
	expect(order(p)).toBe("abcd"); // what was there is as it was
});

test("copies are new steps whose mirrors follow them, out of rounds and sections", () => {
	const copies = asNew([
		step("a"),
		step("b", "work", { mirrorOf: "a", round: "r", section: "s" }),
		step("c", "work", { mirrorOf: "elsewhere" }),
	]);
	expect(new Set([...copies.map((s) => s.id), "a", "b", "c"]).size).toBe(6);
	expect(copies[1]!.mirrorOf).toBe(copies[0]!.id);
	expect(copies[2]!.mirrorOf).toBe("elsewhere");
	expect("round" in copies[1]!).toBe(false);
	expect("section" in copies[1]!).toBe(false);
});

test("a round is made of steps that stand together, and goes with its last step", () => {
	const p = plan(step("a"), step("b"), step("c"));
	expect(makeRound(p, ["a", "c"], 2)).toBeNull();
	const round = makeRound(p, ["a", "b"], 3)!;
	expect(round.rounds).toHaveLength(1);
	expect(round.rounds![0]!.times).toBe(3);
	expect(round.steps.map((s) => s.round === round.rounds![0]!.id)).toEqual([true, true, false]);
	const one = leaveRound(round, ["a"]);
	expect(one.rounds).toHaveLength(1);
	expect(leaveRound(one, ["b"]).rounds).toHaveLength(0);
	const again = makeRound(round, ["b", "c"], 2)!; // b changes over to the new one
	expect(again.rounds!.map((r) => r.times)).toEqual([3, 2]);
});

test("a pressure is set for the whole step, by mouse and by key alike", () => {
	const p = { steps: [{ id: "a", path: [{ zone: "chin", pressure: 1 }, { zone: "jawline" }] }, { id: "b" }] } as unknown as Protocol;
	expect(withPressure(p, ["a", "b"], 3).steps).toEqual([
		{ id: "a", pressure: 3, path: [{ zone: "chin" }, { zone: "jawline" }] },
		{ id: "b", pressure: 3 },
	]);
});
