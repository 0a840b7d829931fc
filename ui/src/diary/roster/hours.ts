import * as w from "../../words/catalogue/roster";
import { andList } from "../series/say";

const order = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];
const name = (d: string) => d[0]!.toUpperCase() + d.slice(1);

type Week = Readonly<Record<string, readonly (readonly string[])[]>>;

const range = (days: readonly string[]) => {
	const at = days.map((d) => order.indexOf(d));
	const run = at.every((n, i) => i === 0 || n === at[i - 1]! + 1);
	return run && days.length > 2 ? `${name(days[0]!)}–${name(days.at(-1)!)}` : andList(days.map(name));
};

/** Hours by weekday in words: Mon–Fri 09:00–19:00, Sat off. Whole days have no hours. */
export function weekText(week: Week): string {
	const groups = new Map<string, string[]>();
	for (const d of order) {
		const pieces = week[d];
		if (!pieces) continue;
		const text = pieces.map(([a, b]) => (a === "00:00" && b === "24:00" ? "" : `${a}–${b}`)).join(", ");
		const key = pieces.length === 0 ? "off" : text;
		groups.set(key, [...(groups.get(key) ?? []), d]);
	}
	return [...groups].map(([hours, days]) => (hours === "off" ? w.off({ days: range(days) }) : `${range(days)} ${hours}`.trim())).join("; ");
}

/** The same as it would be typed, to be edited: mon tue 12:00-19:00, fri off. */
export function typedWeek(week: Week | undefined): string {
	if (!week) return "";
	const groups = new Map<string, string[]>();
	for (const d of order)
		for (const [a, b] of week[d] ?? []) {
			const key = a === "00:00" && b === "24:00" ? "" : `${a}-${b}`;
			groups.set(key, [...(groups.get(key) ?? []), d]);
		}
	return [...groups].map(([hours, days]) => `${days.join(" ")} ${hours}`.trim()).join(", ");
}
