import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { api, unwrap } from "../api/client";
import { newId } from "../kit/format";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import { Who } from "../kit/Who";
import * as w from "../words/catalogue/diary";

import { limitText } from "./series/say";

/** Somebody walks in: what fits now, practitioner by practitioner; one press and they have arrived. */
export function WalkInPage() {
	const { client } = useSearch({ from: "/shell/walk-in" });
	const go = useNavigate();
	const { at } = useSession();
	const cache = useQueryClient();
	const fits = useQuery({
		queryKey: ["walk-in", client],
		queryFn: () => unwrap(api.GET("/api/walk-in", { params: { query: { client: client ?? "" } } })),
		enabled: Boolean(client),
		refetchInterval: 60_000,
	});
	const place = useMutation({
		mutationFn: (x: { practitioner: string; protocol: string }) =>
			unwrap(api.POST("/api/walk-in", { body: { id: newId(), client: client ?? "", ...x } })),
		onSuccess: (v) => go({ to: "/visits/$id", params: { id: v.id } }),
		onSettled: () => {
			for (const key of ["day", "strips", "free", "walk-in", "client"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	return (
		<Page title={w.walkIn}>
			<div className="max-w-md">
				<Who atOnce client={client ?? ""} onChange={(id) => go({ to: "/walk-in", search: { client: id || undefined } })} />
				{!client && (
					<p className="text-soft">
						{w.whoWalkedIn}{" "}
						<Link to="/people" search={{ add: "" }} className="font-semibold underline">
							{w.addClient}
						</Link>
					</p>
				)}
			</div>
			{client && fits.isPending && <Loading of={w.theFreeTimes} error={fits.error} />}
			<ErrorMessage error={fits.error ?? place.error} />
			<ul className="m-0 mt-4 list-none p-0">
				{fits.data?.map((p) => (
					<li key={p.practitioner} className="grid gap-x-6 gap-y-2 border-t border-rule py-3 sm:grid-cols-[200px_minmax(0,1fr)]">
						<span>
							<strong className="block font-serif text-xl">{p.name}</strong>
							<span className="num text-sm text-soft">{p.free > 0 ? w.freeForMinutes({ n: p.free }) : w.notFreeNow}</span>
						</span>
						<span className="flex flex-wrap items-center gap-2">
							{p.fits.map((f) => (
								<Button
									key={f.protocol}
									disabled={place.isPending}
									onClick={() => place.mutate({ practitioner: p.practitioner, protocol: f.protocol })}
									aria-label={w.placeWith({ protocol: f.name, name: p.name })}
								>
									{f.name}
									<span className="num text-sm font-normal text-soft">
										{at.time(f.start)}–{at.time(f.until)}, {f.roomName}
									</span>
								</Button>
							))}
							{p.fits.length === 0 && p.why && <span className="text-soft">{w.nothingFits({ reason: limitText(p.why, p.whyName) })}</span>}
						</span>
					</li>
				))}
			</ul>
		</Page>
	);
}
