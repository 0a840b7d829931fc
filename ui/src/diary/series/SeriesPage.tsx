import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { seriesQuery } from "../../api/queries";
import { Badge, Button, ErrorMessage, Loading } from "../../kit/kit";
import { ReasonForm } from "../../kit/ReasonForm";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/series";
import { seriesStateWords, stateWords } from "../../words/sentences";
import { Garland } from "./Garland";
import { HomeCare } from "./HomeCare";
import { MovePanel } from "./MovePanel";
import { ToLookAt } from "./Offers";
import { Review, Reviewed } from "./Review";
import { andList, dayOf, limitText, type Offered, sentence, shortDay } from "./say";
import { useMoving } from "./useMoving";
import { useStudioDay } from "./useStudioDay";
import { type Row, VisitList } from "./VisitList";

type View = Schemas["SeriesView"];

/** A booked visit as one that is offered, for the picture. */
function asOffered(v: Schemas["VisitLine"], n: number, wall: (t: string) => string): Offered {
	return {
		kind: "treatment",
		n,
		wall: wall(v.startsAt),
		start: v.startsAt,
		end: v.endsAt,
		practitioner: v.practitioner,
		practitionerName: v.practitionerName,
		room: v.room,
		roomName: v.roomName,
		protocolName: v.protocolName,
	};
}

/** A series: what is given and what is to come, as a garland and as a list; visits are moved here together. */
export function SeriesPage() {
	const { id } = useParams({ from: "/shell/series/$id" });
	const series = useQuery(seriesQuery(id));
	if (!series.data) return <Loading of={w.theSeries} error={series.error} retry={() => series.refetch()} />;
	return <TheSeries view={series.data} />;
}

