import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../../api/client";
import * as w from "../../words/catalogue/series";
import type { Question } from "./question";
import { dayOf, type Offer, type Offered, shortDay, timeOf } from "./say";

/** The times round the best one of a single visit, day by day. */
export function OtherTimes({ question, offer, onChoose }: { question: Question; offer: Offer; onChoose: (v: Offered) => void }) {
	const best = offer.visits.find((v) => v.kind === "treatment");
	const around = useQuery({
		queryKey: ["series", "single", question, best?.wall.slice(0, 10)],
		queryFn: () =>
			unwrap(
				api.POST("/api/series/times", {
					body: { ...question, at: { n: 1, start: best?.wall ?? "", practitioner: best?.practitioner ?? "" } },
				}),
			),
		enabled: Boolean(best),
		placeholderData: (old) => old,
	});
	const days = [...new Set((around.data ?? []).map((t) => dayOf(t.wall)))].slice(0, 7);
	const usual = best?.practitioner;
	return (
		<section aria-label={w.otherTimes} className="mt-2">
			<h2 className="m-0 mb-1 text-xl">{w.otherTimes}</h2>
			<ul className="m-0 list-none p-0">
				{days.map((d) => {
					const there = (around.data ?? []).filter((t) => dayOf(t.wall) === d);
					// one button a time: with the same hands where they are free
					const starts = [
						...new Map(
							[...there].sort((a, b) => Number(a.practitioner === usual) - Number(b.practitioner === usual)).map((t) => [t.wall, t]),
						).values(),
					].sort((a, b) => a.wall.localeCompare(b.wall));
					return (
						<li key={d} className="grid grid-cols-[88px_minmax(0,1fr)] items-start gap-2 border-t border-rule py-1.5">
							<span className="num pt-1.5 text-sm font-semibold">{shortDay(d)}</span>
							<span className="flex flex-wrap gap-1">
								{starts.map((t) => (
									<button
										key={t.wall}
										type="button"
										title={`${t.practitionerName}, ${t.roomName}`}
										aria-pressed={t.wall === best?.wall}
										className={`num min-h-8 rounded-sm border px-1.5 text-sm ${t.wall === best?.wall ? "border-ink bg-ink text-paper" : "border-rule bg-leaf hover:border-ink"}`}
										onClick={() => onChoose(t)}
									>
										{timeOf(t.wall)}
									</button>
								))}
							</span>
						</li>
					);
				})}
			</ul>
		</section>
	);
}
