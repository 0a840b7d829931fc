import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { visitQuery } from "../api/queries";
import { TakePayment } from "../books";
import { PatchFirst, PatchVisit, Today } from "../checks";
import { KnownText } from "../face/Known";
import { Badge, Button, Loading, Page } from "../kit/kit";
import { ReasonForm } from "../kit/ReasonForm";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { headlineWords, outlookText, stateWords } from "../words/sentences";
import { CancelAppointment, Cancelled } from "./CancelAppointment";
import { FreeUntil } from "./FreeUntil";
import { AnotherTime, MoveAppointment } from "./MoveAppointment";
import { RunningLate } from "./RunningLate";
import { SameAgainLink } from "./series/SameAgainLink";
import { FreedTime } from "./waiting/FreedTime";

/** An appointment from the check to the room: check, today's plan, start. */
export function VisitPage() {
	const { id } = useParams({ from: "/shell/visits/$id" });
	const { at, treats, now, may } = useSession();
	const visit = useQuery(visitQuery(id));
	const [givingReason, setGivingReason] = useState(false);
	const [otherDay, setOtherDay] = useState<string>();
	if (!visit.data) return <Loading of={w.theVisit} error={visit.error} retry={() => visit.refetch()} />;
	const v = visit.data;
	const over = ["cancelled", "late-cancelled", "no-show"].includes(v.state);
	return (
		<Page
			title={
				<>
					{v.clientName}{" "}
					<span className="num text-2xl font-normal text-soft">
						{at.date(v.startsAt)}, {at.time(v.startsAt)}
					</span>
				</>
			}
			action={
				<span className="flex items-center gap-4">
					<Badge tone="plain">{stateWords[v.state]}</Badge>
					<Link
						to="/people/$id"
						params={{ id: v.client }}
						className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
					>
						{w.client}
					</Link>
					{["booked", "confirmed"].includes(v.state) && v.kind === "treatment" && may("move-visit") && (
						<AnotherTime visit={v} label={w.moveAppointment} />
					)}
					{["booked", "confirmed"].includes(v.state) &&
						may("tell-running-late") &&
						at.day(v.startsAt) === at.day(now()) &&
						v.startsAt > now().toISOString() && <RunningLate visit={v} />}
					<TakePayment visit={v} ahead />
					{["booked", "confirmed", "arrived"].includes(v.state) && <CancelAppointment visit={v} />}
				</span>
			}
		>
			<p className="mt-0 mb-5">
				{w.protocolNameWithPractitionerNameRoomNameUntil({
					protocolName: v.protocolName,
					practitionerName: v.practitionerName,
					roomName: v.roomName,
				})}{" "}
				<span className="num">{at.time(v.endsAt)}</span>
				{v.freeUntil && <FreeUntil until={v.freeUntil} />}
				{v.series && (v.seriesLength ?? 0) > 1 && may("get-series") && (
					<Link
						to="/series/$id"
						params={{ id: v.series }}
						className="block w-fit text-sm font-semibold underline decoration-rule underline-offset-4"
					>
						{w.visitOfSeries({ n: v.item, all: v.seriesLength })}
					</Link>
				)}
			</p>
			{v.late && (
				<p role="status" className="num mt-0 mb-4 border-l-4 border-persimmon bg-blush px-4 py-2 font-semibold">
					{(v.late.advice === "fit" ? w.lateFit : w.lateTooMuch)({ n: v.late.minutes, left: v.late.handsOn })}
				</p>
			)}
			{!over && v.kind === "treatment" && !["done", "broken-off", "in-room"].includes(v.state) && <PatchFirst visit={v} />}
			{over ? (
				<>
					<Cancelled visit={v} />
					<FreedTime visit={v} />
				</>
			) : v.state === "done" && v.kind === "patch-test" ? (
				<p className="text-lg">{w.patchTestAppliedReadingsInClients}</p>
			) : v.state === "done" || v.state === "broken-off" ? (
				<p className="m-0 flex flex-wrap items-center gap-6">
					<SameAgainLink visit={id} />
					{treats && (
						<Link
							to="/visits/$id/record"
							params={{ id }}
							className="inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4"
						>
							{w.openRecord}
						</Link>
					)}
				</p>
			) : v.state === "in-room" ? (
				treats && (
					<Link
						to="/visits/$id/room"
						params={{ id }}
						className="inline-flex min-h-11 items-center rounded-sm bg-persimmon px-4 font-semibold text-white no-underline"
					>
						{w.backToRoomGuide}
					</Link>
				)
			) : v.kind === "review" ? (
				v.series && (
					<Link
						to="/series/$id"
						params={{ id: v.series }}
						className="inline-flex min-h-11 items-center rounded-sm bg-persimmon px-4 font-semibold text-white no-underline"
					>
						{w.toTheEndReview}
					</Link>
				)
			) : v.kind === "patch-test" ? (
				treats && <PatchVisit visit={v} />
			) : treats && (at.day(v.startsAt) === at.day(now()) || otherDay) ? (
				<Today visit={v} otherDay={otherDay} />
			) : (
				<>
					<p className="text-lg">
						{at.day(v.startsAt) > at.day(now()) && w.checkDoneOnDay}
						{v.checked ? headlineWords[v.checked] : v.outlook ? w.likelyResultV({ v: outlookText(v) }) : w.noCheckYet}
						{v.known && v.known.length > 0 && (
							<span className="block font-semibold">
								<KnownText marks={v.known} />
							</span>
						)}
					</p>
					{may("treat-other-day") &&
						!over &&
						(givingReason ? (
							<ReasonForm
								label={w.whyTreatOnAnotherDay}
								button={w.treatTodayInstead}
								onReason={setOtherDay}
								onLeave={() => setGivingReason(false)}
							/>
						) : (
							<Button onClick={() => setGivingReason(true)}>{w.treatTodayInstead}</Button>
						))}
				</>
			)}
			{!over &&
				[v.outlook, v.checked].some((x) => x === "not-before" || x === "ask-practitioner") &&
				(!treats || at.day(v.startsAt) !== at.day(now())) && (
					<div className="flex flex-wrap gap-3">
						<MoveAppointment visit={v} />
					</div>
				)}
		</Page>
	);
}
