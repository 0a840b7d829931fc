import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { monthQuery, movedMoneyQuery } from "../api/queries";
import { dayWords, money, monthWords, newId } from "../kit/format";
import { Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { accounts } from "../words/catalogue/shared";
import { BooksNav } from "./BooksNav";
import { Figures } from "./BooksPage";

const linkClass =
	"inline-flex min-h-11 items-center rounded-sm border border-[#9c8873] bg-leaf px-4 font-semibold text-ink no-underline hover:bg-white";

/** A month for the accountant: its accounts, and the files. */
export function MonthPage() {
	const { at, now } = useSession();
	const [month, setMonth] = useState(at.day(now()).slice(0, 7));
	const q = useQuery(monthQuery(month));
	const m = q.data;
	return (
		<Page title={monthWords(month)} action={<BooksNav />}>
			<div className="mb-4 flex flex-wrap items-end gap-4">
				<Field label={w.month}>
					{(a) => (
						<input {...a} type="month" className="field" value={month} onChange={(e) => e.target.value && setMonth(e.target.value)} />
					)}
				</Field>
				<a className={linkClass} href={`/api/months/${month}/ledger.csv`}>
					{w.postingsFile}
				</a>
				<a className={linkClass} href={`/api/months/${month}/accounts.csv`}>
					{w.accountsFile}
				</a>
				<a className={linkClass} href={`/api/months/${month}/paper`} target="_blank" rel="noreferrer">
					{w.totalsPaper}
				</a>
			</div>
			{!m ? (
				<Loading of={w.accountant} error={q.error} retry={() => q.refetch()} />
			) : (
				<>
					{m.openDay && <p className="mt-0 mb-4 bg-blush px-4 py-3 font-semibold">{w.aDayIsOpen({ day: dayWords(m.openDay) })}</p>}
					<div className="grid items-start gap-10 lg:grid-cols-[minmax(0,1fr)_340px]">
						<div className="grid grid-cols-[minmax(0,1fr)] gap-8">
							<Figures head={["", ...m.figures.map((f) => monthWords(f.month))]} rows={summary(m)} />
							<p className="m-0 text-sm text-soft">{w.allBack({ amount: money(m.proRata, m.currency) })}</p>
							<Left m={m} />
							<Figures
								head={[w.account, w.opening, w.debits, w.credits, w.closing]}
								rows={m.accounts.map((a) => [
									accounts[a.account as keyof typeof accounts],
									some(a.opening, m.currency),
									some(a.debits, m.currency),
									some(a.credits, m.currency),
									money(a.closing, m.currency),
								])}
								empty={w.nothingThatMonth}
							/>
						</div>
						<div className="grid grid-cols-[minmax(0,1fr)] gap-6">
							<Commissions m={m} />
							<MoveMoney />
							<AccountNumbers m={m} />
							<Moved />
						</div>
					</div>
				</>
			)}
		</Page>
	);
}

/** An amount, nothing where it is 0. */
const some = (amount: string, currency: string) => (Number(amount) === 0 ? "" : money(amount, currency));

/** What the month came to, beside the month before and the same a year ago. */
function summary(m: Schemas["Month"]) {
	const line = (name: string, of: (f: Schemas["MonthFigures"]) => string) => [name, ...m.figures.map(of)];
	return [
		line(w.takenIn, (f) => money(f.taken, m.currency)),
		line(w.earnedNet, (f) => money(f.earned, m.currency)),
		line(w.stillOwedToClients, (f) => money(f.owed, m.currency)),
		line(w.costOfGoods, (f) => money(f.goods, m.currency)),
		line(w.marginOfRecords, (f) => `${money(f.margin, m.currency)} · ${Number(f.percent).toFixed(1)} %`),
		line(w.aMinute, (f) => money(f.perMinute, m.currency)),
		line(w.feesIn, (f) => money(f.fees, m.currency)),
		line(w.tipsIn, (f) => money(f.tips, m.currency)),
		line(w.tillDifferences, (f) => money(f.differences, m.currency)),
	];
}

/** What the month's treatments left, by protocol, practitioner and room. */
function Left({ m }: { m: Schemas["Month"] }) {
	return (["protocols", "practitioners", "rooms"] as const).map(
		(by) =>
			m.pays[by].length > 0 && (
				<Figures
					key={by}
					head={[w.payBy3[by], w.visitsIn, w.net, w.margin, w.aMinute]}
					rows={m.pays[by].map((l) => [
						l.name,
						l.visits,
						money(l.net, m.currency),
						`${money(l.margin, m.currency)} · ${Number(l.percent).toFixed(1)} %`,
						money(l.perMinute, m.currency),
					])}
				/>
			),
	);
}

/** The accountant's own numbers of accounts: they stand in the files instead of the names. */
function AccountNumbers({ m }: { m: Schemas["Month"] }) {
	const cache = useQueryClient();
	const [own, setOwn] = useState<Record<string, string>>({ ...m.numbers });
	const save = useMutation({
		mutationFn: () => unwrap(api.PUT("/api/account-numbers", { body: own })),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["month"] }),
	});
	return (
		<details className="border-t border-rule pt-2">
			<summary className="min-h-11 cursor-pointer font-semibold">{w.accountNumbers}</summary>
			<form
				className="grid gap-2"
				onSubmit={(e) => {
					e.preventDefault();
					save.mutate();
				}}
			>
				{Object.entries(accounts).map(([account, name]) => (
					<label key={account} className="grid grid-cols-[minmax(0,1fr)_8rem] items-center gap-3 text-sm" htmlFor={`number-${account}`}>
						{name}
						<input
							id={`number-${account}`}
							className="field num"
							maxLength={20}
							value={own[account] ?? ""}
							onChange={(e) => setOwn({ ...own, [account]: e.target.value })}
						/>
					</label>
				))}
				<Button type="submit" disabled={save.isPending}>
					{w.save}
				</Button>
				{save.isSuccess && <p className="m-0 text-sm text-kelp">{w.numbersSaved}</p>}
				<ErrorMessage error={save.error} />
			</form>
		</details>
	);
}

