import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type RefObject, useEffect, useRef } from "react";
import type { Problem } from "../api/client";
import { rulesViewQuery } from "../api/queries";
import * as w from "../words/catalogue/checks";

/** The revision of the rules that a change is made to: that of the first look. */
export function useRuleRevision(): RefObject<number> {
	const view = useQuery(rulesViewQuery);
	const at = useRef(-1);
	if (at.current < 0 && view.data) at.current = view.data.revision;
	return at;
}

/** Once it was shown what somebody else saved, the next change is made to that. */
export function useAfterOther(at: RefObject<number>, changed: Problem | null) {
	const cache = useQueryClient();
	useEffect(() => {
		if (changed)
			cache.fetchQuery({ ...rulesViewQuery, staleTime: 0 }).then((v) => {
				at.current = v.revision;
			});
	}, [changed, cache, at]);
}

/** What somebody else saved of a rule meanwhile. */
export function SavedMeanwhile({ changed, what }: { changed: Problem | null; what: "days" | "policy" | "rule" }) {
	if (!changed?.rule) return null;
	const { by, days, on, rule } = changed.rule;
	return (
		<p className="m-0 border-l-4 border-persimmon pl-3">
			{what === "days"
				? w.byOtherSavedDays({ by, days })
				: what === "policy"
					? on
						? w.byOtherTurnedItOn({ by })
						: w.byOtherTurnedItOff({ by })
					: rule
						? w.byOtherSavedRule({ by, title: rule.title, question: rule.question ?? "" })
						: w.byOtherDeletedIt({ by })}{" "}
			{w.saveAgainToReplaceIt}
		</p>
	);
}
