import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { Button } from "../../kit/kit";
import { useNow, useSession } from "../../kit/session";
import * as w from "../../words/catalogue/series";

/** How long a hold still lasts, in minutes and seconds. */
export function HoldClock({ until }: { until: string }) {
	const now = useNow(1_000);
	const left = Math.max(0, Math.round((Date.parse(until) - now.getTime()) / 1_000));
	return (
		<span className="num font-semibold" role="timer">
			{left > 0 ? w.heldFor({ left: `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")}` }) : w.holdLapsed}
		</span>
	);
}

/** The holds of everybody in one row, with their seconds. */
export function HeldNow() {
	const { may } = useSession();
	const holds = useQuery({
		queryKey: ["holds"],
		queryFn: () => unwrap(api.GET("/api/holds")),
		refetchInterval: 10_000,
		enabled: may("list-holds"),
	});
	if (!holds.data?.length) return null;
	return (
		<p className="m-0 mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule pt-2 text-sm">
			<strong>{w.holdsNow}</strong>
			{holds.data.map((h) => (
				<span key={h.series}>
					{w.holdOf({ name: h.clientName, visits: h.visits === 1 ? w.oneVisitShort : w.visits({ n: h.visits }) })}{" "}
					<HoldClock until={h.until} />
					{h.mine && ` (${w.mine})`}
				</span>
			))}
		</p>
	);
}

/** A series that waits for its client's answer by link. */
export function Sent({ view, onAnother }: { view: Schemas["SeriesView"]; onAnother: () => void }) {
	return (
		<div role="status" className="max-w-3xl border-l-4 border-kelp bg-kelp-pale p-4">
			<p className="m-0 font-serif text-2xl font-semibold">{w.sentTo({ name: view.clientName })}</p>
			<p className="mt-1 mb-2">
				<HoldClock until={view.heldUntil ?? ""} /> {w.clientAnswersByLink}
			</p>
			<Button variant="quiet" onClick={onAnother}>
				{w.bookAnother}
			</Button>
		</div>
	);
}
