import { expect, test } from "vitest";
import type { Protocol, Step } from "./engine";
import { asNew, dropSteps, insertAfter, leaveRound, makeRound, moveSteps, removeSteps, withPressure } from "./ops";

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

test("steps are dropped where another stands, and take its phase", () => {
	const p = plan(step("a", "open"), step("b"), step("c"), step("d", "close"));
	expect(order(dropSteps(p, ["b"], "c"))).toBe("acbd");
	expect(order(dropSteps(p, ["c"], "b"))).toBe("acbd");
	expect(order(dropSteps(p, ["b", "c"], "a"))).toBe("bcad");
	expect(order(dropSteps(p, ["a", "c"], "d"))).toBe("bdac");
	expect(dropSteps(p, ["c"], "d").steps.at(-1)).toMatchObject({ id: "c", phase: "close" });
	expect(dropSteps(p, ["b"], "b")).toBe(p);
	expect(dropSteps(p, ["b"], "nobody")).toBe(p);
});

test("a step dropped into a round joins it, one taken out leaves it, a whole round stays one", () => {
	const p = {
		...plan(step("a"), step("b", "work", { round: "r" }), step("c", "work", { round: "r" }), step("d")),
		rounds: [{ id: "r", times: 3 }],
	};
	const rounds = (q: Protocol) => q.steps.map((s) => `${s.id}${s.round ? "r" : ""}`).join(" ");
	expect(rounds(dropSteps(p, ["a"], "b"))).toBe("br ar cr d");
	expect(rounds(dropSteps(p, ["c"], "b")), "only its place in the round").toBe("a cr br d");
	expect(rounds(dropSteps(p, ["c"], "a"))).toBe("c a br d");
	expect(rounds(dropSteps(p, ["b", "c"], "a"))).toBe("br cr a d");
	const alone = dropSteps({ ...p, steps: p.steps.filter((s) => s.id !== "c") }, ["b"], "d");
	expect(rounds(alone)).toBe("a d br");
	expect(alone.rounds).toHaveLength(1);
});
