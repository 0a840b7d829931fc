import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { Cues } from "./cues";
import { elapsed, hereOf, taken } from "./here";
import { contrast, letterMm, luminance, mmByCard, mmPerPixel, sizes } from "./letters";
import { offerAt, offers, refitted } from "./refit";
import { RoomClock } from "./roomClock";
import { type Kept, RoomLog, uuid7 } from "./roomLog";
import { beat, beyondEyes, countdown, counted, endsByNext, roundOf, type Spell, underHand } from "./spells";
import { callsAfter, toneOf } from "./useTones";

const tablet = { width: 1024, height: 768, inches: 10.1, metres: 2 };
const laptop = { width: 1280, height: 800, inches: 13.3, metres: 2 };

describe("letters (handbook, chapter 7)", () => {
	it("are as high as the chapter's arithmetic says", () => {
		expect(letterMm(20, 2000)).toBeCloseTo(11.64, 2);
		expect(letterMm(16, 2000)).toBeCloseTo(9.31, 2);
		expect(letterMm(16, 700)).toBeCloseTo(3.26, 2);
		expect(mmPerPixel(tablet)).toBeCloseTo(0.2004, 4);
		expect(mmPerPixel(laptop)).toBeCloseTo(0.2238, 4);
		expect(mmByCard(428)).toBeCloseTo(0.2, 4);
		expect(sizes(tablet)).toMatchObject({ glance: 83, read: 67, arm: 24, target: 100 });
		expect(sizes(laptop)).toMatchObject({ glance: 75, read: 60, target: 90 });
	});
	it("have the contrast that the chapter measures", () => {
		expect(contrast("#f2b35c", "#17100f")).toBeCloseTo(10.18, 2);
		expect(contrast("#c79a5f", "#17100f")).toBeCloseTo(7.35, 2);
		expect(luminance("#ffffff")).toBeCloseTo(1, 6);
	});
});

describe("counting", () => {
	it("begins with one and says the next at its beginning", () => {
		expect(counted(0, 3, 9)).toEqual({ n: 1, over: 0 });
		expect(counted(3, 3, 9)).toEqual({ n: 2, over: 0 });
		expect(counted(26.9, 3, 9)).toEqual({ n: 9, over: 0 });
		expect(counted(27, 3, 9)).toEqual({ n: 9, over: 1 });
		expect(counted(31, 3, 9)).toEqual({ n: 9, over: 2 });
	});
	it("rounds seconds up, with minutes from sixty on", () => {
		expect([countdown(0.2), countdown(59.2), countdown(60), countdown(61.5)]).toEqual(["1", "1:00", "1:00", "1:02"]);
	});
	it("finds the zone under the hand by the part of the way", () => {
		const step = { path: [{ zone: "chin" }, { zone: "jawline" }, { zone: "jaw-angle" }] } as never;
		expect(underHand(step, "left", 0)).toEqual({ zone: "chin", side: "left" });
		expect(underHand(step, "left", 0.5)).toEqual({ zone: "jawline", side: "left" });
		expect(underHand(step, "both", 1)).toEqual({ zone: "jaw-angle", side: "both" });
	});
});

describe("staying", () => {
	it("ends where all that stayed has used up an eye's limit", () => {
		const clock = (key: string) => ({ key, step: { dose: { kind: "clock" } }, visit: {} }) as never as Spell;
		const reps = { key: "rim/1", step: { dose: { kind: "reps" } }, visit: { repSeconds: 4 } } as never as Spell;
		const spells = [clock("under/1"), clock("long/1"), clock("cheek/1"), reps];
		const room = {
			left: { "under-eye/left": 30, "orbital-rim/left": 8 },
			takes: { "under/1": { "under-eye/left": 1 }, "long/1": { "under-eye/left": 0.5 }, "rim/1": { "orbital-rim/left": 1 } },
		};
		const beyond = (stays: Record<string, number>, at: number) => beyondEyes(room, spells, stays, spells[at]!);
		expect(beyond({ "under/1": 30 }, 0)).toBe(false);
		expect(beyond({ "under/1": 45 }, 0)).toBe(true);
		expect(beyond({ "under/1": 15, "long/1": 30 }, 1)).toBe(false);
		expect(beyond({ "under/1": 30, "long/1": 15 }, 1)).toBe(true);
		expect(beyond({ "under/1": 30, "cheek/1": 600 }, 2)).toBe(false);
		expect([beyond({ "rim/1": 2 }, 3), beyond({ "rim/1": 3 }, 3)]).toEqual([false, true]);
	});
});

