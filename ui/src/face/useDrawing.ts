import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import type { View } from "./FaceArt";

type Resolved = Schemas["Resolved"];
type Drawing = Schemas["Drawing"];

/** A step without its place in the plan: two visits of the same movement are drawn alike. */
const placeless = (step: Resolved): Resolved => ({ ...step, id: "", start: 0 });

const keyOf = (step: Resolved, view: View) => ["drawing", view, placeless(step)];

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
