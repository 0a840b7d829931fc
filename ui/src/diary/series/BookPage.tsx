import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../../api/client";
import { protocolsQuery } from "../../api/queries";
import { newId } from "../../kit/format";
import { Button, ErrorMessage } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/series";
import * as wl from "../../words/catalogue/waiting";
import { Booked } from "./Booked";
import { Earlier } from "./Earlier";
import { Garland } from "./Garland";
import { HeldNow, HoldClock, Sent } from "./Held";
import { type Asked, Line } from "./Line";
import { MovePanel } from "./MovePanel";
import { NoSeries } from "./NoSeries";
import { Alternatives, Given, ToLookAt } from "./Offers";
import { OtherTimes } from "./OtherTimes";
import { currentOf, questionOf } from "./question";
import { RhythmLines } from "./RhythmLines";
import { limitText, type Offer, type Offered, relaxed, sentence } from "./say";
import { useHolding } from "./useHolding";
import { useMoving } from "./useMoving";
import { usePaused } from "./usePaused";
import { useStudioDay } from "./useStudioDay";
import { VisitList } from "./VisitList";

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
		what: search.protocol ? [{ protocol: search.protocol, visits: 0, also: [] }] : [],
		often: "",
		when: "",
		with: "",
		review: false,
		gaps: [],
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
			what: proposed.what.map((x) => ({ protocol: x.protocol, visits: x.visits ?? 0, also: x.also ?? [] })),
			often: proposed.often,
			when: proposed.when,
			with: proposed.with,
			review: false,
			gaps: [],
		});
		void go({ to: "/book", search: { client: proposed.client }, replace: true });
		page.current?.focus();
	}, [proposed, go]);
	const first = protocols[0]?.id;
	const asked: Asked = useMemo(
		() => ({
			client: search.client ?? "",
			...typed,
			what: typed.what.length > 0 ? typed.what : first ? [{ protocol: first, visits: 0, also: [] }] : [],
		}),
		[search.client, typed, first],
	);
	const paused = usePaused(asked, 250);
	const [relax, setRelax] = useState<string[]>([]);
	const question = useMemo(() => ({ ...questionOf(paused), relax }), [paused, relax]);
	const [settled, setSettled] = useState(false); // held, booked or sent: nothing is looked for
	const found = useQuery({
		queryKey: ["series", question],
		queryFn: () => unwrap(api.POST("/api/series/find", { body: question })),
		enabled: Boolean(paused.client && paused.what.length > 0) && !settled,
		placeholderData: (old) => old,
		staleTime: 5_000,
		retry: false,
	});
	const [chosen, setChosen] = useState(0);
	const [own, setOwn] = useState<Offer | null>(null); // a series in which a visit was moved by hand
	const [focus, setFocus] = useState(1);
	// What is typed and not answered yet: the answer before it stays, faint, and cannot be booked.
	const waiting = asked.client !== "" && (paused !== asked || found.isPlaceholderData || found.isFetching) && !settled;
	const answer = asked.client ? found.data : undefined;
	const offers = answer?.best ? [answer.best, ...answer.others] : [];
	const offer = own ?? offers[chosen] ?? offers[0];
	const holding = useHolding(asked, relax, offer, setOwn);
	const { held, booked, sent, over, hold, book, release, renew, send, failed } = holding;
	useEffect(() => setSettled(Boolean(held) || over), [held, over]);

	const begin = (part: Partial<Asked>) => {
		setOwn(null);
		setChosen(0);
		setRelax([]);
		holding.begin();
		wait.reset();
		move.stop();
		const { client, ...rest } = part;
		if (client !== undefined) go({ to: "/book", search: { client: client || undefined } });
		const anew = rest.what || rest.often !== undefined; // another rhythm has other lines
		setTyped((was) => ({ ...was, ...(anew ? { gaps: [] } : {}), ...rest }));
	};
	const cache = useQueryClient();
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
	const unsettled = waiting || pick.isPending; // what would be booked is not what is shown yet
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
			if (e.key.toLowerCase() === "w" && answer && !settled) {
				wait.mutate();
				e.preventDefault();
			}
			if (!offer || over || unsettled) return;
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
			{may("book-together") && (
				<p className="m-0 pt-1 text-right text-sm">
					<Link to="/book/together" search={asked.client ? { client: asked.client } : {}} className="underline underline-offset-4">
						{w.twoTogether}
					</Link>
				</p>
			)}
			<section ref={page} tabIndex={-1} aria-label={w.theSeries} className="pt-3 focus:outline-none">
				{!asked.client && <p className="mt-10 text-center text-lg text-soft">{w.chooseWhoAndWhat}</p>}
				<p className="m-0 h-0 text-right text-sm text-soft" role="status">
					{waiting && w.searching}
				</p>
				<ErrorMessage error={failed ? undefined : (found.error ?? holding.error ?? pick.error ?? wait.error)} />
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
				{sent && <Sent view={sent} onAnother={() => begin({ client: "" })} />}
				{answer?.deposit && !over && (
					<p role="status" className="num my-2 border-l-4 border-persimmon bg-blush px-4 py-2 font-semibold">
						{w.askForADeposit({ n: answer.missed })}
					</p>
				)}
				{answer?.status === "none" && !own && (
					<NoSeries answer={answer} onRelax={setRelax}>
						<Button disabled={wait.isPending || wait.isSuccess} onClick={() => wait.mutate()}>
							{wl.putOnList}
						</Button>
					</NoSeries>
				)}
				{answer?.status === "stopped" && !own && <p className="text-lg">{w.stopped}</p>}
				{relax.length > 0 && offer && !over && (
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
				{offer && !over && (
					<div aria-busy={waiting} className="grid gap-6 aria-busy:opacity-50 lg:grid-cols-[minmax(0,1fr)_340px]">
						<div className="min-w-0">
							<p className="m-0 font-serif text-3xl leading-tight font-semibold text-balance">{sentence(visits)}.</p>
							<Given offer={offer} wished={answer?.when.some((h) => h.as === "first") ?? false} />
							<ToLookAt offer={offer} />
							<div className="mt-2 mb-3 flex flex-wrap items-center gap-2">
								{held ? (
									<>
										<Button variant="primary" disabled={book.isPending} onClick={() => book.mutate()}>
											{w.book}
										</Button>
										<HoldClock until={held.heldUntil ?? ""} />
										{!held.renewed && <Button onClick={() => renew.mutate(held.id)}>{w.renew}</Button>}
										{!held.renewed && (
											<Button disabled={send.isPending} onClick={() => send.mutate(held.id)}>
												{w.sendToClient}
											</Button>
										)}
										<Button variant="quiet" onClick={() => release.mutate(held.id)}>
											{w.release}
										</Button>
									</>
								) : (
									may("hold-series") && (
										<>
											<Button variant="primary" disabled={book.isPending || hold.isPending || unsettled} onClick={() => book.mutate()}>
												{w.book}
											</Button>
											<Button disabled={hold.isPending || unsettled} onClick={() => hold.mutate(offer)}>
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
									onDrag={held ? undefined : move.go}
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
							{!held && !move.moving && items.length > 1 && (
								<RhythmLines items={items} changed={asked.gaps.length > 0} onChange={(gaps) => begin({ gaps })} />
							)}
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
