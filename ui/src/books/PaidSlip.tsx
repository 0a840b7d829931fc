import { Link } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import { money } from "../kit/format";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { waysToPay } from "../words/catalogue/shared";

/** What was paid: the receipt, the change, and what to hand over. */
export function PaidSlip({ receipt: r }: { receipt: Schemas["Receipt"] }) {
	const { currency = "EUR" } = useSession();
	const cash = r.paper.ways.find((x) => x.change && Number(x.change) > 0);
	return (
		<div className="grid items-start gap-8 lg:grid-cols-[minmax(0,1fr)_400px]" role="status">
			<section className="rounded-md border border-ink bg-white px-6 py-5">
				<p className="m-0 text-sm text-soft">{w.receiptNumber({ number: r.number })}</p>
				<ul className="m-0 my-3 list-none border-y border-rule p-0">
					{r.paper.lines.map((l, i) => (
						<li key={i} className="flex justify-between gap-4 py-1.5">
							<span className="min-w-0">
								<span className="font-semibold">{l.name}</span>
								{l.qty > 1 && <span className="text-soft"> × {l.qty}</span>}
								{l.number && (
									<span className="num block">
										{l.number}{" "}
										<a href={`/api/vouchers/${l.number}/paper`} target="_blank" rel="noreferrer">
											{w.printTheVoucher}
										</a>
									</span>
								)}
							</span>
							<span className="num">{money(l.gross, currency)}</span>
						</li>
					))}
					{r.paper.tip && (
						<li className="flex justify-between gap-4 py-1.5">
							<span>{w.tipFor({ name: r.paper.tipForName ?? "" })}</span>
							<span className="num">{money(r.paper.tip, currency)}</span>
						</li>
					)}
				</ul>
				{r.paper.ways.map((x, i) => (
					<p key={i} className="num m-0 flex justify-between text-sm text-soft">
						<span>
							{w.paidBy({ way: waysToPay[x.by] })}
							{x.left && ` · ${w.leftOnIt({ left: money(x.left, currency) })}`}
						</span>
						<span>{money(x.taken, currency)}</span>
					</p>
				))}
			</section>
			<section className="rounded-md bg-kelp-pale p-5">
				<p className="m-0 font-serif text-4xl font-bold text-kelp">{w.paid}</p>
				{cash && <p className="num mt-2 mb-0 text-2xl font-semibold">{w.change({ amount: money(cash.change ?? "0", currency) })}</p>}
				<p className="mt-4 mb-0 flex flex-wrap gap-3">
					<Link
						to="/"
						className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-5 font-semibold text-white no-underline"
					>
						{w.backToTheDay}
					</Link>
					<a
						className="inline-flex min-h-11 items-center rounded-sm border border-[#9c8873] bg-leaf px-4 font-semibold text-ink no-underline"
						href={`/api/receipts/${r.id}/paper`}
						target="_blank"
						rel="noreferrer"
					>
						{w.printTheReceipt}
					</a>
				</p>
			</section>
		</div>
	);
}