describe("the room's clock", () => {
	it("follows the quickest answer and leaves out slow ones", () => {
		let own = 0;
		let wall = 0;
		const c = new RoomClock(
			() => own,
			() => wall,
		);
		c.hear(0, 400, 10_200);
		expect(c.offset()).toBe(10_000);
		c.hear(1000, 1100, 11_060);
		expect(c.offset()).toBe(10_010);
		c.hear(2000, 5000, 99_999);
		expect(c.offset()).toBe(10_010);
		own = 3000;
		wall = 3000;
		expect(c.jumped()).toBe(0);
		wall = 63_000;
		expect(c.jumped()).toBe(60);
		expect(c.jumped()).toBe(0);
		expect(c.now()).toBe(13_010);
	});
});

const nothing = {
	leader: "",
	spell: null,
	running: false,
	finished: false,
	stopped: false,
	skipped: [],
	stays: {},
	less: 0,
	refit: null,
	marks: [],
	ticks: {},
	grades: {},
	real: {},
	estimated: [],
	pausedSpells: [],
	aside: [],
	duplicates: 0,
	missing: {},
	faults: [],
	counted: 0,
	into: 0,
	n: 0,
	seq: {},
	quiet: false,
};

describe("the room's log", () => {
	it("counts at once, waits without a network, survives a reload and is sent once", async () => {
		let stored: Kept | undefined;
		const waiting = {
			find: async () => stored,
			save: async (k: Kept) => {
				stored = structuredClone(k);
			},
			drop: async () => {
				stored = undefined;
			},
		};
		const server: { id: string; seq: number }[] = [];
		let network = false;
		let t = 1000;
		const send = async (events: { id: string; seq: number }[]) => {
			if (!network) throw new Error("no network");
			for (const e of events) if (!server.some((s) => s.id === e.id)) server.push(e);
			return { now: "", standing: { ...nothing, leader: "A", n: server.length, seq: { A: server.length } } } as never;
		};
		const open = () =>
			new RoomLog({ device: "A", now: () => t, send: send as never, waiting: waiting as never, newId: () => uuid7(t) }, nothing as never);
		let log = open();
		log.add("start");
		log.add("begin", { spell: "one/1", by: "tap" });
		t = 5000;
		log.add("tender", { zone: "temple", side: "left" });
		await Promise.resolve();
		expect(log.view()).toMatchObject({ unsent: 3, here: { spell: "one/1", leader: "A" } });
		expect(elapsed(log.view().here, 6000)).toBe(5);
		log.close();
		log = open(); // a reload, still without a network
		await log.restore();
		expect(log.view()).toMatchObject({ unsent: 3, here: { spell: "one/1", n: 3 } });
		log.add("pause");
		network = true;
		await new Promise((r) => setTimeout(r, 5));
		await log.send();
		expect(server.map((e) => e.seq)).toEqual([1, 2, 3, 4]);
		expect(log.view().unsent).toBe(0);
		expect(stored).toBeUndefined();
		log.close();
	});
	it("goes through a spell as the server does", () => {
		const e = (kind: string, at: number, more = {}) => ({ id: "x", device: "A", seq: 1, n: 1, at, kind, ...more }) as never;
		let h = hereOf(nothing as never);
		for (const x of [
			e("start", 0),
			e("begin", 0, { spell: "a/1" }),
			e("pause", 9000),
			e("resume", 60_000),
			e("stop", 62_000),
			e("go-on", 90_000),
		])
			h = taken(h, x);
		expect(elapsed(h, 94_000)).toBe(15);
		h = taken(h, e("begin", 95_000, { spell: "b/1" }));
		expect(elapsed(h, 96_000)).toBe(1);
		expect(taken(h, e("finish", 99_000)).finished).toBe(true);
	});
	it("makes ids that sort by time", () => {
		expect(uuid7(1_700_000_000_000) < uuid7(1_700_000_000_001)).toBe(true);
		expect(uuid7(1)).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
	});
});

