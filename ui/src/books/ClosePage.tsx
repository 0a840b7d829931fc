import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { closingDayQuery, tipsQuery } from "../api/queries";
import { dayWords, money, newId } from "../kit/format";
import { Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { cardStates } from "../words/catalogue/shared";
import { BooksNav } from "./BooksNav";

/** The last thing in the room: the till is counted, and what was expected shows only then. */
export function ClosePage() {
	const day = useQuery(closingDayQuery);
	if (!day.data) return <Loading of={w.closeTheDay} error={day.error} retry={() => day.refetch()} />;
	return (
		<Page title={day.data.day ? w.closeDay({ day: dayWords(day.data.day) }) : w.closeTheDay} action={<BooksNav />}>
			{day.data.day ? <Count key={day.data.day} day={day.data} /> : <p className="m-0 font-serif text-2xl text-kelp">{w.todayIsClosed}</p>}
			{day.data.last && <Last last={day.data.last} />}
		</Page>
	);
}

function Count({ day }: { day: Schemas["ClosingDay"] }) {
	const { currency = "EUR" } = useSession();
	const cache = useQueryClient();
	const [count, setCount] = useState<Record<string, string>>({});
	const [note, setNote] = useState("");
	const [shown, setShown] = useState<Schemas["DayClose"] | null>(null);
	const numbers = Object.fromEntries(Object.entries(count).flatMap(([k, v]) => (Number(v) > 0 ? [[k, Number(v)]] : [])));
	const send = useMutation({
		mutationFn: (close: boolean) => unwrap(api.POST("/api/day-closes", { body: { day: day.day, count: numbers, note, close } })),
		onSuccess: (c, close) => {
			setShown(c);
			if (close) for (const key of ["closing-day", "receipts"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const next = (i: number) => document.getElementById(i + 1 < day.pieces.length ? `piece-${i + 1}` : "counted")?.focus();
	const difference = Number(shown?.difference ?? 0);
	const wrong = (day.waiting ?? []).filter((c) => c.state !== "stored");
	const notIn = (shown?.cards ?? []).filter((c) => c.state !== "approved");
	return (
		<div className="grid items-start gap-8 lg:grid-cols-[minmax(0,1fr)_420px]">
			<section aria-label={w.countTheTill}>
				{!day.today && <p className="m-0 mb-3 bg-slate-pale px-4 py-3 font-semibold text-slate">{w.anEarlierDay}</p>}
				<div className="grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-x-8 gap-y-1">
					{day.pieces.map((p, i) => (
						<label key={p} className="grid grid-cols-[5rem_5.5rem] items-center gap-3" htmlFor={`piece-${i}`}>
							<span className="num text-right">{money(p, currency)}</span>
							<input
								id={`piece-${i}`}
								className="field num"
								inputMode="numeric"
								value={count[p] ?? ""}
								onChange={(e) => {
									setCount({ ...count, [p]: e.target.value.replace(/\D/g, "") });
									setShown(null);
								}}
								onKeyDown={(e) => {
									if (e.key === "Enter") {
										e.preventDefault();
										next(i);
									}
								}}
							/>
						</label>
					))}
				</div>
				<Button
					id="counted"
					variant={shown ? "plain" : "primary"}
					className="mt-4"
					disabled={send.isPending}
					onClick={() => send.mutate(false)}
				>
					{w.thatIsAll}
				</Button>
				<ErrorMessage error={send.error instanceof ProblemError && send.error.at("/note") ? undefined : send.error} />
				<TillMoves />
				<Tips />
			</section>
			<section aria-label={w.theDay} className="rounded-md border border-ink bg-white p-5">
				{!shown && <p className="m-0 text-soft">{w.countFirst}</p>}
				{shown && (
					<>
						<Sum name={w.floatThen} amount={shown.float} />
						<Sum name={w.cashSales} amount={shown.sales} />
						<Sum name={w.paidIn} amount={shown.paidIn} />
						<Sum name={w.cashBack} amount={shown.refunds} minus />
						<Sum name={w.paidOut} amount={shown.paidOut} minus />
						<Sum name={w.expected} amount={shown.expected} strong />
						<Sum name={w.counted} amount={shown.counted} strong />
						<p
							className={`my-3 rounded-sm px-4 py-3 text-xl font-semibold ${difference === 0 ? "bg-kelp-pale text-kelp" : "bg-blush text-persimmon-deep"}`}
						>
							{difference === 0
								? w.itIsRight
								: difference < 0
									? w.tooLittle({ amount: money(shown.difference.replace("-", ""), currency) })
									: w.tooMuch({ amount: money(shown.difference, currency) })}
						</p>
						<Sum name={w.toTheBank} amount={shown.toBank} />
						{shown.unmatched && shown.unmatched.length > 0 && (
							<div className="my-3">
								<p className="m-0 text-sm font-semibold text-persimmon-deep">{w.terminalSaysOtherwise}</p>
								<ul className="m-0 list-none p-0">
									{shown.unmatched.map((c) => (
										<li key={c.key} className="num border-t border-rule py-1 text-sm">
											{w.booksAndTerminal({
												books: c.books ? money(c.books, currency) : w.nothingOfIt,
												terminal: c.terminal ? money(c.terminal, currency) : w.nothingOfIt,
											})}
										</li>
									))}
								</ul>
							</div>
						)}
						{(difference !== 0 || (shown.unmatched ?? []).length > 0) && (
							<Field label={w.howCome} fault={send.error instanceof ProblemError ? send.error.at("/note") : undefined}>
								{(a) => <input {...a} className="field" maxLength={500} value={note} onChange={(e) => setNote(e.target.value)} />}
							</Field>
						)}
						{notIn.length > 0 && (
							<div className="mt-3">
								<p className="m-0 text-sm font-semibold">{w.cardsThatDoNotMatch}</p>
								<ul className="m-0 list-none p-0">
									{notIn.map((c) => (
										<StoredCard key={c.id} card={c} />
									))}
								</ul>
							</div>
						)}
						<Button
							variant="primary"
							className="mt-4 min-h-14 w-full text-lg"
							disabled={send.isPending || wrong.length > 0}
							onClick={() => send.mutate(true)}
						>
							{w.closeTheDay}
						</Button>
					</>
				)}
			</section>
		</div>
	);
}

function Sum({ name, amount, minus, strong }: { name: string; amount: string; minus?: boolean; strong?: boolean }) {
	const { currency = "EUR" } = useSession();
	if (minus && Number(amount) === 0) return null;
	return (
		<p className={`num m-0 flex justify-between py-0.5 ${strong ? "border-t border-rule font-semibold" : ""}`}>
			<span>{name}</span>
			<span>
				{minus && "−"}
				{money(amount, currency)}
			</span>
		</p>
	);
}

/** A card payment that was taken while the terminal was offline, or is still open. */
function StoredCard({ card: c }: { card: Schemas["CardPayment"] }) {
	const { currency = "EUR" } = useSession();
	const cache = useQueryClient();
	const settle = useMutation({
		mutationFn: () => unwrap(api.POST("/api/sales/{id}/settle", { params: { path: { id: c.sale } } })),
		onSuccess: () => cache.invalidateQueries(),
	});
	const now = settle.data ?? c;
	return (
		<li className="flex items-center justify-between gap-3 border-t border-rule py-1">
			<span className="num">
				{money(c.amount, currency)} <span className="text-sm text-soft">{cardStates[now.state]}</span>
			</span>
			{now.state === "stored" && <Button onClick={() => settle.mutate()}>{w.sendIn}</Button>}
			<ErrorMessage error={settle.error} />
		</li>
	);
}

/** Money that goes into the till or out of it without a sale. */
function TillMoves() {
	const cache = useQueryClient();
	const [kind, setKind] = useState<"paid-in" | "paid-out">("paid-out");
	const [amount, setAmount] = useState("");
	const [note, setNote] = useState("");
	const [id, setID] = useState(newId);
	const move = useMutation({
		mutationFn: () => unwrap(api.POST("/api/till", { body: { id, kind, amount: amount.replace(",", "."), note } })),
		onSuccess: () => {
			setID(newId());
			setAmount("");
			setNote("");
			cache.invalidateQueries({ queryKey: ["closing-day"] });
		},
	});
	const fault = (path: string) => (move.error instanceof ProblemError ? move.error.at(path) : undefined);
	return (
		<details className="mt-6 border-t border-rule pt-2">
			<summary className="min-h-11 cursor-pointer font-semibold">{w.inOrOut}</summary>
			<form
				className="grid items-end gap-3 sm:grid-cols-[9rem_7rem_minmax(0,1fr)_auto]"
				onSubmit={(e) => {
					e.preventDefault();
					move.mutate();
				}}
			>
				<label className="block text-sm font-semibold">
					{w.whichWay}
					<select className="field mt-1 font-normal" value={kind} onChange={(e) => setKind(e.target.value as typeof kind)}>
						<option value="paid-out">{w.paidOut}</option>
						<option value="paid-in">{w.paidIn}</option>
					</select>
				</label>
				<Field label={w.amount} fault={fault("/amount")}>
					{(a) => <input {...a} className="field num" inputMode="decimal" value={amount} onChange={(e) => setAmount(e.target.value)} />}
				</Field>
				<Field label={w.forWhat} fault={fault("/note")}>
					{(a) => <input {...a} className="field" maxLength={300} value={note} onChange={(e) => setNote(e.target.value)} />}
				</Field>
				<Button type="submit" disabled={move.isPending}>
					{w.write}
				</Button>
			</form>
		</details>
	);
}

/** Tips that are owed, paid out of the till against initials. */
function Tips() {
	const { currency = "EUR" } = useSession();
	const cache = useQueryClient();
	const tips = useQuery(tipsQuery);
	const [initials, setInitials] = useState<Record<string, string>>({});
	const pay = useMutation({
		mutationFn: (practitioner: string) =>
			unwrap(api.POST("/api/till", { body: { id: newId(), kind: "pay-tips", practitioner, note: initials[practitioner] ?? "" } })),
		onSuccess: () => {
			for (const key of ["tips", "closing-day"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	if (!tips.data?.length) return null;
	return (
		<section className="mt-4">
			<h2 className="m-0 mb-1 text-xl">{w.tipsOwed}</h2>
			<ul className="m-0 list-none border-t border-rule p-0">
				{tips.data.map((t) => (
					<li key={t.practitioner} className="border-b border-rule py-1.5">
						<form
							className="flex flex-wrap items-end gap-3"
							onSubmit={(e) => {
								e.preventDefault();
								pay.mutate(t.practitioner);
							}}
						>
							<span className="min-w-40 grow self-center font-semibold">{t.name}</span>
							<span className="num self-center">{money(t.amount, currency)}</span>
							<Field
								label={w.initials}
								fault={pay.variables === t.practitioner && pay.error instanceof ProblemError ? pay.error.at("/note") : undefined}
							>
								{(a) => (
									<input
										{...a}
										className="field w-24"
										maxLength={20}
										value={initials[t.practitioner] ?? ""}
										onChange={(e) => setInitials({ ...initials, [t.practitioner]: e.target.value })}
									/>
								)}
							</Field>
							<Button type="submit" disabled={pay.isPending}>
								{w.payOut}
							</Button>
						</form>
					</li>
				))}
			</ul>
		</section>
	);
}

/** How the last closed day was. */
function Last({ last }: { last: Schemas["DayClose"] }) {
	const { currency = "EUR" } = useSession();
	const d = Number(last.difference);
	return (
		<p className="mt-8 mb-0 border-t border-rule pt-3 text-soft">
			{w.lastClosed({ day: dayWords(last.day), bank: money(last.toBank, currency) })}{" "}
			{d === 0 ? w.itWasRight : w.itDiffered({ amount: money(last.difference, currency), note: last.note })}
		</p>
	);
}
