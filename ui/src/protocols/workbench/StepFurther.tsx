import type { Schemas } from "../../api/client";
import { Group } from "../../kit/fields";
import * as w from "../../words/catalogue/workbench";
import { skinStateWords, skinTypes } from "../../words/client";
import { choices, nameOf, Said, type Spec, Things } from "./Said";
import type { Step } from "./useBench";

const ways = ["up", "down", "in", "out", "towards", "apart", "together", "any"];
const same = (list: readonly string[]) => Object.fromEntries(list.map((x) => [x, x]));

const clearable = [
	"tool",
	"fingers",
	"anchor",
	"client",
	"find",
	"sign",
	"cue",
	"caution",
	"direction",
	"sense",
	"tempo",
	"ending",
	"alternates",
	"last",
	"further",
];

/** What a step may say besides, and where it departs from its stroke. */
export function StepFurther({ step, library, put }: { step: Step; library: Schemas["LibraryView"]; put: (part: Partial<Step>) => void }) {
	const zones = Object.fromEntries(library.zones.map((z) => [z.key, z.name]));
	const products = Object.fromEntries(library.products.map((p) => [p.key, p.name]));
	const hands = same(library.handParts);
	const families = same([...new Set(library.strokes.map((s) => s.family))].sort());
	const specs: Spec[] = [
		{ path: "direction", kind: "one", options: choices("along", "across", "towards-hairline", "multi", ...ways) },
		{ path: "towards", kind: "one", options: zones },
		{ path: "crease", kind: "one", options: choices("up", "across") },
		{ path: "tempo", kind: "one", options: choices("even", "slow", "slows", "breath", "quick") },
		{ path: "ending", kind: "one", options: choices("hold", "wiggle", "press-temple", "lift-off", "carries-on") },
		{ path: "whichHand", kind: "one", options: choices("same-side", "opposite-side", "left", "right", "either", "changes") },
		{ path: "handChoice", kind: "many", options: hands },
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
		{ path: "cue", kind: "text", most: 300 },
		{ path: "caution", kind: "text", most: 300 },
		{ path: "clears", kind: "many", options: Object.fromEntries(clearable.map((k) => [k, nameOf(k)])) },
	];
	if (step.use)
		specs.push(
			{ path: "use.most", kind: "number", most: 1000 },
			{ path: "use.choices", kind: "many", options: products },
			{ path: "use.blend", kind: "flag" },
			{ path: "use.optional", kind: "flag" },
			{ path: "use.for", kind: "many", options: same([...skinTypes, ...skinStateWords]) },
		);
	if (step.anchor)
		specs.push(
			{ path: "anchor.second.zone", kind: "one", options: zones },
			{ path: "anchor.second.hand", kind: "one", options: hands },
			{ path: "anchor.second.pressure", kind: "number", most: 5 },
		);
	const keys = [...new Set(specs.map((s) => s.path.split(".")[0] as keyof Step))];
	const said = keys.filter((k) => step[k] !== undefined && !["use", "anchor"].includes(k)).map((k) => nameOf(k));
	const parts: Spec[] = [
		{ path: "part", kind: "one", options: choices("upper", "lower", "inner", "outer", "gum-line", "past-last-tooth") },
		{ path: "cm", kind: "number", most: 30 },
		{ path: "landmark", kind: "one", options: zones },
	];
	return (
		<Group title={w.sayMore} note={said.join(", ")}>
			<Said
				of={step}
				specs={specs}
				needs={{ score: { what: "tenderness" }, "anchor.second": { zone: step.anchor?.zone ?? "forehead", pressure: 0 } }}
				onChange={(next) => put(Object.fromEntries(keys.map((k) => [k, next[k]])))}
			/>
			{step.path?.map((p, i) => (
				// a path may visit a zone twice: its place tells the stops apart
				<fieldset key={i} className="m-0 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{zones[p.zone] ?? p.zone}</legend>
					<Said of={p} specs={parts} onChange={(next) => put({ path: step.path!.map((q, k) => (k === i ? next : q)) })} />
				</fieldset>
			))}
			<Things
				label={w.alternatesOwn}
				list={step.alternates ?? []}
				fresh={() => ({ leaveOut: true })}
				add={w.addAlternate}
				specs={[
					{ path: "when", kind: "one", options: choices("long-nails", "no-tool", "too-strong", "stalled", "beard", "lashes") },
					{ path: "condition", kind: "text" },
					{ path: "hand", kind: "one", options: hands },
					{ path: "stroke", kind: "one", options: Object.fromEntries(library.strokes.map((s) => [s.key, s.name])) },
					{ path: "does", kind: "text", most: 120 },
					{ path: "leaveOut", kind: "flag" },
				]}
				onChange={(alternates) => put({ alternates })}
			/>
		</Group>
	);
}
