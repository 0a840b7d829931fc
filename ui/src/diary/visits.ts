/** What the screens of a day ask of its appointments. */

import type { Schemas } from "../api/client";

export type Line = Schemas["VisitLine"];

const overStates = ["done", "broken-off", "cancelled", "late-cancelled", "no-show"];

/** Whether an appointment is done, or will not take place. */
export const isOver = (v: Line) => overStates.includes(v.state);

/** Whether a client is still expected. */
export const isExpected = (v: Line) => v.state === "booked" || v.state === "confirmed";

/** Whole minutes from a moment to another. */
export const minutesTo = (from: Date, to: string) => Math.round((new Date(to).getTime() - from.getTime()) / 60_000);

/** The appointment that somebody is at, or has next: of their own, or of anybody where none of theirs is left. */
export function nextOf(visits: readonly Line[], practitioner: string | undefined): Line | undefined {
	const open = visits.filter((v) => !isOver(v));
	const mine = practitioner ? open.filter((v) => v.practitioner === practitioner) : open;
	return mine.find((v) => v.state === "in-room") ?? mine.find((v) => v.state === "arrived") ?? mine[0];
}
