import type { Schemas } from "../api/client";
import { dayWords } from "../format";
import { caution, headlineWords, kindWords, outcomeText } from "../words/en";
import { Mark } from "./kit";

type Applied = Schemas["Applied"];

const tone = (o: Applied) =>
	o.kind === "urgent" ? "urgent" : o.kind === "stop" ? "not-here" : o.kind === "wait" || o.kind === "letter" ? "not-before" : "go";

/** What a door check gave: the strictest in a word, then every rule that applies, with all it asks and its reason. */
export function Outcomes({ screening, zone }: { screening: Schemas["Screening"]; zone: (key: string) => string }) {
	const r = screening.result;
	const rules = [...new Set(r.outcomes.map((o) => o.rule))].map((id) => r.outcomes.filter((o) => o.rule === id));
	return (
		<section aria-label="Result of the door check">
			<p className="m-0 mb-2 font-serif text-3xl font-semibold">
				{headlineWords[r.headline]}
				{r.headline === "not-before" && r.notBefore ? ` ${dayWords(r.notBefore)}` : ""}
			</p>
			{r.outcomes.length === 0 && <p className="m-0">No caution applies today.</p>}
			<ul className="m-0 list-none p-0">
				{rules.map((list) => {
					const first = list[0]!;
					return (
						<li key={first.rule} className="grid grid-cols-[120px_1fr] gap-3 border-b border-rule py-2">
							<span>
								<Mark tone={tone(first)}>{kindWords[first.kind]}</Mark>
							</span>
							<span>
								<span className="block font-semibold">{first.title}</span>
								{list.map((o) => (
									<span key={`${o.kind}-${o.until ?? ""}-${o.outcome.does ?? ""}`} className="block">
										{outcomeText(o, zone)}
									</span>
								))}
								<span className="text-sm text-soft">
									{first.why} ({first.basis}
									{first.doubtful ? "; a default and nothing more" : ""})
								</span>
							</span>
						</li>
					);
				})}
			</ul>
			<p className="text-sm text-soft">{caution}</p>
		</section>
	);
}
