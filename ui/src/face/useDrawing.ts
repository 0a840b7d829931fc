import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import type { View } from "./FaceArt";

type Resolved = Schemas["Resolved"];
type Drawing = Schemas["Drawing"];

/** The figures that show how often or how long. */
const counted = ["circle", "pump", "knead", "hold", "stretch", "client"];

/** What of a step its drawing shows: two that are worked alike share one, and an edit of anything else asks for none. */
const keyOf = (step: Resolved, view: View) => {
	const { figure, family, intent, path, pressure, sides, profile, relation, hand, tool, toolKind, parts, fingers, sense, anchor } = step;
	const shown = { figure, family, intent, path, pressure, sides, profile, relation, hand, tool, toolKind, parts, fingers, sense, anchor };
	return ["drawing", view, shown, step.direction, step.ending, counted.includes(figure) ? step.dose : null];
};

const draw = (steps: Resolved[], view?: View) => unwrap(api.POST("/api/drawings", { body: { steps, ...(view ? { view } : {}) } }));

/** How a step is drawn from a view, by the core. */
export function useDrawing(step: Resolved | undefined, view: View): Drawing | undefined {
	const q = useQuery<Drawing | null>({
		queryKey: step ? keyOf(step, view) : ["drawing"],
		queryFn: async () => (step ? ((await draw([step], view))[0] ?? null) : null),
		enabled: Boolean(step),
		staleTime: Number.POSITIVE_INFINITY,
	});
	return q.data ?? undefined;
}

/** Asks for the drawings of a whole plan at once, so that each is there when its step comes, also without a connection. */
export function useDrawings(steps: readonly Resolved[]) {
	const kept = useQueryClient();
	useEffect(() => {
		draw([...steps]).then(
			(all) => {
				for (const [i, d] of all.entries()) if (steps[i]) kept.setQueryData(keyOf(steps[i], d.view), d);
			},
			() => undefined, // each is asked for again when its step comes
		);
	}, [steps, kept]);
}
