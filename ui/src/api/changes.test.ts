import { expect, test } from "vitest";
import { changed } from "./changes";

// The other half of internal/httpapi/changes.go, whose own tests hold the meaning of changes against random answers.
test("what has not changed is the same object, what has is told", () => {
	const before = {
		seconds: 60,
		cost: "1.00",
		steps: [
			{ id: "a", start: 0 },
			{ id: "b", start: 9, note: "slow" },
		],
		loads: [1, 2],
	};
	const now = changed(before, {
		set: { seconds: 75 },
		gone: ["cost"],
		rows: { steps: [{ was: 0 }, { was: -1, set: { id: "c", start: 9 } }, { was: 1, set: { start: 14 }, gone: ["note"] }] },
	});
	expect(now).toEqual({
		seconds: 75,
		steps: [
			{ id: "a", start: 0 },
			{ id: "c", start: 9 },
			{ id: "b", start: 14 },
		],
		loads: [1, 2],
	});
	expect(now.steps[0]).toBe(before.steps[0]);
	expect(now.loads).toBe(before.loads);
	expect(before.steps[1]).toEqual({ id: "b", start: 9, note: "slow" });
});
