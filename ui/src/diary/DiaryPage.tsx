import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { api, unwrap } from "../api/client";
import { Badge, Loading, Page } from "../kit/kit";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { stateWords } from "../words/sentences";
import { DayPicture } from "./DayPicture";
import { MovePage } from "./MovePage";
import { VisitMarks } from "./VisitMarks";
import { WeekStaves } from "./WeekStaves";
import { Calls, Clashes, NotConfirmed } from "./waiting/Calls";
import { WaitingList } from "./waiting/WaitingList";

/** The diary: a day as a picture, the weeks to come by occupancy, the calls to make and who waits; or one appointment to be moved. */
export function DiaryPage() {
	const { move } = useSearch({ from: "/shell/diary" });
	return move ? <MovePage key={move} id={move} /> : <Overview />;
}

function Overview() {
	const search = useSearch({ from: "/shell/diary" });
	const go = useNavigate();
	const { at, may } = useSession();
	const today = at.day(useNow(60_000));
	const day = search.from ?? today;
	const strips = useQuery({
		queryKey: ["strips", today, day],
		queryFn: () => unwrap(api.GET("/api/strips", { params: { query: { from: today, day, days: 63 } } })),
		placeholderData: keepPreviousData,
		refetchInterval: 30_000,
	});
	if (!strips.data) return <Loading of={w.theDay} error={strips.error} retry={() => strips.refetch()} />;
	const s = strips.data;
	return (
		<Page
			title={w.diary}
			action={
				<span className="flex flex-wrap items-center gap-6">
					{may("get-roster") && (
						<Link to="/shifts" className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
							{w.shiftsAndAbsences}
						</Link>
					)}
					{may("lay-absent-day") && (
						<Link to="/away" className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
							{w.practitionerAway}
						</Link>
					)}
					{may("hold-series") && (
						<Link
							to="/book"
							search={{}}
							className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-4 font-semibold text-white no-underline"
						>
							{w.bookAppointments}
						</Link>
					)}
				</span>
			}
		>
			<Calls />
			<Clashes />
			<NotConfirmed />
			<DayPicture strips={s} />
			<DayAsList visits={s.day.visits} />
			<div className="mt-6 grid gap-8 lg:grid-cols-[minmax(0,1fr)_300px]">
				<section aria-label={w.theWeeksToCome} className="min-w-0">
					<h2 className="mt-0 mb-1 text-xl">{w.theWeeksToCome}</h2>
					<p className="m-0 mb-2 text-sm text-soft">{w.linesOf({ names: s.people.map((p) => p.name.split(" ")[0]).join(", ") })}</p>
					<WeekStaves
						days={s.days}
						closed={s.closed}
						names={s.people.map((p) => p.name)}
						chosen={day}
						today={today}
						onChoose={(from) => go({ to: "/diary", search: { from } })}
					/>
				</section>
				<WaitingList />
			</div>
		</Page>
	);
}

/** The same day as a list, cancelled appointments among them. */
function DayAsList({ visits }: { visits: Parameters<typeof VisitMarks>[0]["visit"][] }) {
	const { at } = useSession();
	if (visits.length === 0) return <p className="mt-2 mb-0 text-soft">{w.noAppointmentsThisDay}</p>;
	return (
		<details className="mt-2">
			<summary className="min-h-11 cursor-pointer py-2 font-semibold">{w.asAList({ n: visits.length })}</summary>
			<ul className="m-0 list-none p-0">
				{visits.map((v) => (
					<li
						key={v.id}
						className="grid grid-cols-[110px_minmax(0,1fr)_minmax(0,1fr)_minmax(0,1.4fr)] items-center gap-3 border-b border-rule"
					>
						<Link
							to="/visits/$id"
							params={{ id: v.id }}
							className="num inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4"
						>
							{at.time(v.startsAt)} – {at.time(v.endsAt)}
						</Link>
						<span className="truncate">{v.clientName}</span>
						<span className="truncate text-sm">
							{v.practitionerName}, {v.roomName}
						</span>
						<span className="flex flex-wrap justify-end gap-1.5 py-1 text-right">
							<VisitMarks visit={v} todo />
							<Badge tone="plain">{stateWords[v.state]}</Badge>
						</span>
					</li>
				))}
			</ul>
		</details>
	);
}
