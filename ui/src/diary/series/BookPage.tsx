import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { protocolsQuery, visitQuery } from "../../api/queries";
import { PatchFirst } from "../../checks";
import { newId } from "../../kit/format";
import { Badge, Button, ErrorMessage } from "../../kit/kit";
import { useNow, useSession } from "../../kit/session";
import * as wd from "../../words/catalogue/diary";
import * as w from "../../words/catalogue/series";
import * as wl from "../../words/catalogue/waiting";
import { outlookText } from "../../words/sentences";
import { Garland } from "./Garland";
import { type Asked, Line } from "./Line";
import { MovePanel } from "./MovePanel";
import { compromises, dayOf, limitText, moreText, type Offer, type Offered, relaxed, sentence, shortDay, timeOf } from "./say";
import { useMoving } from "./useMoving";
import { useStudioDay } from "./useStudioDay";
import { VisitList } from "./VisitList";

type View = Schemas["SeriesView"];

/** A question about a series as it is sent. */
const questionOf = (a: Asked) => ({
	client: a.client,
	what: a.what.map((x) => (x.visits > 0 ? { protocol: x.protocol, visits: x.visits } : { protocol: x.protocol })),
	often: a.often,
	when: a.when,
	with: a.with,
	review: a.review,
});

const currentOf = (o: Offer) =>
	o.visits.filter((v) => v.kind === "treatment").map((v) => ({ start: v.wall, practitioner: v.practitioner }));

/** What is typed, a moment after typing paused. */
function usePaused<T>(value: T, ms: number): T {
	const [late, setLate] = useState(value);
	useEffect(() => {
		const id = setTimeout(() => setLate(value), ms);
		return () => clearTimeout(id);
	}, [value, ms]);
	return late;
}

