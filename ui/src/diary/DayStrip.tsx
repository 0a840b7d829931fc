import { useQuery } from "@tanstack/react-query";
import { dayQuery } from "../api/queries";
import { Gradually } from "../kit/Gradually";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { Pebble } from "./Pebble";
import { type Line, nextOf } from "./visits";

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
								<Gradually first={null}>
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
												height={row}
											/>
										))}
								</Gradually>
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
