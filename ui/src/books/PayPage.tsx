import { useQuery } from "@tanstack/react-query";
import { Link, useSearch } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import { visitSaleQuery } from "../api/queries";
import { newId } from "../kit/format";
import { Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { AddLine } from "./AddLine";
import { BooksNav } from "./BooksNav";
import { CardState } from "./CardState";
import { Debts } from "./Debts";
import { Deposits } from "./Deposits";
import { Desk } from "./Desk";
import { FeePart } from "./FeePart";
import { Lines } from "./Lines";
import { PaidSlip } from "./PaidSlip";
import { PalmRow } from "./SeriesStrip";
import { isWaiting, type Sale, useSale } from "./useSale";
import { Ways } from "./Ways";

/** Where money is taken: for an appointment, or for what somebody buys at the desk. */
export function PayPage() {
	const { visit, client, owed } = useSearch({ strict: false }) as { visit?: string; client?: string; owed?: string };
	const sale = useQuery({ ...visitSaleQuery(visit ?? ""), enabled: Boolean(visit) });
	if (visit && !sale.data) return <Loading of={w.thePayment} error={sale.error} retry={() => sale.refetch()} />;
	const lines: Sale["lines"] = owed ? [{ kind: "debt", receipt: owed, qty: 1 }] : [];
	const first: Sale = sale.data?.sale ?? { id: newId(), lines, pay: [], ...(client ? { client } : {}) };
	return <Pay key={`${visit ?? owed ?? client ?? "desk"} ${sale.data?.sale.id ?? ""}`} first={first} of={sale.data} />;
}

function Pay({ first, of }: { first: Sale; of: Schemas["VisitSale"] | undefined }) {
	const { at } = useSession();
	const s = useSale(first, of?.open);
	const receipt = s.going?.receipt;
	const nothingDue = of !== undefined && s.sale.lines.length === 0 && Boolean(of.series) && !of.fee;
	return (
		<Page title={of ? of.visit.clientName : w.till} action={<BooksNav />}>
			{of && (
				<p className="mt-[-10px] mb-4 text-soft">
					{w.visitOf({
						protocol: of.visit.protocolName,
						practitioner: of.visit.practitionerName,
						day: at.date(of.visit.startsAt),
						time: at.time(of.visit.startsAt),
					})}
				</p>
			)}
			{receipt ? (
				<PaidSlip receipt={receipt} />
			) : (
				<div className="grid items-start gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
					<section aria-label={w.whatIsPaidFor}>
						{of && (of.fee || of.mayCount) && <FeePart of={of} fee={of.fee} />}
						{of?.waived && <p className="m-0 mb-3 bg-leaf px-4 py-3">{w.theFeeWasWaived({ reason: of.waived })}</p>}
						{of?.series && (
							<div className="mb-5 rounded-md bg-leaf px-4 py-3">
								<p className="m-0 font-serif text-xl font-semibold">
									{w.visitOfSeries({ n: of.seriesN ?? 0, of: of.series.shares.length })}
								</p>
								<p className="m-0 mb-2 text-sm text-soft">{of.series.name}</p>
								<PalmRow series={of.series} next={of.seriesN} />
							</div>
						)}
						{of && <Deposits of={of} />}
						{of && <Debts of={of} s={s} />}
						<Lines s={s} />
						{!isWaiting(s.going) && <AddLine s={s} />}
						{!of && !s.going && !s.sale.client && s.sale.lines.length === 0 && <Desk />}
					</section>
					<section aria-label={w.payment} className="rounded-md border border-ink bg-white p-5">
						{s.going || s.asking ? (
							<CardState s={s} />
						) : nothingDue ? (
							<>
								<p className="m-0 font-serif text-4xl font-bold text-kelp">{w.nothingDue}</p>
								<p className="mt-1 mb-4 text-soft">{w.theVisitIsPaidAhead}</p>
								<Link
									to="/"
									className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-5 font-semibold text-white no-underline"
								>
									{w.backToTheDay}
								</Link>
							</>
						) : (
							<Ways s={s} of={of} />
						)}
					</section>
				</div>
			)}
		</Page>
	);
}