/** Books what a client on the telephone asks for: one line of fields, and the best series as it is typed. */
export function BookPage() {
	const search = useSearch({ from: "/shell/book" });
	const go = useNavigate();
	const { may } = useSession();
	const { people, open } = useStudioDay();
	const all = useQuery(protocolsQuery);
	const protocols = useMemo(() => (all.data ?? []).filter((p) => p.version > 0), [all.data]);
	const page = useRef<HTMLDivElement>(null);
	const [typed, setTyped] = useState<Omit<Asked, "client">>({
		what: search.protocol ? [{ protocol: search.protocol, visits: 0 }] : [],
		often: "",
		when: "",
		with: "",
		review: false,
	});
	// The next visit like one that was given: the line is filled in, and can be changed like any other.
	const again = useQuery({
		queryKey: ["again", search.again],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/again", { params: { path: { id: search.again ?? "" } } })),
		enabled: Boolean(search.again),
		staleTime: Number.POSITIVE_INFINITY,
	});
	const proposed = again.data;
	useEffect(() => {
		if (!proposed) return;
		setTyped({
			what: proposed.what.map((x) => ({ protocol: x.protocol, visits: x.visits ?? 0 })),
			often: proposed.often,
			when: proposed.when,
			with: proposed.with,
			review: false,
		});
		void go({ to: "/book", search: { client: proposed.client }, replace: true });
		page.current?.focus();
	}, [proposed, go]);
	const first = protocols[0]?.id;
	const asked: Asked = useMemo(
		() => ({
			client: search.client ?? "",
			...typed,
			what: typed.what.length > 0 ? typed.what : first ? [{ protocol: first, visits: 0 }] : [],
		}),
		[search.client, typed, first],
	);
	const paused = usePaused(asked, 250);
	const [relax, setRelax] = useState<string[]>([]);
	const [held, setHeld] = useState<View | null>(null);
	const [booked, setBooked] = useState<View | null>(null);
	const question = useMemo(() => ({ ...questionOf(paused), relax }), [paused, relax]);
	const found = useQuery({
		queryKey: ["series", question],
		queryFn: () => unwrap(api.POST("/api/series/find", { body: question })),
		enabled: Boolean(paused.client && paused.what.length > 0) && !held && !booked,
		placeholderData: (old) => old,
		staleTime: 5_000,
		retry: false,
	});
	const [chosen, setChosen] = useState(0);
	const [own, setOwn] = useState<Offer | null>(null); // a series in which a visit was moved by hand
	const [focus, setFocus] = useState(1);
	// What is typed and not answered yet: the answer before it stays, faint, and cannot be booked.
	const waiting = asked.client !== "" && (paused !== asked || found.isPlaceholderData || found.isFetching) && !held && !booked;
	const answer = asked.client ? found.data : undefined;
	const offers = answer?.best ? [answer.best, ...answer.others] : [];
	const offer = own ?? offers[chosen] ?? offers[0];
	const request = useRef("");

	const begin = (part: Partial<Asked>) => {
		setOwn(null);
		setChosen(0);
		setBooked(null);
		setRelax([]);
		hold.reset();
		book.reset();
		wait.reset();
		move.stop();
		if (held) release.mutate(held.id);
		const { client, ...rest } = part;
		if (client !== undefined) go({ to: "/book", search: { client: client || undefined } });
		setTyped((was) => ({ ...was, ...rest }));
	};
	const cache = useQueryClient();
	const refresh = () => {
		for (const key of ["free", "day", "client", "clients", "series", "holds", "week"]) cache.invalidateQueries({ queryKey: [key] });
	};
	const hold = useMutation({
		mutationFn: async (o: Offer) => {
			request.current = newId();
			return unwrap(
				api.POST("/api/series", {
					body: {
						id: request.current,
						...questionOf(asked),
						relax,
						visits: o.visits.map((v) => ({ kind: v.kind, n: v.n, start: v.wall, practitioner: v.practitioner, room: v.room })),
					},
				}),
			);
		},
		onSuccess: (v, o) => {
			setOwn(o); // what is held is busy now: the finder would answer something else
			setHeld(v);
		},
		onError: () => {
			setOwn(null);
			refresh();
		},
	});
	const book = useMutation({
		mutationFn: async () => {
			const id = held?.id ?? (offer ? (await hold.mutateAsync(offer)).id : "");
			return unwrap(api.POST("/api/series/{id}/book", { params: { path: { id } } }));
		},
		onSuccess: (v) => {
			setBooked(v);
			setHeld(null);
		},
		onSettled: refresh,
	});
	const release = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/series/{id}/release", { params: { path: { id } } })),
		onSuccess: () => {
			setHeld(null);
			setOwn(null);
		},
		onSettled: refresh,
	});
	const renew = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/series/{id}/renew", { params: { path: { id } } })),
		onSuccess: setHeld,
	});

	const wait = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/waiting", {
					body: {
						id: newId(),
						client: asked.client,
						protocol: asked.what[0]?.protocol ?? "",
						when: asked.when,
						with: asked.with,
						notice: 0,
						reason: "",
					},
				}),
			),
		onSettled: () => cache.invalidateQueries({ queryKey: ["waiting"] }),
	});
	const visits = offer?.visits ?? [];
	const ask = useMemo(() => {
		const current = offer ? currentOf(offer) : [];
		return {
			key: [question, current],
			times: (n: number) => unwrap(api.POST("/api/series/times", { body: { ...question, at: { n, ...current[n - 1]! } } })),
			lay: (n: number, spot: { start: string; practitioner: string }) =>
				unwrap(api.POST("/api/series/find", { body: { ...question, moved: { n, ...spot }, current } })),
			why: (n: number, spot: { start: string; practitioner: string }) =>
				unwrap(api.POST("/api/series/why", { body: { ...question, at: { n, ...spot }, current } })),
		};
	}, [question, offer]);
	const move = useMoving(ask, visits);
	// Another time of a single visit: what goes with it, such as its patch test, is laid anew.
	const pick = useMutation({
		mutationFn: async (v: Offered) => (await ask.lay(v.n, { start: v.wall, practitioner: v.practitioner })).best,
		onSuccess: (best) => {
			if (best) setOwn(best);
			page.current?.focus();
		},
	});
	const accept = () => {
		if (!move.best) return;
		setOwn(move.best);
		move.stop();
		page.current?.focus();
	};
	const choose = (i: number) => {
		setOwn(null);
		setChosen(i);
	};
	const failed = [hold.error, book.error].find((e) => e instanceof ProblemError && e.problem.code === "series-taken") as
		| ProblemError
		| undefined;

	useEffect(() => {
		const key = (e: KeyboardEvent) => {
			const on = e.target instanceof Element ? e.target : document.body;
			if (e.ctrlKey || e.metaKey || e.altKey || on.closest("[role=dialog]")) return;
			if (["INPUT", "TEXTAREA", "SELECT"].includes(on.tagName)) {
				if (e.key === "Escape" && on instanceof HTMLElement) page.current?.focus();
				return;
			}
			const pressed = on.tagName === "BUTTON" || on.tagName === "A";
			if (move.moving) {
				if (move.onKey(e)) e.preventDefault();
				else if (e.key === "Escape") move.stop();
				else if (e.key === "Enter" && !pressed) accept();
				return;
			}
			if (e.key.toLowerCase() === "w" && answer && !booked && !held) {
				wait.mutate();
				e.preventDefault();
			}
			if (!offer || booked || waiting) return;
			if (e.key === " " && !pressed && !held) hold.mutate(offer);
			else if (e.key === "Enter" && !pressed && !book.isPending) book.mutate();
			else if (["1", "2", "3"].includes(e.key) && !held && offers[Number(e.key) - 1]) {
				choose(Number(e.key) - 1);
			} else if (e.key.toLowerCase() === "m" && !held) move.begin(focus);
			else if (e.key === "Escape" && held) release.mutate(held.id);
			else return;
			e.preventDefault();
		};
		window.addEventListener("keydown", key);
		return () => window.removeEventListener("keydown", key);
	});

	const items = answer?.items ?? [];
	const shown = move.best?.visits ?? visits;
	return (
		<main className="min-h-0 flex-1 overflow-auto px-5 pt-3 pb-6" data-own-shortcuts>
			<h1 className="sr-only">{w.bookAppointments}</h1>
			<Line
				asked={asked}
				protocols={protocols}
				people={people.map((p) => p.name)}
				answer={answer}
				onChange={begin}
				onEnter={() => page.current?.focus()}
			/>
			<section ref={page} tabIndex={-1} aria-label={w.theSeries} className="pt-3 focus:outline-none">
				{!asked.client && <p className="mt-10 text-center text-lg text-soft">{w.chooseWhoAndWhat}</p>}
				<p className="m-0 h-0 text-right text-sm text-soft" role="status">
					{waiting && w.searching}
				</p>
				<ErrorMessage
					error={failed ? undefined : (found.error ?? hold.error ?? book.error ?? release.error ?? renew.error ?? pick.error ?? wait.error)}
				/>
				{wait.isSuccess && (
					<p role="status" className="my-2 border-l-4 border-kelp bg-kelp-pale px-4 py-2 font-semibold">
						{wl.onTheList}
					</p>
				)}
				{failed && (
					<p role="alert" className="my-3 border-l-4 border-persimmon bg-blush px-4 py-3 font-semibold">
						{failed.problem.visit
							? w.visitFails({ n: failed.problem.visit, reason: limitText(failed.problem.limit ?? "", failed.problem.name) })
							: failed.message}
					</p>
				)}
				{booked && <Booked view={booked} onAnother={() => begin({ client: "" })} />}
				{answer?.status === "none" && !own && (
					<NoSeries answer={answer} onRelax={setRelax}>
						<Button disabled={wait.isPending || wait.isSuccess} onClick={() => wait.mutate()}>
							{wl.putOnList}
						</Button>
					</NoSeries>
				)}
				{answer?.status === "stopped" && !own && <p className="text-lg">{w.stopped}</p>}
				{relax.length > 0 && offer && !booked && (
					<p className="m-0 mb-1 text-soft">
						{w.gaveWay({
							what: relaxed(
								relax.map((name) => ({ name, limit: name.startsWith("one-more-") ? "one-more" : name }) as Schemas["RelaxedLimit"]),
							),
						})}{" "}
						<Button variant="quiet" className="px-1!" onClick={() => setRelax([])}>
							{w.askAsBefore}
						</Button>
					</p>
				)}
				{offer && !booked && (
					<div className={`grid gap-6 lg:grid-cols-[minmax(0,1fr)_340px] ${waiting ? "opacity-50" : ""}`}>
						<div className="min-w-0">
							<p className="m-0 font-serif text-3xl leading-tight font-semibold text-balance">{sentence(visits)}.</p>
							<Given offer={offer} wished={answer?.when.some((h) => h.as === "first") ?? false} />
							<div className="mt-2 mb-3 flex flex-wrap items-center gap-2">
								{held ? (
									<>
										<Button variant="primary" disabled={book.isPending} onClick={() => book.mutate()}>
											{w.book}
										</Button>
										<HoldClock until={held.heldUntil ?? ""} />
										{!held.renewed && <Button onClick={() => renew.mutate(held.id)}>{w.renew}</Button>}
										<Button variant="quiet" onClick={() => release.mutate(held.id)}>
											{w.release}
										</Button>
									</>
								) : (
									may("hold-series") && (
										<>
											<Button variant="primary" disabled={book.isPending || hold.isPending || waiting} onClick={() => book.mutate()}>
												{w.book}
											</Button>
											<Button disabled={hold.isPending || waiting} onClick={() => hold.mutate(offer)}>
												{w.hold}
											</Button>
											<Button variant="quiet" disabled={wait.isPending || wait.isSuccess} onClick={() => wait.mutate()}>
												{wl.putOnList}
											</Button>
										</>
									)
								)}
								<span className="text-sm text-soft">{w.keys}</span>
							</div>
							{items.length === 1 && !held && <OtherTimes question={question} offer={offer} onChoose={(v) => pick.mutate(v)} />}
							{items.length > 1 && (
								<Garland
									visits={shown}
									items={items.map((x) => ({ ...x, n: x.n }))}
									ground={answer?.ground ?? { away: [] }}
									people={people}
									open={open}
									others={own || held ? [] : offers.filter((o) => o !== offer).map((o) => o.visits)}
									focus={focus}
									onFocus={setFocus}
									ghost={move.moving && !move.best ? move.moving.at : undefined}
									times={move.moving ? move.times : []}
									onMove={held ? undefined : move.begin}
									onKey={move.onKey}
								/>
							)}
							{!held && !move.moving && (
								<Alternatives
									offers={offers}
									chosen={own ? -1 : chosen}
									own={own}
									stopped={answer?.othersStopped ?? false}
									onChoose={choose}
								/>
							)}
							<HeldNow />
						</div>
						<div className="min-w-0">
							<MovePanel cost={offer.cost} move={move} accept={w.useThis} onAccept={accept} />
							<Earlier question={question} offer={offer} n={focus} />
							<VisitList
								rows={items.map((x) => ({
									n: x.n,
									name: x.name,
									visit: shown.find((v) => v.kind === "treatment" && v.n === x.n),
								}))}
								patches={shown.filter((v) => v.kind === "patch")}
								products={(answer?.patch ?? []).map((p) => p.name).join(", ")}
								focus={focus}
								onFocus={setFocus}
								onMove={held || items.length < 2 ? undefined : move.begin}
							/>
						</div>
					</div>
				)}
			</section>
		</main>
	);
}

