import { useQuery } from "@tanstack/react-query";
import { dayQuery } from "../../api/queries";
import { useNow, useSession } from "../../kit/session";

const usual = [9 * 60, 19 * 60] as const;

/** Who works in the studio, in its order, and its hours today in minutes; the usual ones on a day on which it is closed. */
export function useStudioDay() {
	const { at } = useSession();
	const day = useQuery(dayQuery(at.day(useNow(60_000)))).data;
	const minutes = (t: string) => Number(at.time(t).slice(0, 2)) * 60 + Number(at.time(t).slice(3));
	const initials = (name: string) =>
		name
			.split(" ")
			.map((x) => x[0])
			.join("")
			.slice(0, 2);
	return {
		people: (day?.practitioners ?? []).map((p) => ({ id: p.id, name: p.name, mark: p.mark || initials(p.name) })),
		open: day && day.opens !== day.closes ? ([minutes(day.opens), minutes(day.closes)] as const) : usual,
	};
}
