import * as w from "../../words/catalogue/treatment";

/** The letters of the side that is worked, each at the screen's edge at which the client's side lies. */
export function lettersOf(side: string, behind: boolean): { letter: string; at: "left" | "right" }[] {
	const left = { letter: w.letterLeft, at: behind ? ("left" as const) : ("right" as const) };
	const right = { letter: w.letterRight, at: behind ? ("right" as const) : ("left" as const) };
	return side === "left" ? [left] : side === "right" ? [right] : side === "both" ? [left, right] : [];
}
