import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../../api/client";
import { newId } from "../../kit/format";
import { Button, ErrorMessage } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/waiting";

type Fit = Schemas["Fit"];

/** Of a visit that does not take place: who on the waiting list comes first for its time, and why. */
export function FreedTime({ visit }: { visit: Schemas["VisitLine"] }) {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const [held, setHeld] = useState<{ fit: Fit; series: Schemas["SeriesView"] } | null>(null);
	const [done, setDone] = useState("");
	const fits = useQuery({
		queryKey: ["waiting", "fits", visit.id],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/waiting", { params: { path: { id: visit.id } } })),
		enabled: may("who-fits") && visit.kind === "treatment",
	});
	const refresh = () => {
		for (const key of ["waiting", "day", "free", "holds", "client"]) cache.invalidateQueries({ queryKey: [key] });
	};
	const offer = useMutation({
		mutationFn: (f: Fit) =>
			unwrap(
				api.POST("/api/waiting/{id}/offer", {
					params: { path: { id: f.id } },
					body: { series: newId(), at: { start: f.wall, practitioner: f.practitioner } },
				}),
			),
		onSuccess: (series, fit) => setHeld({ fit, series }),
		onSettled: refresh,
	});
	const book = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/series/{id}/book", { params: { path: { id } } })),
		onSuccess: (v) => {
			setDone(v.clientName);
			setHeld(null);
		},
		onSettled: refresh,
	});
	const release = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/series/{id}/release", { params: { path: { id } } })),
		onSuccess: () => setHeld(null),
		onSettled: refresh,
	});
	const why = (f: Fit) =>
		f.displaced ? w.whyDisplaced : f.lateDays > 0 ? w.whyBehind({ n: f.lateDays }) : w.whyLongest({ day: at.date(f.since) });
	const [first, ...others] = fits.data ?? [];
	if (!fits.data) return null;
	return (
		<section aria-label={w.whoWaitsForThisTime} className="leaf mt-4 max-w-2xl p-4">
			<h2 className="m-0 mb-1 text-xl">{w.whoWaitsForThisTime}</h2>
			{done && <p className="m-0 font-semibold text-kelp">{w.bookedFor({ name: done })}</p>}
			{!done && !held && !first && <p className="m-0">{w.nobodyFits}</p>}
			{held && (
				<div className="flex flex-wrap items-center gap-3">
					<span className="num">{w.heldFor({ name: held.fit.clientName, time: at.time(held.series.heldUntil ?? "") })}</span>
					<span className="num">{held.fit.phone || w.noPhone}</span>
					<Button variant="primary" disabled={book.isPending} onClick={() => book.mutate(held.series.id)}>
						{w.bookFor({ name: held.fit.clientName })}
					</Button>
					<Button variant="quiet" onClick={() => release.mutate(held.series.id)}>
						{w.letGo}
					</Button>
				</div>
			)}
			{!done && !held && first && (
				<>
					<p className="m-0 mb-2">
						<strong>{first.clientName}</strong> {w.comesFirst({ why: why(first) })}. <span className="num">{at.time(first.start)}</span>,{" "}
						{first.practitionerName}, {first.protocolName}.
					</p>
					<Button variant="primary" disabled={offer.isPending} onClick={() => offer.mutate(first)}>
						{w.offerTo({ name: first.clientName })}
					</Button>
					{others.length > 0 && (
						<p className="m-0 mt-2 text-sm text-soft">{w.theyAre({ names: others.map((f) => f.clientName).join(", ") })}</p>
					)}
				</>
			)}
			<ErrorMessage error={offer.error ?? book.error ?? release.error} />
		</section>
	);
}
