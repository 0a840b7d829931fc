import type { Schemas } from "../../api/client";
import { areas } from "../../words/catalogue/shared";
import * as w from "../../words/catalogue/workbench";
import { choices, type Spec } from "./Said";

type Library = Schemas["LibraryView"];

const ways = ["up", "down", "in", "out", "towards", "apart", "together", "any"];

/** Names that stand for several zones, by key. */
export const areaWords: Record<string, string> = areas;

/** Ways round of a circle. */
export const senses = {
	clockwise: w.clockwise,
	anticlockwise: w.anticlockwise,
	outward: w.outward,
	inward: w.inward,
	"each-way": w.alternating,
};

export const same = (list: readonly string[]) => Object.fromEntries(list.map((x) => [x, x]));

export const zoneNames = (library: Library) => Object.fromEntries(library.zones.map((z) => [z.key, z.name]));

/** What a stroke, or a step beside its stroke, says besides the movement itself. */
export function movementSpecs(library: Library): Spec[] {
	const zones = zoneNames(library);
	const families = same([...new Set(library.strokes.map((s) => s.family))].sort());
	return [
		{ path: "direction", kind: "one", options: choices("along", "across", "towards-hairline", "multi", ...ways) },
		{ path: "towards", kind: "one", options: zones },
		{ path: "crease", kind: "one", options: choices("up", "across") },
		{ path: "tempo", kind: "one", options: choices("even", "slow", "slows", "breath", "quick") },
		{ path: "ending", kind: "one", options: choices("hold", "wiggle", "press-temple", "lift-off", "carries-on") },
		{ path: "whichHand", kind: "one", options: choices("same-side", "opposite-side", "left", "right", "either", "changes") },
		{ path: "handChoice", kind: "many", options: same(library.handParts) },
		{ path: "alsoFamilies", kind: "many", options: families },
		{ path: "actsOn", kind: "many", options: zones },
		{ path: "pressureMost", kind: "number", most: 5 },
		{ path: "pressureAs", kind: "one", options: choices("up-to-if-it-suits", "deeper-than-before", "lighter-than-before") },
		{ path: "rows.from", kind: "one", options: zones },
		{ path: "rows.to", kind: "one", options: zones },
		{ path: "rows.least", kind: "number", most: 50 },
		{ path: "rows.most", kind: "number", most: 50 },
		{ path: "rows.untilCovered", kind: "flag" },
		{ path: "tenderSeconds", kind: "number", most: 600 },
		{ path: "works", kind: "list" },
		{ path: "resistance.by", kind: "text", most: 60 },
		{ path: "resistance.direction", kind: "one", options: choices(...ways) },
		{ path: "resistance.towards", kind: "one", options: zones },
		{ path: "score.what", kind: "text", most: 60 },
		{ path: "score.zone", kind: "one", options: zones },
		{ path: "score.when", kind: "one", options: choices("before", "after", "both") },
		{ path: "score.most", kind: "number", most: 100 },
		{ path: "condition", kind: "text" },
		{ path: "find", kind: "text" },
	];
}

/** Another contact of the hand that holds. */
export function secondContactSpecs(library: Library): Spec[] {
	return [
		{ path: "anchor.second.zone", kind: "one", options: zoneNames(library) },
		{ path: "anchor.second.hand", kind: "one", options: same(library.handParts) },
		{ path: "anchor.second.pressure", kind: "number", most: 5 },
	];
}

/** What to do instead when something holds. */
export function alternateSpecs(library: Library): Spec[] {
	return [
		{ path: "when", kind: "one", options: choices("long-nails", "no-tool", "too-strong", "stalled", "beard", "lashes") },
		{ path: "condition", kind: "text" },
		{ path: "hand", kind: "one", options: same(library.handParts) },
		{ path: "stroke", kind: "one", options: Object.fromEntries(library.strokes.map((s) => [s.key, s.name])) },
		{ path: "does", kind: "text", most: 120 },
		{ path: "leaveOut", kind: "flag" },
	];
}
