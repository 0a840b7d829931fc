import type { Schemas } from "../../api/client";
import { Group } from "../../kit/fields";
import * as w from "../../words/catalogue/workbench";
import { choices, Said, type Spec, Things } from "./Said";
import type { Protocol } from "./useBench";

const specs: Spec[] = [
	{ path: "preconditions", kind: "list", label: w.beforeItBegins },
	{ path: "layOut", kind: "list", label: w.toLayOut },
	{ path: "howOften.least", kind: "number", most: 30 },
	{ path: "howOften.most", kind: "number", most: 30 },
	{ path: "howOften.per", kind: "one", options: choices("day", "week", "month") },
	{ path: "howOften.days", kind: "number", most: 365 },
	{ path: "howOften.then", kind: "text" },
	{ path: "trigger", kind: "text" },
	{ path: "sittingsADay", kind: "number", most: 12 },
	{ path: "timesOfDay", kind: "many", options: choices("morning", "day", "evening", "bedtime") },
	{ path: "minutes.target", kind: "number", most: 480 },
	{ path: "minutes.handsOnSeconds", kind: "number", most: 59 },
	{ path: "excerpt", kind: "flag" },
	{ path: "sittings", kind: "flag" },
];

/** What a plan says of itself as a whole, and the advice for afterwards. */
export function PlanFurther({
	protocol: p,
	library,
	put,
}: {
	protocol: Protocol;
	library: Schemas["LibraryView"];
	put: (part: Partial<Protocol>) => void;
}) {
	const keys = [...new Set(specs.map((s) => s.path.split(".")[0] as keyof Protocol))];
	return (
		<Group title={w.ofThePlan} note={(p.aftercare ?? []).map((a) => a.advice).join(", ")}>
			<Said of={p} specs={specs} onChange={(next) => put(Object.fromEntries(keys.map((k) => [k, next[k]])))} />
			<Things
				label={w.aftercare}
				list={p.aftercare ?? []}
				fresh={() => ({ advice: w.aftercare })}
				add={w.addAdvice}
				specs={[
					{ path: "advice", kind: "text", most: 300 },
					{ path: "product", kind: "one", options: Object.fromEntries(library.products.map((x) => [x.key, x.name])) },
					{ path: "when", kind: "one", options: choices("morning", "day", "evening", "bedtime") },
					{ path: "days", kind: "number", most: 365 },
				]}
				onChange={(aftercare) => put({ aftercare })}
			/>
		</Group>
	);
}
