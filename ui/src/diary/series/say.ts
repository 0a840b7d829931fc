import type { Schemas } from "../../api/client";
import { civil } from "../../kit/format";
import * as w from "../../words/catalogue/series";

export type Offer = Schemas["SeriesOffer"];
export type Offered = Schemas["OfferedVisit"];
type Heard = Schemas["Heard"];
type Told = Schemas["ToldCompromise"];

/** The day and the time of wall time as the server writes it, 2027-01-04 12:00. */
export const dayOf = (wall: string) => wall.slice(0, 10);
export const timeOf = (wall: string) => wall.slice(11, 16);

const utc = (day: string) => new Date(`${day}T12:00:00Z`);
const format = (o: Intl.DateTimeFormatOptions) => {
	const f = civil(o);
	return (day: string) => f.format(utc(day));
};
export const weekdayName = format({ weekday: "long" });
export const dayMonth = format({ day: "numeric", month: "long" });
export const shortDay = format({ weekday: "short", day: "numeric", month: "short" });

const words: Record<string, string> = w.countWords;
const limits: Record<string, string> = w.limits;
const named: Record<string, (v: { name: string }) => string> = {
	closure: w.limitClosure,
	shift: w.limitShift,
	booked: w.limitBooked,
	absent: w.limitAbsent,
	skill: w.limitSkill,
	room: w.limitRoom,
	tool: w.limitTool,
	must: w.limitMust,
	waiting: w.limitWaiting,
};
const switches: Record<string, string> = w.switches;

/** One, Twelve, 13. */
export const countWord = (n: number) => words[String(n)] ?? String(n);

/** a, b and c. */
export function andList(list: readonly string[]): string {
	const last = list.at(-1) ?? "";
	return list.length < 2 ? last : w.andText({ list: list.slice(0, -1).join(", "), last });
}

const most = <T>(list: readonly T[]): [T | undefined, number] => {
	const counts = new Map<T, number>();
	for (const x of list) counts.set(x, (counts.get(x) ?? 0) + 1);
	return [...counts].reduce<[T | undefined, number]>((best, [x, n]) => (n > best[1] ? [x, n] : best), [undefined, 0]);
};

const names = (visits: readonly Offered[]) => [...new Set(visits.map((v) => v.practitionerName))];

/** How many exceptions are read aloud; a series with more, or with as many as visits that keep the habit, is told by its weekdays and hours. */
const mostExceptions = 2;

/** How many weekdays are read aloud. */
const mostWeekdays = 3;

/** Twelve visits on Sundays and Wednesdays at 09:00 from 17 January, with Ines; or from when to when where the weekdays are many. */
function habits(list: readonly Offered[]): string {
	const first = dayOf(list[0]!.wall);
	const count = countWord(list.length);
	const days = [...new Set(list.map((v) => weekdayName(dayOf(v.wall))))];
	const hours = list.map((v) => timeOf(v.wall)).sort();
	const [usual, same] = most(hours);
	const time = usual ?? "";
	const mostly = same * 2 > list.length;
	const from = shortDay(first);
	const to = shortDay(dayOf(list.at(-1)!.wall));
	const on = { count, weekdays: andList(days.map((d) => w.weekdays({ day: d }))), day: dayMonth(first) };
	let what = mostly ? w.visitsMostlyAt({ count, from, to, time }) : w.visitsFromTo({ count, from, to });
	if (days.length <= mostWeekdays && same === list.length) what = w.visitsOnWeekdays({ ...on, time });
	else if (days.length <= mostWeekdays && days.length < list.length)
		what = mostly
			? w.visitsOnWeekdaysMostly({ ...on, time })
			: w.visitsOnWeekdaysBetween({ ...on, from: hours[0] ?? "", to: hours.at(-1) ?? "" });
	return w.withNames({ what, names: andList(names(list)) });
}

/** A series as a sentence to be read aloud: Six Mondays at 12:00 from 4 January, with Bo; visit 3 on … */
export function sentence(visits: readonly Offered[]): string {
	const list = visits.filter((v) => v.kind === "treatment");
	const first = list[0];
	const last = list.at(-1);
	if (!first || !last) return "";
	const day = dayOf(first.wall);
	if (list.length === 1)
		return w.withName({
			what: w.oneVisitOn({ weekday: weekdayName(day), day: dayMonth(day), time: timeOf(first.wall) }),
			name: first.practitionerName,
		});
	const when = (v: Offered) => `${weekdayName(dayOf(v.wall))} ${timeOf(v.wall)}`;
	const [usual, usually] = most(list.map(when));
	const [who] = most(list.map((v) => v.practitionerName));
	const odds = list.filter((v) => when(v) !== usual || v.practitionerName !== who).length;
	if (odds > mostExceptions || odds * 2 >= list.length || usually < 2) return habits(list);
	const odd = list.filter((v) => when(v) !== usual || v.practitionerName !== who);
	const regular = list.find((v) => when(v) === usual) ?? first;
	const what = w.withName({
		what: w.weekdaysOf({
			count: countWord(list.length),
			weekday: weekdayName(dayOf(regular.wall)),
			time: timeOf(regular.wall),
			day: dayMonth(dayOf(regular.wall)),
		}),
		name: who ?? "",
	});
	if (odd.length === 0) return what;
	const exceptions = odd.map((v) => {
		const about = { n: v.n, weekday: weekdayName(dayOf(v.wall)), day: dayMonth(dayOf(v.wall)), time: timeOf(v.wall) };
		return v.practitionerName === who ? w.exceptionOn(about) : w.exceptionWith({ ...about, name: v.practitionerName });
	});
	return w.but({ what, exceptions: andList(exceptions) });
}

