import type { Schemas } from "../../api/client";
import { Group } from "../../kit/fields";
import * as w from "../../words/catalogue/workbench";
import { skinStateWords, skinTypes } from "../../words/client";
import { choices, nameOf, Said, type Spec, Things } from "./Said";
import { alternateSpecs, movementSpecs, same, secondContactSpecs, zoneNames } from "./specs";
import type { Step } from "./useBench";

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
	const zones = zoneNames(library);
	const products = Object.fromEntries(library.products.map((p) => [p.key, p.name]));
	const specs: Spec[] = [
		...movementSpecs(library),
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
	if (step.anchor) specs.push(...secondContactSpecs(library));
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
				specs={alternateSpecs(library)}
				onChange={(alternates) => put({ alternates })}
			/>
		</Group>
	);
}
