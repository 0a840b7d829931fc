import { useQuery } from "@tanstack/react-query";
import { cautionHistoryQuery } from "../api/queries";
import { daysAcross, monthTicks } from "../chart/scales";
import { civil, dayWords } from "../kit/format";
import { Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";
import { kindWords } from "../words/sentences";

const dayMs = 86_400_000;
const fills: Record<string, string> = {
	urgent: "bg-persimmon-deep",
	stop: "bg-persimmon",
	wait: "bg-slate",
	letter: "bg-slate",
};

/** Which contraindications applied when, and the appointments they affected: a row each, time from left to right. */
export function History({ client }: { client: string }) {
	const { at, now } = useSession();
	const history = useQuery(cautionHistoryQuery(client));
	if (!history.data) return <Loading of={w.contraindicationsOverTime} error={history.error} retry={() => history.refetch()} />;
	const { spans } = history.data;
	if (spans.length === 0) return null;
	const today = at.day(now());
	const ms = (day: string) => Date.parse(`${day}T00:00:00Z`);
	const met = history.data.met.map((v) => ({ v, day: at.day(v.startsAt) }));
	const ends = [...spans.flatMap((s) => [s.from, s.until ?? today]), ...met.map((m) => m.day), today].map(ms);
	const from = Math.min(...ends) - 3 * dayMs;
	const to = Math.max(...ends) + 4 * dayMs;
	const across = daysAcross(from, to);
	const x = (day: string) => across(ms(day));
	const rows = [...new Map(spans.map((s) => [s.rule, s.title]))];
	return (
		<section aria-label={w.contraindicationsOverTime} className="mt-8">
			<h2 className="mt-0 mb-1 text-2xl">{w.contraindicationsOverTime}</h2>
			<div className="relative grid grid-cols-[200px_1fr] gap-x-3">
				<span className="text-sm text-soft">{w.appointments}</span>
				<div className="relative h-7 border-b border-ink">
					{monthTicks(from, to, 8)
						.filter((m) => across(m) < 92)
						.map((m) => (
							<span key={m} className="absolute top-0 border-l border-rule pl-1 text-xs text-soft" style={{ left: `${across(m)}%` }}>
								{civil({ month: "short", year: "2-digit" }).format(new Date(m))}
							</span>
						))}
					{met.map(({ v, day }) => (
						<span
							key={v.visit}
							title={`${at.date(v.startsAt)}: ${v.protocol}`}
							className={`absolute bottom-[-5px] z-10 size-2.5 -translate-x-1/2 rounded-full border border-ink ${day <= today ? "bg-ink" : "bg-paper"}`}
							style={{ left: `${x(day)}%` }}
						/>
					))}
				</div>
				{rows.map(([rule, title]) => (
					<div key={rule} className="contents">
						<span className="truncate py-1 text-sm" title={title}>
							{title}
						</span>
						<ul className="relative m-0 h-7 list-none border-b border-rule p-0">
							{met.map(({ v, day }) => (
								<li
									key={v.visit}
									aria-hidden="true"
									className="absolute inset-y-0 border-l border-dotted border-rule"
									style={{ left: `${x(day)}%` }}
								/>
							))}
							{spans
								.filter((s) => s.rule === rule)
								.map((s) => {
									const words = w.kindWordsFromToUntil({
										kindWords: kindWords[s.kind],
										from: dayWords(s.from),
										until: s.until ? dayWords(s.until) : w.ongoing,
									});
									return (
										<li
											key={s.from}
											title={words}
											className={`absolute top-2 h-3 min-w-1.5 ${fills[s.kind] ?? "bg-kelp"} ${s.until ? "rounded-full" : "rounded-l-full [mask-image:linear-gradient(to_right,black_35%,transparent)]"}`}
											style={{ left: `${x(s.from)}%`, width: `${Math.max(0.6, (s.until ? x(s.until) : 100) - x(s.from))}%` }}
										>
											<span className="sr-only">{words}</span>
										</li>
									);
								})}
						</ul>
					</div>
				))}
				<div aria-hidden="true" className="pointer-events-none absolute inset-y-0 right-0 left-[182px]">
					<div className="absolute inset-y-0 border-l-2 border-persimmon" style={{ left: `${x(today)}%` }} />
				</div>
			</div>
			<p className="mt-1 text-sm text-soft">
				<span className="mr-1 inline-block size-2.5 rounded-full bg-persimmon" /> {w.doNotTreat}{" "}
				<span className="mr-1 ml-3 inline-block size-2.5 rounded-full bg-slate" /> {w.waitOrLetter}{" "}
				<span className="mr-1 ml-3 inline-block size-2.5 rounded-full bg-kelp" /> {w.changes}{" "}
				<span className="mr-1 ml-3 inline-block size-2.5 rounded-full border border-ink bg-ink" /> {w.appointmentFadingBarEndNotKnown}
			</p>
		</section>
	);
}
