import type { Schemas } from "../api/client";
import { dayWords } from "../format";
import { caution, headlineWords, kindWords } from "../words/en";
import { Mark } from "./kit";

/** What a door check gave: the strictest in a word, and every outcome with its reason. */
export function Outcomes({ screening, zone }: { screening: Schemas["Screening"]; zone: (key: string) => string }) {
	const r = screening.result;
	return (
		<section aria-label="Result of the door check">
			<p className="m-0 mb-2 font-serif text-3xl font-semibold">
				{headlineWords[r.headline]}
				{r.headline === "not-before" && r.notBefore ? ` ${dayWords(r.notBefore)}` : ""}
			</p>
			{r.outcomes.length === 0 && <p className="m-0">No caution applies today.</p>}
			<ul className="m-0 list-none p-0">
				{r.outcomes.map((o) => (
					<li key={`${o.rule}-${o.kind}-${o.until ?? ""}`} className="grid grid-cols-[120px_1fr] gap-3 border-b border-rule py-2">
						<span>
							<Mark
								tone={
									o.kind === "urgent"
										? "urgent"
										: o.kind === "stop"
											? "not-here"
											: o.kind === "wait" || o.kind === "letter"
												? "not-before"
												: "go"
								}
							>
								{kindWords[o.kind]}
							</Mark>
						</span>
						<span>
							<span className="font-semibold">{o.title}</span>
							{o.kind === "cap" && ` · at most ${o.outcome.pressure ?? 0}`}
							{o.until && ` · until ${dayWords(o.until)}`}
							{o.places &&
								o.places.length > 0 &&
								` · ${[...new Set(o.places.map((p) => zone(p.zone).toLowerCase() + (p.side && p.side !== "both" ? ` ${p.side}` : "")))].join(", ")}`}
							<br />
							{o.outcome.does && <span className="font-semibold">{o.outcome.does} </span>}
							<span className="text-sm text-soft">
								{o.why} ({o.basis}
								{o.doubtful ? "; a default and nothing more" : ""})
							</span>
						</span>
					</li>
				))}
			</ul>
			<p className="text-sm text-soft">{caution}</p>
		</section>
	);
}
