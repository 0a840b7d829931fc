import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { Popover } from "radix-ui";
import { dayQuery } from "../api/queries";
import { Badge } from "../kit/kit";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { outlookText, stateWords } from "../words/sentences";
import { VisitMarks } from "./VisitMarks";
import { isExpected, type Line, nextOf } from "./visits";

const row = 32;
const names = 118;

/** The appointment that somebody is at or has next today, by its id. */
export function useNextVisit(): string | undefined {
	const { at, practitioner, may } = useSession();
	const { data } = useQuery({ ...dayQuery(at.day(useNow(60_000))), enabled: may("get-day") });
	return data ? nextOf(data.visits, practitioner)?.id : undefined;
}

/** The strip folded to one line: the next appointment in words. */
function FoldedStrip({ visits, onFold }: { visits: readonly Line[]; onFold: () => void }) {
	const { at, practitioner } = useSession();
	const v = nextOf(visits, practitioner);
	return (
		<button
			type="button"
			className="no-print flex h-6 w-full items-center gap-3 border-b border-rule bg-leaf px-5 text-left text-sm leading-none"
			aria-expanded={false}
			title={w.altT}
			onClick={onFold}
		>
			<span className="min-w-0 flex-1 truncate">
				{v ? (
					<>
						<span className="num font-semibold">{at.time(v.startsAt)}</span> {v.clientName}, {v.protocolName}, {v.roomName}
					</>
				) : (
					w.nothingMoreToday
				)}
			</span>
			<span className="shrink-0 text-soft">{w.showTheDay}</span>
		</button>
	);
}

/**
 * The working day along the top of every screen: a row a practitioner, a pebble a visit, the present moment marked;
 * folded to one line where the page is a picture.
 */
export function DayStrip({ folded, onFold }: { folded: boolean; onFold: () => void }) {
	const { at, treats } = useSession();
	const now = useNow(15_000);
	const today = at.day(now);
	const { data } = useQuery(dayQuery(today));
	if (!data) return <div style={{ height: folded ? 24 : 3 * row + 26 }} className="border-b border-rule" />;
	if (folded) return <FoldedStrip visits={data.visits} onFold={onFold} />;
	const from = new Date(data.opens).getTime();
	const to = Math.max(new Date(data.closes).getTime(), from + 3_600_000);
	const part = (t: string | Date | number) => Math.max(0, Math.min(1, (new Date(t).getTime() - from) / (to - from)));
	const hours = Math.round((to - from) / 3_600_000);
	const live = data.visits.filter((v) => !["cancelled", "late-cancelled"].includes(v.state));
	return (
		<section aria-label={w.today} className="no-print border-b border-rule bg-leaf pt-1 pr-5">
			<div className="relative" style={{ marginLeft: names, height: 20 }} aria-hidden="true">
				{Array.from({ length: hours + 1 }, (_, i) => (
					<span
						key={at.time(new Date(from + i * 3_600_000))}
						className="num absolute -translate-x-1/2 text-xs text-soft"
						style={{ left: `${(i / hours) * 100}%` }}
					>
						{i === hours || Math.abs(part(now) - i / hours) < 0.035 ? "" : at.time(new Date(from + i * 3_600_000)).slice(0, 2)}
					</span>
				))}
			</div>
			<div className="relative">
				{data.practitioners.map((p) => (
					<div key={p.id} className="relative flex items-center" style={{ height: row }}>
						<span className="truncate pr-2 pl-5 text-sm text-soft" style={{ width: names }}>
							{p.name.split(" ")[0]}
						</span>
						<div className="relative h-full flex-1">
							<div className="absolute top-1/2 right-0 left-0 border-t border-dotted border-[#b8a48a]" />
							<ul className="m-0 list-none p-0">
								{live
									.filter((v) => v.practitioner === p.id)
									.map((v) => (
										<Pebble
											key={v.id}
											visit={v}
											left={part(v.startsAt)}
											width={part(v.endsAt) - part(v.startsAt)}
											reset={part(v.busyUntil) - part(v.endsAt)}
											treats={treats}
										/>
									))}
							</ul>
						</div>
					</div>
				))}
				{now.getTime() >= from && now.getTime() <= to && (
					<div
						aria-hidden="true"
						className="pointer-events-none absolute top-[-16px] bottom-0"
						style={{ left: `calc(${names}px + (100% - ${names}px) * ${part(now)})` }}
					>
						<div className="absolute inset-y-0 border-l-2 border-persimmon" />
						<span className="num absolute -top-0.5 left-1 bg-leaf px-0.5 text-xs font-bold text-persimmon-deep">{at.time(now)}</span>
					</div>
				)}
			</div>
		</section>
	);
}

const shapes = ["52% 48% 55% 45% / 60% 55% 45% 40%", "46% 54% 48% 52% / 55% 62% 38% 45%", "55% 45% 45% 55% / 48% 58% 42% 52%"];

