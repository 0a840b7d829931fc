import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { seriesQuery } from "../../api/queries";
import { Button, ErrorMessage, Field } from "../../kit/kit";
import * as w from "../../words/catalogue/series";

/** What the client does at home beside the visits of a series. */
export function HomeCare({ view }: { view: Schemas["SeriesView"] }) {
	const cache = useQueryClient();
	// what is typed, and what the home care was when the typing began
	const [typed, setTyped] = useState<{ text: string; was: string } | null>(null);
	const key = seriesQuery(view.id).queryKey;
	const save = useMutation({
		mutationFn: ({ text, was }: { text: string; was: string }) =>
			unwrap(api.PUT("/api/series/{id}/home-care", { params: { path: { id: view.id } }, body: { homeCare: text, was } })),
		onSuccess: (v) => {
			cache.setQueryData(key, v);
			setTyped(null);
		},
		onError: async (e) => {
			if (!(e instanceof ProblemError) || e.problem.code !== "changed-meanwhile") return;
			// the sentence shows what is there now, so that the next press may write over it
			const now = await cache.fetchQuery({ ...seriesQuery(view.id), staleTime: 0 });
			setTyped((t) => t && { ...t, was: now.homeCare });
		},
	});
	const changed = typed !== null && typed.text.trim() !== view.homeCare;
	return (
		<div className="mt-4 max-w-3xl">
			<Field label={w.homeCare}>
				{(a) => (
					<textarea
						{...a}
						className="field min-h-20"
						maxLength={2000}
						placeholder={w.homeCareHint}
						value={typed?.text ?? view.homeCare}
						onChange={(e) => setTyped({ text: e.target.value, was: typed?.was ?? view.homeCare })}
					/>
				)}
			</Field>
			{changed && (
				<Button disabled={save.isPending} onClick={() => save.mutate(typed)}>
					{w.saveHomeCare}
				</Button>
			)}
			<ErrorMessage error={save.error} />
		</div>
	);
}
