import { Link } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import * as w from "../words/catalogue/treatment";
import { measureNames } from "../words/sentences";

type View = Schemas["RecordView"];

/** What was measured, graded and photographed at a treatment: every reading, as it was taken. */
export function Measured({ view }: { view: View }) {
	const grades = Object.entries(view.account?.grades ?? {});
	if (view.measurements.length + view.photos.length + grades.length === 0) return null;
	return (
		<section aria-label={w.measuredHere}>
			<h2 className="mt-6 mb-1 text-2xl">{w.measuredHere}</h2>
			<ul className="num m-0 list-none p-0 text-sm">
				{view.measurements.map((m) => (
					<li
						key={m.id}
						className={`flex justify-between gap-4 border-b border-dotted border-rule py-1 ${m.struckAt ? "text-soft line-through" : ""}`}
					>
						<span>
							{measureNames[m.measure]}
							{m.side !== "mid" && ` ${m.side === "left" ? w.letterLeft : w.letterRight}`}
							<span className="text-soft"> · {(m.moment === "before" ? w.beforeTreatment : w.afterTreatment).toLowerCase()}</span>
						</span>
						<span className="whitespace-nowrap">{m.readings.join(" / ")}</span>
					</li>
				))}
				{grades.map(([key, value]) => {
					const [measure = "", side] = key.split("/");
					return (
						<li key={key} className="flex justify-between gap-4 border-b border-dotted border-rule py-1">
							<span>
								{measureNames[measure] ?? measure} {side === "left" ? w.letterLeft : side === "right" ? w.letterRight : ""}
							</span>
							<span>
								{value}
								{measure === "redness" && (
									<span className="text-soft">
										{" "}
										({view.expectedRedness > 0 ? w.expectedAtMost({ n: view.expectedRedness }) : w.noneExpected})
									</span>
								)}
							</span>
						</li>
					);
				})}
			</ul>
			{view.photos.length > 0 && (
				<p className="m-0 mt-1 flex gap-2">
					{view.photos.map((p) => (
						<Link key={p.id} to="/people/$id/photos" params={{ id: view.visit.client }}>
							<img src={`/api/photos/${p.id}`} alt={w.photos} className="block size-16 border border-rule object-cover" />
						</Link>
					))}
				</p>
			)}
		</section>
	);
}