/** What was given up for a series, and what that costs. */
function Given({ offer, wished }: { offer: Offer; wished: boolean }) {
	const lines = compromises(offer, wished);
	if (lines.length === 0) return <p className="m-0 mt-1 text-kelp">{w.nothingGivenUp}</p>;
	return (
		<ul className="m-0 mt-1 list-none p-0">
			{lines.slice(0, 4).map((l) => (
				<li key={l}>{l}.</li>
			))}
			{lines.length > 4 && (
				<li>
					<details>
						<summary className="min-h-6 cursor-pointer text-soft">{w.andMore({ n: lines.length - 4 })}</summary>
						<ul className="m-0 list-none p-0">
							{lines.slice(4).map((l) => (
								<li key={l}>{l}.</li>
							))}
						</ul>
					</details>
				</li>
			)}
		</ul>
	);
}

/** The other ways, each as a sentence with what it costs more. */
function Alternatives({
	offers,
	chosen,
	own,
	stopped,
	onChoose,
}: {
	stopped: boolean;
	offers: readonly Offer[];
	chosen: number;
	own: Offer | null;
	onChoose: (i: number) => void;
}) {
	return (
		<ul className="m-0 mt-2 list-none p-0">
			{offers.map((o, i) =>
				i === chosen ? null : (
					<li key={`${o.cost}${o.visits[0]?.wall}${o.visits[0]?.practitioner}`} className="border-t border-rule">
						<button
							type="button"
							className="grid min-h-11 w-full grid-cols-[24px_minmax(0,1fr)_auto] items-baseline gap-2 py-1.5 text-left hover:bg-leaf"
							onClick={() => onChoose(i)}
						>
							<span className="num font-semibold">{i + 1}</span>
							<span>
								{sentence(o.visits)}.<span className="num block text-sm text-soft">{moreFor(o, offers[chosen] ?? offers[0])}</span>
							</span>
							<span className="num text-sm text-soft">{i === 0 ? w.best : o.more === 0 ? w.asGood : moreText(o.more)}</span>
						</button>
					</li>
				),
			)}
			{!own && offers.length < 3 && offers.length > 0 && (
				<li className="border-t border-rule py-1.5 text-sm text-soft">{stopped ? w.othersStopped : w.noAlternative}</li>
			)}
		</ul>
	);
}

