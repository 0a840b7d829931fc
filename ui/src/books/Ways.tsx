import { useState } from "react";
import { ProblemError, type Schemas } from "../api/client";
import { dayAfter, dayWords, money } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import { Who } from "../kit/Who";
import * as w from "../words/catalogue/books";
import { waysToPay } from "../words/catalogue/shared";
import type { useSale, Way } from "./useSale";

type Making = ReturnType<typeof useSale>;

/** What is due, largest on the page, and the ways to pay it. */
export function Ways({ s, of }: { s: Making; of: Schemas["VisitSale"] | undefined }) {
	const { currency = "EUR", may, at, now } = useSession();
	const [part, setPart] = useState("");
	const [cash, setCash] = useState(false);
	const [given, setGiven] = useState("");
	const [later, setLater] = useState("");
	const b = s.bill;
	const fault = s.fault instanceof ProblemError ? s.fault : undefined;
	const placed = (fault?.problem.errors ?? []).some((e) => /^\/(lines|tip|off|pay\/\d+\/(ref|despite))/.test(e.path));
	const parts = s.sale.pay;
	const take = (by: Way, more: Partial<Schemas["SalePay"]> = {}) => {
		if (part.trim()) {
			s.change({ pay: [...parts, { by, amount: part.trim().replace(",", "."), ...more }] });
			setPart("");
			setCash(false);
		} else s.pay.mutate([{ by, ...more }]);
	};
	const due = b?.rest ?? "0";
	const covered = b !== undefined && Number(b.rest) === 0;
	return (
		<div>
			<p className="m-0 text-sm font-semibold text-soft">{Number(due) < 0 ? w.toGiveBack : parts.length > 0 ? w.stillDue : w.due}</p>
			<p className="num m-0 mb-3 font-serif text-6xl font-bold" aria-live="polite">
				{b ? money(due.replace("-", ""), currency) : s.sale.lines.length > 0 ? "…" : money("0", currency)}
			</p>
			{parts.length > 0 && (
				<ul className="m-0 mb-3 list-none border-t border-rule p-0">
					{parts.map((p, i) => {
						const way = b?.ways.find((x) => x.by === p.by && (x.ref ?? "") === (p.ref ?? ""));
						return (
							<li key={i} className="flex items-center justify-between gap-2 border-b border-rule py-1">
								<span className="min-w-0">
									<span className="font-semibold">{w.way[p.by]}</span>
									{p.by === "voucher" && <span className="num block text-sm text-soft">{p.ref}</span>}
									{way?.left && <span className="block text-sm text-soft">{w.leftOnIt({ left: money(way.left, currency) })}</span>}
								</span>
								<span className="num ml-auto">{way ? money(way.covers, currency) : "…"}</span>
								<button
									type="button"
									aria-label={w.takeAway({ way: waysToPay[p.by] })}
									className="min-h-11 min-w-11 text-xl text-soft"
									onClick={() => s.change({ pay: parts.filter((_, k) => k !== i) })}
								>
									×
								</button>
							</li>
						);
					})}
				</ul>
			)}
			{b &&
				(covered ? (
					<PayNothing s={s} />
				) : cash ? (
					<Cash b={b} given={given} setGiven={setGiven} part={part} take={take} back={() => setCash(false)} busy={s.pay.isPending} />
				) : (
					<>
						<div className="grid grid-cols-2 gap-3">
							<Button variant="primary" className="min-h-16 text-xl" disabled={s.pay.isPending} onClick={() => take("card")}>
								{w.way.card}
							</Button>
							<Button
								variant="primary"
								className="min-h-16 text-xl"
								disabled={s.pay.isPending}
								onClick={() => (part.trim() ? take("cash") : setCash(true))}
							>
								{w.way.cash}
							</Button>
							<Button className="min-h-12" disabled={s.pay.isPending} onClick={() => take("bank")}>
								{w.way.bank}
							</Button>
							<Button
								className="min-h-12"
								disabled={s.pay.isPending || s.sale.lines.every((l) => l.kind === "debt")}
								onClick={() => setLater(later ? "" : dayAfter(at.day(now()), 14))}
							>
								{w.way.later}
							</Button>
						</div>
						{later && (
							<div className="mt-3 grid items-end gap-3 bg-leaf p-3">
								{!s.sale.client && <Who client="" label={w.whoPaysLater} onChange={(client) => s.change({ client })} />}
								<Field label={w.payBy}>
									{(a) => <input {...a} type="date" className="field" value={later} onChange={(e) => setLater(e.target.value)} />}
								</Field>
								<Button disabled={!s.sale.client} onClick={() => take("later", { due: later })}>
									{w.leaveOwedUntil({ day: dayWords(later) })}
								</Button>
							</div>
						)}
						<div className="mt-4 grid grid-cols-2 items-start gap-3">
							<Field label={w.onlyAPart}>
								{(a) => (
									<input
										{...a}
										className="field num"
										inputMode="decimal"
										placeholder={w.allOfIt}
										value={part}
										onChange={(e) => setPart(e.target.value)}
									/>
								)}
							</Field>
							<Voucher s={s} />
						</div>
					</>
				))}
			{s.sale.lines.length === 0 && !of?.fee && <p className="m-0 text-soft">{w.addWhatIsSold}</p>}
			{of &&
				!cash &&
				may("pay-sale") &&
				["booked", "confirmed"].includes(of.visit.state) &&
				s.sale.lines.every((l) => l.kind !== "deposit") && (
					<Button
						variant="quiet"
						className="mt-3"
						onClick={() => s.change({ lines: [{ kind: "deposit", amount: "20.00", qty: 1 }], pay: [] })}
					>
						{w.takeADeposit}
					</Button>
				)}
			{s.sale.lines[0]?.kind === "deposit" && (
				<Field label={w.deposit} fault={fault?.at("/lines/0/amount")}>
					{(a) => (
						<input
							{...a}
							className="field num"
							inputMode="decimal"
							value={s.sale.lines[0]?.amount ?? ""}
							onChange={(e) => s.change({ lines: [{ kind: "deposit", amount: e.target.value, qty: 1 }] })}
						/>
					)}
				</Field>
			)}
			{fault && !placed && <ErrorMessage error={s.fault} />}
			{may("set-terminal") && !cash && (
				<p className="mt-3 mb-0 text-right text-sm">
					<a href="/terminal" target="_blank" rel="noreferrer" className="underline underline-offset-4">
						{w.standInTerminal}
					</a>
				</p>
			)}
		</div>
	);
}

