import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, take } from "../api/client";
import { libraryQuery, planQuery, visitQuery } from "../api/queries";
import { TravelChart } from "../chart/TravelChart";
import { FaceMap } from "../face/FaceMap";
import { clock } from "../format";
import { SignDialog } from "../parts/Consents";
import { Button, Dialog, Mark, Page, Trouble, Waiting } from "../parts/kit";
import { WriteLetter } from "../parts/Letters";
import { Outcomes } from "../parts/Outcomes";
import { useSession } from "../parts/session";
import { changeText, consentWords, findingText, headlineWords, outlookText, stateWords } from "../words/en";
import { DoorCheck } from "./DoorCheck";

/** A visit from the door to the room: check, plan for today, start. */
export function VisitPage() {
	const { id } = useParams({ from: "/shell/visits/$id" });
	const { at, treats } = useSession();
	const visit = useQuery(visitQuery(id));
	const cache = useQueryClient();
	const [asking, setAsking] = useState(false);
	const cancel = useMutation({
		mutationFn: () => take(api.POST("/api/visits/{id}/state", { params: { path: { id } }, body: { state: "cancelled" } })),
		onSettled: () => {
			setAsking(false);
			for (const key of ["visit", "day"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	if (!visit.data) return <Waiting of="the visit" error={visit.error} retry={() => visit.refetch()} />;
	const v = visit.data;
	const over = ["cancelled", "late-cancelled", "no-show"].includes(v.state);
	return (
		<Page
			title={
				<>
					{v.clientName}{" "}
					<span className="num text-2xl font-normal text-soft">
						{at.date(v.startsAt)}, {at.time(v.startsAt)}
					</span>
				</>
			}
			action={
				<span className="flex items-center gap-4">
					<Mark tone="plain">{stateWords[v.state]}</Mark>
					<Link
						to="/people/$id"
						params={{ id: v.client }}
						className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
					>
						Client
					</Link>
					{["booked", "confirmed", "arrived"].includes(v.state) && (
						<Button look="quiet" onClick={() => setAsking(true)}>
							Cancel the visit
						</Button>
					)}
				</span>
			}
		>
			<p className="mt-0 mb-5">
				{v.protocolName} with {v.practitionerName}, {v.roomName}, until <span className="num">{at.time(v.endsAt)}</span>
			</p>
			<Trouble error={cancel.error} />
			{over ? (
				<p className="text-lg">This visit does not take place.</p>
			) : v.state === "done" ? (
				treats && (
					<Link
						to="/visits/$id/record"
						params={{ id }}
						className="inline-flex min-h-11 items-center rounded-sm bg-persimmon px-4 font-semibold text-white no-underline"
					>
						Open the record
					</Link>
				)
			) : v.state === "in-room" ? (
				treats && (
					<Link
						to="/visits/$id/room"
						params={{ id }}
						className="inline-flex min-h-11 items-center rounded-sm bg-persimmon px-4 font-semibold text-white no-underline"
					>
						Back to the room
					</Link>
				)
			) : treats ? (
				<Today visit={v} />
			) : (
				<p className="text-lg">
					{v.checked ? headlineWords[v.checked] : v.outlook ? `To expect: ${outlookText(v)}.` : "Not checked at the door yet."}
				</p>
			)}
			{!over && !treats && (v.outlook || v.checked === "not") && <MoveOn visit={v} />}
			<Dialog open={asking} onClose={() => setAsking(false)} title="Cancel this visit?">
				<p>The time becomes free for others. Within 24 hours of the visit it is recorded as cancelled late.</p>
				<div className="flex justify-end gap-3">
					<Button autoFocus onClick={() => setAsking(false)}>
						Keep it
					</Button>
					<Button look="next" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
						Cancel the visit
					</Button>
				</div>
			</Dialog>
		</Page>
	);
}

/** A visit that cannot be today: the first allowed free time by one click, or another from the diary. */
function MoveOn({ visit }: { visit: Schemas["VisitLine"] }) {
	const { at } = useSession();
	const first = useQuery({
		queryKey: ["free", "first", visit.id, visit.checked, visit.notBefore],
		queryFn: () => take(api.GET("/api/visits/{id}/first-free", { params: { path: { id: visit.id } } })),
		retry: false,
	});
	const go = useNavigate();
	const cache = useQueryClient();
	const move = useMutation({
		mutationFn: (f: Schemas["FreeTime"]) =>
			take(
				api.POST("/api/visits/{id}/move", {
					params: { path: { id: visit.id } },
					body: { practitioner: f.practitioner, room: f.room, start: f.start },
				}),
			),
		onSuccess: () => {
			for (const key of ["visit", "day", "plan", "free", "client"]) cache.invalidateQueries({ queryKey: [key] });
			go({ to: "/people/$id", params: { id: visit.client } });
		},
	});
	return (
		<>
			{first.data && (
				<Button look="next" disabled={move.isPending} onClick={() => first.data && move.mutate(first.data)}>
					Move to <span className="num">{`${at.date(first.data.start)}, ${at.time(first.data.start)}`}</span>, {first.data.practitionerName}
				</Button>
			)}
			<Link
				to="/diary"
				search={{ client: visit.client, protocol: visit.protocol, from: first.data ? at.day(first.data.start) : undefined, move: visit.id }}
				className="inline-flex min-h-11 items-center rounded-sm border border-[#9c8873] bg-leaf px-4 font-semibold text-ink no-underline"
			>
				Another time
			</Link>
			<Trouble error={move.error} />
		</>
	);
}

/** What would be possible instead, the protocol that changes least first. */
function TakeInstead({ visit }: { visit: Schemas["VisitLine"] }) {
	const list = useQuery({
		queryKey: ["possible", visit.id, visit.checked],
		queryFn: () => take(api.GET("/api/visits/{id}/possible", { params: { path: { id: visit.id } } })),
	});
	const cache = useQueryClient();
	const change = useMutation({
		mutationFn: (protocol: string) =>
			take(api.POST("/api/visits/{id}/protocol", { params: { path: { id: visit.id } }, body: { protocol } })),
		onSuccess: () => {
			for (const key of ["visit", "day", "plan"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	if (!list.data) return <Waiting of="what is possible" error={list.error} />;
	if (list.data.length === 0) return <p>None of the studio’s protocols is possible today. Find another day in the diary.</p>;
	return (
		<section aria-label="Possible instead">
			<h2 className="mb-1 text-2xl">Possible instead</h2>
			<ul className="m-0 list-none p-0">
				{list.data.map((p, i) => (
					<li key={p.protocol} className="flex flex-wrap items-center gap-4 border-b border-rule py-1.5">
						<span className="min-w-60 flex-1">
							<span className="font-semibold">{p.name}</span>
							<span className="num block text-sm text-soft">
								{p.minutes} min, {p.changes} changes in {p.steps} steps
							</span>
						</span>
						<Button look={i === 0 ? "next" : "plain"} disabled={change.isPending} onClick={() => change.mutate(p.protocol)}>
							Take this one
						</Button>
					</li>
				))}
			</ul>
			<Trouble error={change.error} />
		</section>
	);
}

function Today({ visit }: { visit: Schemas["VisitLine"] }) {
	const [overrules, setOverrules] = useState<Record<string, string>>({});
	const plan = useQuery(planQuery(visit.id, Object.keys(overrules)));
	const [signing, setSigning] = useState(false);
	const library = useQuery(libraryQuery);
	const [again, setAgain] = useState(false);
	const [at, setAt] = useState(0);
	const go = useNavigate();
	const cache = useQueryClient();
	const start = useMutation({
		mutationFn: () =>
			take(
				api.POST("/api/visits/{id}/treatment", {
					params: { path: { id: visit.id } },
					body: { overrules: Object.entries(overrules).map(([rule, reason]) => ({ rule, reason })) },
				}),
			),
		onSuccess: () => {
			for (const key of ["visit", "day", "room"]) cache.invalidateQueries({ queryKey: [key] });
			go({ to: "/visits/$id/room", params: { id: visit.id } });
		},
	});
	const unchecked = plan.error instanceof ProblemError && plan.error.problem.code === "no-door-check";
	if (unchecked || again) return <DoorCheck client={visit.client} visit={visit.id} onDone={() => setAgain(false)} />;
	if (!plan.data || !library.data) return <Waiting of="the plan" error={plan.error ?? library.error} retry={() => plan.refetch()} />;
	const t = plan.data;
	const e = t.evaluation;
	const missing = t.missing?.[0];
	const zones = library.data.zones;
	const zone = (key: string) => zones.find((z) => z.key === key)?.name ?? key;
	const names = { zone, step: (id: string) => e.steps.find((s) => s.id === id)?.name ?? id };
	const now = e.visits.find((v) => at < v.end);
	const step = now ? e.steps[now.step] : undefined;
	const avoid = t.screening.result.outcomes.filter((o) => o.kind === "leave-out").flatMap((o) => o.places ?? []);
	return (
		<div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_380px]">
			<div className="min-w-0">
				<Outcomes
					screening={t.screening}
					zone={zone}
					overrulable={t.treatable ? (t.overrulable ?? []) : []}
					overrules={overrules}
					onOverrules={setOverrules}
				/>
				<div className="my-4 flex flex-wrap gap-3">
					{t.treatable && !t.refused && missing && (
						<Button look="next" onClick={() => setSigning(true)}>
							Let the client sign: {consentWords[missing]}
						</Button>
					)}
					{t.treatable && !t.refused && !missing && (
						<Button look="next" disabled={start.isPending} onClick={() => start.mutate()}>
							{t.changes.length > 0 ? "Accept the changes and go to the room" : "Go to the room"}
						</Button>
					)}
					{t.screening.result.outcomes.some((o) => o.kind === "letter") && (
						<WriteLetter client={visit.client} visit={visit.id} planned={visit.protocolName} />
					)}
					{!t.treatable && <MoveOn visit={visit} />}
					<Button look="quiet" onClick={() => setAgain(true)}>
						Check again
					</Button>
				</div>
				<SignDialog
					client={visit.client}
					name={visit.clientName}
					kind={signing && missing ? missing : null}
					onClose={() => setSigning(false)}
				/>
				<Trouble error={start.error} />
				{t.refused && <p className="text-lg font-semibold">With today’s cautions nothing sensible is left of this protocol.</p>}
				{t.refused && t.treatable && <TakeInstead visit={visit} />}
				{t.treatable && !t.refused && (
					<section aria-label="Changes for today">
						<h2 className="mb-1 text-2xl">
							{t.changes.length === 0 ? "The protocol as published" : `${t.changes.length} changes for today`}
						</h2>
						<ul className="m-0 list-none p-0">
							{t.changes.map((c) => (
								<li key={`${c.step}-${c.did}-${c.zone ?? ""}-${c.to ?? ""}`} className="border-b border-rule py-1.5">
									{changeText(c, names)}
									{c.title && (
										<span className="block text-sm text-soft">
											{c.title}: {c.why}
										</span>
									)}
								</li>
							))}
						</ul>
						{e.findings.map((f) => (
							<p key={f.id} className="my-1 text-sm">
								<Mark tone={f.severity === "note" ? "plain" : "not-here"}>{f.severity}</Mark>{" "}
								{f.steps[0] ? `${names.step(f.steps[0])}: ` : ""}
								{findingText(f, names)}
							</p>
						))}
					</section>
				)}
			</div>
			<aside className="min-w-0 lg:sticky lg:top-2 lg:self-start">
				<div className="leaf h-[420px] p-2">
					<FaceMap zones={zones} step={step} avoid={avoid} label={step ? `${step.name} on the face` : "The face from the front"} />
				</div>
				<p className="num my-1 text-sm">
					{step?.name ?? ""} · {clock(at)} of {clock(e.seconds)}
				</p>
				<TravelChart evaluation={e} at={at} onSeek={(s) => setAt(s)} height={150} tracks={false} selected={step?.id} />
			</aside>
		</div>
	);
}
