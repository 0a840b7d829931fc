import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { dayQuery, freeTimesQuery, visitQuery } from "../api/queries";
import { dayAfter } from "../kit/format";
import { Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";

type FreeTime = Schemas["FreeTime"];
const span = 7;

/** Moves one appointment by hand: its free times of a week, with whomever it may be. */
export function MovePage({ id }: { id: string }) {
	const search = useSearch({ from: "/shell/diary" });
	const go = useNavigate();
	const { at } = useSession();
	const today = at.day(useNow(60_000));
	const visit = useQuery(visitQuery(id));
	const day = useQuery(dayQuery(today));
	const [practitioner, setPractitioner] = useState("");
	const [chosen, setChosen] = useState<FreeTime | null>(null);
	const [moved, setMoved] = useState<Schemas["VisitLine"] | null>(null);
	const from = search.from && search.from > today ? search.from : today;
	const free = useQuery({
		...freeTimesQuery({
			protocol: visit.data?.protocol ?? "",
			client: visit.data?.client ?? "",
			practitioner,
			from,
			days: span,
			moved: id,
		}),
		enabled: Boolean(visit.data),
	});
	const cache = useQueryClient();
	const move = useMutation({
		mutationFn: (t: FreeTime) =>
			unwrap(
				api.POST("/api/visits/{id}/move", {
					params: { path: { id } },
					body: { practitioner: t.practitioner, room: t.room, start: t.start },
				}),
			),
		onSuccess: (v) => {
			setMoved(v);
			setChosen(null);
		},
		onSettled: () => {
			for (const key of ["free", "day", "client", "clients", "strips", "visit", "series"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const show = (day: string) => {
		setChosen(null);
		go({ to: "/diary", search: { ...search, from: day } });
	};
	const near = move.error instanceof ProblemError ? (move.error.problem.near ?? []) : [];
	const noon = (d: string) => `${d}T12:00:00Z`;
	if (!visit.data) return <Loading of={w.theVisit} error={visit.error} />;
	const v = visit.data;
	return (
		<Page title={w.diaryMoveAnAppointment}>
			<div className="grid gap-8 lg:grid-cols-[320px_minmax(0,1fr)]">
				<section aria-label={w.whatToBook} className="grid content-start gap-4">
					<p className="m-0">
						<span className="block font-serif text-xl font-semibold">{v.clientName}</span>
						<span className="num block">
							{at.date(v.startsAt)}, {at.time(v.startsAt)}
						</span>
						<span className="block text-sm text-soft">
							{v.protocolName}, {v.practitionerName}
						</span>
					</p>
					<Field label={w.practitioner}>
						{(a) => (
							<select
								{...a}
								className="field"
								value={practitioner}
								onChange={(e) => {
									setPractitioner(e.target.value);
									setChosen(null);
								}}
							>
								<option value="">{w.anyone}</option>
								{day.data?.practitioners.map((p) => (
									<option key={p.id} value={p.id}>
										{p.name}
									</option>
								))}
							</select>
						)}
					</Field>
					<Field label={w.from}>
						{(a) => <input {...a} className="field" type="date" min={today} value={from} onChange={(e) => show(e.target.value)} />}
					</Field>
					<ErrorMessage error={move.error} />
					{near.length > 0 && (
						<div>
							<p className="m-0 mb-1 font-semibold">{w.nearestFreeTimes}</p>
							<div className="grid gap-1">
								{near.map((t) => (
									<Button key={`${t.start}${t.practitioner}`} onClick={() => setChosen(t)}>
										<span className="num">
											{at.date(t.start)}, {at.time(t.start)}
										</span>
										<span className="text-sm">{t.practitionerName}</span>
									</Button>
								))}
							</div>
						</div>
					)}
					{chosen && (
						<div className="leaf p-4">
							<p className="num m-0 font-serif text-2xl font-semibold">
								{at.date(chosen.start)}, {at.time(chosen.start)}
							</p>
							<p className="mt-1 mb-3">
								{chosen.practitionerName}, {chosen.roomName}
							</p>
							<Button variant="primary" className="w-full" disabled={move.isPending} onClick={() => move.mutate(chosen)}>
								{w.moveHere}
							</Button>
						</div>
					)}
					{moved && (
						<div role="status" className="border-l-4 border-kelp bg-kelp-pale p-4">
							<p className="num m-0 font-serif text-xl font-semibold">
								{w.moved}: {at.date(moved.startsAt)}, {at.time(moved.startsAt)}
							</p>
							<p className="mt-1 mb-2">
								{moved.practitionerName}, {moved.roomName}
							</p>
							<Link
								to="/visits/$id"
								params={{ id: moved.id }}
								className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
							>
								{w.openAppointment}
							</Link>
						</div>
					)}
				</section>
				<section aria-label={w.freeTimes} className="min-w-0">
					<div className="mb-2 flex items-center justify-between gap-3">
						<Button onClick={() => show(dayAfter(from, -span))} disabled={from <= today}>
							{w.previousWeek}
						</Button>
						<span className="font-serif text-lg">
							{w.fromToFrom2({ from: at.date(noon(from)), from2: at.date(noon(dayAfter(from, span - 1))) })}
						</span>
						<Button onClick={() => show(dayAfter(from, span))}>{w.nextWeek}</Button>
					</div>
					{free.isPending && <Loading of={w.theFreeTimes} error={free.error} />}
					{free.data && (
						<ul className="m-0 list-none p-0">
							{Array.from({ length: span }, (_, i) => dayAfter(from, i)).map((d) => {
								const starts = free.data.filter((t) => at.day(t.start) === d);
								return (
									<li key={d} className="grid grid-cols-[96px_minmax(0,1fr)] items-start gap-2 border-t border-rule py-2">
										<span className="num pt-2 text-sm font-semibold">{at.date(noon(d))}</span>
										<span className="flex flex-wrap gap-1">
											{starts.length === 0 && <span className="pt-2 text-sm text-soft">{w.noFreeTimes}</span>}
											{starts.map((t) => (
												<button
													key={t.start}
													type="button"
													className={`num min-h-9 rounded-sm border px-2 text-sm ${chosen?.start === t.start ? "border-ink bg-ink text-paper" : "border-rule bg-leaf hover:border-ink"}`}
													title={[t.practitionerName, ...(t.others ?? [])].join(", ")}
													onClick={() => {
														setMoved(null);
														setChosen(t);
													}}
												>
													{at.time(t.start)}
												</button>
											))}
										</span>
									</li>
								);
							})}
						</ul>
					)}
				</section>
			</div>
		</Page>
	);
}
