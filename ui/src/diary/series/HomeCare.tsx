import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../../api/client";
import { seriesQuery } from "../../api/queries";
import { Button, ErrorMessage, Field } from "../../kit/kit";
import * as w from "../../words/catalogue/series";

/** What the client does at home beside the visits of a series. */
export function HomeCare({ view }: { view: Schemas["SeriesView"] }) {
	const cache = useQueryClient();
	const [typed, setTyped] = useState<string | null>(null);
	const key = seriesQuery(view.id).queryKey;
	const save = useMutation({
		mutationFn: (homeCare: string) =>
			unwrap(api.PUT("/api/series/{id}/home-care", { params: { path: { id: view.id } }, body: { homeCare, was: view.homeCare } })),
		onSuccess: (v) => {
			cache.setQueryData(key, v);
			setTyped(null);
		},
		onError: () => cache.invalidateQueries({ queryKey: key }),
	});
	const changed = typed !== null && typed.trim() !== view.homeCare;
	return (
		<div className="mt-4 max-w-3xl">
			<Field label={w.homeCare}>
				{(a) => (
					<textarea
						{...a}
						className="field min-h-20"
						maxLength={2000}
						placeholder={w.homeCareHint}
						value={typed ?? view.homeCare}
						onChange={(e) => setTyped(e.target.value)}
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