describe("tones", () => {
	const still = { spell: "a/1", side: "left", count: 2, last: false, waiting: false, calls: 0, running: true, stopped: false };
	it("follow the weightiest change", () => {
		expect(toneOf(still, { ...still, count: 3 })).toBe("tick");
		expect(toneOf(still, { ...still, count: 3, last: true })).toBe("last");
		expect(toneOf(still, { ...still, side: "right", count: 1 })).toBe("side");
		expect(toneOf(still, { ...still, spell: "b/1", side: "right", count: 1 })).toBe("next");
		expect(toneOf(still, { ...still, waiting: true })).toBe("waiting");
		expect(toneOf(still, { ...still, calls: 1 })).toBe("waiting");
		expect(toneOf({ ...still, calls: 2 }, { ...still, spell: "b/1" })).toBe("next");
		expect(toneOf(still, { ...still, running: false, count: 3 })).toBeUndefined();
		expect(toneOf(still, { ...still, running: false, stopped: true })).toBe("stop");
	});
});

describe("a round", () => {
	it("says which time, and which step of it", () => {
		const spell = (id: string, pass: number) => ({ key: `${id}/${pass}`, step: { id }, visit: { pass } }) as never as Spell;
		const spells = [spell("a", 1), spell("b", 1), spell("c", 1), spell("b", 2), spell("c", 2), spell("d", 1), spell("d", 2)];
		expect(roundOf(spells, 0)).toBeUndefined();
		expect(roundOf(spells, 1)).toEqual({ n: 1, of: 2, step: 1, steps: 2 });
		expect(roundOf(spells, 4)).toEqual({ n: 2, of: 2, step: 2, steps: 2 });
		expect(roundOf(spells, 6)).toEqual({ n: 2, of: 2, step: 1, steps: 1 });
	});
});

describe("what only Next ends (handbook, chapter 7)", () => {
	const step = (more: object) => ({ phase: "work", family: "effleurage", path: [{ zone: "chin" }], ...more }) as never;
	it("is putting on, washing, looking and waking, and never a stroke", () => {
		expect(endsByNext(step({}))).toBe(false);
		expect(endsByNext(step({ use: { product: "Oil" } }))).toBe(false);
		expect(endsByNext(step({ use: { product: "Oil" }, phase: "apply" }))).toBe(true);
		expect(endsByNext(step({ use: { product: "Oil" }, family: "application" }))).toBe(true);
		expect(endsByNext(step({ family: "hygiene", path: [] }))).toBe(true);
		expect(endsByNext(step({ phase: "look-over", path: [] }))).toBe(true);
	});
});

describe("an open step (handbook, chapter 7)", () => {
	it("calls at its most, and every 15 s after that", () => {
		expect([-0.1, 0, 14.9, 15, 30].map(callsAfter)).toEqual([0, 1, 1, 2, 3]);
	});
	it("counts in the seconds of one count", () => {
		const counts = { step: { dose: { kind: "counts", planned: 12 } }, visit: { repSeconds: 0, passes: [{ seconds: 24 }] } } as never;
		expect(beat(counts)).toBe(2);
	});
});

