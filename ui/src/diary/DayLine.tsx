import { Link } from "@tanstack/react-router";
import { Badge } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { stateWords } from "../words/sentences";
import { VisitActions } from "./VisitActions";
import { VisitMarks } from "./VisitMarks";
import { isExpected, isOver, type Line, minutesTo } from "./visits";

/** That a client who is still expected is late, or that the time of the appointment is over. */
export function Lateness({ visit: v, now }: { visit: Line; now: Date }) {
	const minutes = -minutesTo(now, v.startsAt);
	if (!isExpected(v) || minutes < 1) return null;
	const over = minutesTo(now, v.endsAt) <= 0;
	return <Badge tone="not-here">{over ? w.timeIsOver : w.dueMinutesAgo({ minutes })}</Badge>;
}

/** One appointment of the day in a line. */
export function DayLine({ visit: v, now, whose, primary = false }: { visit: Line; now: Date; whose: boolean; primary?: boolean }) {
	const { at } = useSession();
	return (
		<li
			className={`grid grid-cols-[64px_minmax(0,1fr)_auto] items-start gap-x-4 gap-y-1 border-b border-rule py-2.5 ${isOver(v) ? "text-soft" : ""}`}
		>
			<span className="num font-serif text-2xl leading-8 font-semibold">{at.time(v.startsAt)}</span>
			<div className="min-w-0">
				<p className="m-0 flex flex-wrap items-baseline gap-x-3">
					<Link
						to="/people/$id"
						params={{ id: v.client }}
						className="max-w-full truncate font-serif text-lg font-semibold text-inherit underline decoration-rule underline-offset-4"
						title={v.clientName}
					>
						{v.clientName}
					</Link>
					<span className="min-w-0 break-words">{v.protocolName}</span>
				</p>
				<p className="m-0 flex flex-wrap items-center gap-x-2 gap-y-0.5">
					<span className="text-sm text-soft">{whose ? `${v.practitionerName}, ${v.roomName}` : v.roomName}</span>
					<Badge tone="plain">{stateWords[v.state]}</Badge>
					<Lateness visit={v} now={now} />
					<VisitMarks visit={v} />
				</p>
			</div>
			<VisitActions visit={v} now={now} primary={primary} />
		</li>
	);
}
