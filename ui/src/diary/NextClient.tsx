import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import { briefQuery } from "../api/queries";
import { KnownPlaces, KnownText } from "../face/Known";
import { dayWords } from "../kit/format";
import { Badge } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { headlineWords, outlookText, stateWords, toDoText } from "../words/sentences";
import { Lateness } from "./DayLine";
import { VisitActions } from "./VisitActions";
import { AskedMark } from "./VisitMarks";
import { isExpected, type Line, minutesTo } from "./visits";

/** The next client, with what to know in the minute before. */
export function NextClient({ visit: v, now }: { visit: Line; now: Date }) {
	const { at, may } = useSession();
	const knows = may("get-brief");
	const brief = useQuery({ ...briefQuery(v.client, v.id), enabled: knows });
	const known = brief.data?.known ?? v.known ?? [];
	const minutes = minutesTo(now, v.startsAt);
	return (
		<section aria-label={w.nextClient} className="leaf mb-6 p-5">
			<div className="flex gap-5">
				<div className="min-w-0 flex-1">
					<p className="m-0 flex flex-wrap items-baseline gap-x-3 text-soft">
						<span className="num font-serif text-4xl font-semibold text-ink">{at.time(v.startsAt)}</span>
						<span>
							{v.state === "in-room" ? w.inTheRoomNow : minutes > 0 ? w.inMinutes({ minutes }) : minutes === 0 ? w.appointmentNow : ""}
						</span>
						<span>{v.roomName}</span>
						<Badge tone="plain">{stateWords[v.state]}</Badge>
						{isExpected(v) && <Lateness visit={v} now={now} />}
					</p>
					<h2 className="mt-1 mb-0 text-3xl leading-tight">
						<Link
							to="/people/$id"
							params={{ id: v.client }}
							className="break-words text-inherit underline decoration-rule underline-offset-4"
						>
							{v.clientName}
						</Link>
					</h2>
					<p className="mt-1 mb-3">{v.protocolName}</p>
					{knows && <KnownLine visit={v} known={known} asked={brief.data?.consultation ?? v.consultation} listed={Boolean(brief.data)} />}
					{v.outlook && <p className="mt-0 mb-2 text-soft">{toDoText(v)}</p>}
				</div>
				{knows && <KnownPlaces marks={known} className="h-40 shrink-0" />}
			</div>
			{brief.data && <Brief brief={brief.data} visit={v} />}
			<VisitActions visit={v} now={now} primary />
		</section>
	);
}

/** What to look out for, large; or that there is nothing, or that nobody has asked yet. */
function KnownLine({
	visit: v,
	known,
	asked,
	listed,
}: {
	visit: Line;
	known: Schemas["Mark"][];
	asked: Line["consultation"];
	/** Whether the papers below say that nobody has asked. */
	listed: boolean;
}) {
	const headline = v.checked || v.outlook;
	if (listed && known.length === 0 && !v.checked && asked !== "current") return null;
	return (
		<p className="mt-0 mb-3 text-xl leading-snug font-semibold">
			{headline && headline !== "go" && headline !== "go-with-changes" && (
				<>
					<Badge tone={headline}>{v.checked ? headlineWords[v.checked] : outlookText(v)}</Badge>{" "}
				</>
			)}
			{known.length > 0 ? (
				<KnownText marks={known} most={6} />
			) : asked === "current" || v.checked ? (
				<span className="font-normal text-kelp">{w.knownNothing}</span>
			) : null}{" "}
			{!v.checked && !listed && <AskedMark state={asked} />}
		</p>
	);
}

/** Papers, and what is different since last time. */
function Brief({ brief, visit: v }: { brief: Schemas["Brief"]; visit: Line }) {
	const { at } = useSession();
	const tests = v.patchFirst ?? [];
	return (
		<div className="mb-4 grid gap-x-8 gap-y-3 border-t border-rule pt-3 sm:grid-cols-2">
			<ul className="m-0 list-none p-0 text-[0.95rem]">
				<Paper
					good={brief.consultation === "current"}
					text={
						brief.consultation === "current"
							? w.consultationCurrentUntil({ day: dayWords(brief.validUntil ?? "") })
							: { none: w.notAskedYet, renew: w.consultationOver, "sent-in": w.answersToReview }[brief.consultation]
					}
				/>
				<Paper
					good={!brief.unsigned.includes("treatment")}
					text={brief.unsigned.includes("treatment") ? w.consentNotSigned : w.consentSigned}
				/>
				{brief.unsigned.includes("mouth") && <Paper good={false} text={w.mouthConsentNotSigned} />}
				<Paper good={tests.length === 0} text={tests.length ? w.patchTestsFirst({ names: tests.join(", ") }) : w.noTestsDue} />
			</ul>
			<div className="text-[0.95rem]">
				<p className="m-0 text-sm text-soft">
					{brief.last ? w.lastTimeOn({ day: at.date(brief.last.at), protocol: brief.last.protocol }) : w.sinceLastTime}
				</p>
				<ul className="m-0 list-none p-0">
					{brief.since.length === 0 && brief.last && <li>{w.nothingNewSince({ day: at.date(brief.last.at) })}</li>}
					{brief.since.slice(0, 4).map((s) => (
						<li key={s} className="break-words">
							{s}
						</li>
					))}
				</ul>
				{brief.last?.note && <p className="mt-1 mb-0 line-clamp-2 text-soft">“{brief.last.note}”</p>}
			</div>
		</div>
	);
}

/** One paper: there, or missing. */
function Paper({ good, text }: { good: boolean; text: string }) {
	return (
		<li className="flex gap-2">
			<span aria-hidden="true" className={`font-bold ${good ? "text-kelp" : "text-persimmon-deep"}`}>
				{good ? "✓" : "○"}
			</span>
			<span className={good ? "" : "font-semibold"}>{text}</span>
		</li>
	);
}