function pebbleTone(v: Line): string {
	if (v.state === "done" || v.state === "broken-off") return "bg-slate-pale text-slate border-slate/40";
	if (v.state === "no-show") return "bg-paper text-soft border-soft/50 line-through";
	if (v.state === "in-room") return "bg-ink text-paper border-ink";
	if (["not-here", "urgent", "not-before", "needs-letter", "ask-practitioner"].includes(v.checked || v.outlook || ""))
		return "bg-blush text-persimmon-deep border-persimmon";
	return "bg-kelp-pale text-ink border-kelp/60";
}

/** An appointment on a strip; its reset is the tail. Pressed, it says what it is and where it leads. */
export function Pebble({
	visit: v,
	left,
	width,
	reset,
	treats,
	height = row,
}: {
	visit: Line;
	left: number;
	width: number;
	reset: number;
	treats: boolean;
	height?: number;
}) {
	const { at, may } = useSession();
	const go = useNavigate();
	const late = v.roomMinutes ?? 0;
	const shape = shapes[v.id.charCodeAt(v.id.length - 1) % shapes.length];
	return (
		<li>
			<div
				aria-hidden="true"
				className="absolute top-1/2 h-1 -translate-y-1/2 bg-rule"
				style={{ left: `${(left + width) * 100}%`, width: `${reset * 100}%` }}
			/>
			<Popover.Root>
				<Popover.Trigger
					className={`absolute top-[2px] truncate border px-1 text-center text-sm leading-none ${pebbleTone(v)}`}
					style={{ left: `${left * 100}%`, width: `${width * 100}%`, height: height - 4, borderRadius: shape }}
					aria-label={`${at.time(v.startsAt)} ${v.clientName}, ${v.protocolName}, ${stateWords[v.state]}${v.outlook && v.outlook !== "go-with-changes" ? `, ${outlookText(v)}` : ""}${late > 0 ? `, ${w.runsLate({ n: late })}` : ""}`}
				>
					<span className="num text-xs">{at.time(v.startsAt)}</span> {v.clientName.split(" ")[0]}
					{late > 0 && <span className="num ml-1 font-bold">+{late}</span>}
				</Popover.Trigger>
				<Popover.Portal>
					<Popover.Content sideOffset={4} collisionPadding={12} className="z-30 w-80 rounded-md border border-ink bg-paper p-4">
						<p className="m-0 font-serif text-xl font-semibold">{v.clientName}</p>
						<p className="num mt-1 mb-2 text-sm">
							{w.startsAtToEndsAtRoomNamePractitionerName({
								startsAt: at.time(v.startsAt),
								endsAt: at.time(v.endsAt),
								roomName: v.roomName,
								practitionerName: v.practitionerName,
							})}
							<br />
							{v.protocolName}
						</p>
						<p className="mt-0 mb-3 flex flex-wrap gap-2">
							<Badge tone="plain">{stateWords[v.state]}</Badge>
							{late > 0 && <Badge tone="not-before">{w.runsLate({ n: late })}</Badge>}
							<VisitMarks visit={v} todo />
						</p>
						<div className="flex flex-wrap gap-x-4 gap-y-1">
							<Popover.Close asChild>
								<button
									type="button"
									className="min-h-11 rounded-sm bg-persimmon px-4 font-semibold text-white"
									onClick={() => go({ to: "/visits/$id", params: { id: v.id } })}
								>
									{w.visit}
								</button>
							</Popover.Close>
							<StripLink to="/people/$id" id={v.client}>
								{w.client}
							</StripLink>
							{isExpected(v) && v.kind === "treatment" && may("move-visit") && (
								<Popover.Close asChild>
									<Link
										to="/diary"
										search={{ client: v.client, protocol: v.protocol, from: undefined, move: v.id }}
										className="inline-flex min-h-11 items-center px-2 font-semibold underline underline-offset-4"
									>
										{w.moveAppointment}
									</Link>
								</Popover.Close>
							)}
							{treats && v.state === "in-room" && (
								<StripLink to="/visits/$id/room" id={v.id}>
									{w.room}
								</StripLink>
							)}
							{treats && v.kind === "treatment" && (v.state === "in-room" || v.state === "done" || v.state === "broken-off") && (
								<StripLink to="/visits/$id/record" id={v.id}>
									{w.record}
								</StripLink>
							)}
						</div>
					</Popover.Content>
				</Popover.Portal>
			</Popover.Root>
		</li>
	);
}

function StripLink({ to, id, children }: { to: "/people/$id" | "/visits/$id/room" | "/visits/$id/record"; id: string; children: string }) {
	return (
		<Popover.Close asChild>
			<Link to={to} params={{ id }} className="inline-flex min-h-11 items-center px-2 font-semibold underline underline-offset-4">
				{children}
			</Link>
		</Popover.Close>
	);
}
