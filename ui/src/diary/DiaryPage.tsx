import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useDeferredValue, useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { clientQuery, clientsQuery, dayQuery, freeTimesQuery, protocolsQuery } from "../api/queries";
import { PatchFirst } from "../checks";
import { dayAfter, newId } from "../kit/format";
import { Badge, Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { askedText, outlookText, stateWords } from "../words/sentences";
import { VisitMarks } from "./VisitMarks";

type FreeTime = Schemas["FreeTime"];
const span = 7;

/** Book a visit: who, what, with whom, then a free time; beside it the day that is looked at. */
export function DiaryPage() {
	const search = useSearch({ from: "/shell/diary" });
	const go = useNavigate();
	const { at } = useSession();
	const today = at.day(useNow(60_000));
	const [name, setName] = useState("");
	const wanted = useDeferredValue(name);
	const [practitioner, setPractitioner] = useState("");
	const [chosen, setChosen] = useState<FreeTime | null>(null);
	const [booked, setBooked] = useState<Schemas["VisitLine"] | null>(null);
	const request = useRef("");
	const from = search.from && search.from > today ? search.from : today;
	const clientId = search.client ?? "";
	const client = useQuery({ ...clientQuery(clientId), enabled: Boolean(clientId) });
	const found = useQuery({ ...clientsQuery(wanted), enabled: !clientId });
	const protocols = useQuery(protocolsQuery);
	const sellable = (protocols.data ?? []).filter((p) => p.version > 0);
	const protocol = sellable.find((p) => p.id === search.protocol) ?? sellable[0];
	const day = useQuery(dayQuery(chosen ? at.day(chosen.start) : from));
	const free = useQuery({
		...freeTimesQuery({ protocol: protocol?.id ?? "", client: clientId, practitioner, from, days: span, moved: search.move ?? "" }),
		enabled: Boolean(protocol && clientId),
	});
	const cache = useQueryClient();
	const book = useMutation({
		mutationFn: (t: FreeTime) => {
			if (search.move)
				return unwrap(
					api.POST("/api/visits/{id}/move", {
						params: { path: { id: search.move } },
						body: { practitioner: t.practitioner, room: t.room, start: t.start },
					}),
				);
			return unwrap(
				api.POST("/api/visits", {
					body: {
						id: request.current,
						client: clientId,
						practitioner: t.practitioner,
						room: t.room,
						protocol: protocol!.id,
						start: t.start,
					},
				}),
			);
		},
		onSuccess: (v) => {
			setBooked(v);
			setChosen(null);
		},
		onSettled: () => {
			for (const key of ["free", "day", "client", "clients"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const set = (part: Partial<typeof search>) => {
		book.reset();
		setBooked(null);
		setChosen(null);
		go({ to: "/diary", search: { ...search, ...part } });
	};
	const pick = (t: FreeTime) => {
		request.current = newId();
		setChosen(t);
		setBooked(null);
	};
	const near = book.error instanceof ProblemError ? (book.error.problem.near ?? []) : [];
	const days = Array.from({ length: span }, (_, i) => dayAfter(from, i));
	const noon = (d: string) => `${d}T12:00:00Z`;
	return (
		<Page title={search.move ? w.diaryMoveAnAppointment : w.diary}>
			<div className="grid gap-8 lg:grid-cols-[320px_minmax(0,1fr)]">
				<section aria-label={w.whatToBook} className="grid content-start gap-4">
					{clientId ? (
						<div>
							<p className="m-0 text-sm font-semibold">{w.client}</p>
							<p className="m-0 flex min-h-11 items-center justify-between gap-2">
								<span className="truncate font-serif text-xl font-semibold" title={client.data?.client.name}>
									{client.data?.client.name ?? "…"}
								</span>
								<Button variant="quiet" onClick={() => set({ client: undefined })}>
									{w.changeClient}
								</Button>
							</p>
						</div>
					) : (
						<div>
							<Field label={w.client}>
								{(a) => (
									<input
										{...a}
										className="field"
										type="search"
										placeholder={w.name}
										value={name}
										onChange={(e) => setName(e.target.value)}
									/>
								)}
							</Field>
							<ul className="m-0 mt-1 max-h-64 list-none overflow-auto p-0">
								{found.data?.clients.slice(0, 12).map((c) => (
									<li key={c.id}>
										<button
											type="button"
											className="min-h-11 w-full border-b border-rule px-2 text-left hover:bg-leaf"
											onClick={() => set({ client: c.id })}
										>
											{c.name}
										</button>
									</li>
								))}
							</ul>
						</div>
					)}
					<Field
						label={w.protocol}
						hint={
							protocol ? w.soldMinThenResetMinReset({ sold: protocol.sold, reset: protocol.reset, price: askedText(protocol) }) : undefined
						}
					>
						{(a) => (
							<select {...a} className="field" value={protocol?.id ?? ""} onChange={(e) => set({ protocol: e.target.value })}>
								{sellable.map((p) => (
									<option key={p.id} value={p.id}>
										{p.name}
									</option>
								))}
							</select>
						)}
					</Field>
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
						{(a) => <input {...a} className="field" type="date" min={today} value={from} onChange={(e) => set({ from: e.target.value })} />}
					</Field>
					<ErrorMessage error={book.error} />
					{near.length > 0 && (
						<div>
							<p className="m-0 mb-1 font-semibold">{w.nearestFreeTimes}</p>
							<div className="grid gap-1">
								{near.map((t) => (
									<Button key={`${t.start}${t.practitioner}`} onClick={() => pick(t)}>
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
							<Button variant="primary" className="w-full" disabled={book.isPending} onClick={() => book.mutate(chosen)}>
								{search.move ? w.moveHere : w.book}
							</Button>
						</div>
					)}
					{booked && (
						<div role="status" className="border-l-4 border-kelp bg-kelp-pale p-4">
							<p className="num m-0 font-serif text-xl font-semibold">
								{search.move ? w.moved : w.booked}: {at.date(booked.startsAt)}, {at.time(booked.startsAt)}
							</p>
							<p className="mt-1 mb-2">
								{booked.practitionerName}, {booked.roomName}
							</p>
							{booked.outlook && (
								<p className="mt-0 mb-2">
									<Badge tone={booked.outlook}>{outlookText(booked)}</Badge>
								</p>
							)}
							<Link
								to="/visits/$id"
								params={{ id: booked.id }}
								className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
							>
								{w.openAppointment}
							</Link>
						</div>
					)}
					{booked && <PatchFirst visit={booked} />}
				</section>
				<section aria-label={w.freeTimes} className="min-w-0">
					<div className="mb-2 flex items-center justify-between gap-3">
						<Button onClick={() => set({ from: dayAfter(from, -span) })} disabled={from <= today}>
							{w.previousWeek}
						</Button>
						<span className="font-serif text-lg">
							{w.fromToFrom2({ from: at.date(noon(from)), from2: at.date(noon(dayAfter(from, span - 1))) })}
						</span>
						<Button onClick={() => set({ from: dayAfter(from, span) })}>{w.nextWeek}</Button>
					</div>
					{!clientId && <p className="text-lg text-soft">{w.chooseClientSeeFreeTimes}</p>}
					{clientId && free.isPending && <Loading of={w.theFreeTimes} error={free.error} />}
					{free.data && (
						<div className="grid grid-cols-7 gap-2">
							{days.map((d) => {
								const all = free.data.filter((t) => at.day(t.start) === d);
								const starts = [...new Map(all.map((t) => [t.start, t])).values()];
								return (
									<div key={d} className="min-w-0">
										<p className="m-0 border-b border-ink pb-1 text-center text-sm font-semibold">{at.date(noon(d))}</p>
										<div className="mt-1 grid max-h-[50vh] gap-1 overflow-y-auto p-1">
											{starts.length === 0 && <span className="text-center text-sm text-soft">{w.noFreeTimes}</span>}
											{starts.map((t) => (
												<button
													key={t.start}
													type="button"
													className={`num min-h-11 rounded-sm border text-sm ${chosen?.start === t.start ? "border-ink bg-ink text-paper" : "border-rule bg-leaf hover:border-ink"}`}
													title={all
														.filter((o) => o.start === t.start)
														.map((o) => o.practitionerName)
														.join(", ")}
													onClick={() => pick(t)}
												>
													{at.time(t.start)}
												</button>
											))}
										</div>
									</div>
								);
							})}
						</div>
					)}
					{day.data && (
						<>
							<h2 className="mt-6 mb-1 text-xl">{at.long(noon(day.data.date))}</h2>
							{day.data.visits.length === 0 && <p className="m-0 text-soft">{w.noAppointmentsThisDay}</p>}
							<ul className="m-0 list-none p-0">
								{day.data.visits.map((v) => (
									<li
										key={v.id}
										className="grid grid-cols-[110px_minmax(0,1fr)_minmax(0,1fr)_minmax(0,1.4fr)] items-center gap-3 border-b border-rule"
									>
										<Link
											to="/visits/$id"
											params={{ id: v.id }}
											className="num inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4"
										>
											{at.time(v.startsAt)} – {at.time(v.endsAt)}
										</Link>
										<span className="truncate">{v.clientName}</span>
										<span className="truncate text-sm">
											{v.practitionerName}, {v.roomName}
										</span>
										<span className="flex flex-wrap justify-end gap-1.5 py-1 text-right">
											<VisitMarks visit={v} todo />
											<Badge tone="plain">{stateWords[v.state]}</Badge>
										</span>
									</li>
								))}
							</ul>
						</>
					)}
				</section>
			</div>
		</Page>
	);
}
