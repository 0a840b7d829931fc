import { expect, test } from "vitest";
import { nextTask, type Offered, roundOf, taskKey, typed } from "./measuring";

const eye: Offered = {
	measure: "outer-eye-mouth",
	instrument: "caliper",
	paired: true,
	least: 30,
	most: 120,
	decimals: 1,
	readings: 2,
	apart: 2.2,
};
const jaw: Offered = { measure: "jaw-opening", instrument: "tape", paired: false, least: 5, most: 80, decimals: 0, readings: 2, apart: 5 };
const red: Offered = { measure: "redness", instrument: "grade", paired: true, least: 0, most: 4, decimals: 0, readings: 1, apart: 0 };

test("goes round everything once before anything is read again; grades once", () => {
	const order: string[] = [];
	const readings: Record<string, number[]> = {};
	for (let n = nextTask([eye, jaw, red], readings); n && order.length < 20; n = nextTask([eye, jaw, red], readings)) {
		order.push(`${n.round} ${taskKey(n.task)}`);
		readings[taskKey(n.task)] = [...(readings[taskKey(n.task)] ?? []), 50];
	}
	expect(order).toEqual([
		"1 outer-eye-mouth/caliper/left",
		"1 outer-eye-mouth/caliper/right",
		"1 jaw-opening/tape/mid",
		"1 redness/grade/left",
		"1 redness/grade/right",
		"2 outer-eye-mouth/caliper/left",
		"2 outer-eye-mouth/caliper/right",
		"2 jaw-opening/tape/mid",
	]);
});

test("asks a third time only where two readings lie far apart", () => {
	const readings = { "outer-eye-mouth/caliper/left": [60, 63], "outer-eye-mouth/caliper/right": [60, 61] };
	expect(roundOf(3, [eye], readings)).toEqual([{ measure: "outer-eye-mouth", instrument: "caliper", side: "left" }]);
});

test("takes the last digit as the tenth of a caliper", () => {
	expect(typed("621", 1)).toBe(62.1);
	expect(typed("45", 0)).toBe(45);
	expect(typed("", 1)).toBeUndefined();
});
