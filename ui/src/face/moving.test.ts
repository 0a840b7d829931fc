import { expect, test } from "vitest";
import { handAt } from "./moving";

const track = {
	side: "left",
	keys: [
		{ t: 0, x: 0, y: 0, turn: 90 },
		{ t: 2, x: 4, y: 2, turn: 60, press: 1 },
		{ t: 3, x: 0, y: 0, turn: 90, lift: 1 },
	],
} as Parameters<typeof handAt>[0];

test("a hand is between two keys of its track, and stays at the last one", () => {
	expect(handAt(track, 0, 0)).toEqual({ x: 0, y: 0, turn: 90, lift: 0, press: 0 });
	expect(handAt(track, 1, 1)).toEqual({ x: 2, y: 1, turn: 75, lift: 0, press: 0.5 });
	expect(handAt(track, 2.5, 2.5).lift).toBeCloseTo(0.5);
	expect(handAt(track, 9, 9)).toMatchObject({ x: 0, y: 0, lift: 1 });
	expect(handAt({ ...track, keys: [track.keys[0]!] }, 5, 5)).toMatchObject({ x: 0, y: 0, turn: 90 });
});

test("a hand turns the short way round", () => {
	const keys = [
		{ t: 0, x: 0, y: 0, turn: 170 },
		{ t: 1, x: 0, y: 0, turn: -170 },
	];
	expect(handAt({ ...track, keys }, 0.5, 0.5).turn).toBeCloseTo(180);
});

test("vibration trembles 0.08 cm across the way the hand points, 8 times a second", () => {
	const still = { ...track, keys: [{ t: 0, x: 1, y: 1, turn: 90 }], trembles: true };
	const most = handAt(still, 0, 1 / 32);
	expect(Math.hypot(most.x - 1, most.y - 1)).toBeCloseTo(0.08);
	expect(most.y).toBeCloseTo(1);
	expect(handAt(still, 0, 1 / 16).x).toBeCloseTo(1);
});