describe("the recorded tones (handbook, chapter 7)", () => {
	const seconds = { tick: 0.04, waiting: 0.2, breathIn: 4, breathOut: 6 };
	it.each(Object.entries(seconds))("%s is mono, at -18 dBFS, faded at both ends, and as long as it says", (name, length) => {
		const file = readFileSync(`public/tones/${name}.wav`);
		expect(file.readUInt16LE(22)).toBe(1);
		const rate = file.readUInt32LE(24);
		const values = new Int16Array(file.buffer.slice(file.byteOffset + 44, file.byteOffset + file.length));
		expect(values.length / rate).toBeCloseTo(length, 2);
		const peak = values.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
		expect(20 * Math.log10(peak / 32_768)).toBeCloseTo(-18, 0);
		expect([values[0], values.at(-1)]).toEqual([0, 0]);
	});
	/** Hertz, by how often the wave rises through zero in a part of a second. */
	const hertz = (name: string, from: number) => {
		const file = readFileSync(`public/tones/${name}.wav`);
		const rate = file.readUInt32LE(24);
		const at = (i: number) => file.readInt16LE(44 + 2 * i);
		const n = Math.round(from * rate);
		let first = -1;
		let last = 0;
		let turns = -1;
		for (let i = n + 1; i < Math.min(n + rate / 2, (file.length - 44) / 2); i++)
			if (at(i - 1) < 0 && at(i) >= 0) {
				if (first < 0) first = i;
				last = i;
				turns++;
			}
		return (turns * rate) / (last - first);
	};
	it("rise from 220 to 294 Hz with the in-breath, and fall with the out-breath", () => {
		// In the middle of the first and of the last half second of a glide of four seconds: 224.6 and 289.4 Hz.
		expect(hertz("breathIn", 0.03)).toBeCloseTo(225, -0.5);
		expect(hertz("breathIn", 3.47)).toBeCloseTo(289, -0.5);
		expect(hertz("breathOut", 0.03)).toBeGreaterThan(hertz("breathOut", 5.4));
		expect(hertz("waiting", 0)).toBeCloseTo(392, -1);
	});
});

describe("standing cues (handbook, chapter 7)", () => {
	const free = { into: 10, left: 30, breaths: false };
	it("come back by hands-on time, and one waits while another was just said", () => {
		const c = new Cues([
			{ key: "breath", every: 90 },
			{ key: "shoulders", every: 100 },
		]);
		expect(c.at(89, free).say).toBeUndefined();
		expect(c.at(90, free).say).toBe("breath");
		expect(c.at(100, free)).toEqual({ dropped: [] });
		expect(c.at(110, free).say).toBe("shoulders");
		expect(c.at(179, free).say).toBeUndefined();
		expect(c.at(180, free).say).toBe("breath");
	});
	it("wait at the edges of a spell and in breaths, and are dropped after half a minute", () => {
		const c = new Cues([{ key: "breath", every: 90 }]);
		expect(c.at(91, { ...free, into: 2 })).toEqual({ dropped: [] });
		expect(c.at(95, { ...free, left: 4 })).toEqual({ dropped: [] });
		expect(c.at(120, { ...free, breaths: true })).toEqual({ dropped: [] });
		expect(c.at(121, { ...free, breaths: true })).toEqual({ dropped: ["breath"] });
		expect(c.at(122, free).say).toBeUndefined();
		expect(c.at(211, free).say).toBe("breath");
		expect(c.now(212)).toBe("breath");
	});
});

describe("fitting the time (handbook, chapter 7, Late, early, over)", () => {
	it("is offered from ninety seconds late or three minutes early, and again a minute further on", () => {
		expect([89, 90, -179, -180].map((l) => offers(l, null))).toEqual([false, true, false, true]);
		expect([120, 150, -200].map((l) => offers(l, 90))).toEqual([false, true, true]);
	});
	it("picks the prepared fit and keeps spells where they were on the original plan", () => {
		const spell = (key: string, index: number, start: number) =>
			({
				key,
				index,
				step: { dose: { kind: "reps", planned: 9 } },
				visit: { start, end: start + 27, lead: 2, passes: [{ side: "both", start, seconds: 27 }], repSeconds: 3 },
				seconds: 29,
				origin: { start: start - 2, seconds: 29 },
			}) as never;
		const plan = [spell("a/1", 0, 2), spell("b/1", 1, 31), spell("c/1", 2, 60)];
		const table = [{ from: "a/1", fits: { "8": { doses: { "b/1": 5, "c/1": 0 }, seconds: { "b/1": 17, "c/1": 2 }, missBy: 0 } } }];
		expect(offerAt(table, "a/1", 437)).toMatchObject({ minutes: 8, beyond: false });
		expect(offerAt(table, "b/1", 437)).toBeUndefined();
		const fitted = refitted(plan, { from: "a/1", minutes: 8 }, table);
		expect(fitted.map((s) => s.key)).toEqual(["a/1", "b/1"]);
		expect(fitted[1]).toMatchObject({ index: 1, seconds: 17, origin: { start: 29, seconds: 29 } });
		expect(fitted[1]!.visit.passes[0]!.seconds).toBe(15);
		expect(fitted[1]!.step.dose!.planned).toBe(5);
	});
});