/** For which terms a series costs more or less than another. */
function moreFor(o: Offer, than: Offer | undefined): string {
	const terms: Record<string, string> = w.terms;
	return Object.entries(o.terms)
		.map(([term, points]) => [terms[term], Number(points) - Number(than?.terms[term as keyof Offer["terms"]] ?? 0)] as const)
		.filter(([name, n]) => name && n !== 0)
		.map(([name, n]) => w.termBy({ name, by: n > 0 ? `+${n}` : `−${-n}` }))
		.join(", ");
}

/** Why the visit in focus is not earlier: the limit that forbids each day before, one press away. */
function Earlier({ question, offer, n }: { question: ReturnType<typeof questionOf>; offer: Offer; n: number }) {
	const [open, setOpen] = useState(false);
	const current = currentOf(offer);
	const at = current[n - 1];
	const why = useQuery({
		queryKey: ["series earlier", question, current, n],
		queryFn: () => unwrap(api.POST("/api/series/earlier", { body: { ...question, at: { n, ...at! }, current } })),
		enabled: open && Boolean(at),
	});
	return (
		<div className="mb-2">
			<button
				type="button"
				className="min-h-11 font-semibold underline decoration-rule underline-offset-4"
				aria-expanded={open}
				onClick={() => setOpen(!open)}
			>
				{w.whyNotEarlier}
			</button>
			{open && why.data && (
				<ul className="num m-0 mb-2 list-none border-l-4 border-slate p-0 pl-3 text-sm">
					{why.data.length === 0 && <li>{w.noEarlier}</li>}
					{why.data.map((d) => (
						<li key={d.day}>
							{w.earlierBecause({ day: shortDay(d.day), reason: d.limit ? limitText(d.limit, d.name) : w.costsMoreThere })}
						</li>
					))}
				</ul>
			)}
		</div>
	);
}

