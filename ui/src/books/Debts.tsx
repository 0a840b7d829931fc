import type { Schemas } from "../api/client";
import { dayWords, money } from "../kit/format";
import { Button } from "../kit/kit";
import * as w from "../words/catalogue/books";
import type { useSale } from "./useSale";

/** What the client owes of earlier receipts: it comes onto this bill with one press. */
export function Debts({ of, s }: { of: Schemas["VisitSale"]; s: ReturnType<typeof useSale> }) {
	const open = of.debts.filter((d) => !s.sale.lines.some((l) => l.receipt === d.receipt));
	if (open.length === 0 || s.going) return null;
	return (
		<ul className="m-0 mb-4 list-none rounded-md bg-blush px-4 py-2">
			{open.map((d) => (
				<li key={d.receipt} className="flex flex-wrap items-center justify-between gap-3 py-1">
					<span>
						<span className="block font-semibold">{w.owesStill({ amount: money(d.left, of.currency) })}</span>
						<span className="block text-sm">{w.ofReceiptDue({ number: d.number, day: dayWords(d.due) })}</span>
					</span>
					<Button onClick={() => s.change({ lines: [...s.sale.lines, { kind: "debt", receipt: d.receipt, qty: 1 }] })}>
						{w.putOnThisBill}
					</Button>
				</li>
			))}
		</ul>
	);
}
