import type { Schemas } from "../api/client";
import { Badge } from "../kit/kit";
import * as w from "../words/catalogue/diary";
import { headlineWords, outlookText, toDoText } from "../words/sentences";

/** What is to be expected of a visit, or what its check gave; and, where there is room, what to do about it. */
export function VisitMarks({ visit: v, todo }: { visit: Schemas["VisitLine"]; todo?: boolean }) {
	const text = toDoText(v);
	return (
		<>
			{v.outlook && <Badge tone={v.outlook}>{outlookText(v)}</Badge>}
			{v.checked && <Badge tone={v.checked}>{headlineWords[v.checked]}</Badge>}
			{(v.patchFirst?.length ?? 0) > 0 && <Badge tone="not-before">{w.patchTestFirst}</Badge>}
			{todo && text && <span className="block w-full text-sm text-soft">{text}</span>}
		</>
	);
}
