import { type ReactNode, useState } from "react";
import type { Schemas } from "../api/client";
import { dayWords } from "../kit/format";
import { Badge, Button } from "../kit/kit";
import { ReasonForm } from "../kit/ReasonForm";
import * as w from "../words/catalogue/checks";
import { caution, headlineWords, kindWords, outcomeText } from "../words/sentences";

type Applied = Schemas["Contraindication"];

const tone = (o: Applied) =>
	o.kind === "urgent" ? "urgent" : o.kind === "stop" ? "not-here" : o.kind === "wait" || o.kind === "letter" ? "not-before" : "go";

/** How many rules are shown before the rest is asked for: the gravest come first. */
const most = 6;

/** What a pre-treatment check gave: the strictest in a word, then every rule that applies, with all it asks and its reason. */
export function Outcomes({
	preCheck,
	outcomes = preCheck.result.outcomes,
	zone,
	product,
	overrulable = [],
	overrules = {},
	onOverrules,
	children,
}: {
	preCheck: Schemas["PreCheck"];
	/** What applies, where that is more than the check alone found. */
	outcomes?: Applied[];
	zone: (key: string) => string;
	product?: (key: string) => string;
	/** Rules whose demands may be set aside, and those set aside with the reason. */
	overrulable?: readonly string[];
	overrules?: Record<string, string>;
	onOverrules?: (o: Record<string, string>) => void;
	/** What to do about it, between the word and its reasons. */
	children?: ReactNode;
}) {
	const [asking, setAsking] = useState<string | null>(null);
	const [all, setAll] = useState(false);
	const r = preCheck.result;
	const rules = [...new Set(outcomes.map((o) => o.rule))].map((id) => outcomes.filter((o) => o.rule === id));
	return (
		<section aria-label={w.resultOfTheCheck}>
			<p className="m-0 mb-2 font-serif text-3xl font-semibold">
				{headlineWords[r.headline]}
				{r.headline === "not-before" && r.notBefore ? ` ${dayWords(r.notBefore)}` : ""}
			</p>
			{children}
			{outcomes.length === 0 && <p className="m-0">{w.noContraindicationsToday}</p>}
			<ul className="m-0 list-none p-0">
				{(all || rules.length <= most ? rules : rules.slice(0, most - 1)).map((list) => {
					const first = list[0]!;
					return (
						<li key={first.rule} className="grid grid-cols-[140px_1fr] gap-3 border-b border-rule py-2">
							<span>
								<Badge tone={tone(first)}>{kindWords[first.kind]}</Badge>
							</span>
							<span>
								<span className="block font-semibold">{first.title}</span>
								{list.map((o) => (
									<span key={`${o.kind}-${o.until ?? ""}-${o.outcome.does ?? ""}`} className="block">
										{outcomeText(o, zone, product && { product })}
									</span>
								))}
								<span className="text-sm text-soft">
									{first.why} ({first.basis}
									{first.doubtful ? w.ruleOfThumb : ""})
								</span>
								{onOverrules && overrulable.includes(first.rule) && asking !== first.rule && (
									<span className="flex flex-wrap items-center gap-3">
										{first.rule in overrules && (
											<span className="font-semibold">{w.overriddenOverrules({ overrules: overrules[first.rule] })}</span>
										)}
										<Button
											variant="quiet"
											className="-ml-4 text-sm"
											onClick={() => {
												if (first.rule in overrules)
													onOverrules(Object.fromEntries(Object.entries(overrules).filter(([k]) => k !== first.rule)));
												else setAsking(first.rule);
											}}
										>
											{first.rule in overrules ? w.undoOverride : w.override}
										</Button>
									</span>
								)}
								{onOverrules && asking === first.rule && (
									<ReasonForm
										label={w.reasonSavedInTheRecord}
										button={w.saveOverride}
										onReason={(reason) => {
											onOverrules({ ...overrules, [first.rule]: reason });
											setAsking(null);
										}}
										onLeave={() => setAsking(null)}
									/>
								)}
							</span>
						</li>
					);
				})}
			</ul>
			{!all && rules.length > most && (
				<Button variant="quiet" className="-ml-4" aria-expanded={false} onClick={() => setAll(true)}>
					{w.showAllContraindications({ n: rules.length })}
				</Button>
			)}
			<p className="text-sm text-soft">{caution}</p>
		</section>
	);
}