/** The limit that forbids something, inside a sentence. */
export function limitText(limit: string, name = ""): string {
	const about = /^\d{4}-\d{2}-\d{2}$/.test(name) ? shortDay(name) : name;
	return named[limit]?.({ name: about }) ?? limits[limit] ?? "";
}

const days = (n: number) => (Math.abs(n) === 1 ? w.oneDay : w.days({ n: Math.abs(n) }));

function bare(c: Told): string {
	const n = c.visit;
	switch (c.term) {
		case "start":
			return w.startsAfter({ by: days(c.by ?? 0) });
		case "gap":
			return (c.by ?? 0) > 0 ? w.lateByDays({ n, by: days(c.by ?? 0) }) : w.earlyByDays({ n, by: days(c.by ?? 0) });
		case "change":
			return w.changesTo({ n });
		case "prefer":
			return w.notWith({ n });
		case "time":
			return (c.by ?? 0) > 0 ? w.beginsLater({ n, by: c.by }) : w.beginsEarlier({ n, by: -(c.by ?? 0) });
		case "rather":
			return w.outsideLiked({ n });
		case "late":
			return w.endsLate({ n, by: c.by });
		default:
			return w.staysUnused({ n, by: c.by });
	}
}

/** What was given up, one line each; a wish that no visit keeps is one line. The first day counts where one was wished. */
export function compromises(offer: Offer, wished = true): string[] {
	const treatments = offer.visits.filter((v) => v.kind === "treatment").length;
	const notWith = offer.compromises.filter((c) => c.term === "prefer");
	const all = treatments > 1 && notWith.length === treatments;
	const told = offer.compromises.filter((c) => !(all && c.term === "prefer") && (wished || c.term !== "start"));
	const reason = (what: string, c: Told | undefined) =>
		c?.limit
			? w.because({ what, reason: limitText(c.limit, c.name) + (c.day && c.limit !== "closure" ? ` (${shortDay(c.day)})` : "") })
			: what;
	const lines = told.map((c) => reason(bare(c), c));
	return all
		? [
				reason(
					w.noneWith,
					notWith.find((c) => c.limit),
				),
				...lines,
			]
		: lines;
}

/** How many points more a series costs. */
export const moreText = (n: number) => (n === 1 ? w.onePointMore : w.moreBy({ n }));

/** The limits that give way, in words. */
export const relaxed = (list: readonly Schemas["RelaxedLimit"][]) =>
	andList(list.map((l) => (l.limit === "one-more" ? w.oneMoreSet({ tool: l.tool ?? "" }) : (switches[l.limit] ?? l.limit))));

const hours = ([from = "", to = ""]: readonly string[]) => {
	if (from === "00:00") return w.heardBefore({ to });
	return to === "24:00" ? w.heardAfter({ from }) : w.heardHours({ from, to });
};

const rhythms: Record<string, (n: number) => string> = {
	"every-days": (n) => (n === 7 ? w.weekly : w.everyDays({ n })),
	"times-a-week": (n) => (n === 2 ? w.twiceAWeek : w.timesAWeek({ n })),
	daily: () => w.daily,
};

const visitsSaid = (n: string) => (n === "1" ? w.heardOneVisit : w.heardVisits({ n }));

const dayNames = (list: readonly string[]) => andList(list.map((d) => d[0]!.toUpperCase() + d.slice(1)));

/** A piece of the line as it was understood. */
const nths = [w.nthFirst, w.nthSecond, w.nthThird, w.nthFourth, w.nthLast];

export function heardText(h: Heard, typed: string, people: readonly string[]): string {
	const [from = "", to = ""] = h.days ?? [];
	switch (h.as) {
		case "rhythm":
			return [from && visitsSaid(from), from === "1" ? "" : rhythms[h.word ?? ""]?.(h.number ?? 0)].filter(Boolean).join(" ");
		case "standing":
			return h.number ? w.heardNth({ nth: nths[h.number - 1], day: dayNames([h.word ?? ""]) }) : w.heardStanding;
		case "weekdays":
			return h.word === "rather" ? w.heardRather({ what: dayNames(h.days ?? []) }) : dayNames(h.days ?? []);
		case "not-weekdays":
			return w.heardNot({ what: dayNames(h.days ?? []) });
		case "hours":
			return hours(h.hours ?? []);
		case "rather":
			return w.heardRather({ what: hours(h.hours ?? []) });
		case "not-days":
			return w.heardNot({ what: from === to ? shortDay(from) : w.heardHours({ from: shortDay(from), to: shortDay(to) }) });
		case "first":
			return to ? w.heardFirstBetween({ from: shortDay(from), to: shortDay(to) }) : w.heardFirst({ day: shortDay(from) });
		case "finish":
			return w.heardFinish({ day: shortDay(from) });
		case "event":
			return w.heardEvent({ name: h.word, day: shortDay(from) });
		case "practitioner":
			return (h.word === "must" ? w.heardMust : w.heardPrefer)({ name: people[h.number ?? 0] });
		case "anyone":
			return w.anyone;
		default:
			return w.notUnderstood({ text: typed.slice(h.from, h.to) });
	}
}

/** The text without one of its pieces, and without the comma that would be left. */
export function without(text: string, h: Heard): string {
	const letters = Array.from(text);
	return (letters.slice(0, h.from).join("") + letters.slice(h.to).join(""))
		.replace(/\s+/g, " ")
		.replace(/^[\s,;]+|[\s,;]+$/g, "")
		.replace(/([,;])\s*[,;]/g, "$1");
}