/** Where there is none: what would have to give way, and what each limit gives alone. */
function NoSeries({
	answer,
	onRelax,
	children,
}: {
	answer: Schemas["SeriesAnswer"];
	onRelax: (names: string[]) => void;
	children: ReactNode;
}) {
	return (
		<div className="max-w-3xl">
			<p className="m-0 font-serif text-3xl font-semibold">{w.noSeries}</p>
			{answer.relax.length === 0 && <p>{answer.notAllTried ? w.notAllTried : w.evenThree}</p>}
			{answer.relax.length > 0 && (
				<>
					<h2 className="mt-3 mb-1 text-xl">{(answer.relax[0]?.limits.length ?? 1) > 1 ? w.toGiveWayTogether : w.toGiveWay}</h2>
					<ul className="m-0 list-none p-0">
						{answer.relax.map((r) => (
							<li key={relaxed(r.limits)} className="flex items-center justify-between gap-4 border-b border-rule py-2">
								<span>
									<strong>{relaxed(r.limits)}</strong>
									<span className="block">{sentence(r.visits)}.</span>
									<span className="num text-sm text-soft">{w.costOf({ n: r.cost })}</span>
								</span>
								<Button onClick={() => onRelax(r.limits.map((l) => l.name))}>{w.useThis}</Button>
							</li>
						))}
					</ul>
				</>
			)}
			<h2 className="mt-4 mb-1 text-xl">{w.alone}</h2>
			<ul className="m-0 grid list-none gap-x-6 p-0 sm:grid-cols-2">
				{answer.alone.map((l) => (
					<li key={relaxed([l])} className="flex justify-between gap-3 border-b border-rule py-1">
						<span>{relaxed([l])}</span>
						<span className="num text-sm text-soft">{l.cost === null || l.cost === undefined ? w.stillNone : w.costOf({ n: l.cost })}</span>
					</li>
				))}
			</ul>
			<p className="mt-4 mb-0">{children}</p>
		</div>
	);
}

