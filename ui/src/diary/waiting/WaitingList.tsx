import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { api, unwrap } from "../../api/client";
import { Badge, ErrorMessage } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/waiting";

/** Who waits for a time, the longest first, and why. */
export function WaitingList() {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const list = useQuery({ queryKey: ["waiting"], queryFn: () => unwrap(api.GET("/api/waiting")), enabled: may("list-waiting") });
	const off = useMutation({
		mutationFn: (id: string) => unwrap(api.DELETE("/api/waiting/{id}", { params: { path: { id } } })),
		onSettled: () => cache.invalidateQueries({ queryKey: ["waiting"] }),
	});
	if (!list.data) return null;
	return (
		<section aria-label={w.waitingList}>
			<h2 className="mt-0 mb-1 text-xl">{w.waitingList}</h2>
			{list.data.length === 0 && <p className="m-0 text-soft">{w.nobodyWaits}</p>}
			<ul className="m-0 list-none p-0">
				{list.data.map((l) => (
					<li key={l.id} className="border-b border-rule py-1.5">
						<div className="flex items-start justify-between gap-2">
							<Link
								to="/people/$id"
								params={{ id: l.client }}
								className="inline-flex min-h-6 min-w-0 items-center font-semibold underline decoration-rule underline-offset-4"
							>
								<span className="truncate">{l.clientName}</span>
							</Link>
							<button
								type="button"
								className="min-h-6 min-w-8 text-soft"
								aria-label={`${w.takeOff}: ${l.clientName}`}
								title={w.takeOff}
								onClick={() => off.mutate(l.id)}
							>
								×
							</button>
						</div>
						<p className="num m-0 text-sm">
							{l.protocolName}; {[l.asked.when, l.asked.with].filter(Boolean).join(", ") || w.anyTime}
						</p>
						<p className="num m-0 flex flex-wrap items-center gap-x-2 text-sm text-soft">
							{w.waitsSince({ day: at.date(l.since) })}
							{l.displaced && <Badge tone="not-here">{w.displaced}</Badge>}
							{l.lateDays > 0 && <Badge tone="not-before">{w.behind({ n: l.lateDays })}</Badge>}
							{l.notice > 0 && <span>{w.atLeastHours({ n: Math.round(l.notice / 60) })}</span>}
							{l.offeredUntil && <Badge tone="go">{w.offeredUntil({ time: at.time(l.offeredUntil) })}</Badge>}
							{l.reason && <span>{l.reason}</span>}
						</p>
					</li>
				))}
			</ul>
			<ErrorMessage error={off.error} />
		</section>
	);
}
