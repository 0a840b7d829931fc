import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { api, unwrap } from "../../api/client";
import { Button, ErrorMessage } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/waiting";

/** The clients to be called because their appointment changed; one press a call that was made. */
export function Calls() {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const list = useQuery({ queryKey: ["calls"], queryFn: () => unwrap(api.GET("/api/calls")), enabled: may("list-calls") });
	const made = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/calls/{id}/made", { params: { path: { id } } })),
		onSettled: () => cache.invalidateQueries({ queryKey: ["calls"] }),
	});
	if (!list.data?.length) return null;
	return (
		<section aria-label={w.calls} className="mb-6 border-l-4 border-persimmon bg-blush p-4">
			<h2 className="mt-0 mb-1 text-xl">{w.calls}</h2>
			<p className="m-0 mb-1 text-sm text-soft">{w.theClientIsWrittenTo}</p>
			<ul className="m-0 list-none p-0">
				{list.data.map((c) => (
					<li key={c.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-1.5">
						<span className="min-w-0 flex-1">
							<Link to="/visits/$id" params={{ id: c.visit }} className="font-semibold underline decoration-rule underline-offset-4">
								{c.clientName}
							</Link>{" "}
							<span className="num">{c.phone || w.noPhone}</span>
							{c.askFirst && <strong> {w.askFirst}</strong>} <span className="text-sm">{c.reason}</span>
							<span className="num block text-sm">
								{w.was({ day: at.date(c.wasAt), time: at.time(c.wasAt), name: c.wasWithName })};{" "}
								{c.now.state === "cancelled" || c.now.state === "late-cancelled"
									? w.notPlaced
									: w.isNow({ day: at.date(c.now.startsAt), time: at.time(c.now.startsAt), name: c.now.practitionerName })}
							</span>
						</span>
						<Button aria-label={`${w.callMade}: ${c.clientName}`} disabled={made.isPending} onClick={() => made.mutate(c.id)}>
							{w.callMade}
						</Button>
					</li>
				))}
			</ul>
			<ErrorMessage error={made.error} />
		</section>
	);
}

/** Appointments that the client was reminded of and has not confirmed. */
export function NotConfirmed() {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const list = useQuery({
		queryKey: ["unconfirmed"],
		queryFn: () => unwrap(api.GET("/api/unconfirmed")),
		enabled: may("list-unconfirmed"),
	});
	const confirm = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/visits/{id}/state", { params: { path: { id } }, body: { state: "confirmed" } })),
		onSettled: () => {
			for (const key of ["unconfirmed", "day", "visit"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	if (!list.data?.length) return null;
	return (
		<details className="mb-6 border-l-4 border-rule px-4 py-2">
			<summary className="min-h-11 cursor-pointer py-2 font-semibold">{w.notConfirmedYet({ n: list.data.length })}</summary>
			<ul className="m-0 list-none p-0">
				{list.data.map((v) => (
					<li key={v.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-1.5">
						<span className="min-w-0 flex-1">
							<Link to="/visits/$id" params={{ id: v.id }} className="font-semibold underline decoration-rule underline-offset-4">
								{v.clientName}
							</Link>{" "}
							<span className="num">{v.phone || w.noPhone}</span>
							<span className="num block text-sm">
								{w.onDay({ day: at.date(v.startsAt), time: at.time(v.startsAt), name: v.practitionerName })}
							</span>
						</span>
						<Button aria-label={`${w.confirmed}: ${v.clientName}`} disabled={confirm.isPending} onClick={() => confirm.mutate(v.id)}>
							{w.confirmed}
						</Button>
					</li>
				))}
			</ul>
			<ErrorMessage error={confirm.error} />
		</details>
	);
}

const whys = {
	"practitioner-away": w.clashPractitioner,
	"client-away": w.clashClient,
	"room-closed": w.clashRoom,
	closed: w.clashClosed,
	"outside-hours": w.clashHours,
	"clock-changed": w.clashClock,
	"letter-open": w.clashLetter,
};

/** Appointments that meet what was noted after they were booked: flagged, and moved by nobody but the desk. */
export function Clashes() {
	const { at, may } = useSession();
	const list = useQuery({ queryKey: ["clashes"], queryFn: () => unwrap(api.GET("/api/clashes")), enabled: may("list-clashes") });
	if (!list.data?.length) return null;
	return (
		<section aria-label={w.clashes} className="mb-6 border-l-4 border-persimmon px-4 py-2">
			<h2 className="mt-0 mb-1 text-xl">{w.clashes}</h2>
			<ul className="m-0 list-none p-0">
				{list.data.map((v) => (
					<li key={v.id} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-1.5">
						<Link to="/visits/$id" params={{ id: v.id }} className="font-semibold underline decoration-rule underline-offset-4">
							{v.clientName}
						</Link>
						<span className="num text-sm">
							{w.onDay({ day: at.date(v.startsAt), time: at.time(v.startsAt), name: v.practitionerName })}
						</span>
						<span className="text-sm">{whys[v.why]}</span>
						<Link
							to="/diary"
							search={{ move: v.id }}
							className="ml-auto inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
						>
							{w.findAnotherTime}
						</Link>
					</li>
				))}
			</ul>
		</section>
	);
}
