import type { Schemas } from "../../api/client";
import { Group } from "../../kit/fields";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";
import { roleOfHandWords } from "../../words/sentences";
import { nameOf, Said, type Spec, Things } from "./Said";
import { alternateSpecs, areaWords, movementSpecs, same, secondContactSpecs, senses, zoneNames } from "./specs";

type Stroke = Schemas["Stroke"];

/** What a stroke may say besides its movement: its zones one by one, the other hand, single fingers, and the rest by name. */
export function StrokeFurther({
	stroke,
	library,
	put,
}: {
	stroke: Stroke;
	library: Schemas["LibraryView"];
	put: (part: Partial<Stroke>) => void;
}) {
	const zones = zoneNames(library);
	const places = { ...zones, ...areaWords };
	const path = stroke.path ?? [];
	const specs: Spec[] = [
		...movementSpecs(library),
		{ path: "sense", kind: "one", options: senses },
		{ path: "sign", kind: "text" },
		{ path: "anchor.zone", kind: "one", options: zones },
		{ path: "anchor.hand", kind: "one", options: same(library.handParts) },
		{ path: "anchor.pressure", kind: "number", most: 5 },
		{ path: "anchor.role", kind: "one", options: roleOfHandWords },
		...(stroke.anchor ? secondContactSpecs(library) : []),
	];
	const keys = [...new Set(specs.map((s) => s.path.split(".")[0]!))] as (keyof Stroke & string)[];
	const said = keys.filter((k) => stroke[k] !== undefined).map((k) => nameOf(k));
	return (
		<>
			<Group title={w.wayOfStroke} note={path.map((k) => places[k] ?? k).join(" → ")}>
				<ol className="m-0 list-none p-0">
					{path.map((k, i) => (
						// a path may visit a zone twice: its place tells the stops apart
						<li key={i} className="flex min-h-11 items-center justify-between gap-2">
							{i + 1}. {places[k] ?? k}
							<Button
								aria-label={w.removeZoneFromWay({ zone: places[k] ?? k })}
								className="px-3"
								onClick={() => put({ path: path.toSpliced(i, 1) })}
							>
								×
							</Button>
						</li>
					))}
				</ol>
				<select
					aria-label={w.addZoneToWay}
					className="field"
					value=""
					onChange={(e) => e.target.value && put({ path: [...path, e.target.value] })}
				>
					<option value="">{w.addZoneToWay}</option>
					{Object.entries(places).map(([k, name]) => (
						<option key={k} value={k}>
							{name}
						</option>
					))}
				</select>
			</Group>
			<Group title={w.saidOfStroke} note={said.join(", ")}>
				<Said
					of={stroke}
					specs={specs}
					needs={{
						score: { what: "tenderness" },
						anchor: { zone: path[0] ?? "forehead", pressure: 1 },
						"anchor.second": { zone: stroke.anchor?.zone ?? "forehead", pressure: 0 },
					}}
					onChange={(next) => put(Object.fromEntries(keys.map((k) => [k, next[k]])))}
				/>
				<Things
					label={w.singleFingers}
					list={stroke.fingers ?? []}
					fresh={() => ({ part: "index", pressure: stroke.pressure })}
					add={w.addFinger}
					specs={[
						{ path: "part", kind: "one", label: w.hand, options: same(library.handParts) },
						{ path: "zone", kind: "one", options: zones },
						{ path: "pressure", kind: "number", most: 5 },
					]}
					onChange={(fingers) => put({ fingers })}
				/>
				<Things
					label={w.alternatesOwn}
					list={stroke.alternates ?? []}
					fresh={() => ({ leaveOut: true })}
					add={w.addAlternate}
					specs={alternateSpecs(library)}
					onChange={(alternates) => put({ alternates })}
				/>
			</Group>
		</>
	);
}
