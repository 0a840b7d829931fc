import { civil } from "../../kit/format";
import { dayOf, type Offered, timeOf } from "./say";

export type Item = { n: number; ideal: number; least: number; most: number; minutes: number };

/** A bead, a seed or nothing else of the picture of a series. x and y are its middle, foot where it hangs on the line. */
export type Bead = { visit: Offered; x: number; y: number; foot: number; r: number; pattern: number };

export type Sag = { path: string; band: string; tight: boolean; loose: boolean; n: number };

export type Picture = {
	x: (day: string) => number;
	beads: Bead[];
	sags: Sag[];
	months: { x: number; text: string }[];
	weeks: number[];
	hours: { y: number; text: string }[];
	line: number;
	floor: number;
};

const number = (day: string) => Math.round(Date.parse(`${day}T00:00:00Z`) / 86_400_000);
const dayFrom = (n: number) => new Date(n * 86_400_000).toISOString().slice(0, 10);

/** Where the picture's edges are. */
const margin = { left: 64, right: 28, top: 14 };
/** How high the hours of a day and how deep the longest gap are, in pixels. */
const sizes = { small: { hours: 104, sag: 74 }, tall: { hours: 190, sag: 150 } };

const minutesOf = (wall: string) => Number(timeOf(wall).slice(0, 2)) * 60 + Number(timeOf(wall).slice(3));

/** How deep a gap of some days sags: the longest gap that the rhythm allows nearly touches the floor, a longer one does. */
export const depth = (days: number, longest: number, sag: number) => Math.min((sag - 8) * (days / Math.max(longest, 1)), sag);

const droop = (x0: number, x1: number, y: number, by: number) =>
	`M${x0.toFixed(1)} ${y} Q${((x0 + x1) / 2).toFixed(1)} ${(y + 2 * by).toFixed(1)} ${x1.toFixed(1)} ${y}`;

/** The days that the picture shows: those of the visits and of what else has to be seen, with some air. */
export function reach(visits: readonly Offered[], others: readonly string[]): [string, string] {
	const all = [...visits.map((v) => dayOf(v.wall)), ...others.filter(Boolean)].sort();
	const from = number(all[0] ?? "2000-01-01");
	const to = number(all.at(-1) ?? "2000-01-01");
	const air = Math.max(2, Math.round((to - from) / 25));
	return [dayFrom(from - air), dayFrom(to + air)];
}

/** Lays out a series: dates run across, the hour of the day is the height above the line, gaps are the sag. */
export function picture(
	visits: readonly Offered[],
	items: readonly Item[],
	[from, to]: readonly [string, string],
	width: number,
	open: readonly [number, number],
	who: readonly string[],
	size: keyof typeof sizes = "small",
): Picture {
	const { hours: hoursHigh, sag: sagMost } = sizes[size];
	const longest = Math.max(1, ...items.map((i) => i.most));
	const first = number(from);
	const span = Math.max(number(to) - first, 1);
	const x = (day: string) => margin.left + ((number(day) - first) / span) * (width - margin.left - margin.right);
	const line = margin.top + hoursHigh + 14;
	const floor = line + sagMost;
	const [opens, closes] = open;
	const y = (minutes: number) => line - 14 - ((Math.min(Math.max(minutes, opens), closes) - opens) / (closes - opens)) * hoursHigh;
	// Beads that stand close are small, so that each can be seen and touched.
	const places = visits.filter((v) => v.kind === "treatment").map((v) => x(dayOf(v.wall)));
	const closest = Math.min(...places.slice(1).map((at, i) => at - places[i]!), 60);
	const beads = visits.map((visit) => {
		const seed = visit.kind === "patch";
		const minutes = items[visit.n - 1]?.minutes ?? 60;
		const r = seed ? 4 : Math.min(6 + minutes / 12, Math.max(4, closest / 2 - 1));
		return { visit, x: x(dayOf(visit.wall)), y: y(minutesOf(visit.wall)), foot: line, r, pattern: who.indexOf(visit.practitionerName) };
	});
	const strung = beads.filter((b) => b.visit.kind === "treatment");
	const sags = strung.slice(1).map((b, i) => {
		const a = strung[i]!;
		const item = items[b.visit.n - 1];
		const gap = number(dayOf(b.visit.wall)) - number(dayOf(a.visit.wall));
		const [least, most] = [item?.least ?? gap, item?.most ?? gap];
		const low = depth(least, longest, sagMost);
		const high = depth(most, longest, sagMost);
		return {
			path: droop(a.x, b.x, line, depth(gap, longest, sagMost)),
			band: `${droop(a.x, b.x, line, high)} ${droop(b.x, a.x, line, low).replace("M", "L")} Z`,
			tight: gap < least,
			loose: gap > most,
			n: b.visit.n,
		};
	});
	const weeks: number[] = [];
	const months: { x: number; text: string }[] = [];
	for (let d = first; d <= first + span; d++) {
		const day = dayFrom(d);
		if (new Date(d * 86_400_000).getUTCDay() === 1) weeks.push(x(day));
		if (day.endsWith("-01") || d === first) {
			const text = civil({ month: "long" }).format(new Date(d * 86_400_000));
			const last = months.at(-1);
			if (last && x(day) - last.x < 70) months.pop();
			months.push({ x: x(day), text });
		}
	}
	const hours = [opens, (opens + closes) / 2, closes].map((m) => ({
		y: y(m),
		text: `${String(Math.floor(m / 60)).padStart(2, "0")}:${String(Math.round(m % 60)).padStart(2, "0")}`,
	}));
	return { x, beads, sags, months, weeks, hours, line, floor };
}
