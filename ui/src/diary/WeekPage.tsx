import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { api, unwrap } from "../api/client";
import { civil, dayAfter, money } from "../kit/format";
import { Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";

const dayName = civil({ weekday: "short", day: "numeric", month: "short" });

/** A week of the studio in numbers: how full it was, what was given and missed, what it brought and took. */
export function WeekPage() {
	const { at, now } = useSession();
	const { from = at.day(now()) } = useSearch({ from: "/shell/week" });
	const go = useNavigate();
	const week = useQuery({
		queryKey: ["week", from],
		queryFn: () => unwrap(api.GET("/api/week", { params: { query: { date: from } } })),
	});
	if (!week.data) return <Loading of={w.theWeek} error={week.error} retry={() => week.refetch()} />;
	const { days, total, currency } = week.data;
	const turn = (by: number) => go({ to: "/week", search: { from: dayAfter(week.data.from, by) } });
	const row = (d: typeof total, name: string) => {
		const full = d.minutes > 0 ? d.booked / d.minutes : 0;
		return (
			<>
				<th scope="row" className="py-2 pr-4 text-left font-semibold whitespace-nowrap">
					{name}
				</th>
				<td className="w-1/4 py-1.5 pr-4">
					{d.minutes > 0 ? (
						<>
							<span aria-hidden="true" className="block h-3 bg-rule">
								<span className="block h-3 bg-kelp" style={{ width: `${Math.min(100, full * 100)}%` }} />
							</span>
							<span className="num text-sm text-soft">{w.hoursOfHours({ booked: hours(d.booked), open: hours(d.minutes) })}</span>
						</>
					) : (
						<span className="text-sm text-soft">{w.closedDay}</span>
					)}
				</td>
				{[d.given, d.coming, d.cancelled, d.missed, d.unsigned].map((n, i) => (
					<td key={["given", "coming", "cancelled", "missed", "unsigned"][i]} className={`num pr-4 text-right ${n ? "" : "text-soft"}`}>
						{n || "–"}
					</td>
				))}
				<td className="num pr-4 text-right">{d.given ? money(d.asked, currency) : "–"}</td>
				<td className="num text-right">{d.given ? money(d.products, currency) : "–"}</td>
			</>
		);
	};
	return (
		<Page
			title={w.weekOf({ day: dayName.format(new Date(`${week.data.from}T00:00:00Z`)) })}
			action={
				<span className="flex gap-3">
					<Button onClick={() => turn(-7)}>{w.previousWeek}</Button>
					<Button onClick={() => turn(7)}>{w.nextWeek}</Button>
				</span>
			}
		>
			<table className="w-full border-collapse">
				<thead>
					<tr className="border-b border-ink text-right text-sm text-soft">
						<th className="text-left font-normal">{w.dayWord}</th>
						<th className="text-left font-normal">{w.bookedTime}</th>
						{[w.given, w.stillToCome, w.cancelledWord, w.missed, w.recordsNotSigned, w.clientsPay, w.productsUsed].map((h) => (
							<th key={h} className="pr-4 font-normal last:pr-0">
								{h}
							</th>
						))}
					</tr>
				</thead>
				<tbody>
					{days.map((d) => (
						<tr key={d.date} className="border-b border-rule">
							{row(d, dayName.format(new Date(`${d.date}T00:00:00Z`)))}
						</tr>
					))}
				</tbody>
				<tfoot>
					<tr className="border-t-2 border-ink font-semibold">{row(total, w.theWholeWeek)}</tr>
				</tfoot>
			</table>
			<p className="mt-3 text-sm text-soft">{w.pricesAsPublished}</p>
			{total.unsigned > 0 && (
				<p>
					<Link to="/" className="font-semibold underline">
						{w.recordsAreInTheInbox}
					</Link>
				</p>
			)}
		</Page>
	);
}

const hours = (minutes: number) => `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
