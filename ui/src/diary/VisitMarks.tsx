import type { Schemas } from "../api/client";
import { Mark } from "../kit/kit";
import { headlineWords, outlookText, toDoText } from "../words/en";

/** What is to be expected of a visit, or what its check gave; and, where there is room, what to do about it. */
export function VisitMarks({ visit: v, todo }: { visit: Schemas["VisitLine"]; todo?: boolean }) {
	const text = toDoText(v);
	return (
		<>
			{v.outlook && <Mark tone={v.outlook}>{outlookText(v)}</Mark>}
			{v.checked && <Mark tone={v.checked}>{headlineWords[v.checked]}</Mark>}
			{(v.patchFirst?.length ?? 0) > 0 && <Mark tone="not-before">Patch test first</Mark>}
			{todo && text && <span className="block w-full text-sm text-soft">{text}</span>}
		</>
	);
}
