import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import { paidVisitsQuery } from "../api/queries";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";

const asksForMoney = new Set(["arrived", "in-room", "done", "broken-off", "no-show", "late-cancelled"]);

/** The ids of a day's appointments that are over and that nobody has paid for yet. */
export function useToPay(day: string, visits: readonly Schemas["VisitLine"][]): ReadonlySet<string> {
	const { may } = useSession();
	const paid = useQuery({ ...paidVisitsQuery(day), enabled: may("pay-sale") });
	const open = paid.data
		? visits.filter((v) => v.kind === "treatment" && asksForMoney.has(v.state) && !paid.data.some((p) => p.visit === v.id))
		: [];
	return new Set(open.map((v) => v.id));
}

/** Where an appointment leads to its payment, or how it was paid; ahead says that one to come may be paid or take a deposit. */
export function TakePayment({ visit: v, primary, ahead }: { visit: Schemas["VisitLine"]; primary?: boolean; ahead?: boolean }) {
	const { may, at } = useSession();
	const toCome = v.state === "booked" || v.state === "confirmed";
	const wanted = may("pay-sale") && v.kind === "treatment" && (asksForMoney.has(v.state) || (ahead === true && toCome));
	const paid = useQuery({ ...paidVisitsQuery(at.day(v.startsAt)), enabled: wanted });
	if (!wanted || !paid.data) return null;
	const how = paid.data.find((p) => p.visit === v.id)?.how;
	if (how === "paid" || how === "waived") return <span className="self-center text-sm text-soft">{w.howPaid[how]}</span>;
	const missed = v.state === "no-show" || v.state === "late-cancelled";
	const strong = primary && (v.state === "done" || v.state === "broken-off");
	return (
		<Link
			to="/books"
			search={{ visit: v.id }}
			className={`inline-flex min-h-11 items-center rounded-sm border px-4 font-semibold no-underline ${strong ? "border-persimmon bg-persimmon text-white" : "border-[#9c8873] bg-leaf text-ink"}`}
		>
			{how === "series" ? w.howPaid.series : missed ? w.fee : toCome ? w.depositOrPayment : w.takePayment}
		</Link>
	);
}
