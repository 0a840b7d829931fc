import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { type ReactNode, useState } from "react";
import type { Schemas } from "../api/client";
import { booksQuery, earnedQuery, goingOffQuery, orderListsQuery } from "../api/queries";
import { dayAfter, dayWords, money } from "../kit/format";
import { Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { accounts, cardStates, waysToPay } from "../words/catalogue/shared";
import { AreaIsMoney } from "./AreaIsMoney";
import { BooksNav } from "./BooksNav";
import { OrderLists } from "./OrderLists";
import { RaiseAPrice } from "./RaiseAPrice";

type Sunday = Schemas["Sunday"];

/** The ten questions of Sunday evening as sentences; each opens its list beside it. */
export function BooksPage() {
	const { day } = useSearch({ strict: false }) as { day?: string };
	const navigate = useNavigate();
	const { at, now } = useSession();
	const asked = day ?? at.day(now());
	const books = useQuery(booksQuery(asked));
	const orders = useQuery(orderListsQuery);
	const going = useQuery(goingOffQuery);
	const [open, setOpen] = useState(0);
	const b = books.data;
	if (!b) return <Loading of={w.books} error={books.error} retry={() => books.refetch()} />;
	const go = (days: number) => navigate({ to: "/books/questions", search: { day: dayAfter(b.from, days) } });
	const lists = orders.data?.filter((l) => l.lines.length > 0) ?? [];
	const all = questions(b, {
		order: orders.data && w.orderTomorrow({ products: lists.reduce((n, l) => n + l.lines.length, 0), suppliers: lists.length }),
		unused: going.data && w.goOff({ lots: going.data.length }),
	});
	return (
		<Page title={w.weekOf({ from: dayWords(b.from), to: dayWords(b.to) })} action={<BooksNav />}>
			<div className="mb-3 flex gap-3">
				<Button onClick={() => go(-7)}>{w.weekBefore}</Button>
				<Button onClick={() => go(7)}>{w.weekAfter}</Button>
			</div>
			<div className="grid items-start gap-8 lg:grid-cols-2">
				<ol className="m-0 list-none border-t border-ink p-0">
					{all.map((q, i) => (
						<li key={q.key} className="border-b border-rule">
							<button
								type="button"
								aria-expanded={open === i}
								className={`grid min-h-12 w-full grid-cols-[2rem_minmax(0,1fr)] items-baseline gap-2 px-2 py-2 text-left hover:bg-leaf ${open === i ? "bg-white font-semibold" : ""}`}
								onClick={() => setOpen(i)}
							>
								<span className="num text-soft">{i + 1}</span>
								<span>{q.sentence}</span>
							</button>
						</li>
					))}
				</ol>
				<section aria-label={w.behindIt} className="rounded-md border border-ink bg-white p-5 lg:sticky lg:top-4">
					{all[open]?.list}
				</section>
			</div>
			<AreaIsMoney lines={b.pays.week} currency={b.currency} />
		</Page>
	);
}

/** A list of names with figures at their right. */
export function Figures({ head, rows, empty = w.nothingThere }: { head?: string[]; rows: ReactNode[][]; empty?: string }) {
	if (rows.length === 0) return <p className="m-0 text-soft">{empty}</p>;
	return (
		<table className="w-full border-collapse text-left">
			{head && (
				<thead>
					<tr className="border-b border-ink text-sm">
						{head.map((h, i) => (
							<th key={h} className={`py-1 font-semibold ${i > 0 ? "pl-3 text-right" : ""}`}>
								{h}
							</th>
						))}
					</tr>
				</thead>
			)}
			<tbody>
				{rows.map((r, i) => (
					<tr key={`${String(r[0])} ${i}`} className="border-b border-rule">
						{r.map((cell, k) => (
							<td key={head?.[k] ?? k} className={`py-1.5 align-top ${k > 0 ? "num pl-3 text-right whitespace-nowrap" : ""}`}>
								{cell}
							</td>
						))}
					</tr>
				))}
			</tbody>
		</table>
	);
}

type Question = { key: string; sentence: string; list: ReactNode };

function questions(b: Sunday, also: { order?: string | undefined; unused?: string | undefined }): Question[] {
	const m = (x: string) => money(x, b.currency);
	const best = b.pays.protocols[0];
	const worst = b.over.find((o) => Number(o.over) > 0);
	const minutes = (n: number) => w.hoursAndMinutes({ hours: Math.floor(n / 60), minutes: String(n % 60).padStart(2, "0") });
	const receipts = (
		<p className="mt-3 mb-0">
			<Link to="/books/receipts">{w.toTheReceipts}</Link>
		</p>
	);
	return [
		{
			key: "taken",
			sentence: w.cameIn({ total: m(b.taken.total), mean: m(b.taken.mean) }),
			list: (
				<>
					<Figures rows={Object.entries(b.taken.by).map(([way, x]) => [waysToPay[way as keyof typeof waysToPay], m(x)])} />
					{receipts}
				</>
			),
		},
		{
			key: "earned",
			sentence: w.earnedIn({ total: m(b.earned.total), given: minutes(b.earned.givenMinutes), hour: m(b.earned.perOpenHour) }),
			list: (
				<Figures
					rows={[
						...b.earned.accounts.map((a) => [accounts[a.account as keyof typeof accounts], m(a.amount)]),
						[w.openHours, minutes(b.earned.openMinutes)],
					]}
				/>
			),
		},
		{
			key: "mine",
			sentence: w.isMine({ total: m(b.mine.total) }),
			list: <Figures rows={b.mine.parts.map((a) => [accounts[a.account as keyof typeof accounts], m(a.amount)])} />,
		},
		{
			key: "hands",
			sentence: w.oweInHands({ visits: b.hands.visits, net: m(b.hands.net), noNext: b.hands.noNext }),
			list: (
				<>
					<Figures
						head={[w.client, w.left, w.shares, w.soldOn]}
						rows={b.hands.list.map((o) => [
							<span key="n">
								{o.client ? (
									<Link to="/people/$id" params={{ id: o.client }}>
										{o.name}
									</Link>
								) : (
									w.bearer
								)}
								<span className="block text-sm text-soft">
									{o.series}
									{!o.next && ` · ${w.nothingBooked}`}
								</span>
							</span>,
							o.left,
							m(o.net),
							dayWords(o.soldOn),
						])}
					/>
					<p className="mt-3 mb-0 text-sm text-soft">{w.allBack({ amount: m(b.hands.proRata) })}</p>
				</>
			),
		},
		{
			key: "pays",
			sentence: best ? w.paysBest({ name: best.name, perMinute: m(best.perMinute), planned: m(best.planned) }) : w.nothingPaysYet,
			list: <Pays pays={b.pays} day={b.to} m={m} />,
		},
		{
			key: "over",
			sentence: worst ? w.usesMore({ name: worst.name, factor: worst.factor, over: m(worst.over) }) : w.nobodyUsesMore,
			list: (
				<>
					<Figures head={[w.practitioner, w.timesThePlan, w.moneyOver]} rows={b.over.map((o) => [o.name, o.factor, m(o.over)])} />
					<p className="mt-3 mb-0">
						<Link to="/shelf/figures">{w.toUseAndWorth}</Link>
					</p>
				</>
			),
		},
		{ key: "order", sentence: also.order ?? w.whatDoIOrder, list: <OrderLists m={m} /> },
		{ key: "unused", sentence: also.unused ?? w.whatGoesOff, list: <GoesOff m={m} /> },
		{
			key: "owed",
			sentence: w.whoOwes({ total: m(b.owed.total), cards: b.owed.atRisk.length, difference: m(b.owed.difference) }),
			list: (
				<>
					<Figures
						head={[w.client, w.receipt, w.dueOn, w.amount]}
						rows={b.owed.list.map((d) => [d.name || w.bearer, d.number, dayWords(d.due), m(d.left)])}
					/>
					{b.owed.atRisk.length > 0 && <h3 className="mt-4 mb-1 text-lg">{w.cardsAtRisk}</h3>}
					{b.owed.atRisk.length > 0 && (
						<Figures rows={b.owed.atRisk.map((c) => [`${c.receipt ?? ""} ${cardStates[c.state]}`, m(c.amount)])} />
					)}
					{b.owed.differences.length > 0 && <h3 className="mt-4 mb-1 text-lg">{w.tillDifferences}</h3>}
					{b.owed.differences.length > 0 && (
						<Figures rows={b.owed.differences.map((d) => [`${dayWords(d.day)} ${d.note}`, m(d.difference)])} />
					)}
					{receipts}
				</>
			),
		},
		{
			key: "next",
			sentence: w.nextWeekIs({ booked: minutes(b.next.bookedMinutes), open: minutes(b.next.openMinutes), expected: m(b.next.expected) }),
			list: (
				<>
					<RaiseAPrice currency={b.currency} />
					<p className="mt-3 mb-0">
						<Link to="/week" search={{ from: b.next.from }}>
							{w.toTheWeek}
						</Link>
					</p>
				</>
			),
		},
	];
}

/** What each protocol, practitioner and room leaves, with what it costs term by term. */
function Pays({ pays, day, m }: { pays: Schemas["Pays"]; day: string; m: (x: string) => string }) {
	const [by, setBy] = useState<"protocols" | "practitioners" | "rooms">("protocols");
	const [term, setTerm] = useState<string | null>(null);
	const lines = pays[by];
	const shown = lines.find((l) => l.name === term);
	return (
		<>
			<p className="mt-0 mb-2 flex flex-wrap gap-2">
				{(["protocols", "practitioners", "rooms"] as const).map((k) => (
					<Button
						key={k}
						aria-pressed={by === k}
						className="aria-pressed:border-ink aria-pressed:bg-white"
						onClick={() => {
							setBy(k);
							setTerm(null);
						}}
					>
						{w.payBy3[k]}
					</Button>
				))}
			</p>
			<Figures
				head={[w.name, w.visitsIn, w.net, w.margin, w.aMinute, w.plannedAMinute]}
				rows={lines.map((l) => [
					<button
						key="b"
						type="button"
						className="text-left underline decoration-rule underline-offset-4"
						onClick={() => setTerm(term === l.name ? null : l.name)}
					>
						{l.name}
					</button>,
					l.visits,
					m(l.net),
					<>
						{m(l.margin)}
						<br />
						<span className="text-soft">{Number(l.percent).toFixed(1)} %</span>
					</>,
					m(l.perMinute),
					m(l.planned),
				])}
			/>
			{shown && (
				<div className="mt-3">
					<h3 className="m-0 mb-1 text-lg">{shown.name}</h3>
					<Figures rows={Object.entries(shown.terms).map(([k, x]) => [w.costTerms[k as keyof typeof w.costTerms], m(x)])} />
				</div>
			)}
			{shown && by === "protocols" && <Treatments of={shown.name} day={day} m={m} />}
			<p className="mt-3 mb-0 text-sm text-soft">{w.paysSince({ since: dayWords(pays.since), unpaid: pays.unpaid })}</p>
		</>
	);
}

/** What single treatments of a protocol left, each with its record. */
function Treatments({ of, day, m }: { of: string; day: string; m: (x: string) => string }) {
	const list = useQuery(earnedQuery(of, day));
	if (!list.data) return <Loading of={w.books} error={list.error} retry={() => list.refetch()} />;
	return (
		<div className="mt-3 max-h-72 overflow-auto">
			<Figures
				head={[w.treatment, w.net, w.cost, w.plannedCost, w.margin, w.aMinute]}
				rows={list.data.map((v) => [
					<Link key="l" to="/visits/$id/record" params={{ id: v.visit }}>
						{dayWords(v.day)}, {v.practitioner}
					</Link>,
					m(v.net),
					m(v.cost),
					m(v.plannedCost),
					m(v.margin),
					m(v.perMinute),
				])}
			/>
		</div>
	);
}

/** What expires before the booked diary uses it, what it is worth, and what would use it. */
function GoesOff({ m }: { m: (x: string) => string }) {
	const list = useQuery(goingOffQuery);
	if (!list.data) return <Loading of={w.books} error={list.error} retry={() => list.refetch()} />;
	return (
		<Figures
			head={[w.product, w.goodTo, w.amount, w.value]}
			rows={list.data.map((u) => [
				<span key="n">
					{u.name} <span className="text-sm text-soft">{u.lot}</span>
					<span className="block text-sm text-soft">
						{u.uses.length > 0
							? w.wouldUseIt({ what: u.uses.map((x) => w.timesName({ qty: x.treatments, name: x.protocol })).join(", ") })
							: w.nothingWouldUseIt}
					</span>
				</span>,
				dayWords(u.goodUntil),
				`${Number(u.amount)} ${u.unit}`,
				m(u.value),
			])}
			empty={w.nothingGoesOff}
		/>
	);
}
