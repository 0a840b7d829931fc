import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { api, unwrap } from "../../api/client";
import { Badge } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/series";
import { seriesStateWords } from "../../words/sentences";

/** A client's series: what is given, what is due, what is late. */
export function ClientSeries({ client }: { client: string }) {
	const { may } = useSession();
	const list = useQuery({
		queryKey: ["series", "client", client],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/series", { params: { path: { id: client } } })),
		enabled: may("list-series"),
	});
	if (!may("list-series") || !list.data) return null;
	return (
		<section aria-label={w.series}>
			<div className="flex flex-wrap items-baseline justify-between gap-3">
				<h2 className="mt-0 mb-1 text-2xl">{w.series}</h2>
				{may("hold-series") && (
					<Link
						to="/book"
						search={{ client }}
						className="inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4"
					>
						{w.bookSeries}
					</Link>
				)}
			</div>
			{list.data.length === 0 && <p className="m-0 text-soft">{w.noSeriesYet}</p>}
			<ul className="m-0 list-none p-0">
				{list.data.map((s) => (
					<li key={s.id} className="flex flex-wrap items-center gap-x-3 border-b border-rule">
						<Link
							to="/series/$id"
							params={{ id: s.id }}
							className="inline-flex min-h-11 min-w-0 flex-1 items-center font-semibold underline decoration-rule underline-offset-4"
						>
							<span className="truncate">{s.treatments[0]?.name}</span>
						</Link>
						<span className="num text-sm">{w.givenOf({ given: s.given, all: s.treatments.length })}</span>
						{s.lateBy > 0 && <Badge tone="not-here">{w.lateBy({ n: s.lateBy })}</Badge>}
						{s.due > 0 && s.state === "running" && <Badge tone="not-before">{w.dueN({ n: s.due })}</Badge>}
						<Badge tone={s.state === "running" ? "go" : "plain"}>{seriesStateWords[s.state]}</Badge>
					</li>
				))}
			</ul>
		</section>
	);
}
