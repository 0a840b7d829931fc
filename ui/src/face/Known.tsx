import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { zonesQuery } from "../api/queries";
import * as w from "../words/catalogue/face";
import { KnownFace } from "./KnownFace";

type Mark = Schemas["Mark"];

const grave = ["urgent", "stop", "wait", "letter"];

/** What to know of a client in a line: "filler (upper lip), no nuts, contact lenses". */
export function KnownText({ marks, most = 99 }: { marks: readonly Mark[]; most?: number }) {
	const more = marks.length - most;
	return (
		<>
			{marks.slice(0, most).map((m, i) => (
				<span key={m.rule}>
					{i > 0 && ", "}
					<span className={grave.includes(m.kind) ? "font-bold text-persimmon-deep" : ""}>{m.text}</span>
				</span>
			))}
			{more > 0 && ` ${w.andMore({ n: more })}`}
		</>
	);
}

/** The places of what is known, on a small face; nothing where none of it has a place. */
export function KnownPlaces({ marks, className = "h-32" }: { marks: readonly Mark[]; className?: string }) {
	const places = marks.flatMap((m) => m.places ?? []);
	const { data: zones } = useQuery({ ...zonesQuery, enabled: places.length > 0 });
	if (!zones || places.length === 0) return null;
	return (
		<KnownFace
			zones={zones}
			places={places}
			className={className}
			label={w.whereToLookOut({ text: marks.map((m) => m.text).join(", ") })}
		/>
	);
}