function TheSeries({ view }: { view: View }) {
	const { at, may } = useSession();
	const { people, open: hours } = useStudioDay();
	const cache = useQueryClient();
	const due = view.treatments.findIndex((t) => t.visit && t.visit.startsAt > new Date().toISOString());
	const [focus, setFocus] = useState(Math.max(1, due + 1));
	const page = useRef<HTMLElement>(null);
	const wall = useMemo(() => (t: string) => `${at.day(t)} ${at.time(t)}`, [at]);
	const visits = useMemo(() => view.treatments.flatMap((t) => (t.visit ? [asOffered(t.visit, t.n, wall)] : [])), [view, wall]);
	const patches = view.patchTests.map((v) => ({
		...asOffered({ ...v, practitionerName: "", roomName: "", protocolName: "", clientName: "" } as Schemas["VisitLine"], v.item ?? 0, wall),
		kind: "patch" as const,
	}));
	const open = view.state === "running" || view.state === "paused";
	const ask = useMemo(
		() => ({
			key: [view.id, visits.map((v) => v.wall)],
			times: (n: number) => unwrap(api.GET("/api/series/{id}/times", { params: { path: { id: view.id }, query: { n } } })),
			lay: (n: number, spot: { start: string; practitioner: string }) =>
				unwrap(api.POST("/api/series/{id}/lay", { params: { path: { id: view.id } }, body: { moved: { n, ...spot } } })),
			why: (n: number, spot: { start: string; practitioner: string }) =>
				unwrap(api.POST("/api/series/{id}/why", { params: { path: { id: view.id } }, body: { n, ...spot } })),
		}),
		[view.id, visits],
	);
	const move = useMoving(ask, visits);
	const refresh = () => {
		for (const key of ["free", "day", "client", "clients", "series", "week", "visit"]) cache.invalidateQueries({ queryKey: [key] });
	};
	const rest = useQuery({
		queryKey: ["series", view.id, "rest", view.due, view.tooEarly],
		queryFn: () => unwrap(api.POST("/api/series/{id}/lay", { params: { path: { id: view.id } }, body: {} })),
		enabled: view.state === "running" && (view.due > 0 || view.tooEarly.length > 0) && may("move-series"),
	});
	const write = useMutation({
		mutationFn: (list: readonly Offered[]) =>
			unwrap(
				api.POST("/api/series/{id}/visits", {
					params: { path: { id: view.id } },
					body: { visits: list.map((v) => ({ kind: v.kind, n: v.n, start: v.wall, practitioner: v.practitioner, room: v.room })) },
				}),
			),
		onSuccess: (v) => {
			cache.setQueryData(seriesQuery(view.id).queryKey, v);
			move.stop();
			page.current?.focus();
		},
		onSettled: refresh,
	});
	const accept = () => move.best && write.mutate(move.best.visits);
	useEffect(() => {
		const key = (e: KeyboardEvent) => {
			const on = e.target instanceof Element ? e.target : document.body;
			if (e.ctrlKey || e.metaKey || e.altKey || on.closest("[role=dialog]") || ["INPUT", "TEXTAREA", "SELECT"].includes(on.tagName)) return;
			const pressed = on.tagName === "BUTTON" || on.tagName === "A";
			if (move.moving) {
				if (move.onKey(e)) e.preventDefault();
				else if (e.key === "Escape") move.stop();
				else if (e.key === "Enter" && !pressed) accept();
			} else if (e.key.toLowerCase() === "m" && open && may("move-series") && movable.has(focus)) move.begin(focus);
		};
		window.addEventListener("keydown", key);
		return () => window.removeEventListener("keydown", key);
	});
	const movable = new Set(
		view.treatments
			.filter((t) => t.visit && ["booked", "confirmed"].includes(t.visit.state) && t.visit.startsAt > new Date().toISOString())
			.map((t) => t.n),
	);
	const shown = move.best?.visits ?? visits;
	const items = view.treatments.map((t) => ({
		n: t.n,
		ideal: t.ideal,
		least: t.least,
		most: t.most,
		minutes: t.visit ? Math.round((Date.parse(t.visit.endsAt) - Date.parse(t.visit.startsAt)) / 60_000) : 60,
	}));
	const rows: Row[] = view.treatments.map((t) => ({
		n: t.n,
		name: t.name,
		visit: shown.find((v) => v.kind === "treatment" && v.n === t.n),
		id: t.visit?.id,
		movable: movable.has(t.n),
		note: t.visit && (
			<>
				{t.visit.state !== "booked" && ` · ${stateWords[t.visit.state]}`}
				{t.visit.moves ? ` · ${w.agreedFirst({ day: shortDay(at.day(t.visit.agreedAt)) })}` : ""}
			</>
		),
	}));
	const given = new Set(
		view.treatments.filter((t) => t.visit && ["done", "broken-off", "in-room"].includes(t.visit.state)).map((t) => t.n),
	);
	const taken = write.error instanceof ProblemError && write.error.problem.visit ? write.error.problem : undefined;
	return (
		<main ref={page} tabIndex={-1} className="min-h-0 flex-1 overflow-auto px-5 pt-3 pb-6 focus:outline-none" data-own-shortcuts>
			<div className="mb-2 flex flex-wrap items-center justify-between gap-3">
				<h1 className="m-0 text-[2rem]">{w.seriesOf({ name: view.clientName })}</h1>
				<div className="flex flex-wrap items-center gap-3">
					<Badge tone={view.state === "running" ? "go" : "plain"}>{seriesStateWords[view.state]}</Badge>
					<span className="num">
						{w.givenOf({ given: view.given, all: view.treatments.length })}
						{view.used ? ` · ${w.usedMissed({ n: view.used })}` : ""}
					</span>
					<Link to="/people/$id" params={{ id: view.client }} className="font-semibold underline decoration-rule underline-offset-4">
						{w.toFile}
					</Link>
				</div>
			</div>
			<div className="grid gap-6 lg:grid-cols-[minmax(0,1fr)_340px]">
				<div className="min-w-0">
					<p className="m-0 mb-1 font-serif text-2xl leading-tight font-semibold text-balance">
						{visits.length > 0 && `${sentence(visits)}.`}
					</p>
					{view.state === "paused" && <p className="m-0">{w.pausedBecause({ reason: view.reason })}</p>}
					{view.lateBy > 0 && <p className="m-0 font-semibold text-persimmon-deep">{w.lateBy({ n: view.lateBy })}</p>}
					{(view.due > 0 || view.tooEarly.length > 0) && view.state === "running" && (
						<div className="my-2 border-l-4 border-persimmon bg-blush p-3">
							<p className="m-0 mb-2 font-semibold">
								{view.tooEarly.length > 0
									? w.tooEarly({ visits: andList(view.tooEarly.map(String)), day: shortDay(view.notBefore ?? "") })
									: `${w.dueN({ n: view.due })}.`}
							</p>
							{rest.data?.best && (
								<>
									<p className="m-0 mb-2">{sentence(rest.data.best.visits.filter((v) => v.n >= (view.tooEarly[0] ?? view.due)))}.</p>
									<ToLookAt offer={rest.data.best} />
									<Button
										variant="primary"
										disabled={write.isPending}
										onClick={() => rest.data.best && write.mutate(rest.data.best.visits)}
									>
										{view.tooEarly.length > 0 ? w.moveTheRest : w.bookTheRest}
									</Button>
								</>
							)}
							{rest.data?.status === "none" && <p className="m-0">{w.noSeries}</p>}
						</div>
					)}
					{taken && (
						<p role="alert" className="my-3 border-l-4 border-persimmon bg-blush px-4 py-3 font-semibold">
							{w.visitFails({ n: taken.visit, reason: limitText(taken.limit ?? "", taken.name) })}
						</p>
					)}
					<ErrorMessage error={taken ? undefined : write.error} />
					{visits.length > 0 && (
						<Garland
							visits={[...shown, ...(move.best ? [] : patches)]}
							items={items}
							ground={{ away: [] }}
							people={people}
							open={hours}
							focus={focus}
							onFocus={setFocus}
							ghost={move.moving && !move.best ? move.moving.at : undefined}
							times={move.moving ? move.times : []}
							onMove={open && may("move-series") ? (n) => movable.has(n) && move.begin(n) : undefined}
							onDrag={open && may("move-series") ? move.go : undefined}
							onKey={move.onKey}
							size="tall"
							given={given}
						/>
					)}
					{may("write-home-care") && !move.moving && <HomeCare view={view} />}
					{view.review && <Reviewed view={view} />}
					{view.reviewFrom && may("review-series") && !move.moving && <Review view={view} onDone={refresh} />}
					{may("set-series-state") && !move.moving && <SeriesSteps view={view} onDone={refresh} />}
				</div>
				<div className="min-w-0">
					<MovePanel move={move} accept={w.acceptMove} busy={write.isPending} onAccept={accept} />
					<VisitList
						rows={rows}
						patches={patches.filter((p) => dayOf(p.wall))}
						products=""
						focus={focus}
						onFocus={setFocus}
						onMove={open && may("move-series") && !move.moving ? (n) => movable.has(n) && move.begin(n) : undefined}
					/>
				</div>
			</div>
		</main>
	);
}

