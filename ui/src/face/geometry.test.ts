import { expect, test } from "vitest";
import { closedCurve, landmark, mirrored, openCurve, outlines, seen, type XY, type Zone } from "./geometry";

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
	expect(outlines(cheek).map((o) => o.side)).toEqual(["left", "right"]);
	expect(outlines(cheek, "left").map((o) => o.side)).toEqual(["left"]);
	expect(outlines(chin).map((o) => o.side)).toEqual(["mid"]);
	expect(outlines(cheek, "mouth")).toEqual([]);
});

test("curves go through their stops, and outlines are closed", () => {
	const stops: XY[] = [
		[0, 0],
		[4, 2],
		[6, 8],
	];
	const curve = openCurve(stops, 10);
	expect(curve).toHaveLength(21);
	for (const [i, s] of stops.entries()) expect(curve[i * 10]!.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([...s]);
	expect(openCurve([[1, 1]])).toEqual([[1, 1]]);
	expect(closedCurve(stops)).toMatch(/^M0\.00 0\.00(C[-\d. ]+){3}Z$/);
	expect(closedCurve(stops.slice(0, 2))).toBe("");
});

test("a line is mirrored point by point, and twice mirrored is itself", () => {
	const d = "M-19.4 16.6C-19.3 13.6 0 11.4 18.1 10.3L5.35 -1.8Z";
	expect(mirrored(d)).toBe("M19.4 16.6C19.3 13.6 0 11.4 -18.1 10.3L-5.35 -1.8Z");
	expect(mirrored(mirrored(d))).toBe(d);
});
