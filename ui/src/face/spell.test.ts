import { expect, test } from "vitest";
import { ahead, partAt } from "./spell";

// Five circles on each of two places, then a slide down of 2 s: 12 s in all (handbook, doses).
const parts = [
	{ kind: "pulse", seconds: 1, count: 5, zone: "front-of-ear" },
	{ kind: "pulse", seconds: 1, count: 5, zone: "below-ear" },
	{ kind: "move", seconds: 2 },
] as Parameters<typeof partAt>[0];

test("the part being done, and the count inside a place", () => {
	expect(partAt(parts, 0)).toMatchObject({ part: parts[0], n: 1, of: 5 });
	expect(partAt(parts, 4.5)).toMatchObject({ part: parts[0], n: 5, beat: 0.5 });
	expect(partAt(parts, 7.2)).toMatchObject({ part: parts[1], n: 3 });
	expect(partAt(parts, 11)).toMatchObject({ part: parts[2], n: 1, of: 1, beat: 0.5 });
	expect(partAt(parts, 12)).toMatchObject({ part: parts[0], n: 1 }); // and again from the beginning
	expect(partAt([], 3)).toBeUndefined();
});

test("before the next step: what to reach for and what to say", () => {
	const step = (o: object) => ({ path: [{}], pressure: 2, ...o }) as unknown as Parameters<typeof ahead>[0];
	expect(ahead(step({}), step({ toolName: "Stone" }))).toMatchObject({ tool: "Stone", handsFree: undefined });
	expect(ahead(step({ toolName: "Stone" }), step({ toolName: "Stone" })).tool).toBeUndefined();
	expect(ahead(step({ toolName: "Stone" }), step({})).handsFree).toBe("Stone");
	expect(ahead(step({ pressure: 3 }), step({ pressure: 1 }))).toMatchObject({ lighter: 1, firmer: undefined });
	expect(ahead(step({ pressure: 0, path: [] }), step({ pressure: 1 })).firmer).toBeUndefined();
	expect(ahead(step({}), step({ use: { product: "Oil" } })).product).toEqual({ product: "Oil" });
});