/** A voucher by its number; past its day it is taken for a reason. */
function Voucher({ s }: { s: Making }) {
	const [number, setNumber] = useState("");
	const [despite, setDespite] = useState("");
	const n = s.sale.pay.length;
	const at = (field: string) => (s.voucher.error instanceof ProblemError ? s.voucher.error.at(`/pay/${n}/${field}`) : undefined);
	const taken = () => {
		setNumber("");
		setDespite("");
	};
	return (
		<form
			onSubmit={(e) => {
				e.preventDefault();
				const way = { by: "voucher" as const, ref: number.trim(), ...(despite.trim() ? { despite: despite.trim() } : {}) };
				if (way.ref) s.voucher.mutate(way, { onSuccess: taken });
			}}
		>
			<Field
				label={w.voucherNumber}
				fault={at("ref") ?? (s.voucher.error instanceof ProblemError ? s.voucher.error.at("/number") : undefined)}
			>
				{(a) => (
					<input
						{...a}
						className="field num"
						inputMode="numeric"
						maxLength={20}
						value={number}
						onChange={(e) => {
							s.voucher.reset();
							setNumber(e.target.value);
						}}
					/>
				)}
			</Field>
			{(at("despite") || despite) && (
				<Field label={w.whyPastItsDay} fault={at("despite")}>
					{(a) => <input {...a} className="field" maxLength={200} value={despite} onChange={(e) => setDespite(e.target.value)} />}
				</Field>
			)}
		</form>
	);
}

/** A sale that vouchers and deposits pay whole. */
function PayNothing({ s }: { s: Making }) {
	return (
		<Button variant="primary" className="min-h-16 w-full text-xl" disabled={s.pay.isPending} onClick={() => s.pay.mutate([])}>
			{w.writeTheReceipt}
		</Button>
	);
}

/** Cash: what the client hands over, in one press where it is a usual sum. */
function Cash({
	b,
	given,
	setGiven,
	take,
	back,
	busy,
}: {
	b: Schemas["Bill"];
	given: string;
	part: string;
	setGiven: (s: string) => void;
	take: (by: Way, more?: Partial<Schemas["SalePay"]>) => void;
	back: () => void;
	busy: boolean;
}) {
	const { currency = "EUR" } = useSession();
	const out = Number(b.rest) < 0;
	return (
		<div>
			<p className="m-0 mb-2 text-sm font-semibold">
				{out ? w.giveOut({ amount: money((b.cash ?? b.rest).replace("-", ""), currency) }) : w.given}
			</p>
			<div className="grid grid-cols-3 gap-2">
				{(b.handed ?? []).map((sum, i) => (
					<Button
						key={sum}
						variant={i === 0 ? "primary" : "plain"}
						className="num min-h-14 text-lg"
						disabled={busy}
						onClick={() => take("cash", { given: sum })}
					>
						{i === 0 ? w.exactly : money(sum, currency)}
					</Button>
				))}
				{out && (
					<Button variant="primary" className="col-span-3 min-h-14" disabled={busy} onClick={() => take("cash")}>
						{w.givenBack}
					</Button>
				)}
			</div>
			{!out && (
				<form
					className="mt-3 flex items-end gap-3"
					onSubmit={(e) => {
						e.preventDefault();
						if (given.trim()) take("cash", { given: given.trim().replace(",", ".") });
					}}
				>
					<Field label={w.anotherSum}>
						{(a) => (
							<input {...a} className="field num w-32" inputMode="decimal" value={given} onChange={(e) => setGiven(e.target.value)} />
						)}
					</Field>
					<Button type="submit" disabled={busy || !given.trim()}>
						{w.take}
					</Button>
				</form>
			)}
			<Button variant="quiet" className="mt-3 -ml-4" onClick={back}>
				{w.anotherWay}
			</Button>
		</div>
	);
}
