import type { Schemas } from "../api/client";
import { headlineWords, outlookText } from "../words/en";
import { Mark } from "./kit";

/** What is to be expected of a visit, or what its check gave. */
export function VisitMarks({ visit: v }: { visit: Schemas["VisitLine"] }) {
	return (
		<>
			{v.outlook && <Mark tone={v.outlook}>{outlookText(v)}</Mark>}
			{v.checked && <Mark tone={v.checked}>{headlineWords[v.checked]}</Mark>}
			{(v.patchFirst?.length ?? 0) > 0 && <Mark tone="not-before">Patch test first</Mark>}
		</>
	);
}
