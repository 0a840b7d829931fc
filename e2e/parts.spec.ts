import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { Engine, type Evaluation, type Protocol, type Save, type Step, typingPause } from "../ui/src/protocols/workbench/engine";
import { asNew, insertAfter, leaveRound, makeRound, moveSteps, removeSteps, withPressure } from "../ui/src/protocols/workbench/ops";
import { along, closedCurve, landmark, openCurve, outlines, ribbon, seen, seenOn, within, type XY, type Zone } from "../ui/src/face/geometry";
import { clock, dayAfter, dayWords, inZone, length, money, newId } from "../ui/src/kit/format";

// What the screens work out by themselves: how things are written, where a picture
// is drawn, and how the steps of a draft are moved about. No browser is needed.

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

const cheek = {
	key: "cheekbone",
	name: "cheekbone",
	midline: false,
	paired: true,
	centre: { x: 5, y: 9, z: -2 },
	outline: [
		[4, 10],
		[6, 10],
		[5, 8],
	],
	profile: [
		[-3, 10],
		[-1, 10],
		[-2, 8],
	],
} as unknown as Zone;
const chin = { ...cheek, key: "chin", midline: true, paired: false, centre: { x: 0, y: 1, z: 1 } } as Zone;

test("left is the client's left, on the right of a picture from the front, and turned in one from behind", () => {
	expect(landmark(cheek, "left")).toEqual([5, -9]);
	expect(landmark(cheek, "right")).toEqual([-5, -9]);
	expect(landmark(cheek, "left", "back")).toEqual([-5, -9]);
	expect(landmark(cheek, "left", "left")).toEqual([2, -9]);
	expect(landmark(cheek, "right", "right")).toEqual([-2, -9]);
	expect(landmark(chin, "left")[0]).toBe(0);
	expect(seen(cheek, "front") && seen(cheek, "left")).toBe(true);
	expect(seen(cheek, "mouth")).toBe(false);
	expect(seenOn(cheek, "right", "left")).toBe(false);
	expect(seenOn(cheek, "left", "left")).toBe(true);
	expect(outlines(cheek).map((o) => o.side)).toEqual(["left", "right"]);
	expect(outlines(cheek, "left").map((o) => o.side)).toEqual(["left"]);
	expect(outlines(chin).map((o) => o.side)).toEqual(["mid"]);
	expect(outlines(cheek, "mouth")).toEqual([]);
});

