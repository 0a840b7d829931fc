import type { Schemas } from "../api/client";
import { KnownText } from "../face/Known";
import { Badge } from "../kit/kit";
import * as w from "../words/catalogue/diary";
import { headlineWords, outlookText, toDoText } from "../words/sentences";

type Line = Schemas["VisitLine"];

const asked: Record<string, string> = { none: w.notAskedYet, renew: w.consultationOver, "sent-in": w.answersToReview };

/**
 * What is to be expected of a visit, or what its check gave, and what it is about; where there is room, what
 * to do about it. Who was asked and has nothing gets no mark; who was not asked is marked as that.
 */
export function VisitMarks({ visit: v, todo, known = v.known ?? [] }: { visit: Line; todo?: boolean; known?: Line["known"] }) {
	const text = toDoText(v);
	const headline = v.checked || v.outlook || "";
	return (
		<>
			{v.checked && <Badge tone={v.checked}>{headlineWords[v.checked]}</Badge>}
			{v.outlook && <Badge tone={v.outlook}>{outlookText(v)}</Badge>}
			{!v.checked && <AskedMark state={v.consultation} />}
			{v.letterOpen && <Badge tone="needs-letter">{w.letterOpen}</Badge>}
			{(v.patchFirst?.length ?? 0) > 0 && <Badge tone="not-before">{w.patchTestFirst}</Badge>}
			{known && known.length > 0 && headline !== "go" && (
				<span className="block w-full text-sm leading-snug">
					<KnownText marks={known} most={3} />
				</span>
			)}
			{todo && text && <span className="block w-full text-sm text-soft">{text}</span>}
		</>
	);
}

/** That a client was not asked yet, or has to be asked again; nothing where the consultation is current. */
export function AskedMark({ state }: { state: Line["consultation"] }) {
	const word = asked[state ?? ""];
	if (!word) return null;
	return (
		<span className="inline-block rounded-sm border border-dashed border-soft px-2 py-px text-sm font-semibold text-soft">{word}</span>
	);
}
