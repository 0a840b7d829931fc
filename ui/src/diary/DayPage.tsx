import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { dayQuery } from "../api/queries";
import { useToPay } from "../books";
import { Gradually } from "../kit/Gradually";
import { Loading, Page } from "../kit/kit";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { DayLine } from "./DayLine";
import { Inbox } from "./Inbox";
import { NextClient } from "./NextClient";
import { Preparation } from "./Preparation";
import { isOver, type Line, nextOf } from "./visits";

/** Today: the next client, one's own day, what to prepare and what waits. */
export function DayPage() {
	const { at, practitioner, may } = useSession();
	const now = useNow(30_000);
	const day = useQuery(dayQuery(at.day(now)));
	const toPay = useToPay(at.day(now), day.data?.visits ?? []);
	if (!day.data) return <Loading of={w.theDay} error={day.error} retry={() => day.refetch()} />;
	const visits = day.data.visits;
	const own = practitioner ? visits.filter((v) => v.practitioner === practitioner) : visits;
	const others = practitioner ? visits.filter((v) => v.practitioner !== practitioner) : [];
	const next = nextOf(visits, practitioner);
	const coming = own.filter((v) => v !== next && !isOver(v));
	const over = own.filter((v) => isOver(v) && !toPay.has(v.id));
	return (
		<Page
			title={at.long(now)}
			action={
				<span className="flex gap-6">
					{may("get-week") && (
						<Link to="/week" className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
							{w.thisWeek}
						</Link>
					)}
					{may("walk-in") && (
						<Link to="/walk-in" search={{}} className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
							{w.walkIn}
						</Link>
					)}
					<Link to="/book" search={{}} className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
						{w.bookAppointment}
					</Link>
				</span>
			}
		>
			<div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_280px]">
				<div className="min-w-0">
					{visits.length === 0 && (
						<p className="mt-0 text-lg">
							{w.noAppointmentsToday}{" "}
							<Link to="/book" search={{}} className="font-semibold underline">
								{w.bookFirstAppointment}
							</Link>
							.
						</p>
					)}
					{visits.length > 0 && !next && <p className="mt-0 text-lg">{w.youAreFree}</p>}
					{next && <NextClient key={next.id} visit={next} now={now} />}
					<Gradually first={null}>
						<Lines title={practitioner ? w.myDay : w.restOfTheDay} visits={coming} now={now} whose={!practitioner} />
						<Lines title={w.toBePaid} visits={own.filter((v) => isOver(v) && toPay.has(v.id))} now={now} whose={!practitioner} />
						<Folded title={w.colleagues({ n: others.length })} visits={others} now={now} whose />
						<Folded title={w.moreAppointments} visits={over} now={now} whose={!practitioner} />
					</Gradually>
				</div>
				<aside>
					{may("get-inbox") && <Inbox />}
					<div className="h-6" />
					{may("get-preparation") && <Preparation />}
				</aside>
			</div>
		</Page>
	);
}

type ListProps = { title: string; visits: readonly Line[]; now: Date; whose: boolean };

function Lines({ title, visits, now, whose }: ListProps) {
	if (visits.length === 0) return null;
	return (
		<section aria-label={title} className="mb-5">
			<h2 className="mt-0 mb-1 text-xl">{title}</h2>
			<ol className="m-0 list-none p-0">
				{visits.map((v) => (
					<DayLine key={v.id} visit={v} now={now} whose={whose} />
				))}
			</ol>
		</section>
	);
}

/** Appointments that are out of the way until they are asked for. */
function Folded({ title, visits, now, whose }: ListProps) {
	if (visits.length === 0) return null;
	return (
		<details className="mb-3">
			<summary className="min-h-11 cursor-pointer py-2 font-serif text-lg font-semibold">{title}</summary>
			<ol className="m-0 list-none p-0">
				{visits.map((v) => (
					<DayLine key={v.id} visit={v} now={now} whose={whose} />
				))}
			</ol>
		</details>
	);
}