test("curves go through their stops, ribbons are closed, and the way along them is even", () => {
	const stops: XY[] = [
		[0, 0],
		[4, 2],
		[6, 8],
	];
	const curve = openCurve(stops, 10);
	expect(curve).toHaveLength(21);
	for (const [i, s] of stops.entries()) expect(curve[i * 10]!.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([...s]);
	expect(openCurve([[1, 1]])).toEqual([[1, 1]]);
	expect(along(curve, 0)).toEqual([0, 0]);
	expect(along(curve, 1)).toEqual([6, 8]);
	expect(along(curve, 2)).toEqual([6, 8]); // never past the end
	expect(along(curve, 0.5)[0]).toBeCloseTo(4, 6);
	expect(along([[3, 3]], 0.7)).toEqual([3, 3]);
	const d = ribbon(curve, [0.2, 0.5]);
	expect(d).toMatch(/^M[-\d. ]+(L[-\d. ]+)+Z$/);
	expect(d).toContain("6.00 8.00"); // the tip
	expect(ribbon([[0, 0]], [1])).toBe("");
	expect(closedCurve(stops)).toMatch(/^M0\.00 0\.00(C[-\d. ]+){3}Z$/);
	expect(closedCurve(stops.slice(0, 2))).toBe("");
});

test("the hand is where the parts of a repetition put it", () => {
	// Vibrate 3 s along, pump 3 x 1 s, slide back 2 s: 8 s in all (handbook, doses).
	const parts = [
		{ kind: "move", seconds: 3 },
		{ kind: "pulse", seconds: 1, count: 3 },
		{ kind: "back", seconds: 2 },
	] as Parameters<typeof within>[0];
	for (const [at, part] of [
		[0, 0],
		[1.5, 0.5],
		[3, 1],
		[4.5, 1],
		[6, 1],
		[7, 0.5],
		[8, 0], // and again from the beginning
		[9.5, 0.5],
	] as const)
		expect(within(parts, at).part, `${at} s`).toBeCloseTo(part, 6);
	expect(within(parts, 3.5).pulse).toBeGreaterThan(0.9);
	expect(within(parts, 1).pulse).toBe(0);
	expect(within([{ kind: "hold", seconds: 5 }] as never, 2)).toEqual({ part: 1, pulse: 1 });
	expect(within([], 1).part).toBeCloseTo(0.5, 6);
	const library = JSON.parse(readFileSync("../internal/craft/stroke/trade-strokes.json", "utf8"));
	const off: string[] = [];
	for (const s of library.strokes ?? library)
		for (let at = 0; at < 20; at += 0.37) {
			const { part, pulse } = within(s.parts ?? [], at);
			if (!(part >= -1e-9 && part <= 1 + 1e-9 && pulse >= 0 && pulse <= 1)) off.push(`${s.key} at ${at} s: ${part}, ${pulse}`);
		}
	expect(off).toEqual([]);
});

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
	const copies = asNew([step("a"), step("b", "work", { mirrorOf: "a", round: "r", section: "s" }), step("c", "work", { mirrorOf: "elsewhere" })]);
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

// The workbench's engine, with a server that answers when it is told to.

function bench() {
	const requests: { draft: Parameters<Save>[0]; answer: (fails?: unknown) => Promise<void> }[] = [];
	const start = { key: "p", name: "start", steps: [{ id: "a", stroke: "x", phase: "work" }] } as unknown as Protocol;
	const evaluated = (name: string) => ({ name }) as unknown as Evaluation;
	const engine = new Engine(
		{ protocol: start, evaluation: evaluated("start"), revision: 0, basedOn: 1, hasDraft: false },
		{
			save: (draft) =>
				new Promise((done, fail) => {
					requests.push({
						draft,
						answer: async (fails) => {
							if (fails) fail(fails);
							else done({ number: draft.revision + 1, evaluation: evaluated(draft.protocol.name) });
							await new Promise((r) => setTimeout(r));
						},
					});
				}),
			evaluate: async (p) => evaluated(p.name),
			staleDraft: (e) => (e as { stale?: never }).stale,
			canRetry: () => false,
		},
	);
	const named = (name: string) => ({ ...engine.view().protocol, name });
	return { engine, requests, named };
}

test("an edit is one request; edits made meanwhile go together in the next", async () => {
	const { engine, requests, named } = bench();
	engine.edit(named("one"));
	expect(requests).toHaveLength(1);
	engine.edit(named("two"));
	engine.edit(named("three"));
	expect(requests).toHaveLength(1);
	await requests[0]!.answer();
	expect(engine.view().evaluation, "an overtaken answer is not shown").toEqual({ name: "start" });
	expect(requests.map((r) => r.draft.protocol.name)).toEqual(["one", "three"]);
	expect(requests[1]!.draft.revision).toBe(1);
	await requests[1]!.answer();
	expect(engine.view()).toMatchObject({ draftState: "saved", evaluation: { name: "three" }, drafted: true });
	for (const want of ["two", "one", "start"]) {
		engine.undo();
		expect(engine.view().protocol.name).toBe(want);
	}
	expect(engine.view().canUndo).toBe(false);
	engine.redo();
	expect(engine.view().protocol.name).toBe("one");
	engine.edit(named("other"));
	expect(engine.view().canRedo).toBe(false);
});

test("what is typed into a field is one undo step and is sent when typing pauses", async () => {
	const { engine, requests, named } = bench();
	const [field, other] = [{}, {}];
	for (const text of ["o", "oi", "oil"]) engine.edit(named(text), field);
	expect(requests).toHaveLength(0);
	expect(engine.view()).toMatchObject({ draftState: "waiting", protocol: { name: "oil" } });
	await new Promise((r) => setTimeout(r, typingPause + 100));
	expect(requests.map((r) => r.draft.protocol.name)).toEqual(["oil"]);
	await requests[0]!.answer();
	engine.edit(named("oils"), field);
	engine.endTyping(); // the field is left: no need to wait
	expect(requests).toHaveLength(2);
	engine.edit(named("balm"), other);
	engine.undo();
	expect(engine.view().protocol.name).toBe("oils");
	engine.undo();
	expect(engine.view().protocol.name, "all that was typed in one go").toBe("start");
});

test("a draft changed in another window waits for a choice, and nothing is lost", async () => {
	for (const mine of [true, false]) {
		const { engine, requests, named } = bench();
		engine.edit(named("mine"));
		await requests[0]!.answer({ stale: { revision: 7, basedOn: 2, body: named("theirs") } });
		expect(engine.view()).toMatchObject({ draftState: "not saved", protocol: { name: "mine" }, stale: { revision: 7 } });
		engine.edit(named("mine too"));
		expect(requests, "nothing is sent before the choice").toHaveLength(1);
		engine.settle(mine);
		await new Promise((r) => setTimeout(r));
		if (mine) {
			expect(requests[1]!.draft).toMatchObject({ revision: 7, basedOn: 2, protocol: { name: "mine too" } });
		} else {
			expect(requests).toHaveLength(1);
			expect(engine.view()).toMatchObject({ draftState: "saved", protocol: { name: "theirs" }, evaluation: { name: "theirs" }, canUndo: false });
		}
	}
});

test("a refused save is told, and the next edit tries again", async () => {
	const { engine, requests, named } = bench();
	engine.edit(named("one"));
	const gone = new Error("refused");
	await requests[0]!.answer(gone);
	expect(engine.view()).toMatchObject({ draftState: "not saved", fault: gone, protocol: { name: "one" } });
	engine.edit(named("two"));
	await requests[1]!.answer();
	expect(engine.view()).toMatchObject({ draftState: "saved", fault: null });
});

test("a pressure is set for the whole step, by mouse and by key alike", () => {
	const p = { steps: [{ id: "a", path: [{ zone: "chin", pressure: 1 }, { zone: "jawline" }] }, { id: "b" }] } as unknown as Protocol;
	expect(withPressure(p, ["a", "b"], 3).steps).toEqual([{ id: "a", pressure: 3, path: [{ zone: "chin" }, { zone: "jawline" }] }, { id: "b", pressure: 3 }]);
});
