import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { along, closedCurve, landmark, openCurve, outlines, ribbon, seen, seenOn, within, type XY, type Zone } from "./geometry";

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
