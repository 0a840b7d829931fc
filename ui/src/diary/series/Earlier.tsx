import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "../../api/client";
import * as w from "../../words/catalogue/series";
import { currentOf, type Question } from "./question";
import { limitText, type Offer, shortDay } from "./say";

/** Why the visit in focus is not earlier: the limit that forbids each day before, one press away. */
export function Earlier({ question, offer, n }: { question: Question; offer: Offer; n: number }) {
	const [open, setOpen] = useState(false);
	const current = currentOf(offer);
	const at = current[n - 1];
	const why = useQuery({
		queryKey: ["series earlier", question, current, n],
		queryFn: () => unwrap(api.POST("/api/series/earlier", { body: { ...question, at: { n, ...at! }, current } })),
		enabled: open && Boolean(at),
	});
	return (
		<div className="mb-2">
			<button
				type="button"
				className="min-h-11 font-semibold underline decoration-rule underline-offset-4"
				aria-expanded={open}
				onClick={() => setOpen(!open)}
			>
				{w.whyNotEarlier}
			</button>
			{open && why.data && (
				<ul className="num m-0 mb-2 list-none border-l-4 border-slate p-0 pl-3 text-sm">
					{why.data.length === 0 && <li>{w.noEarlier}</li>}
					{why.data.map((d) => (
						<li key={d.day}>
							{w.earlierBecause({ day: shortDay(d.day), reason: d.limit ? limitText(d.limit, d.name) : w.costsMoreThere })}
						</li>
					))}
				</ul>
			)}
		</div>
	);
}
