import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { seriesQuery } from "../../api/queries";
import { newId } from "../../kit/format";
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
	const { at, may } = useSession();
	const today = at.day(useNow(60_000));
	const cache = useQueryClient();
	const [found, setFound] = useState("");
	const send = useMutation({
		mutationFn: (decision: Decision) =>
			unwrap(api.POST("/api/series/{id}/review", { params: { path: { id: view.id } }, body: { found, decision } })),
		onSuccess: (v) => cache.setQueryData(seriesQuery(view.id).queryKey, v),
		onSettled: onDone,
	});
	const [looking, setLooking] = useState(false);
	const times = useQuery({
		queryKey: ["free", "review", view.id],
		queryFn: () => unwrap(api.GET("/api/series/{id}/review-times", { params: { path: { id: view.id } } })),
		enabled: looking,
	});
	const book = useMutation({
		mutationFn: (f: Schemas["FreeTime"]) =>
			unwrap(
				api.POST("/api/series/{id}/review-visit", {
					params: { path: { id: view.id } },
					body: { id: newId(), practitioner: f.practitioner, room: f.room, start: f.start },
				}),
			),
		onSuccess: (v) => {
			cache.setQueryData(seriesQuery(view.id).queryKey, v);
			setLooking(false);
		},
		onSettled: onDone,
	});
	const early = (view.reviewFrom ?? "") > today;
	return (
		<section aria-label={w.endReview} className="leaf mt-4 max-w-3xl p-4">
			<h2 className="mt-0 mb-1 text-2xl">{w.endReview}</h2>
			{view.reviewVisit ? (
				<p className="num mt-0 mb-2">
					{w.reviewIsBooked({
						day: at.date(view.reviewVisit.startsAt),
						time: at.time(view.reviewVisit.startsAt),
						name: view.reviewVisit.practitionerName,
					})}
				</p>
			) : (
				may("book-review") && (
					<div className="mb-2">
						<Button variant="quiet" className="px-0!" onClick={() => setLooking(!looking)}>
							{w.reviewOfItsOwn}
						</Button>
						{looking && (
							<div className="flex flex-wrap gap-2">
								{times.data?.map((f) => (
									<Button key={`${f.start}${f.practitioner}`} disabled={book.isPending} onClick={() => book.mutate(f)}>
										<span className="num">{`${at.date(f.start)}, ${at.time(f.start)}`}</span>
									</Button>
								))}
								{times.data?.length === 0 && <p className="m-0">{w.noTimeForReview}</p>}
							</div>
						)}
						<ErrorMessage error={times.error ?? book.error} />
					</div>
				)
			)}
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
			{r.found && <p className="m-0 whitespace-pre-line">{r.found}</p>}
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
