import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { seriesQuery } from "../../api/queries";
import { Button, ErrorMessage, Field } from "../../kit/kit";
import { useNow, useSession } from "../../kit/session";
import * as w from "../../words/catalogue/series";
import { shortDay } from "./say";

type View = Schemas["SeriesView"];
type Decision = "go-on" | "change" | "stop";

const decisions: readonly (readonly [Decision, string])[] = [
	["go-on", w.reviewGoOn],
	["change", w.reviewChange],
	["stop", w.reviewStop],
];

/** The end review: what was found against the first visit, and a question; nothing goes on by itself. */
export function Review({ view, onDone }: { view: View; onDone: () => void }) {
	const { at } = useSession();
	const today = at.day(useNow(60_000));
	const cache = useQueryClient();
	const [found, setFound] = useState("");
	const send = useMutation({
		mutationFn: (decision: Decision) =>
			unwrap(api.POST("/api/series/{id}/review", { params: { path: { id: view.id } }, body: { found, decision } })),
		onSuccess: (v) => cache.setQueryData(seriesQuery(view.id).queryKey, v),
		onSettled: onDone,
	});
	const early = (view.reviewFrom ?? "") > today;
	return (
		<section aria-label={w.endReview} className="leaf mt-4 max-w-3xl p-4">
			<h2 className="mt-0 mb-1 text-2xl">{w.endReview}</h2>
			{early ? (
				<p className="num m-0">{w.reviewFrom({ day: shortDay(view.reviewFrom ?? "") })}</p>
			) : (
				<>
					<Field
						label={w.whatWasFound}
						hint={w.compareWithTheFirst}
						fault={send.error instanceof ProblemError ? send.error.at("/found") : undefined}
					>
						{(a) => (
							<textarea {...a} className="field" rows={3} maxLength={2000} value={found} onChange={(e) => setFound(e.target.value)} />
						)}
					</Field>
					<p className="mt-3 mb-1 font-semibold">{w.goOnChangeOrStop}</p>
					<div className="flex flex-wrap gap-2">
						{decisions.map(([decision, label]) => (
							<Button key={decision} disabled={send.isPending} onClick={() => send.mutate(decision)}>
								{label}
							</Button>
						))}
					</div>
					<ErrorMessage error={send.error} />
				</>
			)}
		</section>
	);
}

/** A review that was made, with the way to the next series where there is to be one. */
export function Reviewed({ view }: { view: View }) {
	const { at, may } = useSession();
	const r = view.review;
	if (!r) return null;
	return (
		<section aria-label={w.endReview} className="mt-4 max-w-3xl border-l-4 border-kelp bg-kelp-pale p-4">
			<h2 className="num mt-0 mb-1 text-2xl">
				{w.endReview}, {at.date(r.at)}
			</h2>
			<p className="m-0 whitespace-pre-line">{r.found}</p>
			<p className="mt-1 mb-0 font-semibold">{decisions.find(([d]) => d === r.decision)?.[1]}</p>
			{r.decision !== "stop" && may("hold-series") && (
				<Link
					to="/book"
					search={{ client: view.client, ...(view.treatments[0] ? { protocol: view.treatments[0].protocol } : {}) }}
					className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
				>
					{w.bookTheNextSeries}
				</Link>
			)}
		</section>
	);
}
