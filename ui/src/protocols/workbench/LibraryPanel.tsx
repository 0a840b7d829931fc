import { type RefObject, useMemo, useState } from "react";
import type { Schemas } from "../../api/client";
import { Choice } from "../../kit/fields";
import * as w from "../../words/catalogue/workbench";
import { intentWords } from "../../words/client";
import { StrokeRows } from "../StrokeRows";

/** Strokes by word, intent and concern. */
export function useStrokeSearch(library: Schemas["LibraryView"]) {
	const [text, setText] = useState("");
	const [intent, setIntent] = useState("");
	const [concern, setConcern] = useState("");
	const words = text.toLowerCase().split(/\s+/).filter(Boolean);
	const zone = (k: string) => library.zones.find((z) => z.key === k)?.name ?? k;
	const wanted = library.concerns.find((c) => c.key === concern);
	const says = useMemo(() => {
		const zones = new Map(library.zones.map((z) => [z.key, z.name]));
		const all = (s: Schemas["Stroke"]) =>
			[s.name, s.family, s.intent, s.hand, s.tool?.key, ...(s.path ?? []).map((k) => zones.get(k) ?? k)].join(" ").toLowerCase();
		return new Map(library.strokes.map((s) => [s.key, all(s)]));
	}, [library]);
	const list = library.strokes.filter((s) => {
		const path = s.path ?? [];
		return (
			words.every((w) => says.get(s.key)?.includes(w)) &&
			(!intent || s.intent === intent) &&
			(!wanted || (path.some((z) => wanted.zones.includes(z)) && wanted.intents.includes(s.intent)))
		);
	});
	const fields = (
		<div className="grid gap-2">
			<label className="block">
				<span className="mb-0.5 block text-sm font-semibold">{w.strokeZoneIntentHandOrTool}</span>
				<input className="field" type="search" value={text} onChange={(e) => setText(e.target.value)} />
			</label>
			<div className="grid grid-cols-2 gap-2">
				<Choice label={w.intent} value={intent} options={{ "": w.any, ...intentWords }} onChange={setIntent} />
				<Choice
					label={w.forWord}
					value={concern}
					options={{ "": w.anyConcern, ...Object.fromEntries(library.concerns.map((c) => [c.key, c.name])) }}
					onChange={setConcern}
				/>
			</div>
		</div>
	);
	return { list, fields, zone };
}

/** The library beside the plan: a click puts the stroke behind the step in hand. */
export function LibraryPanel({
	library,
	scroller,
	onAdd,
}: {
	library: Schemas["LibraryView"];
	scroller: RefObject<HTMLElement | null>;
	onAdd: (s: Schemas["Stroke"]) => void;
}) {
	const { list, fields, zone } = useStrokeSearch(library);
	return (
		<div className="p-2">
			{fields}
			<p className="num mt-2 mb-1 text-xs text-soft" role="status">
				{list.length === 0 ? w.noStrokeInTheLibraryMatches : w.countStrokes({ count: list.length })}
			</p>
			<StrokeRows
				strokes={list}
				scroller={scroller}
				about={(s) =>
					w.intentPressurePressurePath({
						intent: s.intent,
						pressure: s.pressure,
						path: (s.path ?? []).map(zone).join(" → ") || w.offTheFace,
					})
				}
				onChoose={onAdd}
			/>
		</div>
	);
}