const reasons = [w.reasonAway, w.reasonIll, w.reasonMoney, w.reasonUnsuited];

/** Pausing, taking up, finishing and breaking off. */
function SeriesSteps({ view, onDone }: { view: View; onDone: () => void }) {
	const cache = useQueryClient();
	const [asking, setAsking] = useState<"paused" | "broken-off" | null>(null);
	const [other, setOther] = useState(false);
	const set = useMutation({
		mutationFn: (to: { state: "running" | "paused" | "finished" | "broken-off"; reason?: string }) =>
			unwrap(api.POST("/api/series/{id}/state", { params: { path: { id: view.id } }, body: to })),
		onSuccess: (v) => {
			cache.setQueryData(seriesQuery(view.id).queryKey, v);
			setAsking(null);
			setOther(false);
		},
		onSettled: onDone,
	});
	if (asking)
		return (
			<div className="leaf mt-3 max-w-2xl p-4">
				<p className="m-0 font-semibold">{asking === "paused" ? w.whyPause : w.whyBreakOff}</p>
				<p className="m-0 mb-2 text-sm text-soft">{w.cancelsComing}</p>
				{other ? (
					<ReasonForm
						label={w.anotherReason}
						least={3}
						button={asking === "paused" ? w.pause : w.breakOff}
						onReason={(reason) => set.mutate({ state: asking, reason })}
						onLeave={() => setAsking(null)}
					/>
				) : (
					<div className="flex flex-wrap gap-2">
						{reasons.map((reason) => (
							<Button key={reason} disabled={set.isPending} onClick={() => set.mutate({ state: asking, reason })}>
								{reason}
							</Button>
						))}
						<Button onClick={() => setOther(true)}>{w.anotherReason}</Button>
						<Button variant="quiet" onClick={() => setAsking(null)}>
							{w.leaveIt}
						</Button>
					</div>
				)}
				<ErrorMessage error={set.error} />
			</div>
		);
	return (
		<div className="mt-3 flex flex-wrap gap-2">
			{view.state === "running" && <Button onClick={() => setAsking("paused")}>{w.pause}</Button>}
			{view.state === "paused" && (
				<Button variant="primary" onClick={() => set.mutate({ state: "running" })}>
					{w.takeUp}
				</Button>
			)}
			{(view.state === "running" || view.state === "paused") && (
				<Button variant="quiet" onClick={() => setAsking("broken-off")}>
					{w.breakOff}
				</Button>
			)}
			<ErrorMessage error={set.error} />
		</div>
	);
}
