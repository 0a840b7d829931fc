import { describe, expect, it, test, vi } from "vitest";
import { breathAt, tapped } from "./breath";
import { halfOf } from "./halves";
import { busyWords } from "./Now";
import { meant, noPedal, taught } from "./pedal";
import { RoomLog } from "./roomLog";
import type { Spell } from "./spells";
import { cutsOff, localVoices } from "./voice";

test("four taps at in-breaths set the period to the middle of the three intervals, 5 to 15 s (handbook, chapter 7)", () => {
	let pace = tapped(undefined, 0, true);
	for (const at of [8, 15, 25]) pace = tapped(pace, at, true);
	expect(pace.period).toBe(8);
	expect(breathAt(pace, 29, 0, 10)).toBeCloseTo(5); // half of eight seconds is half of the planned breath
	let quick = tapped(undefined, 0, true);
	for (const at of [2, 4, 6]) quick = tapped(quick, at, true);
	expect(quick.period).toBe(5);
	expect(breathAt(tapped(undefined, 3, false), 5, 7, 10)).toBeCloseTo(2);
	expect(breathAt(undefined, 5, 7, 10)).toBe(7);
});

const spell = (index: number, id: string, seconds: number, mirrorOf?: string) =>
	({ index, key: `${id}/1`, seconds, step: { id, ...(mirrorOf ? { mirrorOf } : {}) } }) as unknown as Spell;

test("the second half is held against what the first really took, and marked from a tenth on", () => {
	const plan = [
		spell(0, "open", 20),
		spell(1, "a", 60),
		spell(2, "b", 40),
		spell(3, "a2", 60, "a"),
		spell(4, "b2", 40, "b"),
		spell(5, "close", 20),
	];
	expect(halfOf(plan, 0, 5, {})).toBeUndefined();
	expect(halfOf(plan, 1, 5, {})).toEqual({ half: 1, first: 100, differs: 0 });
	expect(halfOf(plan, 3, 5, { "a/1": 60, "b/1": 45 })).toEqual({ half: 2, first: 105, differs: 0 });
	expect(halfOf(plan, 4, 5, { "a/1": 80, "b/1": 60, "a2/1": 50 })).toEqual({ half: 2, first: 140, differs: -50 });
});

test("a pedal's key means what it was taught; each act has one key", () => {
	const pedal = taught(taught(noPedal, "F13", "next"), "F14", "next");
	expect(meant(pedal, "F14")).toBe("PageDown");
	expect(meant(pedal, "F13")).toBe("F13");
});

test("only voices of the device speak, and a heavier word cuts a lighter one off", () => {
	const voices = [
		{ localService: false, lang: "en-GB" },
		{ localService: true, lang: "de-DE" },
		{ localService: true, lang: "en-GB" },
	] as SpeechSynthesisVoice[];
	expect(localVoices(voices)).toEqual([voices[2]]);
	expect(cutsOff({ text: "a", weight: 4 }, { text: "b", weight: 3 })).toBe(false);
	expect(cutsOff({ text: "a", weight: 3 }, { text: "b", weight: 4 })).toBe(true);
});

test("what the server refuses is tried again seldom, what did not reach it soon", async () => {
	vi.useFakeTimers();
	let refused = true;
	let sent = 0;
	const log = new RoomLog(
		{
			device: "a",
			now: () => 1,
			newId: () => crypto.randomUUID(),
			waiting: { find: async () => undefined, save: async () => {}, drop: async () => {} } as never,
			send: async () => {
				sent++;
				throw new Error("no");
			},
			refused: () => refused,
		},
		{ seq: {}, n: 0, into: 0, spent: {}, stays: {}, ticks: {}, grades: {}, skipped: [], marks: [] } as never,
	);
	log.add("start");
	await vi.advanceTimersByTimeAsync(30_000);
	expect(sent).toBe(1);
	refused = false;
	await vi.advanceTimersByTimeAsync(40_000);
	expect(sent).toBeGreaterThan(3);
	vi.useRealTimers();
});

describe("a tool that is not ready (handbook, chapter 7, hygiene, gloves, tool)", () => {
	const found = { code: "tool-not-ready", steps: ["stone", "stone-again"], values: { tool: "Green stone", minutes: 7 } };
	it("is told with its minutes at the first step that wants it, and nowhere else", () => {
		const said = (id: string, findings: object[]) => busyWords({ findings } as never, { id, toolName: "Green stone" } as never);
		expect(said("stone", [found])).toBe("Green stone: ready in 7 min");
		expect(said("stone-again", [found])).toBe("");
		expect(said("stone", [{ ...found, code: "tool-again" }])).toBe("");
	});
});