/** What practitioners earned of the month's takings; posted once the month is over. */
function Commissions({ m }: { m: Schemas["Month"] }) {
	const cache = useQueryClient();
	const post = useMutation({
		mutationFn: () => unwrap(api.POST("/api/months/{month}/commission", { params: { path: { month: m.month } } })),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["month"] }),
	});
	const list = m.commissions.filter((c) => Number(c.amount) !== 0);
	if (list.length === 0) return null;
	return (
		<section className="rounded-md border border-rule bg-white p-4">
			<h2 className="mt-0 mb-1 text-xl">{w.commissions}</h2>
			<Figures rows={list.map((c) => [c.name, money(c.amount, m.currency)])} />
			{m.posted ? (
				<p className="mt-2 mb-0 text-sm text-soft">{w.posted}</p>
			) : (
				<Button className="mt-3" disabled={post.isPending} onClick={() => post.mutate()}>
					{w.postThem}
				</Button>
			)}
			<ErrorMessage error={post.error} />
		</section>
	);
}

/** What moved without a receipt lately; what was written wrongly is taken back. */
function Moved() {
	const { currency = "EUR" } = useSession();
	const cache = useQueryClient();
	const list = useQuery(movedMoneyQuery);
	const [at, setAt] = useState("");
	const [why, setWhy] = useState("");
	const back = useMutation({
		mutationFn: () => unwrap(api.POST("/api/money/{id}/counter", { params: { path: { id: at } }, body: { why } })),
		onSuccess: () => {
			setAt("");
			setWhy("");
			for (const key of ["month", "books", "moved-money"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	if (!list.data) return <ErrorMessage error={list.error} />;
	return (
		<section>
			<h2 className="m-0 mb-1 text-xl">{w.movedLately}</h2>
			<ul className="m-0 max-h-80 list-none overflow-auto border-t border-ink p-0">
				{list.data.map((e) => (
					<li key={e.id} className="border-b border-rule py-1.5">
						<p className={`m-0 flex justify-between gap-3 ${e.countered ? "line-through" : ""}`}>
							<span className="min-w-0 truncate" title={e.note}>
								{dayWords(e.day)} · {w.movedKind[e.kind as keyof typeof w.movedKind]} {e.note}
							</span>
							<span className="num">{money(e.amount, currency)}</span>
						</p>
						{!e.countered && at !== e.id && (
							<Button variant="quiet" className="-ml-4 text-sm" onClick={() => setAt(e.id)}>
								{w.takeBack}
							</Button>
						)}
						{at === e.id && (
							<form
								className="flex items-end gap-2"
								onSubmit={(ev) => {
									ev.preventDefault();
									back.mutate();
								}}
							>
								<Field label={w.why} fault={back.error instanceof ProblemError ? back.error.at("/why") : undefined}>
									{(a) => <input {...a} className="field" maxLength={300} value={why} onChange={(ev) => setWhy(ev.target.value)} />}
								</Field>
								<Button type="submit">{w.takeBack}</Button>
							</form>
						)}
					</li>
				))}
			</ul>
		</section>
	);
}

const kinds = ["card-settle", "pay-supplier", "pay-commission", "open"] as const;

/** Money that moves without a receipt: what the card company pays, suppliers, commission, and what stood there at first. */
function MoveMoney() {
	const cache = useQueryClient();
	const [kind, setKind] = useState<(typeof kinds)[number]>("card-settle");
	const [amount, setAmount] = useState("");
	const [other, setOther] = useState("");
	const [note, setNote] = useState("");
	const [id, setID] = useState(newId);
	const number = (s: string) => s.trim().replace(",", ".");
	const move = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/money", {
					body: {
						id,
						kind,
						amount: number(amount),
						note,
						...(kind === "card-settle" ? { fee: number(other) } : kind === "open" ? { bank: number(other) } : {}),
					},
				}),
			),
		onSuccess: () => {
			setID(newId());
			setAmount("");
			setOther("");
			setNote("");
			for (const key of ["month", "books", "moved-money"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const fault = (path: string) => (move.error instanceof ProblemError ? move.error.at(path) : undefined);
	return (
		<form
			className="grid gap-3 rounded-md border border-rule bg-white p-4"
			onSubmit={(e) => {
				e.preventDefault();
				move.mutate();
			}}
		>
			<h2 className="m-0 text-xl">{w.moneyThatMoved}</h2>
			<label className="block text-sm font-semibold">
				{w.what}
				<select className="field mt-1 font-normal" value={kind} onChange={(e) => setKind(e.target.value as typeof kind)}>
					{kinds.map((k) => (
						<option key={k} value={k}>
							{w.moved[k]}
						</option>
					))}
				</select>
			</label>
			<Field label={kind === "open" ? w.inTheTill : w.amount} fault={fault("/amount")}>
				{(a) => <input {...a} className="field num" inputMode="decimal" value={amount} onChange={(e) => setAmount(e.target.value)} />}
			</Field>
			{(kind === "card-settle" || kind === "open") && (
				<Field label={kind === "open" ? w.onTheBank : w.feeTaken} fault={fault("/fee") ?? fault("/bank")}>
					{(a) => <input {...a} className="field num" inputMode="decimal" value={other} onChange={(e) => setOther(e.target.value)} />}
				</Field>
			)}
			<Field label={w.note}>
				{(a) => <input {...a} className="field" maxLength={300} value={note} onChange={(e) => setNote(e.target.value)} />}
			</Field>
			<Button type="submit" disabled={move.isPending}>
				{w.write}
			</Button>
			{!fault("/amount") && !fault("/fee") && <ErrorMessage error={move.error} />}
		</form>
	);
}
