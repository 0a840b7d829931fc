import type { Schemas } from "../api/client";
import { civil, dayAfter } from "../kit/format";
import * as w from "../words/catalogue/diary";

type Load = Schemas["DayLoad"];

const line = 9;

/**
 * Weeks as strips under each other, one line a practitioner through the whole week: thick where their day is taken, thin
 * where it is free, broken where they do not work.
 */
export function WeekStaves({
	days,
	closed,
	names,
	chosen,
	today,
	onChoose,
}: {
	days: readonly Load[];
	closed: Readonly<Record<string, string>>;
	names: readonly string[];
	chosen: string;
	today: string;
	onChoose: (day: string) => void;
}) {
	const weeks: Load[][] = [];
	for (const d of days) {
		if (new Date(`${d.day}T12:00:00Z`).getUTCDay() === 1 || weeks.length === 0) weeks.push([]);
		weeks.at(-1)!.push(d);
	}
	const monday = civil({ day: "numeric", month: "short" });
	const full = civil({ weekday: "short", day: "numeric", month: "short" });
	const weekday = civil({ weekday: "short" });
	const of = (day: string) => new Date(`${day}T12:00:00Z`);
	const mondayOf = (day: string) => dayAfter(day, -((of(day).getUTCDay() + 6) % 7));
	const height = names.length * line + 4;
	return (
		<section aria-label={w.weeks}>
			<div className="grid grid-cols-[72px_minmax(0,1fr)]" aria-hidden="true">
				<span />
				<div className="flex">
					{Array.from({ length: 7 }, (_, k) => (
						<span key={k} className="flex-1 px-0.5 text-xs text-soft">
							{weekday.format(of(dayAfter("2026-11-23", k)))}
						</span>
					))}
				</div>
			</div>
			{weeks.map((week, i) => {
				const first = week[0]!.day;
				return (
					<div key={first} className="grid grid-cols-[72px_minmax(0,1fr)] items-center border-t border-rule">
						<span className="num text-sm text-soft">{monday.format(of(mondayOf(first)))}</span>
						<div className="flex">
							{Array.from({ length: i === 0 ? 7 - week.length : 0 }, (_, k) => (
								<span key={dayAfter(first, -k - 1)} className="flex-1" />
							))}
							{week.map((d) => {
								const free = d.people.reduce((n, p) => n + p.works - p.taken, 0);
								const works = d.people.reduce((n, p) => n + p.works, 0);
								const why = closed[d.day];
								return (
									<button
										key={d.day}
										type="button"
										aria-pressed={d.day === chosen}
										aria-label={`${full.format(of(d.day))}: ${why ?? (works === 0 ? w.nobodyWorks : w.freeOfWorked({ free: Math.round(free / 6) / 10, works: Math.round(works / 6) / 10 }))}`}
										className={`min-w-0 flex-1 px-0.5 py-1 text-left hover:bg-leaf ${d.day === chosen ? "bg-leaf outline-2 -outline-offset-2 outline-ink" : ""} ${d.day === today ? "border-l-2 border-persimmon" : ""}`}
										onClick={() => onChoose(d.day)}
									>
										{why ? (
											<span className="block truncate text-xs text-soft italic" style={{ height }} title={why}>
												{why}
											</span>
										) : (
											<svg
												width="100%"
												height={height}
												preserveAspectRatio="none"
												viewBox={`0 0 100 ${height}`}
												aria-hidden="true"
												className="block"
											>
												{d.people.map((p, k) =>
													p.works === 0 ? null : (
														<g key={p.key}>
															<line x1="0" x2="100" y1={k * line + 5} y2={k * line + 5} stroke="#9c8873" strokeWidth="1" />
															<line
																x1="0"
																x2={(100 * p.taken) / p.works}
																y1={k * line + 5}
																y2={k * line + 5}
																stroke={["#36182f", "#44586b", "#3d5a3b", "#a33213"][k % 4]}
																strokeWidth="5"
															/>
														</g>
													),
												)}
											</svg>
										)}
									</button>
								);
							})}
							{Array.from({ length: i > 0 ? 7 - week.length : 0 }, (_, k) => (
								<span key={dayAfter(week.at(-1)!.day, k + 1)} className="flex-1" />
							))}
						</div>
					</div>
				);
			})}
		</section>
	);
}
