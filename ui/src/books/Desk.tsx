import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { dayQuery } from "../api/queries";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { TakePayment, useToPay } from "./TakePayment";

type Visit = Schemas["VisitLine"];

/** Today's appointments with the way to their payment, until something is put on the bill: those to be paid come first. */
export function Desk() {
	const { at, may } = useSession();
	const today = at.day(useNow(60_000));
	const day = useQuery({ ...dayQuery(today), enabled: may("get-day") });
	const visits = day.data?.visits ?? [];
	const toPay = useToPay(today, visits);
	return (
		<>
			<Visits title={w.toBePaid} visits={visits.filter((v) => toPay.has(v.id))} />
			<Visits title={w.stillToCome} visits={visits.filter((v) => v.kind === "treatment" && ["booked", "confirmed"].includes(v.state))} />
		</>
	);
}

function Visits({ title, visits }: { title: string; visits: readonly Visit[] }) {
	const { at } = useSession();
	if (visits.length === 0) return null;
	return (
		<section className="mt-8">
			<h2 className="m-0 mb-1 text-xl">{title}</h2>
			<ul className="m-0 list-none border-t border-ink p-0">
				{visits.map((v) => (
					<li key={v.id} className="grid min-h-15 grid-cols-[3.5rem_minmax(0,1fr)_auto] items-center gap-x-3 border-b border-rule py-2">
						<span className="num font-semibold">{at.time(v.startsAt)}</span>
						<span className="min-w-0">
							<span className="block truncate font-semibold" title={v.clientName}>
								{v.clientName}
							</span>
							<span className="block truncate text-sm text-soft">
								{w.protocolWith({ protocol: v.protocolName, practitioner: v.practitionerName })}
							</span>
						</span>
						<TakePayment visit={v} primary ahead />
					</li>
				))}
			</ul>
		</section>
	);
}