/** The times round the best one of a single visit, day by day. */
function OtherTimes({
	question,
	offer,
	onChoose,
}: {
	question: ReturnType<typeof questionOf>;
	offer: Offer;
	onChoose: (v: Offered) => void;
}) {
	const best = offer.visits.find((v) => v.kind === "treatment");
	const around = useQuery({
		queryKey: ["series", "single", question, best?.wall.slice(0, 10)],
		queryFn: () =>
			unwrap(
				api.POST("/api/series/times", {
					body: { ...question, at: { n: 1, start: best?.wall ?? "", practitioner: best?.practitioner ?? "" } },
				}),
			),
		enabled: Boolean(best),
		placeholderData: (old) => old,
	});
	const days = [...new Set((around.data ?? []).map((t) => dayOf(t.wall)))].slice(0, 7);
	const usual = best?.practitioner;
	return (
		<section aria-label={w.otherTimes} className="mt-2">
			<h2 className="m-0 mb-1 text-xl">{w.otherTimes}</h2>
			<ul className="m-0 list-none p-0">
				{days.map((d) => {
					const there = (around.data ?? []).filter((t) => dayOf(t.wall) === d);
					// one button a time: with the same hands where they are free
					const starts = [
						...new Map(
							[...there].sort((a, b) => Number(a.practitioner === usual) - Number(b.practitioner === usual)).map((t) => [t.wall, t]),
						).values(),
					].sort((a, b) => a.wall.localeCompare(b.wall));
					return (
						<li key={d} className="grid grid-cols-[88px_minmax(0,1fr)] items-start gap-2 border-t border-rule py-1.5">
							<span className="num pt-1.5 text-sm font-semibold">{shortDay(d)}</span>
							<span className="flex flex-wrap gap-1">
								{starts.map((t) => (
									<button
										key={t.wall}
										type="button"
										title={`${t.practitionerName}, ${t.roomName}`}
										aria-pressed={t.wall === best?.wall}
										className={`num min-h-8 rounded-sm border px-1.5 text-sm ${t.wall === best?.wall ? "border-ink bg-ink text-paper" : "border-rule bg-leaf hover:border-ink"}`}
										onClick={() => onChoose(t)}
									>
										{timeOf(t.wall)}
									</button>
								))}
							</span>
						</li>
					);
				})}
			</ul>
		</section>
	);
}

/** How long a hold still lasts, in minutes and seconds. */
function HoldClock({ until }: { until: string }) {
	const now = useNow(1_000);
	const left = Math.max(0, Math.round((Date.parse(until) - now.getTime()) / 1_000));
	return (
		<span className="num font-semibold" role="timer">
			{left > 0 ? w.heldFor({ left: `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")}` }) : w.holdLapsed}
		</span>
	);
}

/** The holds of everybody in one row, with their seconds. */
function HeldNow() {
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

/** What was just booked: for a single visit with what is to be expected of it. */
function Booked({ view, onAnother }: { view: View; onAnother: () => void }) {
	const { at } = useSession();
	const first = view.treatments[0]?.visit;
	const single = view.treatments.length === 1 ? first : undefined;
	const visit = useQuery({ ...visitQuery(single?.id ?? ""), enabled: Boolean(single) });
	return (
		<div className="grid max-w-3xl gap-3">
			<div role="status" className="border-l-4 border-kelp bg-kelp-pale p-4">
				<p className="num m-0 font-serif text-2xl font-semibold">
					{w.isBooked}: {first && `${at.date(first.startsAt)}, ${at.time(first.startsAt)}`}
				</p>
				<p className="m-0 mt-1">
					{view.clientName}, {single ? `${single.practitionerName}, ${single.roomName}` : w.visits({ n: view.treatments.length })}
				</p>
				{visit.data?.freeUntil && (
					<p className="num m-0 text-sm">{wd.freeUntil({ day: at.date(visit.data.freeUntil), time: at.time(visit.data.freeUntil) })}</p>
				)}
				{visit.data?.outlook && (
					<p className="mt-1 mb-0">
						<Badge tone={visit.data.outlook}>{outlookText(visit.data)}</Badge>
					</p>
				)}
				<div className="mt-2 flex flex-wrap gap-4">
					{single ? (
						<Link
							to="/visits/$id"
							params={{ id: single.id }}
							className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
						>
							{w.openAppointment}
						</Link>
					) : (
						<Link
							to="/series/$id"
							params={{ id: view.id }}
							className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
						>
							{w.openSeries}
						</Link>
					)}
					<Button variant="quiet" onClick={onAnother}>
						{w.bookAnother}
					</Button>
				</div>
			</div>
			{visit.data && <PatchFirst visit={visit.data} />}
		</div>
	);
}
