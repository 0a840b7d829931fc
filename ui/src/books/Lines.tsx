import { useState } from "react";
import { ProblemError } from "../api/client";
import { money } from "../kit/format";
import { Button, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import type { Line, useSale } from "./useSale";

type Making = ReturnType<typeof useSale>;

/** The lines of a sale with what each comes to; pressing a price opens its discount. */
export function Lines({ s }: { s: Making }) {
	const { currency = "EUR" } = useSession();
	const asked = s.going?.asked?.lines;
	const lines = asked ?? s.sale.lines;
	const [open, setOpen] = useState<number | null>(null);
	const change = (i: number, to: Partial<Line>) => s.change({ lines: lines.map((l, k) => (k === i ? { ...l, ...to } : l)) });
	const fault = (path: string) => (s.fault instanceof ProblemError ? s.fault.at(path) : undefined);
	if (lines.length === 0) return null;
	return (
		<ol className="m-0 mb-4 list-none border-t border-ink p-0">
			{lines.map((l, i) => {
				const of = s.bill?.lines.filter((b) => b.line === i) ?? [];
				const b = of[0];
				const parts = l.kind === "package" ? of : []; // each with its share of the price
				const name = l.kind === "package" ? l.package : b?.name;
				return (
					<li key={i} className="border-b border-rule py-2">
						<div className="grid grid-cols-[minmax(0,1fr)_auto_7rem_2.75rem] items-center gap-3">
							<span className="min-w-0">
								<span className="block truncate font-semibold" title={name}>
									{name ?? "…"}
								</span>
								{parts.length === 0 && b?.off && (
									<span className="block text-sm text-soft">{w.less({ off: money(b.off, currency), why: b.why ?? "" })}</span>
								)}
							</span>
							{l.kind === "product" ? (
								<input
									className="field num w-16"
									type="number"
									min={1}
									max={99}
									aria-label={w.howMany}
									value={l.qty}
									onChange={(e) => change(i, { qty: Math.max(1, Number(e.target.value) || 1) })}
								/>
							) : (
								<span />
							)}
							<button
								type="button"
								className="num min-h-11 text-right font-semibold underline decoration-rule decoration-dotted underline-offset-4 disabled:no-underline"
								disabled={Boolean(asked) || ["voucher", "deposit", "debt"].includes(l.kind)}
								aria-expanded={open === i}
								title={w.discount}
								onClick={() => setOpen(open === i ? null : i)}
							>
								{parts.length > 0 ? w.discount : b ? money(b.gross, currency) : "…"}
							</button>
							{asked ? (
								<span />
							) : (
								<button
									type="button"
									className="min-h-11 min-w-11 text-xl text-soft"
									aria-label={w.takeOffTheBill({ what: name ?? "" })}
									onClick={() => s.change({ lines: lines.filter((_, k) => k !== i) })}
								>
									×
								</button>
							)}
						</div>
						{parts.map((p) => (
							<p key={p.name} className="m-0 grid grid-cols-[minmax(0,1fr)_7rem_2.75rem] gap-3 pl-4 text-sm">
								<span className="truncate" title={p.name}>
									{p.name}
								</span>
								<span className="num text-right">{money(p.gross, currency)}</span>
							</p>
						))}
						{open === i && (
							<div className="mt-1 mb-2 grid grid-cols-[6rem_7rem_minmax(0,1fr)] items-start gap-3 bg-leaf px-3 py-3">
								<Field label={w.perCentOff} fault={fault(`/lines/${i}/percent`)}>
									{(a) => (
										<input
											{...a}
											className="field num"
											inputMode="decimal"
											value={l.percent ?? ""}
											onChange={(e) => change(i, { percent: e.target.value })}
										/>
									)}
								</Field>
								<Field label={w.amountOff} fault={fault(`/lines/${i}/off`)}>
									{(a) => (
										<input
											{...a}
											className="field num"
											inputMode="decimal"
											value={l.off ?? ""}
											onChange={(e) => change(i, { off: e.target.value })}
										/>
									)}
								</Field>
								<Field label={w.why} fault={fault(`/lines/${i}/why`)}>
									{(a) => (
										<input
											{...a}
											className="field"
											maxLength={200}
											value={l.why ?? ""}
											onChange={(e) => change(i, { why: e.target.value })}
										/>
									)}
								</Field>
							</div>
						)}
						{["qty", "product", "protocol", "extra", "package", "receipt", "amount", "visits"].map(
							(f) =>
								fault(`/lines/${i}/${f}`) && (
									<p key={f} role="alert" className="m-0 text-sm font-semibold text-persimmon-deep">
										{fault(`/lines/${i}/${f}`)}
									</p>
								),
						)}
						{(fault(`/lines/${i}/despite`) || l.despite) && (
							<Field label={w.whyItIsSold} fault={fault(`/lines/${i}/despite`)}>
								{(a) => (
									<input
										{...a}
										className="field"
										maxLength={300}
										value={l.despite ?? ""}
										onChange={(e) => change(i, { despite: e.target.value })}
									/>
								)}
							</Field>
						)}
					</li>
				);
			})}
			<Sums s={s} />
		</ol>
	);
}

/** Discount on the whole, taxes and tip. */
function Sums({ s }: { s: Making }) {
	const { currency = "EUR" } = useSession();
	const [off, setOff] = useState(false);
	const fault = (path: string) => (s.fault instanceof ProblemError ? s.fault.at(path) : undefined);
	const b = s.bill;
	const locked = Boolean(s.going);
	return (
		<li className="pt-2">
			{b?.off && (
				<p className="num m-0 flex justify-between text-sm">
					<span>{w.offTheWhole}</span>
					<span>−{money(b.off, currency)}</span>
				</p>
			)}
			{b?.taxes.map((t) => (
				<p key={t.rate} className="num m-0 flex justify-between text-sm text-soft">
					<span>{w.taxInIt({ name: b.taxName ?? "", rate: t.rate })}</span>
					<span>{money(t.tax, currency)}</span>
				</p>
			))}
			{!locked && s.sale.lines.every((l) => l.kind !== "deposit") && (
				<div className="mt-2 flex flex-wrap items-end gap-4">
					<Field label={w.tip} fault={fault("/tip") ?? fault("/tipFor")}>
						{(a) => (
							<input
								{...a}
								className="field num w-24"
								inputMode="decimal"
								value={s.sale.tip ?? ""}
								onChange={(e) => s.change({ tip: e.target.value })}
							/>
						)}
					</Field>
					{off || s.sale.off ? (
						<>
							<Field label={w.offTheWhole} fault={fault("/off")}>
								{(a) => (
									<input
										{...a}
										className="field num w-24"
										inputMode="decimal"
										value={s.sale.off ?? ""}
										onChange={(e) => s.change({ off: e.target.value })}
									/>
								)}
							</Field>
							<Field label={w.why} fault={fault("/offWhy")}>
								{(a) => (
									<input
										{...a}
										className="field"
										maxLength={200}
										value={s.sale.offWhy ?? ""}
										onChange={(e) => s.change({ offWhy: e.target.value })}
									/>
								)}
							</Field>
						</>
					) : (
						<Button variant="quiet" onClick={() => setOff(true)}>
							{w.discountOnTheWhole}
						</Button>
					)}
				</div>
			)}
		</li>
	);
}
